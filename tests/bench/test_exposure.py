"""f-numbers with their sensitivity and exposure time stated: levels like any other."""

from dataclasses import replace
from datetime import UTC, datetime

import pytest

from even_beam.bench import estimate
from even_beam.bench.exposure import Exposure, ExposureError, shutter_of
from even_beam.bench.measured import Measured
from even_beam.bench.records import Event, EventKind, Terms
from even_beam.bench.run import fold
from even_beam.known import compare
from even_beam.known.choice import Entrant
from even_beam.known.findings import electrical
from even_beam.light.photometry import exact_f_number
from tests.known.findings.story import METER, evidence, read

AT = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
NOW = datetime(2026, 3, 1, 21, tzinfo=UTC)


def stated(sequence: int, exposure: Exposure, reading_id: str | None = None) -> Event:
    return Event(
        f"e{sequence}", "s", sequence, NOW, EventKind.EXPOSURE_STATED, reading_id=reading_id, new=exposure.text
    )


def folded(readings, *events: Event) -> list[Measured]:
    return [Measured(state) for state in fold((), [m.reading for m in readings], events).readings]


def test_the_level_is_that_of_the_exposure_equation():
    """ISO 2720:1974, E = C N^2 / (S t): f/5.6 (N^2 = 32) at ISO 800, 1/50 s, C 250 is 500 lx, C 340 680."""
    one = read(1, AT, f_stop=float(exact_f_number(5.6, 0.0)))
    assert one.value("illuminance") is None
    (flat,) = folded([one], stated(2, Exposure(800.0, 0.02)))
    assert flat.value("illuminance") == pytest.approx(500.0)
    (dome,) = folded([one], stated(2, Exposure(800.0, 0.02, 340.0)))
    assert dome.figure("illuminance").value == pytest.approx(680.0)
    assert electrical.exposures(evidence(flat)) == ()
    assert len(electrical.exposures(evidence(one))) == 1


def test_a_later_statement_holds_from_there_on_and_the_first_for_what_was_read_before():
    readings = [read(i, AT, f_stop=4.0) for i in (1, 3, 5)]
    found = folded(readings, stated(2, Exposure(100.0, 0.01)), stated(4, Exposure(400.0, 0.01)))
    assert [round(m.value("illuminance")) for m in found] == [4000, 4000, 1000]
    own = folded(readings, stated(2, Exposure(100.0, 0.01)), stated(6, Exposure(200.0, 0.01), "r5"))
    assert [round(m.value("illuminance")) for m in own] == [4000, 4000, 2000]


def test_a_lamp_in_f_stops_is_compared_with_one_in_lux():
    (ours,) = folded([read(1, AT, f_stop=float(exact_f_number(8.0, 0.0)))], stated(2, Exposure(800.0, 0.02)))
    theirs = read(1, AT, illuminance=500.0)
    lamps = [Entrant("a", "Tansy", "panel", (theirs,)), Entrant("b", "Sorrel", "panel", (ours,))]
    found = compare.compare(lamps, {}, "a", {"m": METER})
    assert found.entries[1].ratio_stops == pytest.approx(1.0)  # f/5.6 is 500 lx, f/8 twice that


def test_it_is_good_to_a_tenth_of_a_stop():
    (ours,) = folded([read(1, AT, f_stop=8.0)], stated(2, Exposure(800.0, 0.02)))
    parts = {p.name: p.size for p in estimate.level([ours], METER).parts}
    assert parts["rounding of what was typed"] == pytest.approx(0.95 * 0.05)


@pytest.mark.parametrize(
    ("text", "seconds"),
    [("1/50", 0.02), ("1/8000 s", 1 / 8000), ("0.5 s", 0.5), ("180° at 24 fps", 1 / 48), ("172.8° 24", 0.02)],
)
def test_exposure_times_as_they_are_said(text, seconds):
    assert shutter_of(text) == pytest.approx(seconds)


@pytest.mark.parametrize("text", ["", "fast", "1/0", "nan", "1/", "0", "9999999"])
def test_what_is_none_is_refused(text):
    with pytest.raises(ExposureError):
        shutter_of(text)


def test_an_exposure_that_cannot_be():
    for wrong in (replace, float("nan")):
        with pytest.raises((ExposureError, TypeError)):
            Exposure(800.0, wrong)
    assert Exposure.of_text("nonsense") is None
    assert Exposure.of_text(Exposure(800.0, 0.02, 340.0).text) == Exposure(800.0, 0.02, 340.0)
