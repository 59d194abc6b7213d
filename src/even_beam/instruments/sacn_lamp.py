"""A lamp on the network: streaming ACN (ANSI E1.31), its channels by a profile."""

import ipaddress
import socket
import threading
import time
from collections.abc import Mapping
from pathlib import Path
from typing import TYPE_CHECKING, Any

from even_beam.instruments.gdtf import read_gdtf
from even_beam.instruments.profile import MOST_CHANNELS, Profile, ProfileError, read_profile
from even_beam.instruments.protocols import InstrumentError, Settings

if TYPE_CHECKING:
    from sacn import sACNsender

RATE_HZ = 25.0
"""Packets a second: receivers take 44 at most (ANSI E1.31, 6.6.1), and miss nothing at this."""
PRIORITY = 100
"""The usual priority (ANSI E1.31, 6.2.3)."""
LAST_WORDS_S = 0.25
"""So long the stream says that the lamp rests before it ends: a busy machine may let a packet wait."""
SOURCE = "Even Beam"
PORT = 5568
"""Where lamps listen (ACN_SDT_MULTICAST_PORT, ANSI E1.31, annex A)."""


class SacnLamp:
    """`universe`, `destination` (multicast where left out), `priority`, the first channel (`address`), a `profile`
    (a JSON or GDTF file beside the bench file, with its `mode`), `rest` and `most_level`. `hears` is the address of
    this machine at which another program would be heard."""

    def __init__(self, name: str, address: str, settings: Settings, folder: Path) -> None:
        self.name = name
        self._universe = _whole(settings, "universe", 1, 63_999, name)
        self._first = _whole(settings, "address", 1, MOST_CHANNELS, name, 1)
        self._priority = _whole(settings, "priority", 0, 200, name, PRIORITY)
        self._destination = str(settings.get("destination", address))
        self._hears = str(settings.get("hears", ""))
        if self._destination:
            try:
                ipaddress.ip_address(self._destination)
            except ValueError as error:
                raise InstrumentError(f"{name}: “{self._destination}” is no address such as 192.168.1.20") from error
        self.profile = _profile(name, settings, folder)
        if self._first + self.profile.footprint - 1 > MOST_CHANNELS:
            raise InstrumentError(f"{name}: its channels go beyond {MOST_CHANNELS} from {self._first} on")
        self._rest = {term: float(value) for term, value in dict(settings.get("rest", {})).items()}
        self._most_level = float(settings.get("most_level", 100.0))
        self._at: dict[str, float] = {}
        self._data: tuple[int, ...] = ()
        self._sender: sACNsender | None = None
        self._beat: threading.Thread | None = None
        self._ended = threading.Event()
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
        """Begin the stream, with the lamp at rest."""
        from sacn import sACNsender

        if self._sender is None:
            self._make_sure_of_being_alone()
            sender = sACNsender(source_name=SOURCE, bind_port=0, fps=40, universeDiscovery=False)
            sender.start()
            sender.activate_output(self._universe)
            output = sender[self._universe]
            output.priority = self._priority
            output.multicast = not self._destination
            if self._destination:
                output.destination = self._destination
            self._sender = sender
            self._ended.clear()
            self.rest()
            self._beat = threading.Thread(
                target=self._repeat, args=(sender,), name=f"stream to {self.name}", daemon=True
            )
            self._beat.start()
        to = self._destination or "multicast"
        return f"universe {self._universe} from {self._first}, {to}, priority {self._priority}"

    def _make_sure_of_being_alone(self) -> None:
        """Two programs on one universe: the lamp follows the one of higher priority, and flickers between equals (ANSI
        E1.31, 6.2.3). What is sent to other addresses than `hears` cannot be heard."""
        if self._destination and not self._hears:
            return
        for source, priority in _heard_on(self._universe, self._hears, multicast=not self._destination).items():
            if priority >= self._priority and source != SOURCE:
                words = f"“{source}” sends on universe {self._universe} with priority {priority}"
                raise InstrumentError(
                    f"{self.name}: {words}: end that, or say a higher priority than {self._priority}."
                )

    def _repeat(self, stream: "sACNsender") -> None:
        """The same values again at a steady rate: a lost packet costs a moment and no more."""
        while not self._ended.wait(1.0 / RATE_HZ):
            output = stream[self._universe]
            if output is not None:
                output.dmx_data = self._data

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
        self._at = dict(terms)
        self._data = (*(0,) * (self._first - 1), *data)
        if self._sender is not None:
            self._sender[self._universe].dmx_data = self._data

    def rest(self) -> None:
        """As the bench file says, else with its level at nothing."""
        self._send(self._resting)

    def close(self) -> None:
        """Rest, and end the stream as the standard says (Stream_Terminated, three times; ANSI E1.31, 6.2.6)."""
        sender, self._sender = self._sender, None
        if sender is None:
            return
        data, _ = self.profile.slots(self._resting)
        self._data = (*(0,) * (self._first - 1), *data)
        sender[self._universe].dmx_data = self._data
        time.sleep(LAST_WORDS_S)
        self._ended.set()
        if self._beat is not None:
            self._beat.join(1.0)
        sender.deactivate_output(self._universe)
        sender.stop()


LISTENS_S = 1.3
"""A source sends at least every second (ANSI E1.31, 6.6.2)."""


def _heard_on(universe: int, at: str, *, multicast: bool) -> dict[str, int]:
    """The sources on a universe, each with its priority."""
    from sacn.messages.data_packet import DataPacket, calculate_multicast_addr

    found: dict[str, int] = {}
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as listening:
        try:
            listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            listening.bind((at, PORT))
            if multicast:
                group = socket.inet_aton(calculate_multicast_addr(universe))
                listening.setsockopt(socket.IPPROTO_IP, socket.IP_ADD_MEMBERSHIP, group + socket.inet_aton("0.0.0.0"))
        except OSError:
            return found  # without a network there is nobody
        until = time.monotonic() + LISTENS_S
        while (left := until - time.monotonic()) > 0.0:
            listening.settimeout(left)
            try:
                packet = DataPacket.make_data_packet(tuple(listening.recv(1500)))
            except (TimeoutError, TypeError, ValueError):  # nothing, or what is no packet of data
                continue
            if packet.universe == universe:
                found[packet.sourceName.rstrip("\0")] = packet.priority
    return found


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
