"""What goes over the network for a lamp, byte by byte (ANSI E1.31-2018)."""

import socket
import time
from contextlib import contextmanager
from itertools import pairwise

import pytest
from sacn import sACNsender

from even_beam.instruments.protocols import InstrumentError
from even_beam.instruments.sacn_lamp import SacnLamp
from even_beam.instruments.stand_ins.e131 import PORT, PacketError, packet_of
from tests.instruments.wires import own_host, stand_ins


@contextmanager
def heard(host):
    """A plain socket, which knows nothing of any library."""
    listening = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    listening.bind((host, PORT))
    listening.settimeout(0.5)
    try:
        yield listening
    finally:
        listening.close()


def all_of(listening, seconds):
    found, until = [], time.monotonic() + seconds
    while time.monotonic() < until:
        try:
            found.append((time.monotonic(), listening.recv(1500)))
        except TimeoutError:
            break
    return found


@pytest.fixture
def lamp(tmp_path):
    with stand_ins(tmp_path) as made:
        reached = made.bench.lamps["Tansy"]
    host = own_host()
    settings = {**reached.settings, "destination": host, "priority": 120, "address": 31}
    return SacnLamp("Tansy", "", settings, tmp_path), host


def test_packets_are_as_the_standard_says(lamp):
    control, host = lamp
    with heard(host) as listening:
        control.connect()
        control.set({"level": 50.0, "cct": 6500.0})
        time.sleep(0.3)
        all_of(listening, 0.1)
        packets = all_of(listening, 0.8)
        raw = packets[-1][1]
        assert raw[:16] == b"\x00\x10\x00\x00ASC-E1.17\x00\x00\x00"  # 5.1 to 5.3
        assert len(raw) == 638 and raw[16:18] == b"\x72\x6e"  # 0x7000 and 638 - 16 bytes (5.4)
        assert raw[18:22] == b"\x00\x00\x00\x04" and raw[38:40] == b"\x72\x58" and raw[40:44] == b"\x00\x00\x00\x02"
        assert raw[44:108].rstrip(b"\x00") == b"Even Beam" and raw[108] == 120  # 6.2.2, 6.2.3
        assert raw[113:115] == b"\x00\x07"  # universe (6.2.7)
        assert raw[115:125] == b"\x72\x0b\x02\xa1\x00\x00\x00\x01\x02\x01" and raw[125] == 0  # DMP layer, start code
        assert raw[126 + 30 : 126 + 35] == bytes([0x80, 0x00, 255, 0, 200]) and not any(raw[126 : 126 + 30])
        control.close()
        ends = [packet_of(data) for _, data in all_of(listening, 1.0)]
    read = [packet_of(data) for _, data in packets]
    steps = {(after.sequence - before.sequence) % 256 for before, after in pairwise(read)}
    assert steps == {1}  # 6.2.5
    rate = (len(packets) - 1) / (packets[-1][0] - packets[0][0])
    assert 10.0 < rate <= 44.0  # 6.6.1
    assert [one.is_terminated for one in ends[-3:]] == [True] * 3 and not ends[0].is_terminated  # 6.2.6
    assert ends[-3].slots[30:32] == b"\x00\x00", "dark before the stream ends"


def test_a_lamp_lights_as_it_is_told_and_is_dark_when_it_is_let_go(tmp_path):
    with stand_ins(tmp_path) as made:
        control = made.bench.lamp("Tansy")
        read = lambda: made.spectrometer.read().figures["illuminance"]  # noqa: E731
        control.connect()
        time.sleep(0.3)
        dark = read()
        assert control.set({"level": 100.0, "cct": 5600.0})["cct"] == pytest.approx(5606.0, abs=1.0)
        time.sleep(0.4)
        full = read()
        control.set({"level": 25.0})
        time.sleep(0.4)
        assert full > 3000.0 and read() == pytest.approx(0.25 * full, rel=0.03)
        began = time.monotonic()
        control.rest()
        assert time.monotonic() - began < 0.1
        time.sleep(0.4)
        assert read() == pytest.approx(dark, rel=0.2)
        control.set({"level": 100.0})
        control.close()
        control.close()
        time.sleep(0.4)
        assert read() == pytest.approx(dark, rel=0.2)
        assert made.lamps.packets[-1].is_terminated


