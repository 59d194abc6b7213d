"""A bench file: which meters and lamps there are and how each is reached (docs/drivers.md), as TOML."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from importlib.metadata import entry_points
from pathlib import Path
from typing import Any

import tomlkit
from tomlkit.exceptions import ParseError

from even_beam.files import writing
from even_beam.files.reading import InputError, read_text
from even_beam.instruments.protocols import InstrumentError, LampControl, MeterDriver

METERS, LAMPS = "even_beam.meters", "even_beam.lamp_controls"
MOST_BYTES = 2**20


@dataclass(frozen=True, slots=True)
class Reached:
    """How an instrument is reached: its driver, its address, and what else its driver is told."""

    driver: str
    address: str = ""
    settings: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class BenchFile:
    """The meters and lamps of a bench by their nicknames; files that it names lie in its `folder`."""

    meters: Mapping[str, Reached]
    lamps: Mapping[str, Reached]
    folder: Path

    def meter(self, name: str) -> MeterDriver:
        """The driver of a meter, not connected yet. Raises `InstrumentError`."""
        reached = self.meters[name]
        made: MeterDriver = _factory(METERS, reached.driver, name)(name, reached.address, reached.settings, self.folder)
        return made

    def lamp(self, name: str) -> LampControl:
        """The control of a lamp, not connected yet. Raises `InstrumentError`."""
        reached = self.lamps[name]
        made: LampControl = _factory(LAMPS, reached.driver, name)(name, reached.address, reached.settings, self.folder)
        return made


def drivers(group: str) -> list[str]:
    """The names of the drivers there are, of meters (`METERS`) or lamps (`LAMPS`)."""
    return sorted({one.name for one in entry_points(group=group)})


def _factory(group: str, driver: str, name: str) -> Any:
    found = next(iter(entry_points(group=group, name=driver)), None)
    if found is None:
        there = ", ".join(drivers(group)) or "none"
        raise InstrumentError(f"{name}: there is no driver “{driver}”; there are: {there}")
    try:
        return found.load()
    except ImportError as error:
        raise InstrumentError(f"{name}: the driver “{driver}” cannot be loaded: {error}") from error


def read_bench(path: Path) -> BenchFile:
    """The bench that a file describes. Raises `InstrumentError`."""
    try:
        content = tomlkit.parse(read_text(path, MOST_BYTES)).unwrap()
    except InputError as error:
        raise InstrumentError(str(error)) from error
    except ParseError as error:
        raise InstrumentError(f"{path.name} is no bench file: {error}") from error
    if strangers := set(content) - {"meter", "lamp"}:
        raise InstrumentError(f"{path.name}: unknown: {', '.join(sorted(strangers))}; there are [meter] and [lamp]")
    found = BenchFile(
        _reached(path, content, "meter", "driver"), _reached(path, content, "lamp", "driver"), path.absolute().parent
    )
    if not found.meters:
        raise InstrumentError(f"{path.name} has no meter")
    return found


def _reached(path: Path, content: Mapping[str, Any], kind: str, needs: str) -> dict[str, Reached]:
    found = {}
    for name, said in (content.get(kind) or {}).items():
        if not isinstance(said, dict) or not isinstance(said.get(needs), str):
            raise InstrumentError(f"{path.name}: {kind} “{name}” needs a {needs}")
        address = said.get("address", "")
        rest = {key: value for key, value in said.items() if key not in {"driver", "address"}}
        if isinstance(address, str):
            found[name] = Reached(said["driver"], address, rest)
        else:  # of a lamp it is the number of its first channel
            found[name] = Reached(said["driver"], "", {**rest, "address": address})
    return found


def as_text(bench: BenchFile) -> str:
    """A bench as the text of its file."""
    content: dict[str, dict[str, Any]] = {}
    for kind, instruments in (("meter", bench.meters), ("lamp", bench.lamps)):
        for name, one in instruments.items():
            where = {"address": one.address} if one.address else {}
            content.setdefault(kind, {})[name] = {"driver": one.driver, **where, **one.settings}
    return tomlkit.dumps(content)


def write_bench(bench: BenchFile, path: Path, *, over_others: bool = False) -> None:
    """Write it, whole or not at all. Raises `OutputError`."""
    writing.write(path, as_text(bench).encode("utf-8"), over_others=over_others)
