"""One stream of a universe (ANSI E1.31), shared by all lamps on it: two of one program would fight each other."""

import socket
import threading
import time
from dataclasses import dataclass
from typing import TYPE_CHECKING

from even_beam.instruments.protocols import InstrumentError

if TYPE_CHECKING:
    from sacn import sACNsender

RATE_HZ, MOST_HZ = 25.0, 40
"""Packets a second as a rule, and at most: receivers take 44 (ANSI E1.31, 6.6.1)."""
LAST_WORDS_S = 0.25
"""So long the stream says that its lamps rest before it ends: a busy machine may let a packet wait."""
LISTENS_S = 1.3
"""A source sends at least every second (ANSI E1.31, 6.6.2)."""
SOURCE = "Even Beam"
PORT = 5568
"""Where lamps listen (ACN_SDT_MULTICAST_PORT, ANSI E1.31, annex A)."""
SLOTS = 512


@dataclass(frozen=True, slots=True)
class Route:
    """Where a stream goes: a universe, an address (empty for multicast), and with which priority; `hears` is the
    address of this machine at which another program would be heard."""

    universe: int
    destination: str
    priority: int
    hears: str = ""


class Stream:
    """The values of a universe, sent at a steady rate while a lamp holds it."""

    def __init__(self, route: Route) -> None:
        self.route = route
        self._slots = bytearray(SLOTS)
        self._holders = 0
        self._sender: sACNsender | None = None
        self._ended = threading.Event()
        self._beat: threading.Thread | None = None

    @property
    def is_held(self) -> bool:
        """Whether a lamp holds it."""
        return self._holders > 0

    def begin(self) -> None:
        """Hold it; the first who does begins it. Raises `InstrumentError` where another program sends there."""
        if not self._holders:
            self._make_sure_of_being_alone()
            self._open()
        self._holders += 1

    def _open(self) -> None:
        from sacn import sACNsender

        sender = sACNsender(source_name=SOURCE, bind_port=0, fps=MOST_HZ, universeDiscovery=False)
        sender.start()
        sender.activate_output(self.route.universe)
        output = sender[self.route.universe]
        output.priority = self.route.priority
        output.multicast = not self.route.destination
        if self.route.destination:
            output.destination = self.route.destination
        self._sender, self._slots = sender, bytearray(SLOTS)
        self._ended.clear()
        self._beat = threading.Thread(target=self._repeat, args=(sender,), name="stream", daemon=True)
        self._beat.start()

    def _repeat(self, sender: "sACNsender") -> None:
        """The same values again: a lost packet costs a moment and no more."""
        while not self._ended.wait(1.0 / RATE_HZ):
            sender[self.route.universe].dmx_data = tuple(self._slots)

    def put(self, first: int, values: bytes) -> None:
        """Values from a channel (1 to 512) on, sent at once."""
        self._slots[first - 1 : first - 1 + len(values)] = values
        sender = self._sender
        output = sender[self.route.universe] if sender is not None else None
        if output is not None:
            output.dmx_data = tuple(self._slots)

    def end(self) -> None:
        """Let it go; the last who does ends it as the standard says (Stream_Terminated, three times; 6.2.6)."""
        self._holders -= 1
        if self._holders or self._sender is None:
            return
        sender, self._sender = self._sender, None
        time.sleep(LAST_WORDS_S)
        self._ended.set()
        if self._beat is not None:
            self._beat.join(1.0)
        sender.deactivate_output(self.route.universe)
        sender.stop()

    def _make_sure_of_being_alone(self) -> None:
        """Two programs on one universe: lamps follow the one of higher priority, and flicker between equals (6.2.3).
        What is sent to other addresses than `hears` cannot be heard."""
        route = self.route
        if route.destination and not route.hears:
            return
        for source, priority in _heard_on(route).items():
            if priority >= route.priority and source != SOURCE:
                words = f"“{source}” sends on universe {route.universe} with priority {priority}"
                raise InstrumentError(f"{words}: end that, or say a higher priority than {route.priority}.")


_streams: dict[tuple[int, str], Stream] = {}
_sharing = threading.Lock()


def held(route: Route) -> Stream:
    """The stream of a route, held until its `end`. Raises `InstrumentError`, also for a universe that is sent with
    another priority already."""
    with _sharing:
        where = route.universe, route.destination
        stream = _streams.get(where)
        if stream is None or not stream.is_held:
            stream = _streams[where] = Stream(route)
        if stream.route.priority != route.priority:
            words = f"universe {route.universe} is sent with priority {stream.route.priority}"
            raise InstrumentError(f"{words}: the lamps on it have one priority, not {route.priority} as well.")
        stream.begin()
        return stream


def let_go(stream: Stream) -> None:
    """Give a stream back that was held."""
    with _sharing:
        stream.end()


def _heard_on(route: Route) -> dict[str, int]:
    """The sources on a universe, each with its priority."""
    from sacn.messages.data_packet import DataPacket, calculate_multicast_addr

    found: dict[str, int] = {}
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as listening:
        try:
            listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            listening.bind((route.hears, PORT))
            if not route.destination:
                group = socket.inet_aton(calculate_multicast_addr(route.universe))
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
            if packet.universe == route.universe:
                found[packet.sourceName.rstrip("\0")] = packet.priority
    return found
