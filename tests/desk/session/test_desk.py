"""The journey of a reading: committed, evaluated, checked; typed, proposed, confirmed; and every way back."""

from dataclasses import replace

import numpy as np
import pytest

from even_beam.bench.observations import FLICKER
from even_beam.bench.planning.sweep import Sweep, run_sheet
from even_beam.bench.records import Computed, EventKind, Spectrum, Terms
from even_beam.bench.run import Standing
from even_beam.desk.session.desk import SessionDesk
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.formats import NamedSpectrum
from even_beam.instruments.protocols import MeterReading
from even_beam.light import METHOD_VERSION, WAVELENGTH_NM, SpectrumError, planckian
from even_beam.logbook import LogbookError
from even_beam.logbook.store import Logbook
from even_beam.words.entry import EntryError
from tests.conftest import LIGHT_METER, SPECTROMETER


@pytest.fixture
def instruments(clock) -> Instruments:
    return Instruments(clock)


def with_run(desk: SessionDesk, meter=SPECTROMETER, **changes) -> SessionDesk:
    sweep = replace(
        Sweep(("lamp",), (5600.0,), (100.0, 50.0, 25.0), (2.0,), repeats=1, return_to_first=False), **changes
    )
    desk.logbook.save(*run_sheet(sweep, desk.session.id, meter))
    desk.reload()
    return desk


def read(desk: SessionDesk, instruments: Instruments, lamp_at: Terms | None = None):
    instruments.set_lamps([desk.sources[i] for i in desk.next_sources], lamp_at or desk.next_terms)
    return desk.take(instruments.meter(SPECTROMETER).read())


def again(desk: SessionDesk, clock) -> SessionDesk:
    """The same session as another process would see it."""
    return SessionDesk(desk.logbook, desk.session, clock)


def test_a_reading_is_on_the_disk_before_anyone_is_told(desk, instruments):
    heard = []
    reader = Logbook.open_to_read(desk.logbook.path)
    desk.changed.connect(lambda: heard.append(len(reader.readings(desk.session.id))))
    read(desk, instruments)
    assert heard
    assert heard[0] == 1
    reader.close()


def test_a_run_by_key(desk, instruments, clock):
    with_run(desk)
    looks = [read(desk, instruments).look for _ in range(3)]
    assert not any(look.in_doubt for look in looks)
    assert desk.step is None
    assert [m.terms.level_pct for m in desk.counted] == [100.0, 50.0, 25.0]
    first = desk.counted[0]
    assert first.value("cct") == pytest.approx(5600, abs=80)
    assert first.computed is not None
    assert first.figure("illuminance").origin == "computed"
    assert set(first.figures("illuminance")) == {"computed", "device"}
    assert again(desk, clock).state.current is None


def test_a_doubt_is_kept_only_on_purpose(desk, instruments, clock):
    with_run(desk)
    read(desk, instruments)
    wrong = read(desk, instruments, desk.next_terms.__class__(cct_k=5600.0, level_pct=100.0, distance_m=2.0))
    assert wrong.look.in_doubt
    assert wrong.look.cause == "lamp_not_changed"
    assert desk.pending_doubt.reading.id == wrong.measured.reading.id
    assert again(desk, clock).pending_doubt is not None  # a killed process comes back to the doubt
    right = read(desk, instruments)
    assert not right.look.in_doubt
    assert desk.of(wrong.measured.reading.id).state.standing is Standing.SUPERSEDED
    assert desk.pending_doubt is None
    kept = read(desk, instruments, replace(desk.next_terms, level_pct=100.0))
    assert kept.look.in_doubt
    desk.keep_in_doubt(kept.measured.reading.id)
    assert desk.of(kept.measured.reading.id).state.counts
    assert desk.of(kept.measured.reading.id).state.kept_in_doubt


def test_a_typed_walk_with_a_swapped_figure(desk):
    with_run(desk, LIGHT_METER, whites_k=(), levels_pct=(100.0,), distances_m=(7.62, 6.096, 4.572, 3.048))
    for text in ("800", "1200"):
        desk.confirm(desk.propose(text))
    proposal = desk.propose("1080")
    assert proposal.look.in_doubt
    assert proposal.look.candidates[0].value in (1800.0, 2080.0)
    with pytest.raises(ValueError, match="on purpose"):
        desk.confirm(proposal)
    assert len(desk.measured) == 2  # nothing was kept
    chosen = desk.with_candidate(proposal, 2080.0)
    taken = desk.confirm(chosen, keep_in_doubt=True)
    value = taken.measured.reading.values[0]
    assert value.value == 2080.0
    assert value.text == "1080"  # what was typed is always kept
    assert value.qualifier == "corrected slip"


