"""A distance walk by keys in the real window: a slipped digit, a knocked dimmer, a mis-aimed meter, each caught at
entry."""

from dataclasses import replace

import pytest
from PyQt6.QtCore import Qt

from even_beam.app.stations.bench.station import HOLD_MS
from even_beam.bench.planning.sweep import Sweep, run_sheet
from even_beam.bench.records import Meter, Session, Source, Terms, new_id
from even_beam.bench.run import Standing
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.light.colorimetry import illuminance

FEET = tuple(d * 0.3048 for d in (25.0, 20.0, 15.0, 10.0))
HAND = Meter("hand", "Light meter 1", kind="light meter", quantities=("illuminance",))
KEY = Meter("key", "Spectrometer 2", simulated="spectrometer")


def look(window) -> str:
    return window.bench.board.look.accessibleName()


@pytest.fixture
def walk(open_window, tmp_path):
    """Opens a window on a walk of one lamp, for a meter."""

    def opened(meter: Meter, levels=(100.0,)):
        window = open_window(tmp_path / "walk.evenbeam")
        document = window.document
        session = Session(new_id(), "Walk", document.clock())
        document.logbook.save(HAND, KEY, Source("lamp", "Bracken", simulated="two-channel point source"), session)
        sweep = Sweep(("lamp",), (5600.0,), levels, FEET, repeats=1, return_to_first=False)
        document.logbook.save(*run_sheet(sweep, session.id, meter))
        document.work_on(session)
        return window

    return opened


def counted(window) -> list[float]:
    return [m.value("illuminance") for m in window.document.desk.counted]


def test_a_slipped_digit_is_caught_before_it_counts(walk, hands):
    """800, 1200 and then 1080 at 15 ft: check value 10 (common practice, no source)."""
    window = walk(HAND)
    hands.type(window, "800")
    hands.type(window, "1200")
    hands.type(window, "1080")
    assert "Does not fit: read again" in look(window)
    assert "1\u202f800" in look(window) or "2\u202f080" in look(window)
    assert counted(window) == [800.0, 1200.0]  # nothing is kept without consent
    hands.press(window, "*")  # which figure was it? offered, still not taken
    assert counted(window) == [800.0, 1200.0]
    hands.press(window, Qt.Key.Key_Enter)  # the reflex reads again
    assert counted(window) == [800.0, 1200.0]
    hands.type(window, "2080")
    assert "Fits" in look(window)
    assert counted(window) == [800.0, 1200.0, 2080.0]


def test_a_candidate_is_only_taken_by_holding(walk, hands, qtbot):
    window = walk(HAND)
    for text in ("800", "1250", "1080"):
        hands.type(window, text)
    hands.press(window, "*")
    hands.hold(window, "+", HOLD_MS // 4)
    assert counted(window) == [800.0, 1250.0]  # let go too early
    hands.hold(window, "+", HOLD_MS + 150)
    qtbot.waitUntil(lambda: len(counted(window)) == 3)
    last = window.document.desk.counted[-1]
    assert last.value("illuminance") in (1800.0, 2080.0)
    assert last.figure("illuminance").text == "1080"
    assert last.reading.values[0].qualifier == "corrected slip"


def set_lamp(window, monkeypatch, **really) -> None:
    """The simulated room does not do what the step asks: its lamp stands otherwise."""
    document = window.document

    def otherwise() -> None:
        desk = document.bench()
        terms = replace(desk.next_terms, **really) if really else desk.next_terms
        document.instruments.set_lamps([desk.sources["lamp"]], terms)

    monkeypatch.setattr(document, "set_simulated_lamps", otherwise)


def test_a_knocked_dimmer_is_caught_while_the_lamp_is_lit(walk, hands, monkeypatch):
    window = walk(KEY)
    set_lamp(window, monkeypatch)
    hands.enter(window)
    hands.enter(window)
    set_lamp(window, monkeypatch, level_pct=55.0)
    hands.enter(window)
    desk = window.document.desk
    assert "Does not fit: read again" in look(window)
    assert "knocked dimmer" in look(window)
    assert desk.pending_doubt is not None
    assert len(desk.counted) == 2
    doubted = desk.pending_doubt.reading.id
    set_lamp(window, monkeypatch)
    hands.enter(window)  # the reflex: read again, with the dimmer back
    assert "Fits" in look(window)
    assert desk.of(doubted).state.standing is Standing.SUPERSEDED
    assert len(desk.counted) == 3


def test_a_mis_aimed_meter_is_caught_and_kept_only_on_purpose(walk, hands, monkeypatch, qtbot):
    window = walk(KEY)
    set_lamp(window, monkeypatch)
    hands.enter(window)
    hands.enter(window)
    aside = _angle_that_halves()
    set_lamp(window, monkeypatch, angle_deg=aside)
    hands.enter(window)
    desk = window.document.desk
    assert "Meter off the beam" in look(window)
    assert desk.pending_doubt is not None
    hands.hold(window, "+", HOLD_MS + 150)
    qtbot.waitUntil(lambda: desk.pending_doubt is None)
    kept = desk.counted[-1]
    assert kept.state.kept_in_doubt
    assert kept.terms.angle_deg == 0.0  # nothing was changed: what was asked still stands


def _angle_that_halves() -> float:
    """How far off its axis the simulated lamp gives less than half."""
    terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0)
    full = float(illuminance(LAMPS["two-channel point source"].irradiance(terms)))
    for angle in range(5, 85, 5):
        if (
            float(illuminance(LAMPS["two-channel point source"].irradiance(replace(terms, angle_deg=float(angle)))))
            < 0.55 * full
        ):
            return float(angle)
    raise AssertionError("the simulated lamp has no beam")


def test_room_light_and_what_the_lamp_shows_by_keys(walk, hands):
    window = walk(HAND)
    hands.act(window, "b")
    assert "Lamp off" in look(window)
    hands.type(window, "12")
    hands.type(window, "812")
    assert counted(window)[-1] == pytest.approx(800.0)
    assert "are taken off" in look(window)
    hands.act(window, "y")
    hands.type(window, "97")
    assert window.document.desk.counted[-1].terms.level_pct == 97.0
    assert "Kept as displayed" in look(window)
    hands.act(window, "c")
    hands.type(window, "Keep Bracken.")
    assert window.document.desk.session.decision == "Keep Bracken."
    window._undo()  # what was done last
    assert window.document.desk.session.decision == ""
    window._undo()
    assert window.document.desk.counted[-1].terms.level_pct == 100.0
