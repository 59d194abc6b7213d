"""How a lamp takes its terms from channels of eight or sixteen bits: each a term along points, or a fixed value."""

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from even_beam.files.reading import InputError, read_text
from even_beam.instruments.protocols import InstrumentError

TERMS = ("level", "cct", "tint", "hue", "saturation", "zoom")
"""The terms that a channel can set; any other name is an emitter."""

MOST_BYTES, MOST_CHANNELS = 2**20, 512
COARSE, FINE = 255, 65_535


class ProfileError(InstrumentError, ValueError):
    """A profile that cannot be used; the message says where."""


@dataclass(frozen=True, slots=True)
class Channel:
    """One channel, or two with its `fine` one, by offsets from 1. `points` lead from its value (0 to 255, or 65535 with
    a fine one) to its `term`, rising in value and either rising or falling in the term; a channel without a term holds
    `value`."""

    offset: int
    fine: int | None = None
    term: str = ""
    points: tuple[tuple[float, float], ...] = ()
    value: int = 0

    @property
    def most(self) -> int:
        """The largest value."""
        return COARSE if self.fine is None else FINE

    @property
    def ends(self) -> tuple[float, float]:
        """The least and the greatest of its term."""
        terms = [term for _, term in self.points]
        return min(terms), max(terms)

    def value_for(self, term: float) -> int:
        """The value nearest to a term; of equal ones (below a threshold) the least."""
        values, terms = np.array(self.points).T
        if terms[0] > terms[-1]:
            values, terms = values[::-1], terms[::-1]
        if term <= terms[0]:
            flat = values[terms == terms[0]]
            return round(float(flat.min()))
        first = int(np.argmax(terms >= min(term, terms[-1])))
        low, high = terms[first - 1], terms[first]
        share = (min(term, terms[-1]) - low) / (high - low)
        return round(float(values[first - 1] + share * (values[first] - values[first - 1])))

    def term_of(self, value: float) -> float:
        """The term that a value stands for."""
        values, terms = np.array(self.points).T
        return float(np.interp(value, values, terms))


@dataclass(frozen=True, slots=True)
class Profile:
    """The channels of a lamp, `footprint` of them from its start address on."""

    name: str
    footprint: int
    channels: tuple[Channel, ...]

    @property
    def limits(self) -> Mapping[str, tuple[float, float]]:
        """The terms that it sets, each with its ends."""
        return {one.term: one.ends for one in self.channels if one.term}

    def slots(self, terms: Mapping[str, float]) -> tuple[bytes, dict[str, float]]:
        """The values of all channels for terms, and what the terms are then: eight bits make steps of them. Terms that
        are not said stand at their lowest, a level at nothing.

        Raises `ProfileError` for a term that no channel sets, or beyond its ends.
        """
        if strangers := set(terms) - set(self.limits):
            raise ProfileError(f"{self.name} has no channel for {', '.join(sorted(strangers))}")
        data, was_set = bytearray(self.footprint), {}
        for channel in self.channels:
            value = channel.value
            if channel.term:
                low, high = channel.ends
                wanted = terms.get(channel.term, low)
                if not low - 1e-6 * (high - low) <= wanted <= high + 1e-6 * (high - low):
                    words = f"{channel.term} {wanted:g} is not between {low:g} and {high:g}"
                    raise ProfileError(f"{self.name}: {words}")
                value = channel.value_for(wanted)
                if channel.term in terms:
                    was_set[channel.term] = channel.term_of(value)
            if channel.fine is None:
                data[channel.offset - 1] = value
            else:
                data[channel.offset - 1], data[channel.fine - 1] = divmod(value, 256)
        return bytes(data), was_set

    def terms_of(self, data: Sequence[int]) -> dict[str, float]:
        """What the lamp makes of the values of its channels."""
        found = {}
        for channel in self.channels:
            if channel.term:
                coarse = data[channel.offset - 1]
                value = coarse if channel.fine is None else 256 * coarse + data[channel.fine - 1]
                found[channel.term] = channel.term_of(value)
        return found

    def as_json(self) -> dict[str, Any]:
        """As it is written."""
        return {"name": self.name, "footprint": self.footprint, "channels": [_written(one) for one in self.channels]}


def _written(channel: Channel) -> dict[str, Any]:
    where = {"offset": channel.offset} | ({"fine": channel.fine} if channel.fine is not None else {})
    if not channel.term:
        return {**where, "value": channel.value}
    return {"term": channel.term, **where, "points": [list(point) for point in channel.points]}


def read_profile(path: Path) -> Profile:
    """A profile from its JSON file. Raises `ProfileError`."""
    try:
        content = json.loads(read_text(path, MOST_BYTES))
    except (InputError, ValueError, RecursionError) as error:
        raise ProfileError(f"{path.name} is no profile: {error}") from error
    return profile_of(content, path.name)


