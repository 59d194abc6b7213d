"""The window while a reading is on its way: another session, another logbook, closing; no veil stays, nothing is
misfiled."""

import pytest

from even_beam.bench.records import Session, Source, new_id
from even_beam.instruments.simulated_bench import SimulatedSpectrometer
from even_beam.logbook.store import Logbook
from tests.conftest import SPECTROMETER


@pytest.fixture
def slow(monkeypatch):
    """A meter that takes its time."""
    import threading

    go = threading.Event()
    read = SimulatedSpectrometer.read

    def slowly(self: SimulatedSpectrometer) -> object:
        go.wait(10.0)
        return read(self)

    monkeypatch.setattr(SimulatedSpectrometer, "read", slowly)
    yield go
    go.set()


def begin(window, qtbot) -> None:
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)
    window.bench.press("Enter")
    assert window.bench._reading


def test_another_session_meanwhile(open_window, demo, qtbot, slow):
    window = open_window(demo)
    first = window.bench.desk
    before, step = len(first.measured), first.step.step
    begin(window, qtbot)
    window.document.begin("Another evening")
    slow.set()
    qtbot.waitUntil(lambda: not window.busy, timeout=10_000)
    there = window.document.desk_of(first.session.id)
    assert len(there.measured) == before + 1
    assert there.measured[-1].reading.step_id == step.id
    assert window.bench.desk.measured == ()
    assert not window.bench._reading


def test_another_logbook_meanwhile(open_window, demo, tmp_path, qtbot, slow, clock):
    other = tmp_path / "other.evenbeam"
    book = Logbook.create(other)
    book.save(
        SPECTROMETER,
        Source("lamp", "Tansy", simulated="six-emitter colour light"),
        Session(new_id(), "Elsewhere", clock()),
    )
    book.close()
    window = open_window(demo)
    begin(window, qtbot)
    slow.set()
    assert window.open_logbook(other)
    assert not window.bench._reading
    window.bench.veil.settle()
    assert window.bench.veil.darkness == 0.0
    qtbot.wait(50)
    assert window.bench.desk.measured == ()  # what was read of the other lamp is not filed here
    window.bench.desk.free_source = "lamp"
    window.bench.press("Enter")
    qtbot.waitUntil(lambda: not window.busy and not window.bench._reading, timeout=10_000)
    assert len(window.bench.desk.measured) == 1


def test_closing_meanwhile(open_window, demo, qtbot, slow):
    window = open_window(demo)
    before = len(window.bench.desk.measured)
    session = window.bench.desk.session.id
    begin(window, qtbot)
    slow.set()
    window.close()
    book = Logbook.open_to_read(demo)
    assert len(book.readings(session)) == before
    assert not demo.with_name(demo.name + "-wal").exists()
    book.close()