def test_lamps_on_one_universe_share_its_stream(tmp_path):
    """Two streams of one program on a universe would fight: each would put the other's lamp out."""
    with stand_ins(tmp_path, lamps={"Tansy": "six-emitter colour light", "Burdock": "bicolour panel"}) as made:
        one, other = made.bench.lamp("Tansy"), made.bench.lamp("Burdock")
        one.connect()
        other.connect()
        one.set({"level": 80.0, "cct": 5600.0})
        other.set({"level": 30.0, "cct": 3200.0})
        levels = []
        for _ in range(20):
            time.sleep(0.05)
            levels.append(tuple(round(made.room.lamps[name].told["level"]) for name in ("Tansy", "Burdock")))
        assert set(levels[10:]) == {(80, 30)}
        assert len({packet.cid for packet in made.lamps.packets}) == 1
        one.close()
        time.sleep(0.3)
        assert made.room.lamps["Tansy"].told["level"] == 0.0 and made.room.lamps["Burdock"].told["level"] > 29.0
        assert not made.lamps.packets[-1].is_terminated
        other.close()
        time.sleep(0.3)
        assert made.lamps.packets[-1].is_terminated
        with pytest.raises(InstrumentError, match="one priority"):
            louder = {**made.bench.lamps["Burdock"].settings, "priority": 150}
            one.connect()
            SacnLamp("Burdock", "", louder, tmp_path).connect()
        one.close()


def test_a_limit_is_never_passed(tmp_path):
    with stand_ins(tmp_path) as made:
        settings = {**made.bench.lamps["Tansy"].settings, "most_level": 40}
    control = SacnLamp("Tansy", "", settings, tmp_path)
    assert control.limits["level"] == (0.0, 40.0)
    with pytest.raises(InstrumentError, match="above its limit of 40"):
        control.set({"level": 41.0})
    assert control.set({"level": 40.0})["level"] == pytest.approx(40.0, abs=0.01)


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        ({"universe": 0}, "universe is a whole number from 1 to 63999"),
        ({"universe": 64_000}, "universe"),
        ({"address": 511}, "go beyond 512"),
        ({"destination": "the attic"}, "is no address"),
        ({"profile": ""}, "needs a profile"),
        ({"profile": "none.json"}, "Tansy: "),
        ({"rest": {"level": 200}}, "not between 0 and 100"),
    ],
)
def test_what_cannot_be_is_told_before_any_light(tmp_path, wrong, words):
    with stand_ins(tmp_path) as made:
        settings = {**made.bench.lamps["Tansy"].settings, **wrong}
    with pytest.raises(InstrumentError, match=words):
        SacnLamp("Tansy", "", settings, tmp_path)


@pytest.mark.parametrize(("priority", "is_told"), [(150, True), (100, True), (50, False)])
def test_another_program_on_the_universe_is_told(tmp_path, priority, is_told):
    with stand_ins(tmp_path) as made:
        settings = made.bench.lamps["Tansy"].settings
    here, there = own_host(), own_host()
    other = sACNsender(source_name="Desk of the attic", bind_port=0, universeDiscovery=False)
    other.start()
    other.activate_output(7)
    other[7].destination, other[7].priority = here, priority
    other[7].dmx_data = (255,)
    control = SacnLamp("Tansy", "", {**settings, "destination": there, "hears": here}, tmp_path)
    try:
        if is_told:
            with pytest.raises(
                InstrumentError, match=f"“Desk of the attic” sends on universe 7 with priority {priority}"
            ):
                control.connect()
        else:
            assert "universe 7" in control.connect()
    finally:
        control.close()
        other.stop()


@pytest.mark.parametrize("broken", [b"", b"x" * 200, bytes(638)])
def test_what_is_no_packet_is_not_followed(broken):
    with pytest.raises(PacketError):
        packet_of(broken)
