"""The user's settings in `settings.toml`, shared by window and command line."""

import tomllib
from collections.abc import Iterable
from dataclasses import asdict, dataclass, field, fields, replace
from pathlib import Path
from typing import Any

from even_beam.bench.planning.costs import Costs
from even_beam.errors import TellableError
from even_beam.files.errors import OutputError
from even_beam.files.reading import InputError, read_text
from even_beam.files.writing import write
from even_beam.known.findings.white import BAND_EDGES_K
from even_beam.shell import places
from even_beam.words import notation


class SettingsError(TellableError):
    """Settings that could not be read or written; the message says what to do."""


@dataclass(frozen=True, slots=True)
class Settings:
    """Choices of a person, not of a logbook.

    `fade` darkens the screen while the meter reads (in the studio theme), `tones` tells the verdict by ear, `costs`
    are a person's own figures of what changes take (`bench/costs.py`). `white_bands_k` are the edges between the bands
    of white errors, `battery_wh` the battery that run times are told for. `text_size_pct` scales the window as a whole,
    type, charts and targets alike, from its next start on. `bench_file` says how meters and lamps on wires are reached.
    `backups_mb` is what the daily copies of one logbook may take; none are made for 0.
    """

    theme: str = "studio"
    distance_unit: str = "m"
    illuminance_unit: str = "lx"
    iso: int = 800
    shutter_s: float = 0.02
    paper: str = "A4"
    publisher: str = ""
    fade: bool = True
    tones: bool = False
    costs: dict[str, float] = field(default_factory=dict)
    white_bands_k: tuple[float, ...] = BAND_EDGES_K
    battery_wh: float = 98.0
    text_size_pct: float = 100.0
    bench_file: str = ""
    backups_mb: float = 2000.0

    @property
    def units(self) -> notation.Units:
        """The units that figures are said in."""
        return notation.Units(self.illuminance_unit, self.distance_unit)


MOST_BYTES, MOST_LETTERS_A_LINE = 100_000, 2000

CHOICES: dict[str, tuple[str, ...]] = {
    "theme": ("studio", "paper"),
    "distance_unit": ("m", "ft"),
    "illuminance_unit": ("lx", "fc"),
    "paper": ("A4", "Letter"),
}


RANGES: dict[str, tuple[float, float]] = {
    "iso": (1, 10_000_000),
    "shutter_s": (1e-6, 3600.0),
    "battery_wh": (0.1, 1e6),
    "text_size_pct": (90.0, 160.0),
    "backups_mb": (0.0, 1e6),
}
"""Settings that are numbers, with what they can be."""


def load(path: Path | None = None) -> Settings:
    """The settings of the file, defaults for what it does not say; from here on their units are spoken.

    Raises `SettingsError` naming a wrong entry.
    """
    settings = _read(path or places.config_file())
    notation.speak(settings.units)
    return settings


def _read(file: Path) -> Settings:
    if not file.exists():
        return Settings()
    try:
        content = tomllib.loads(_text_of(file))
    except (InputError, ValueError, RecursionError) as error:  # also numbers of thousands of digits
        raise SettingsError(
            f"{file} cannot be read: {error}. The usual settings are used; mend or remove the file."
        ) from error
    settings = Settings()
    for name in (known.name for known in fields(Settings)):
        if name in content:
            settings = replace(settings, **{name: _checked(file, name, content[name])})
    return settings


def _text_of(file: Path) -> str:
    """The text of settings, which no program wrote longer lines into: a name of thousands of dots takes gigabytes.

    Raises `InputError`.
    """
    text = read_text(file, MOST_BYTES)
    if any(len(line) > MOST_LETTERS_A_LINE for line in text.splitlines()):
        raise InputError(f"{file.name} has a line of more than {MOST_LETTERS_A_LINE} letters")
    return text


def _checked(file: Path, name: str, value: Any) -> Any:
    default = getattr(Settings(), name)
    if name == "costs":
        return _costs(file, value)
    if name == "white_bands_k":
        return _bands(file, value)
    if name in CHOICES and value not in CHOICES[name]:
        raise SettingsError(f"{file}: {name} is “{value}”; it can be {' or '.join(CHOICES[name])}")
    if isinstance(default, float) and isinstance(value, int) and not isinstance(value, bool):
        value = float(value)
    if not isinstance(value, type(default)) or isinstance(value, bool) != isinstance(default, bool):
        raise SettingsError(f"{file}: {name} is “{value}”, which is not of the right kind (usual: {default})")
    if name in RANGES and not RANGES[name][0] <= value <= RANGES[name][1]:  # NaN is not within either
        raise SettingsError(f"{file}: {name} is {value}; it lies between {RANGES[name][0]:g} and {RANGES[name][1]:g}")
    return value


def _costs(file: Path, value: Any) -> dict[str, float]:
    try:
        own = {str(name): float(seconds) for name, seconds in dict(value).items()}
        Costs().with_own(own)
    except (TypeError, ValueError) as error:
        raise SettingsError(f"{file}: costs: {error}") from error
    return own


def _bands(file: Path, value: Any) -> tuple[float, ...]:
    try:
        return bands_of(value)
    except (TypeError, ValueError) as error:
        raise SettingsError(f"{file}: white_bands_k: {error}") from error


def bands_of(edges: Iterable[Any]) -> tuple[float, ...]:
    """The edges of the bands of white. Raises `ValueError` for what is no rising row of whites."""
    found = tuple(float(edge) for edge in edges)
    if any(not 1000.0 < edge < 50_000.0 for edge in found) or list(found) != sorted(set(found)):
        raise ValueError("the edges of bands are whites in kelvin, the lowest first, such as 3200, 4500, 6000")
    return found


def save(settings: Settings, path: Path | None = None) -> None:
    """Write the settings, keeping comments and entries of others. Raises `SettingsError`."""
    import tomlkit  # not at start-up

    file = path or places.config_file()
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        document = tomlkit.parse(_text_of(file)) if file.exists() else tomlkit.document()
        for name, value in asdict(settings).items():
            document[name] = value
        write(file.resolve(), tomlkit.dumps(document).encode("utf-8"), over_others=True)
    except (OSError, ValueError, InputError, OutputError) as error:
        raise SettingsError(f"The settings could not be kept in {file}: {error}.") from error
    notation.speak(settings.units)