def profile_of(content: object, name: str) -> Profile:
    """A profile from plain values. Raises `ProfileError`."""
    if not isinstance(content, dict) or not isinstance(content.get("channels"), list) or not content["channels"]:
        raise ProfileError(f"{name} is no profile: it needs a list of channels")
    if len(content["channels"]) > MOST_CHANNELS:
        raise ProfileError(f"{name}: more than {MOST_CHANNELS} channels")
    channels = tuple(_channel(one, f"{name}, channel {place}") for place, one in enumerate(content["channels"], 1))
    used = [slot for one in channels for slot in (one.offset, one.fine) if slot is not None]
    footprint = content.get("footprint", max(used))
    if not isinstance(footprint, int) or not max(used) <= footprint <= MOST_CHANNELS:
        raise ProfileError(f"{name}: a footprint of {footprint} does not hold its channels up to {max(used)}")
    if len(set(used)) < len(used):
        raise ProfileError(f"{name}: two channels at one place")
    said = [one.term for one in channels if one.term]
    if len(set(said)) < len(said):
        raise ProfileError(f"{name}: two channels set one term")
    return Profile(str(content.get("name", name)), footprint, channels)


def _channel(content: object, where: str) -> Channel:
    if not isinstance(content, dict):
        raise ProfileError(f"{where} is no channel")
    offset, fine = _slot(content.get("offset"), where), content.get("fine")
    fine = None if fine is None else _slot(fine, where)
    most = COARSE if fine is None else FINE
    if "term" not in content:
        value = content.get("value", 0)
        if not isinstance(value, int) or not 0 <= value <= most:
            raise ProfileError(f"{where}: a value of {value} is not between 0 and {most}")
        return Channel(offset, fine, value=value)
    points = content.get("points")
    if not isinstance(points, list) or len(points) < 2:
        raise ProfileError(f"{where}: a term needs two points, each a value and what it stands for")
    try:
        known = tuple((float(value), float(term)) for value, term in points)
    except (TypeError, ValueError) as error:
        raise ProfileError(f"{where}: points are pairs of numbers") from error
    values, terms = np.array(known).T
    if not np.all(np.isfinite(np.array(known))) or not np.all(np.diff(values) > 0.0):
        raise ProfileError(f"{where}: the values of points must rise")
    if not 0.0 <= values[0] <= values[-1] <= most:
        raise ProfileError(f"{where}: values lie between 0 and {most}")
    steps = np.diff(terms)
    if not (np.all(steps >= 0.0) or np.all(steps <= 0.0)) or terms[0] == terms[-1]:
        raise ProfileError(f"{where}: what points stand for must rise or fall all along")
    return Channel(offset, fine, str(content["term"]), known)


def _slot(value: object, where: str) -> int:
    if not isinstance(value, int) or isinstance(value, bool) or not 1 <= value <= MOST_CHANNELS:
        raise ProfileError(f"{where}: {value} is no place of a channel (1 to {MOST_CHANNELS})")
    return value


def profile_of_channels(name: str, channels: Sequence[Channel]) -> Profile:
    """A profile of channels that were said one by one. Raises `ProfileError`."""
    return profile_of({"name": name, "channels": [_written(one) for one in channels]}, name)


_WHITE = {"white": "cct", "colour": "cct", "kelvin": "cct", "dimmer": "level", "intensity": "level"}
_SAID = re.compile(
    r"channel\s+(?P<offset>\d+)(?:\s*[-–,]\s*(?P<fine>\d+))?\s*(?:=\s*(?P<value>\d+)"
    r"|(?P<term>[a-z]+)\s+(?P<low>-?\d+(?:\.\d+)?)\s*(?:-|–|to)\s*(?P<high>-?\d+(?:\.\d+)?)\s*(?:%|K|°)?)",
    re.IGNORECASE,
)


def said_channel(text: str) -> Channel:
    """A channel as people say it: `channel 1-2 level 0-100 %`, `channel 3 white 2700-6500 K`, `channel 5 = 200`.
    Raises `ProfileError`."""
    said = _SAID.fullmatch(text.strip())
    if said is None:
        raise ProfileError(f"“{text}” is no channel; say “channel 1-2 level 0-100 %” or “channel 5 = 200”")
    content: dict[str, Any] = {"offset": int(said["offset"])}
    if said["fine"] is not None:
        content["fine"] = int(said["fine"])
    if said["value"] is not None:
        return _channel({**content, "value": int(said["value"])}, text)
    term = said["term"].lower()
    most = COARSE if said["fine"] is None else FINE
    points = [[0, float(said["low"])], [most, float(said["high"])]]
    return _channel({**content, "term": _WHITE.get(term, term), "points": points}, text)
