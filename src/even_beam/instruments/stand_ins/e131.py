"""A packet of streaming ACN, read field by field (ANSI E1.31-2018, clauses 4 to 7)."""

import struct
from dataclasses import dataclass

PORT = 5568
ACN_ID = b"ASC-E1.17\x00\x00\x00"
ROOT_DATA, FRAMING_DATA, DMP_SET = 0x00000004, 0x00000002, 0x02
TERMINATED, PREVIEW = 0x40, 0x80


class PacketError(ValueError):
    """No packet of data; the message says at which field."""


@dataclass(frozen=True, slots=True)
class Packet:
    """What a packet says; `slots` without the start code."""

    cid: bytes
    source: str
    priority: int
    sequence: int
    is_terminated: bool
    is_preview: bool
    universe: int
    start_code: int
    slots: bytes


def _length(data: bytes, at: int) -> int:
    """A flags and length field (clause 4.1): the upper four bits are 0x7."""
    (field,) = struct.unpack_from("!H", data, at)
    if field >> 12 != 0x7:
        raise PacketError(f"flags at {at} are {field >> 12:x}, not 7")
    return int(field & 0x0FFF)


def packet_of(data: bytes) -> Packet:
    """A packet from the bytes on the wire. Raises `PacketError`."""
    if len(data) < 126:
        raise PacketError(f"{len(data)} bytes are no packet")
    preamble, postamble = struct.unpack_from("!HH", data, 0)
    if (preamble, postamble) != (0x0010, 0x0000) or data[4:16] != ACN_ID:
        raise PacketError("no ACN packet")
    root, framing, dmp = _length(data, 16), _length(data, 38), _length(data, 115)
    if (root, framing, dmp) != (len(data) - 16, len(data) - 38, len(data) - 115):
        raise PacketError("a length that is not that of the packet")
    if struct.unpack_from("!I", data, 18)[0] != ROOT_DATA or struct.unpack_from("!I", data, 40)[0] != FRAMING_DATA:
        raise PacketError("no packet of data")
    if data[117] != DMP_SET or data[118] != 0xA1 or struct.unpack_from("!HH", data, 119) != (0x0000, 0x0001):
        raise PacketError("no property values")
    (count,) = struct.unpack_from("!H", data, 123)
    if count != len(data) - 125 or count > 513:
        raise PacketError(f"{count} values in {len(data) - 125} bytes")
    (universe,) = struct.unpack_from("!H", data, 113)
    return Packet(
        cid=data[22:38],
        source=data[44:108].partition(b"\x00")[0].decode("utf-8", "replace"),
        priority=data[108],
        sequence=data[111],
        is_terminated=bool(data[112] & TERMINATED),
        is_preview=bool(data[112] & PREVIEW),
        universe=universe,
        start_code=data[125],
        slots=data[126:],
    )