def test_a_withdrawn_figure_leaves_its_text(desk):
    with_run(desk, LIGHT_METER, whites_k=(), levels_pct=(100.0,), distances_m=(4.0, 2.0), repeats=2)
    desk.confirm(desk.propose("800"))
    proposal = desk.propose("80")
    desk.withdraw(proposal)
    event = desk.state.live_events[-1]
    assert event.kind is EventKind.ENTRY_WITHDRAWN
    assert event.old == "80"


def test_bounds_and_several_figures_are_kept_as_typed(desk):
    taken = desk.confirm(desk.propose("1,600; 5547 K; 99+ ra".replace("99+ ra", "ra 95")))
    assert [v.quantity for v in taken.measured.reading.values] == ["illuminance", "cct", "ra"]
    desk.free_meter = SPECTROMETER.id
    bound = desk.confirm(desk.propose("1610; 5550; +0.001; 99+"))
    value = bound.measured.figure("ra")
    assert value.value is None
    assert value.low == 99.0
    with pytest.raises(EntryError):
        desk.propose("16oo")


def test_what_was_found_of_a_reading_is_found_anew_when_its_figures_are(desk):
    desk.take_spectrum(NamedSpectrum("warm", WAVELENGTH_NM, planckian(3200.0)))
    (taken,) = desk.measured
    assert taken.value("cct") == pytest.approx(3200.0, abs=1.0)
    desk.logbook.save_computed([Computed(taken.reading.id, METHOD_VERSION, {"cct": 4321.0})])
    desk.reload()
    assert desk.of(taken.reading.id).value("cct") == 4321.0


def test_take_back_undo_redo(desk, instruments):
    with_run(desk)
    read(desk, instruments), read(desk, instruments)
    desk.take_back()
    assert len(desk.counted) == 1
    assert desk.state.current == 1
    assert desk.undo() == "taken back"
    assert len(desk.counted) == 2
    assert desk.undo() == "taken"
    assert desk.undo() == "taken"
    assert desk.undo() is None
    assert len(desk.counted) == 0
    assert desk.redo() == "taken"
    assert desk.redo() == "taken"
    assert len(desk.counted) == 2
    assert len(desk.measured) == 2


def test_a_new_act_ends_redo(desk):
    desk.confirm(desk.propose("800"))
    desk.undo()
    desk.note("a remark")
    assert desk.redo() is None


def test_wrong_terms_of_a_stretch_are_corrected_and_undone_at_once(desk, clock):
    """It was 12 ft all along."""
    for text in ("800", "805", "801"):
        desk.confirm(desk.propose(text))
    ids = [m.reading.id for m in desk.counted]
    desk.correct_terms(ids, "distance_m", 12 * 0.3048, "it was 12 ft all along")
    assert {m.terms.distance_m for m in desk.counted} == {12 * 0.3048}
    assert all(m.state.as_taken.distance_m == 2.0 for m in desk.counted)
    assert {m.terms.distance_m for m in again(desk, clock).counted} == {12 * 0.3048}
    assert desk.undo() == "terms corrected"
    assert {m.terms.distance_m for m in desk.counted} == {2.0}


def test_lamp_and_terms_may_be_named_afterwards(desk):
    desk.free_source, desk.free_terms = None, Terms()
    first = desk.confirm(desk.propose("800")).measured
    assert first.source_id is None
    desk.name_source([first.reading.id], "lamp")
    desk.correct_terms([first.reading.id], "cct_k", 3200.0)
    named = desk.of(first.reading.id)
    assert named.source_id == "lamp"
    assert named.terms.cct_k == 3200.0


def test_insert_skip_jump_repeat_note_moved(desk, instruments):
    with_run(desk)
    read(desk, instruments)
    desk.insert_step(replace(desk.next_terms, level_pct=75.0))
    assert desk.next_terms.level_pct == 75.0
    read(desk, instruments)
    desk.skip()
    assert desk.next_terms.level_pct == 25.0
    desk.go_to(desk.state.steps[0].step.id)  # it is done: it is read once more
    assert desk.next_terms.level_pct == 100.0
    desk.undo()
    assert desk.ask_again()
    assert desk.next_terms.level_pct == 75.0
    desk.note("humming", desk.counted[-1].reading.id)
    assert desk.counted[-1].state.notes == ("humming",)
    marked = desk.counted[-1]
    desk.set_aside(marked.reading.id, "aim was off")
    assert marked.reading.id not in {m.reading.id for m in desk.counted}


