"""Meters that answer text, speak lines and write files, against instruments that know nothing of the drivers."""

import json
import os
import socketserver
import threading
import time
from contextlib import contextmanager

import numpy as np
import pytest

from even_beam.formats import NamedSpectrum, write_spectra
from even_beam.instruments.answered import factor_of, figure_of, spectrum_of
from even_beam.instruments.bench_file import BenchFile, as_text, read_bench
from even_beam.instruments.folder_meter import FolderMeter
from even_beam.instruments.line_meter import LineMeter
from even_beam.instruments.protocols import BrokenOffError, InstrumentError
from even_beam.instruments.scpi_meter import ScpiMeter
from even_beam.instruments.trying import try_lamp, try_meter
from even_beam.light import WAVELENGTH_NM, planckian
from tests.instruments.wires import stand_ins

LUX_PER_FC = 1.0 / 0.3048**2


@contextmanager
def answering(answers):
    """A device of one's own: what it says to each question, as bytes or as a function."""

    class Handler(socketserver.StreamRequestHandler):
        def handle(self):
            for line in self.rfile:
                said = answers.get(line.decode().strip())
                said = said() if callable(said) else said
                if said is not None:
                    self.wfile.write(said)

    server = socketserver.ThreadingTCPServer(("127.0.0.1", 0), Handler)
    server.daemon_threads = True
    thread = threading.Thread(target=server.serve_forever, args=(0.02,), daemon=True)
    thread.start()
    try:
        yield f"TCPIP::127.0.0.1::{server.server_address[1]}::SOCKET"
    finally:
        server.shutdown()
        server.server_close()


def meter(address, tmp_path, **said):
    usual = {"read_termination": "\n", "timeout_s": 0.4, "reads": {"illuminance": {"ask": "E?", "unit": "fc"}}}
    return ScpiMeter("Wall meter", address, {**usual, **said}, tmp_path)


@pytest.mark.parametrize(
    ("answer", "lux"),
    [
        (b"100.0\n", 100.0 * LUX_PER_FC),
        (b"+1.000E+02\n", 100.0 * LUX_PER_FC),
        (b" 100 fc\n", 100.0 * LUX_PER_FC),
        (b".5\n", 0.5 * LUX_PER_FC),
    ],
)
def test_a_figure_comes_in_the_units_of_the_logbook(tmp_path, answer, lux):
    """A footcandle is a lumen a square foot: 10.764 lx."""
    with answering({"*IDN?": b"SOME,PHOTO,1\n", "E?": answer}) as address:
        one = meter(address, tmp_path)
        assert one.read().figures == {"illuminance": pytest.approx(lux)}
        one.close()


@pytest.mark.parametrize(
    ("answer", "error", "words"),
    [
        (b"lots of light\n", BrokenOffError, "which is no figure"),
        (b"\n", BrokenOffError, "“nothing”"),
        (b"1,2\n", BrokenOffError, "which is no figure"),
        (b"9.91E+37\n", InstrumentError, "has no figure to give"),
        (b"NaN\n", InstrumentError, "has no figure to give"),
        (b"100 lx\n", InstrumentError, "in lx, and the bench file says fc"),
        (b"12", BrokenOffError, "did not answer E\\? within 0.4 s"),
        (None, BrokenOffError, "did not answer E\\? within 0.4 s"),
        (b"\xff\xfe\n", BrokenOffError, "no text"),
    ],
)
def test_what_is_no_answer_is_told_and_never_kept(tmp_path, answer, error, words):
    with answering({"*IDN?": b"SOME,PHOTO,1\n", "E?": answer}) as address:
        one = meter(address, tmp_path)
        with pytest.raises(error, match=words):
            one.read()
        one.close()


def test_a_question_that_broke_off_is_asked_once_more_and_gets_no_late_answer(tmp_path):
    told = iter([None, b"7\n", b"8\n"])

    def second():
        said = next(told)
        if said is None:
            time.sleep(0.6)
            return b"6\n"  # too late: of another question
        return said

    with answering({"*IDN?": b"SOME,PHOTO,1\n", "E?": second}) as address:
        one = meter(address, tmp_path)
        assert one.read().figures["illuminance"] == pytest.approx(7 * LUX_PER_FC)
        assert one.read().figures["illuminance"] == pytest.approx(8 * LUX_PER_FC)
        one.close()


@pytest.mark.parametrize(("block", "kind"), [("float32", "<f4"), ("float64", "<f8"), ("float32 big", ">f4")])
def test_a_spectrum_comes_as_a_block(tmp_path, block, kind):
    """IEEE 488.2, 8.7.9: #, the number of digits, the number of bytes, the bytes; line ends among them are data."""
    values = np.linspace(0.01, 0.02, 81)
    values[10] = np.frombuffer(b"\n\n\n\x3c", "<f4")[0]
    data = values.astype(kind).tobytes()
    head = f"#{len(str(len(data)))}{len(data)}".encode()
    name, _, big = block.partition(" ")
    reads = {
        "spectrum": {
            "ask": "S?", "first_nm": 380, "step_nm": 5, "unit": "W m-2 nm-1", "block": name, "big_endian": bool(big),
        }
    }  # fmt: skip
    with answering({"*IDN?": b"SOME,PHOTO,1\n", "S?": head + data + b"\n"}) as address:
        one = meter(address, tmp_path, reads=reads)
        found = one.read().spectrum
        one.close()
    assert found.absolute and found.values == pytest.approx(values, rel=1e-6)
    assert (found.wavelength_nm[0], found.wavelength_nm[-1]) == (380.0, 780.0)


