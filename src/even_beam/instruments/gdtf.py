"""A profile from a file of the General Device Type Format (GDTF, DIN SPEC 15800)."""

import zipfile
from pathlib import Path
from typing import Any

from even_beam.instruments.profile import COARSE, FINE, Profile, ProfileError, profile_of

_TERMS = {
    "Dimmer": ("level", (0.0, 100.0)),
    "CTC": ("cct", None),
    "CTO": ("cct", None),
    "CTB": ("cct", None),
    "Tint": ("tint", None),
    "HSB_Hue": ("hue", None),
    "HSB_Saturation": ("saturation", None),
    "Zoom": ("zoom", None),
}
"""What an attribute of GDTF (DIN SPEC 15800, annex A) sets here, and in which ends where they are not its physical
ones."""


def read_gdtf(path: Path, mode: str = "") -> Profile:
    """The profile of a mode, the first where none is named. Raises `ProfileError`."""
    try:
        import pygdtf
    except ImportError as error:
        raise ProfileError("to read GDTF files the package pygdtf is needed") from error
    try:
        with pygdtf.FixtureType(str(path)) as fixture:
            return _of_mode(fixture, path.name, mode)
    except ProfileError:
        raise
    except (OSError, zipfile.BadZipFile, KeyError, ValueError, AttributeError, TypeError) as error:
        raise ProfileError(f"{path.name} is no GDTF file that can be read: {error}") from error


def _of_mode(fixture: Any, name: str, mode: str) -> Profile:
    modes = {one.name: one for one in fixture.dmx_modes}
    if not modes:
        raise ProfileError(f"{name} has no mode")
    if mode and mode not in modes:
        raise ProfileError(f"{name} has no mode “{mode}”; there are {', '.join(modes)}")
    chosen = modes[mode] if mode else next(iter(modes.values()))
    found: list[dict[str, Any]] = []
    for channel in chosen.dmx_channels:
        offsets = [int(offset) for offset in channel.offset or ()]
        if not offsets:
            continue  # a virtual channel
        found.append(_channel(channel, offsets))
    slots = [slot for one in found for slot in (one["offset"], one.get("fine", 0))]
    return profile_of({"name": f"{fixture.name}, {chosen.name}", "footprint": max(slots), "channels": found}, name)


def _channel(channel: Any, offsets: list[int]) -> dict[str, Any]:
    """A channel of GDTF as a profile has it; one that sets no term holds its default."""
    where: dict[str, Any] = {"offset": offsets[0]} | ({"fine": offsets[1]} if len(offsets) > 1 else {})
    most = FINE if len(offsets) > 1 else COARSE
    logical = channel.logical_channels[0]
    attribute = str(logical.attribute.str_link)
    functions = [f for f in logical.channel_functions if str(f.attribute.str_link) in ("", attribute)]
    term, ends = _TERMS.get(attribute, ("", None))
    if term and functions:
        points = _points(functions, most, ends)
        if len(points) > 1:
            return {**where, "term": term, "points": points}
    default = functions[0].default if functions else None
    value = _scaled(default, most) if default is not None else 0
    return {**where, "value": value}


def _points(functions: list[Any], most: int, ends: tuple[float, float] | None) -> list[list[float]]:
    """From value to term along the functions of a channel; the ends of each are its physical ones."""
    starts = [_scaled(one.dmx_from, most) for one in functions]
    stops = [*(start - 1 for start in starts[1:]), most]
    points: list[list[float]] = []
    for function, start, stop in zip(functions, starts, stops, strict=True):
        low, high = ends or (float(function.physical_from.value), float(function.physical_to.value))
        points += [[float(start), low], *([[float(stop), high]] if stop > start else [])]
    return points


def _scaled(value: Any, most: int) -> int:
    """A value of GDTF (a number with its bytes) at the resolution of the channel."""
    return int(value.value) * most // (256 ** int(value.byte_count or 1) - 1)