def test_what_moved_is_suspect_until_a_control_agrees(desk):
    with_run(desk)
    for level in ("1000", "500", "250"):
        desk.confirm(desk.propose(level), keep_in_doubt=True)
    first, second, third = desk.counted
    ids = [second.reading.id, third.reading.id]
    assert [m.reading.id for m in desk.may_have_moved()] == ids
    assert [m.reading.id for m in desk.something_moved(ids[0])] == ids
    assert [m.reading.id for m in desk.something_moved(ids[1])] == ids[1:]  # it moved later
    assert [m.state.suspect for m in desk.counted] == [False, False, True]
    desk.nothing_moved()
    assert not any(m.state.suspect for m in desk.counted)
    desk.redo()
    assert [m.state.suspect for m in desk.counted] == [False, False, True]
    assert [m.reading.id for m in desk.something_moved(ids[0])] == ids
    desk.go_to(first.reading.step_id)
    desk.confirm(desk.propose("800"), keep_in_doubt=True)  # 0.3 stop off: still not where it was
    assert desk.counted[-1].state.suspect
    desk.go_to(first.reading.step_id)
    desk.confirm(desk.propose("1005"), keep_in_doubt=True)
    assert not desk.counted[-1].state.suspect
    assert [m.state.suspect for m in desk.counted] == [False, True, True, True, False]
    (newest,) = desk.may_have_moved()  # only the newest: a control has just agreed
    desk.something_moved(newest.reading.id)
    desk.undo()
    assert [m.state.suspect for m in desk.counted] == [False, True, True, True, False]
    desk.undo()  # the reading goes, and with it what it said of the others
    assert all(m.state.suspect for m in desk.counted[1:])


def test_spectra_from_files_become_readings(desk):
    with_run(desk)
    named = NamedSpectrum("export 7", WAVELENGTH_NM, planckian(5600.0) * 1e-3, absolute=True)
    taken = desk.take_spectrum(named)
    assert taken.measured.value("cct") == pytest.approx(5600.0, rel=1e-3)
    assert "export 7" in taken.measured.reading.note
    third = desk.state.steps[2].step
    assert desk.take_spectrum(named, third).measured.reading.step_id == third.id
    with pytest.raises(SpectrumError):
        desk.take_spectrum(NamedSpectrum("cut", WAVELENGTH_NM[:200], planckian(5600.0)[:200]))


def test_a_dark_spectrum_is_kept_without_figures(desk):
    dark = MeterReading({"illuminance": 0.0}, Spectrum(WAVELENGTH_NM, np.zeros(401)))
    taken = desk.take(dark)
    assert taken.measured.computed is None
    assert taken.measured.value("illuminance") == 0.0


def test_clocks_may_jump_back(desk, clock):
    from datetime import timedelta

    desk.confirm(desk.propose("800"))
    clock.now -= timedelta(hours=3)
    desk.confirm(desk.propose("802"))
    sequences = [m.reading.sequence for m in desk.measured]
    assert sequences == sorted(sequences)
    assert desk.undo() == "taken"
    assert len(desk.counted) == 1


def test_nothing_counts_that_could_not_be_written(desk):
    desk.logbook._connection.execute("PRAGMA max_page_count=1")
    before = len(desk.measured)
    with pytest.raises(LogbookError, match="disk is full"):
        for _ in range(200):
            desk.note("x" * 2000)
    assert len(desk.measured) == before
    assert len(again(desk, desk.now).state.live_events) == len(desk.state.live_events)


def test_what_no_meter_reads_is_answered_by_eye(desk, clock):
    """A step that asks for flicker is done once somebody said what a camera showed; one undo takes it back."""
    with_run(desk, replace(SPECTROMETER, quantities=("flicker_hz",)))
    first = desk.step.step
    desk.observe("fan", "silent", "", first.source_ids, desk.next_terms)
    assert desk.step.step == first, "another subject answers nothing"
    desk.observe(FLICKER, "none seen", "24 fps, 1/48", ("another",), desk.next_terms)
    assert desk.step.step == first, "nor does another lamp"
    desk.observe(FLICKER, "faint bands", "24 fps, 1/48", first.source_ids, desk.next_terms)
    assert desk.step.step.terms.level_pct == 50.0
    assert again(desk, clock).step.step == desk.step.step
    desk.undo()
    assert desk.step.step == first and [one.subject for one in desk.observations()] == ["fan", FLICKER]


def test_a_level_is_not_answered_by_eye(desk):
    with_run(desk, replace(SPECTROMETER, quantities=("flicker_hz", "illuminance")))
    first = desk.step.step
    desk.observe(FLICKER, "none seen", "", first.source_ids, desk.next_terms)
    assert desk.step.step == first
