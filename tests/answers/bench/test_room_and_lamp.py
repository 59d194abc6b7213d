"""The room in a line, and whatever a lamp shows instead of what it was asked for."""

from datetime import UTC, datetime

import pytest

from even_beam.answers.bench.calibration_form import ZEROING, zeroed
from even_beam.answers.bench.conditions_form import conditions_of, conditions_words, noted_of
from even_beam.answers.bench.step_terms import TermsError, step_terms, terms_changed
from even_beam.answers.bench.view import head_line
from even_beam.bench.records import Calibration, Terms
from even_beam.words.entry import EntryError

NOW = datetime(2026, 11, 25, 18, tzinfo=UTC)
ASKED = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)


def test_the_room_in_a_line(desk):
    row = conditions_of("21 °C; 231 V; 0.4 lx; blacked out; a fan on; the window lamp lit", "s", NOW)
    assert (row.temperature_c, row.mains_v, row.ambient_lx) == (21.0, 231.0, 0.4)
    assert (row.room, row.note) == ("blacked out", "a fan on; the window lamp lit")
    assert conditions_words(row) == "blacked out, 0.4 lx of its own, 21 °C, 231 V, a fan on; the window lamp lit"
    desk.note_room(conditions_of("19.5 °C; 229 V", desk.session.id, NOW))
    assert {"19.5 °C", "229 V"} <= set(head_line(desk))


@pytest.mark.parametrize("text", ["", " ; ", "5000 °C", "-5 V"])
def test_a_room_that_cannot_be(text):
    with pytest.raises(EntryError):
        conditions_of(text, "s", NOW)


def test_calibrations_are_told_from_the_room(desk):
    meter = desk.meter
    noted = noted_of("21 °C; dark room; calibrated at the institute; dark taken", desk.session.id, NOW, meter)
    assert (noted.room.temperature_c, noted.room.room) == (21.0, "dark room")
    assert [(row.kind, row.note) for row in noted.calibrations] == [
        ("calibrated", "at the institute"),
        ("dark", ""),
    ]
    assert noted.words(meter).endswith(
        f"{meter.nickname}: calibrated at the institute, 25 November 2026; {meter.nickname}: dark signal taken,"
        " 25 November 2026"
    )
    only = noted_of("zeroed on Yarrow", desk.session.id, NOW, meter)
    assert only.room is None
    assert zeroed(only.calibrations[0].note) == "Yarrow"
    with pytest.raises(EntryError, match="no meter is chosen"):
        noted_of("calibrated yesterday", desk.session.id, NOW, None)
    for row in (*noted.calibrations, *only.calibrations):
        desk.note_room(None, [(row, zeroed(row.note) if row.kind == ZEROING else "")])
    assert desk.meter.for_ratios_only
    assert len(desk.logbook.all(Calibration)) == 3
    desk.dark_calibrated()
    assert [row.kind for row in desk.logbook.all(Calibration)].count("dark") == 2


@pytest.mark.parametrize(
    ("text", "changed"),
    [
        ("97", {"level_pct": 97.0}),
        ("9 %", {"level_pct": 9.0}),
        ("128/255", {"level_pct": 50.2}),
        ("5550 K", {"cct_k": 5550.0}),
        ("tint 12", {"tint": "12"}),
        ("spot; 50", {"zoom": "spot", "level_pct": 50.0}),
        ("hue 36; sat 80", {"hue_deg": 36.0, "saturation_pct": 80.0, "mode": "HSI", "cct_k": None}),
    ],
)
def test_whatever_a_lamp_shows(text, changed):
    shown = step_terms(text, ASKED)
    for field, value in changed.items():
        assert getattr(shown, field) == value
    assert terms_changed(ASKED, shown)


def test_what_a_lamp_cannot_show():
    for text in ("blue mood", "250 %"):
        with pytest.raises(TermsError):
            step_terms(text, ASKED)
