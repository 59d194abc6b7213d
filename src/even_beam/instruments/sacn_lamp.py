"""A lamp on the network: streaming ACN (ANSI E1.31), its channels by a profile."""

import ipaddress
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from even_beam.instruments.gdtf import read_gdtf
from even_beam.instruments.profile import MOST_CHANNELS, Profile, ProfileError, read_profile
from even_beam.instruments.protocols import InstrumentError, Settings
from even_beam.instruments.sacn_stream import Route, Stream, held, let_go

PRIORITY = 100
"""The usual priority (ANSI E1.31, 6.2.3)."""


class SacnLamp:
    """`universe`, `destination` (multicast where left out), `priority`, the first channel (`address`), a `profile`
    (a JSON or GDTF file beside the bench file, with its `mode`), `rest` and `most_level`. `hears` is the address of
    this machine at which another program would be heard."""

    def __init__(self, name: str, address: str, settings: Settings, folder: Path) -> None:
        self.name = name
        self._first = _whole(settings, "address", 1, MOST_CHANNELS, name, 1)
        self._route = Route(
            _whole(settings, "universe", 1, 63_999, name),
            str(settings.get("destination", address)),
            _whole(settings, "priority", 0, 200, name, PRIORITY),
            str(settings.get("hears", "")),
        )
        if self._route.destination:
            try:
                ipaddress.ip_address(self._route.destination)
            except ValueError as error:
                said = f"“{self._route.destination}” is no address such as 192.168.1.20"
                raise InstrumentError(f"{name}: {said}") from error
        self.profile = _profile(name, settings, folder)
        if self._first + self.profile.footprint - 1 > MOST_CHANNELS:
            raise InstrumentError(f"{name}: its channels go beyond {MOST_CHANNELS} from {self._first} on")
        self._rest = {term: float(value) for term, value in dict(settings.get("rest", {})).items()}
        self._most_level = float(settings.get("most_level", 100.0))
        self._at: dict[str, float] = {}
        self._stream: Stream | None = None
        self.profile.slots(self._resting)  # a rest that the lamp does not have is told before any light

    @property
    def limits(self) -> Mapping[str, tuple[float, float]]:
        """The terms that it sets, a level no higher than it may be."""
        found = dict(self.profile.limits)
        if "level" in found:
            low, high = found["level"]
            found["level"] = low, min(high, self._most_level)
        return found

    @property
    def _resting(self) -> dict[str, float]:
        return ({"level": self.profile.limits["level"][0]} if "level" in self.profile.limits else {}) | self._rest

    def connect(self) -> str:
        """Begin the stream, or join it, with the lamp at rest."""
        if self._stream is None:
            try:
                self._stream = held(self._route)
            except InstrumentError as error:
                raise InstrumentError(f"{self.name}: {error}") from error
            self.rest()
        route = self._route
        to = route.destination or "multicast"
        return f"universe {route.universe} from {self._first}, {to}, priority {route.priority}"

    def set(self, terms: Mapping[str, float]) -> Mapping[str, float]:
        """Set terms; those that are not named stay."""
        wanted = self._at | dict(terms)
        if wanted.get("level", 0.0) > self._most_level:
            limit = f"is above its limit of {self._most_level:g}"
            raise InstrumentError(f"{self.name}: a level of {wanted['level']:g} % {limit}")
        self._send(wanted)
        _, was_set = self.profile.slots(wanted)
        return {term: was_set[term] for term in terms}

    def _send(self, terms: Mapping[str, float]) -> None:
        data, _ = self.profile.slots(terms)
        self._at, stream = dict(terms), self._stream
        if stream is not None:
            stream.put(self._first, data)

    def rest(self) -> None:
        """As the bench file says, else with its level at nothing."""
        self._send(self._resting)

    def close(self) -> None:
        """Rest, and let the stream go, which ends with the last lamp on it."""
        stream = self._stream
        if stream is not None:
            self.rest()
            self._stream = None
            let_go(stream)


def _profile(name: str, settings: Settings, folder: Path) -> Profile:
    said = settings.get("profile")
    if not said:
        raise InstrumentError(f"{name}: it needs a profile, which says what its channels do")
    path = folder / str(said)
    try:
        if path.suffix.lower() == ".gdtf":
            return read_gdtf(path, str(settings.get("mode", "")))
        return read_profile(path)
    except ProfileError as error:
        raise InstrumentError(f"{name}: {error}") from error


def _whole(settings: Mapping[str, Any], key: str, low: int, high: int, name: str, usual: int | None = None) -> int:
    value = settings.get(key, usual)
    if not isinstance(value, int) or isinstance(value, bool) or not low <= value <= high:
        raise InstrumentError(f"{name}: {key} is a whole number from {low} to {high}, not {value!r}")
    return value
