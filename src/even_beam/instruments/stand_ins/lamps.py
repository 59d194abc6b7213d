"""Lamps that listen to E1.31 and light the room."""

import socket
import threading
import time
from dataclasses import dataclass, field

from even_beam.instruments.profile import Profile
from even_beam.instruments.stand_ins.e131 import PORT, Packet, PacketError, packet_of
from even_beam.instruments.stand_ins.faults import Fault
from even_beam.instruments.stand_ins.room import Room

LOST_AFTER_S = 2.5
"""Without a packet for so long the data are lost (E131_NETWORK_DATA_LOSS_TIMEOUT, ANSI E1.31, annex A)."""


@dataclass
class Listener:
    """One lamp on a universe: it follows the source of the highest priority, and when the data end it goes dark."""

    name: str
    profile: Profile
    first: int
    full_on_loss: bool = False
    is_deaf: bool = False
    is_lossy: bool = False
    heard: list[Packet] = field(default_factory=list)
    heard_at: float = 0.0
    is_followed: bool = False


class LampServer:
    """Listens on a universe at an address of this machine, for all lamps there."""

    def __init__(self, room: Room, universe: int, host: str, lamps: list[Listener], port: int = PORT) -> None:
        self._room, self._universe, self._lamps = room, universe, lamps
        self.packets: list[Packet] = []
        self._socket = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self._socket.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        self._socket.bind((host, port))
        self._socket.settimeout(0.2)
        self._closed = threading.Event()
        self._thread = threading.Thread(target=self._listen, name="lamps", daemon=True)

    def start(self) -> None:
        """Begin to listen."""
        self._thread.start()

    def close(self) -> None:
        """End."""
        self._closed.set()
        self._thread.join(2.0)
        self._socket.close()

    def _listen(self) -> None:
        while not self._closed.is_set():
            try:
                data = self._socket.recv(1500)
            except TimeoutError:
                self._look_for_loss()
                continue
            except OSError:
                return
            try:
                packet = packet_of(data)
            except PacketError:
                continue
            if packet.universe == self._universe and packet.start_code == 0 and not packet.is_preview:
                self.packets.append(packet)
                for lamp in self._lamps:
                    self._hear(lamp, packet)
            self._look_for_loss()

    def _hear(self, lamp: Listener, packet: Packet) -> None:
        if lamp.is_deaf or (lamp.is_lossy and packet.sequence % 2):
            return
        if packet.is_terminated:
            self._lose(lamp)
            return
        lamp.heard_at, lamp.is_followed = time.monotonic(), True
        data = packet.slots[lamp.first - 1 : lamp.first - 1 + lamp.profile.footprint]
        if len(data) == lamp.profile.footprint:
            self._room.tell(lamp.name, lamp.profile.terms_of(data))

    def _look_for_loss(self) -> None:
        for lamp in self._lamps:
            if lamp.is_followed and time.monotonic() - lamp.heard_at > LOST_AFTER_S:
                self._lose(lamp)

    def _lose(self, lamp: Listener) -> None:
        lamp.is_followed = False
        low, high = lamp.profile.limits.get("level", (0.0, 100.0))
        self._room.tell(lamp.name, {"level": high if lamp.full_on_loss else low})


def listener_of(name: str, profile: Profile, first: int, faults: dict[str, Fault]) -> Listener:
    """A lamp with its faults."""
    return Listener(
        name,
        profile,
        first,
        full_on_loss="full-on-loss" in faults,
        is_deaf="deaf" in faults,
        is_lossy="lossy" in faults,
    )
