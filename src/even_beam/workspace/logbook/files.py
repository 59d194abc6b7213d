"""Logbooks as documents: the open one, the recent ones, a default one, and what is in a new one."""

import json
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.bench.records import Meter, new_id
from even_beam.workspace.shell import places

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

SUFFIX = ".evenbeam"
_RECENT_COUNT = 8


def new_logbook(path: Path) -> "Logbook":
    """A new logbook with a simulated spectrometer and a typed light meter to begin with."""
    if path.suffix != SUFFIX:
        path = path.with_name(path.name + SUFFIX)
    from even_beam.logbook.store import Logbook  # the window is shown before it is loaded

    logbook = Logbook.create(path)
    logbook.save(
        Meter(new_id(), "Simulated spectrometer", simulated="spectrometer", dim_lx=8.0),
        Meter(
            new_id(),
            "Light meter",
            kind="light meter",
            receptor="dome",
            constant=340.0,
            quantities=("illuminance",),
            ratio_tolerance=0.02,
        ),
    )
    return logbook


def default_path() -> Path:
    """The logbook that opens when none is named."""
    return places.data_folder() / f"logbook{SUFFIX}"


def open_or_create(path: Path) -> "Logbook":
    """The logbook at `path`, new when there is none."""
    from even_beam.logbook.store import Logbook

    return Logbook.open(path) if path.exists() or path.is_symlink() else new_logbook(path)


def recent() -> list[Path]:
    """The logbooks opened lately that still exist, the latest first."""
    texts = _state().get("recent")
    return [path for text in texts if (path := Path(str(text))).exists()] if isinstance(texts, list) else []


def remember(path: Path) -> None:
    """Put a logbook at the head of the recent ones."""
    kept = [str(path), *(str(other) for other in recent() if other != path)][:_RECENT_COUNT]
    _write_state("recent", kept)


def remembered_geometry() -> str:
    """The window's geometry as text, empty at the first start."""
    return str(_state().get("geometry", ""))


def remember_geometry(text: str) -> None:
    """Keep the window's geometry."""
    _write_state("geometry", text)


def _state() -> dict[str, object]:
    try:
        found = json.loads(places.recent_file().read_text(encoding="utf-8"))
    except (OSError, ValueError, RecursionError):
        found = None  # a convenience only: a lost list of recent files is no reason to stop
    return found if isinstance(found, dict) else {}


def _write_state(name: str, value: object) -> None:
    state = _state()
    state[name] = value
    try:
        places.recent_file().parent.mkdir(parents=True, exist_ok=True)
        places.recent_file().write_text(json.dumps(state, ensure_ascii=False, indent=1), encoding="utf-8")
    except OSError:
        pass  # the same