def test_a_spectrum_comes_as_text_with_its_wavelengths(tmp_path):
    grid = np.arange(400.0, 701.0, 10.0)
    answers = {
        "*IDN?": b"SOME,PHOTO,1\n",
        "S?": ",".join(f"{v:.3e}" for v in grid / 400.0).encode() + b"\n",
        "W?": ",".join(f"{v:.1f}" for v in grid).encode() + b"\n",
    }
    reads = {"spectrum": {"ask": "S?", "wavelengths": "W?", "unit": "mW m-2 nm-1"}}
    with answering(answers) as address:
        one = meter(address, tmp_path, reads=reads)
        found = one.read().spectrum
        one.close()
    assert found.values[-1] == pytest.approx(1.75e-3) and found.wavelength_nm[-1] == 700.0


def test_another_instrument_at_the_address_is_not_read(tmp_path):
    with answering({"*IDN?": b"SOME,OSCILLOSCOPE,1\n", "E?": b"5\n"}) as address:
        with pytest.raises(InstrumentError, match="“SOME,OSCILLOSCOPE,1” answers there, not “PHOTO”"):
            meter(address, tmp_path, identity="PHOTO").read()


def test_its_own_complaint_is_told(tmp_path):
    answers = {"*IDN?": b"SOME,PHOTO,1\n", "E?": b"5\n", "SYST:ERR?": b'-230,"Data corrupt or stale"\n'}
    with answering(answers) as address:
        with pytest.raises(InstrumentError, match="Data corrupt or stale"):
            meter(address, tmp_path, errors="SYST:ERR?").read()


def test_nobody_at_the_address_is_told_with_what_to_look_at(tmp_path):
    with pytest.raises(BrokenOffError, match="Is it on, and the cable in"):
        meter("TCPIP::127.0.0.1::9::SOCKET", tmp_path).read()


@pytest.mark.parametrize(
    ("said", "words"),
    [
        ({"reads": {}}, "needs \\[meter"),
        ({"reads": {"brightness": "E?"}}, "no quantity “brightness”"),
        ({"reads": {"illuminance": {"ask": "E?", "unit": "candles"}}}, "has no unit “candles”"),
        ({"reads": {"spectrum": {"ask": "S?"}}}, "needs first_nm and step_nm"),
        ({"reads": {"spectrum": {"ask": "S?", "first_nm": 380, "step_nm": 5, "block": "int8"}}}, "a block is of"),
        ({"reads": {"illuminance": {"ask": "E?", "units": "fc"}}}, "unknown: units"),
    ],
)
def test_a_description_that_cannot_be_is_told_before_the_wire(tmp_path, said, words):
    with pytest.raises(InstrumentError, match=words):
        meter("TCPIP::127.0.0.1::9::SOCKET", tmp_path, **said)


def test_units_and_figures_at_their_corners():
    assert factor_of("illuminance", "", "x") == factor_of("illuminance", "LX", "x") == 1.0
    assert figure_of("inf", "illuminance", "lx", "E?") is None
    assert figure_of("-0.2", "illuminance", "lx", "E?") == -0.2
    with pytest.raises(BrokenOffError, match="2 values for 3"):
        spectrum_of(np.ones(2), np.arange(3.0), "relative", "x")
    with pytest.raises(InstrumentError, match="no unit “counts”"):
        spectrum_of(np.ones(3), np.arange(3.0), "counts", "x")


# --- lines


def test_a_display_that_streams_gives_a_line_that_begins_now(tmp_path):
    with stand_ins(tmp_path, meters=("lux",)) as made:
        one = made.bench.meter("Pocket meter")
        assert one.connect().startswith("lines on /dev/")
        made.room.tell("Tansy", {"level": 100.0, "cct": 5600.0})
        time.sleep(0.3)
        assert one.read().figures["illuminance"] > 3000.0, "not a line of before"
        one.close()


@contextmanager
def port():
    """Both ends of a serial line."""
    ours, theirs = os.openpty()
    import tty

    tty.setraw(theirs)
    try:
        yield ours, os.ttyname(theirs)
    finally:
        os.close(ours)
        os.close(theirs)


PATTERN = r"(?P<illuminance>[\d.]+)\s*lx(?:\s+(?P<cct>\d+)\s*K)?"


def line_meter(address, tmp_path, **said):
    return LineMeter("Pocket meter", address, {"pattern": PATTERN, "timeout_s": 0.4, **said}, tmp_path)


