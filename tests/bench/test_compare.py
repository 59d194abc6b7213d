from dataclasses import replace
from datetime import UTC, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.bench import compare
from even_beam.bench.compare import At, Entrant, Evenness, Split
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter, Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.bench.summary import gaps, headline_rows, rows_of
from even_beam.figures.comparison import stop_ladder

ONE, TWO = Meter("m1", "Spectrometer 1"), Meter("m2", "Spectrometer 2")
METERS = {"m1": ONE, "m2": TWO}
FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0)
_count = 0


def lamp(name: str, *readings: tuple[Terms, float], meter: str = "m1", **figures: float) -> Entrant:
    global _count
    found = []
    for terms, lux in readings:
        _count += 1
        values = (Value("illuminance", lux, Origin.TYPED), *(Value(k, v, Origin.TYPED) for k, v in figures.items()))
        record = Reading(f"r{_count}", "s", datetime(2026, 1, 1, tzinfo=UTC), _count, terms, (name,), meter_id=meter, values=values)  # fmt: skip
        found.append(Measured(ReadingState(record, terms)))
    return Entrant(name, name, "panel", tuple(found))


def compared(*entrants: Entrant, at: At | None = None):
    return compare.compare(list(entrants), at or compare.default_terms(list(entrants)), entrants[0].source_id, METERS)


def texts(comparison, evenness):
    return [note.text for note in comparison.notes if note.evenness is evenness]


def test_equal_terms_are_said_to_be_the_same():
    result = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 1600.0)))
    assert texts(result, Evenness.DIFFERS) == []
    (same,) = texts(result, Evenness.SAME)
    for part in ("5600 K dialled", "100 %", "bare", "on axis", "Spectrometer 1", "3.00 m"):
        assert part in same
    assert result.entries[1].ratio == pytest.approx(1.6)
    assert result.entries[1].ratio_stops == pytest.approx(0.678, abs=1e-3)
    assert result.sentences == ("Sorrel (bare) is 0.68 stop (1.60×) brighter than Tansy (bare) at 3.00 m, 5600 K dialled, 100 %.",)  # fmt: skip
    assert "double" not in result.sentences[0]


def test_another_distance_is_brought_over_and_said_so():
    """Check value 57: 12 ft against 14 ft is 0.44 stop."""
    near, far = replace(FULL, distance_m=12 * 0.3048), replace(FULL, distance_m=14 * 0.3048)
    result = compared(lamp("Tansy", (near, 1000.0)), lamp("Sorrel", (far, 1000.0)))
    assert result.entries[1].illuminance == pytest.approx(1000.0 * (14 / 12) ** 2)
    assert result.entries[1].ratio_stops == pytest.approx(0.44, abs=0.01)
    (note,) = texts(result, Evenness.BROUGHT)
    assert "from 14 ft to 12 ft" in note
    assert "no walk read" in note


def test_a_walk_bears_the_law_out_or_not():
    def walk(bend: float):
        return [(replace(FULL, distance_m=d), 9000.0 / (d * d + bend)) for d in (2.0, 4.0, 6.0)]

    good = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", *walk(0.0)))
    assert "the law holds within 0.00 stop" in texts(good, Evenness.BROUGHT)[0]
    bad = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", *walk(2.0)))
    assert "strays" in texts(bad, Evenness.BROUGHT)[0]


def test_unknown_distance_is_refused_and_equal_ones_give_ratios():
    unknown = replace(FULL, distance_m=None, placement="unknown")
    result = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (unknown, 2000.0)))
    assert result.entries[1].ratio is None
    assert result.sentences == ()
    equal = replace(FULL, distance_m=None, placement="equal")
    result = compared(lamp("Tansy", (equal, 1000.0)), lamp("Sorrel", (equal, 2000.0)))
    assert result.entries[1].ratio == pytest.approx(2.0)
    assert "ratios only" in texts(result, Evenness.SAME)[0]


def test_what_differs_is_named():
    other = replace(FULL, configuration=("reflector",))
    at = At(5600.0, 100.0, {"Tansy": (), "Sorrel": ("reflector",)})
    result = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (other, 4000.0), meter="m2"), at=at)
    differs = " ".join(texts(result, Evenness.DIFFERS))
    assert "configuration: Tansy bare, Sorrel reflector" in differs
    assert "meter: Tansy Spectrometer 1, Sorrel Spectrometer 2" in differs


def test_a_tie_is_called_a_tie_and_two_meters_tie_sooner():
    same = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 1060.0)))
    assert not same.entries[1].tie
    two = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 1060.0), meter="m2"))
    assert two.entries[1].tie
    assert "differ by less than" in two.sentences[0]
    assert compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 1010.0))).entries[1].tie


def test_a_lamp_not_read_at_the_terms_is_named():
    result = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (replace(FULL, cct_k=3200.0), 1000.0)), at=At(5600.0, 100.0, {}))  # fmt: skip
    assert "Sorrel: nothing read at these terms" in texts(result, Evenness.UNKNOWN)
    assert result.entries[1].illuminance is None


def test_the_true_minimum_against_the_dial():
    """Check value 50: 1 % that gives 10 % is 3.32 stops down, not 6.64."""
    floor = lamp("Comfrey", (FULL, 1000.0), (replace(FULL, level_pct=1.0), 100.0))
    (series,) = compare.against_dimmer([floor], compare.default_terms([floor]), "stops")
    assert series.values[0] == pytest.approx(-3.32, abs=0.01)
    assert series.levels_pct == (1.0, 100.0)


