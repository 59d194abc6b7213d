"""Logbooks as documents: the open one, the recent ones, a default one, and what is in a new one."""

import json
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.bench.records import Meter, new_id
from even_beam.files.errors import OutputError
from even_beam.files.writing import write
from even_beam.shell import places

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

SUFFIX = ".evenbeam"
_RECENT_COUNT = 8


PATIENCE_S = 30.0
"""How long a command waits for another one that has the logbook open in passing."""


def named(path: Path) -> Path:
    """The path with the suffix of a logbook: whoever leaves it out finds the same file the second time."""
    return path if path.suffix == SUFFIX or path.exists() else path.with_name(path.name + SUFFIX)


def new_logbook(path: Path, patience_s: float = 0.0) -> "Logbook":
    """A new logbook with a simulated spectrometer and a typed light meter to begin with. Raises `LogbookError`."""
    from even_beam.logbook.store import Logbook  # the window is shown before it is loaded

    logbook = Logbook.create(named(path), patience_s)
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


def open_or_create(path: Path, patience_s: float = 0.0) -> "Logbook":
    """The logbook at `path`, new when there is none, whoever else begins it at the same moment. Raises
    `LogbookError`."""
    return _open_or(new_logbook, path, patience_s)


def open_or_begin(path: Path, patience_s: float = 0.0) -> "Logbook":
    """The same, but a new one has nothing in it: what it shall have comes from elsewhere. Raises `LogbookError`."""
    from even_beam.logbook.store import Logbook

    return _open_or(lambda new, patience: Logbook.create(named(new), patience), path, patience_s)


def _open_or(begin: "Callable[[Path, float], Logbook]", path: Path, patience_s: float) -> "Logbook":
    from even_beam.logbook.store import Logbook, TakenError

    path = named(path)
    if not path.exists() and not path.is_symlink():
        with suppress(TakenError):  # somebody began it in between
            return begin(path, patience_s)
    return Logbook.open(path, patience_s)


def recent() -> list[Path]:
    """The logbooks opened lately that still exist, the latest first."""
    texts = _state().get("recent")
    return [path for text in texts if (path := Path(str(text))).exists()] if isinstance(texts, list) else []


def remember(path: Path) -> None:
    """Put a logbook at the head of the recent ones."""
    whole = path.absolute()
    kept = [str(whole), *(str(other) for other in recent() if other != whole)][:_RECENT_COUNT]
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
    with suppress(OSError, OutputError):  # the same
        places.recent_file().parent.mkdir(parents=True, exist_ok=True)
        text = json.dumps(state, indent=1)  # in ASCII: a name need not be UTF-8
        write(places.recent_file().resolve(), text.encode("ascii"), over_others=True, durable=False)