def test_a_button_is_a_line_and_what_does_not_match_is_passed_over(tmp_path):
    with port() as (ours, address):
        one = line_meter(address, tmp_path)
        one.connect()
        os.write(ours, b"READY\r\n 1234.5 lx 5600 K\r\n 99 lx\r\n")
        assert one.read().figures == {"illuminance": 1234.5, "cct": 5600.0}
        assert one.read().figures == {"illuminance": 99.0}
        with pytest.raises(BrokenOffError, match=r"said nothing within 0\.4 s"):
            one.read()
        os.write(ours, b" 12")
        with pytest.raises(BrokenOffError, match="said only “12”"):
            one.read()
        os.write(ours, b"HELLO\r\n" * 60)
        with pytest.raises(InstrumentError, match="none of 50 lines is of its pattern"):
            one.read()
        one.close()


@pytest.mark.parametrize(
    ("said", "words"),
    [
        ({"pattern": "("}, "cannot be read"),
        ({"pattern": "[0-9]+"}, "needs named groups"),
        ({"pattern": "(?P<glow>[0-9]+)"}, "no quantity “glow”"),
    ],
)
def test_a_pattern_that_cannot_be_is_told(tmp_path, said, words):
    with pytest.raises(InstrumentError, match=words):
        line_meter("/dev/null", tmp_path, **said)


def test_a_port_that_is_not_there_is_told(tmp_path):
    with pytest.raises(BrokenOffError, match="may you use the port"):
        line_meter("/dev/ttyNOWHERE", tmp_path).read()


# --- files


def written(folder, name, kelvin):
    values = planckian(kelvin)
    write_spectra(folder / name, [NamedSpectrum(name, WAVELENGTH_NM.copy(), values, False)])


def test_each_new_file_is_a_reading_and_no_old_half_or_equal_one(tmp_path):
    folder = tmp_path / "files"
    folder.mkdir()
    written(folder, "old.json", 3000.0)
    one = FolderMeter("Files", str(folder), {"timeout_s": 4.0}, tmp_path)
    whole = json.dumps(json.loads((folder / "old.json").read_text())).replace("old.json", "new")

    def later():
        time.sleep(0.3)
        (folder / "again.json").write_bytes((folder / "old.json").read_bytes())  # the same under another name
        (folder / "half.json").write_text(whole[: len(whole) // 2])
        (folder / "part.json.tmp").write_text(whole)
        time.sleep(0.8)
        written(folder, "other.json", 5000.0)

    writing = threading.Thread(target=later)
    writing.start()
    spectrum = one.read().spectrum
    writing.join()
    expected = planckian(5000.0)
    assert spectrum.values / spectrum.values.max() == pytest.approx(expected / expected.max(), rel=1e-3)
    quick = FolderMeter("Files", str(folder), {"timeout_s": 0.5}, tmp_path)
    with pytest.raises(BrokenOffError, match="no new file in"):
        quick.read()


def test_a_folder_that_is_not_there_is_told(tmp_path):
    with pytest.raises(InstrumentError, match="there is no folder"):
        FolderMeter("Files", "nowhere", {}, tmp_path).read()


# --- all of them


def test_every_shipped_driver_does_what_a_driver_must(tmp_path):
    with stand_ins(tmp_path, meters=("spectrometer", "lux", "power", "files")) as made:
        for name in made.bench.meters:
            lines = list(try_meter(made.bench.meter(name)))
            assert lines[-1] == "let go, and reached again", name
        assert list(try_lamp(made.bench.lamp("Tansy")))[-1] == "at rest, and let go"


def test_a_bench_file_comes_back_as_it_was_written(tmp_path):
    with stand_ins(tmp_path, meters=("spectrometer", "lux")) as made:
        read = read_bench(made.file)
        assert dict(read.meters) == dict(made.bench.meters) and dict(read.lamps) == dict(made.bench.lamps)
        assert as_text(read).count("driver") == 3
        assert read.meters.keys() == {"Wall meter", "Pocket meter"} and read.lamps["Tansy"].settings["address"] == 1


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("[meter.A]\naddress = 'x'", "meter “A” needs a driver"),
        ("[meter.A\n", "is no bench file"),
        ("[lamp.A]\ndriver = 'sacn'", "has no meter"),
        ("[metre.A]\ndriver = 'scpi'", "unknown: metre"),
    ],
)
def test_a_file_that_is_no_bench_says_why(tmp_path, text, words):
    (tmp_path / "bench.toml").write_text(text)
    with pytest.raises(InstrumentError, match=words):
        read_bench(tmp_path / "bench.toml")


def test_a_driver_that_there_is_not_is_told_with_those_there_are(tmp_path):
    (tmp_path / "bench.toml").write_text("[meter.A]\ndriver = 'crystal ball'")
    bench: BenchFile = read_bench(tmp_path / "bench.toml")
    with pytest.raises(InstrumentError, match="no driver “crystal ball”; there are: folder, line, scpi"):
        bench.meter("A")