def test_mired_series_keeps_its_sign():
    entrant = lamp("Tansy", (FULL, 1000.0), cct=4265.0)
    (series,) = compare.against_dimmer([entrant], compare.default_terms([entrant]), "mired")
    assert series.values[0] == pytest.approx(55.9, abs=0.05)


def test_summary_rows_spread_and_gaps():
    entrant = lamp("Tansy", *[(FULL, v) for v in (640.0, 640.0, 600.0, 740.0, 440.0, 800.0, 800.0)], cct=5590.0)
    (row,) = rows_of(entrant, METERS)
    assert row.count == 7
    assert row.spread_pct == pytest.approx(56.25, abs=0.1)  # check value 13: 0.86 stop from lowest to highest
    assert headline_rows([row]) == (row,)
    missing = " ".join(gaps([entrant, lamp("Sorrel", (replace(FULL, cct_k=3200.0), 1.0))], {}))
    for part in (
        "Tansy at 3200 K",
        "distance walk",
        "flicker",
        "power drawn",
        "noise",
        "off its axis",
        "spectrum of Tansy",
    ):
        assert part in missing


@pytest.mark.parametrize("limits", [{"absolute": False}, {"zeroed_on": "Sorrel"}])
def test_a_meter_for_ratios_only_is_never_used_for_absolutes(limits):
    """Two lamps with one such meter make a ratio; against another meter they make none, and no level is published."""
    meters = {**METERS, "m1": replace(ONE, **limits)}
    tansy, sorrel = lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 2000.0))
    terms = compare.default_terms([tansy, sorrel])
    found = compare.compare([tansy, sorrel], terms, "Tansy", meters)
    assert found.entries[1].ratio == pytest.approx(2.0)
    assert any("for ratios only" in text for text in texts(found, Evenness.UNKNOWN))
    assert stop_ladder(found).summary == "Tansy 0.00 stop, Sorrel +1.00 stop"
    assert "illuminance" not in rows_of(tansy, meters)[0].figures
    with_another = lamp("Sorrel", (FULL, 2000.0), meter="m2")
    assert compare.compare([tansy, with_another], terms, "Tansy", meters).entries[1].ratio is None


# --- parts, and what a comparison needs


def test_parts_keep_every_reading_once():
    fitted = replace(FULL, configuration=("reflector",))
    whole = lamp("Tansy", (FULL, 1000.0), (fitted, 4000.0), (FULL, 1010.0))
    bare, with_it = compare.parted(whole, Split.CONFIGURATIONS, {})
    assert (bare.name, with_it.name) == ("Tansy, bare", "Tansy, reflector")
    assert [len(part.readings) for part in (bare, with_it)] == [2, 1]
    assert len({whole.key, bare.key, with_it.key}) == 3
    assert compare.parted(whole, Split.LAMPS, {}) == [whole]
    (session,) = compare.parted(whole, Split.SESSIONS, {"s": "1 Jan 2026"})
    assert session.name == "Tansy, 1 Jan 2026" and session.readings == whole.readings


def test_a_lamp_against_itself_with_something_on_it():
    fitted = replace(FULL, configuration=("reflector",))
    parts = compare.parted(lamp("Tansy", (FULL, 1000.0), (fitted, 4000.0)), Split.CONFIGURATIONS, {})
    result = compare.compare(parts, compare.default_terms(parts), parts[0].key, METERS)
    assert result.entries[1].ratio_stops == pytest.approx(2.0)
    assert result.sentences == ("Tansy, reflector is 2.00 stops (4.00×) brighter than Tansy, bare at 3.00 m, 5600 K dialled, 100 %.",)  # fmt: skip
    (differs,) = texts(result, Evenness.DIFFERS)
    assert differs == "configuration: Tansy, bare, Tansy, reflector"


def test_needed_are_the_terms_at_any_level_and_the_walks():
    half, other = replace(FULL, level_pct=50.0), replace(FULL, cct_k=3200.0)
    walk = [replace(FULL, cct_k=4400.0, distance_m=d) for d in (2.0, 3.0, 4.0)]
    one = lamp("Tansy", (FULL, 1000.0), (half, 500.0), (other, 900.0), *((terms, 100.0) for terms in walk))
    at = At(5600.0, 100.0, {one.key: ()})
    found = {r.terms for r in compare.needed(one.readings, one.key, at)}
    assert found == {FULL, half, *walk}
    assert compare.needed((), one.key, at) == []


@given(st.lists(st.floats(1.0, 1e5), min_size=2, max_size=6), st.floats(0.5, 20.0))
def test_ratios_do_not_depend_on_the_reference_or_the_distance(levels, distance):
    """Antisymmetry and scale: A over B is the inverse of B over A, wherever both are brought by the same law."""
    lamps = [lamp(f"Lamp {i}", (FULL, level)) for i, level in enumerate(levels)]
    at = compare.default_terms(lamps)
    first = compare.compare(lamps, at, lamps[0].key, METERS)
    last = compare.compare(lamps, replace(at, distance_m=distance), lamps[-1].key, METERS)
    span = first.entries[-1].ratio_stops
    for a, b in zip(first.entries, last.entries, strict=True):
        assert a.ratio_stops - b.ratio_stops == pytest.approx(span, abs=1e-9)
        assert a.tie == (abs(a.ratio_stops) <= a.ratio_tolerance_stops)
