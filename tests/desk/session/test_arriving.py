"""A reading belongs to what was asked when it was begun; it and its doubt are kept together or not at all."""

import sqlite3

import pytest

from even_beam.bench.planning.sweep import Sweep, run_sheet
from even_beam.bench.records import EventKind, Session, Source, Spectrum, Terms, new_id
from even_beam.desk.session.desk import SessionDesk
from even_beam.instruments.protocols import MeterReading
from even_beam.logbook import LogbookError
from even_beam.logbook.store import Logbook
from tests.conftest import LIGHT_METER, SPECTROMETER


@pytest.fixture
def run(logbook, clock) -> SessionDesk:
    session = Session(new_id(), "Run", clock())
    logbook.save(SPECTROMETER, LIGHT_METER, session, Source("lamp", "Tansy"))
    sweep = Sweep(("lamp",), (3200.0, 5600.0), (100.0, 50.0), (2.0,), repeats=1)
    logbook.save(*run_sheet(sweep, session.id, LIGHT_METER))
    return SessionDesk(logbook, session, clock)


def raw(level: float) -> MeterReading:
    return MeterReading({"illuminance": level})


def in_the_meantime(what: str, desk: SessionDesk) -> None:
    if what == "undo":
        desk.undo()
    elif what == "jump":
        desk.go_to(desk.state.steps[-1].step.id)
    elif what == "skip":
        desk.skip()
    elif what == "terms":
        desk.free_terms = Terms(cct_k=4300.0, level_pct=10.0)
    elif what == "lamp":
        desk.free_source = "other"


@pytest.mark.parametrize("what", ["undo", "jump", "skip", "terms", "lamp"])
def test_a_reading_stays_with_the_step_it_was_asked_for(run, what):
    run.take(raw(640.0))
    asked, step = run.asked_now(), run.step.step
    in_the_meantime(what, run)
    reading = run.take(raw(300.0), asked=asked).measured.reading
    assert (reading.step_id, reading.terms, reading.source_ids) == (step.id, step.terms, step.source_ids)


def test_of_a_step_that_was_undone_meanwhile_the_terms_are_kept(run):
    run.insert_step(Terms(cct_k=4400.0, level_pct=33.0, distance_m=2.0))
    asked = run.asked_now()
    run.undo()
    reading = run.take(raw(300.0), asked=asked).measured.reading
    assert reading.step_id is None
    assert reading.terms.cct_k == 4400.0


def test_a_doubt_that_was_decided_meanwhile_is_not_superseded(desk):
    desk.confirm(desk.propose("640"))
    doubtful = desk.take(raw(64.0)).measured
    assert doubtful.state.doubt
    asked = desk.asked_now()
    assert asked.doubtful_id == doubtful.reading.id
    desk.keep_in_doubt(doubtful.reading.id)
    desk.take(raw(641.0), asked=asked)
    assert desk.of(doubtful.reading.id).state.counts


def test_a_doubt_that_waits_is_superseded(desk):
    desk.confirm(desk.propose("640"))
    doubtful = desk.take(raw(64.0)).measured
    desk.take(raw(641.0))
    assert not desk.of(doubtful.reading.id).state.counts


def test_a_doubtful_reading_is_never_on_the_disk_without_its_doubt(desk, monkeypatch):
    """Whatever is written after the reading itself fails, as if the process were killed there."""
    desk.confirm(desk.propose("640"))
    commit = Logbook.commit_readings

    def then_killed(self: Logbook, *args: object, **named: object) -> None:
        commit(self, *args, **named)  # type: ignore[arg-type]
        raise KeyboardInterrupt

    monkeypatch.setattr(Logbook, "commit_readings", then_killed)
    with pytest.raises(KeyboardInterrupt):
        desk.take(raw(64.0))
    monkeypatch.undo()
    again = SessionDesk(desk.logbook, desk.session, desk.now)
    assert [bool(m.state.doubt) for m in again.measured] == [False, True]
    assert len(again.counted) == 1


def test_a_reading_that_could_not_be_kept_is_nowhere(desk, monkeypatch):
    desk.confirm(desk.propose("640"))
    before = desk.state

    def full(self: Logbook, *args: object, **named: object) -> None:
        raise LogbookError("The disk is full.", "Everything confirmed before is safe.", "Free some space.")

    monkeypatch.setattr(Logbook, "commit_readings", full)
    with pytest.raises(LogbookError):
        desk.take(raw(641.0))
    assert desk.state == before
    monkeypatch.undo()
    desk.take(raw(641.0))
    assert [m.value("illuminance") for m in desk.measured] == [640.0, 641.0]
    assert sqlite3.connect(desk.logbook.path).execute("SELECT count(*) FROM reading").fetchone() == (2,)


def test_its_figures_are_kept_in_the_same_transaction(desk):
    from even_beam.light import WAVELENGTH_NM, planckian

    taken = desk.take(MeterReading(spectrum=Spectrum(WAVELENGTH_NM, planckian(5600.0), absolute=False)))
    # a radiator beside daylight, whose reference it has from 5000 K
    assert taken.measured.value("ra") == pytest.approx(98.3, abs=0.1)
    kinds = [e.kind for e in desk.state.live_events]
    assert kinds == [EventKind.TAKEN]
    assert desk.logbook.computed(desk.session.id)
