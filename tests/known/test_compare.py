from dataclasses import replace
from datetime import UTC, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.bench import fields, terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter, Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.figures.comparison import stop_ladder
from even_beam.known import compare
from even_beam.known.choice import Entrant
from even_beam.known.comparison import Evenness
from even_beam.known.dimmer_series import against_dimmer
from even_beam.known.split import Split, parted
from even_beam.known.summary import gaps, headline_rows, rows_of

ONE, TWO = Meter("m1", "Spectrometer 1"), Meter("m2", "Spectrometer 2")
METERS = {"m1": ONE, "m2": TWO}
FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0)
_count = 0


def lamp(
    name: str,
    *readings: tuple[Terms, float | None],
    meter: str = "m1",
    kind: str = "panel",
    session: str = "s",
    **figures: float,
) -> Entrant:
    global _count
    found = []
    for at, lux in readings:
        _count += 1
        lit = () if lux is None else (Value("illuminance", lux, Origin.TYPED),)
        values = (*lit, *(Value(k, v, Origin.TYPED) for k, v in figures.items()))
        record = Reading(
            f"r{_count}", session, datetime(2026, 1, 1, tzinfo=UTC), _count, at, (name,), meter_id=meter, values=values
        )
        found.append(Measured(ReadingState(record, at)))
    return Entrant(name, name, kind, tuple(found))


def both(*entrants: Entrant) -> Entrant:
    """One lamp with the readings of several."""
    return replace(entrants[0], readings=tuple(m for e in entrants for m in e.readings))


def compared(*entrants: Entrant, **asked: object):
    return compare.compare(list(entrants), asked, entrants[0].key, METERS)


def texts(comparison, evenness):
    return [note.text for note in comparison.notes if note.evenness is evenness]


def test_equal_terms_are_said_to_be_the_same():
    result = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 1600.0)))
    assert texts(result, Evenness.DIFFERS) == []
    (same,) = texts(result, Evenness.SAME)
    for part in ("5600 K dialled", "100 %", "bare", "on axis", "Spectrometer 1", "3 m"):
        assert part in same
    assert result.entries[1].ratio == pytest.approx(1.6)
    assert result.entries[1].ratio_stops == pytest.approx(0.678, abs=1e-3)
    assert result.sentences == (
        "Sorrel (bare) is 0.7 stop brighter than Tansy (bare) at 3 m, 5600 K dialled, 100 %: 1.6 times as bright.",
    )
    assert "double" not in result.sentences[0]


def test_another_distance_is_brought_outward_and_said_so():
    """Check value 57: 12 ft against 14 ft is 0.44 stop. What was read nearer is brought farther, never the other
    way."""
    near, far = replace(FULL, distance_m=12 * 0.3048), replace(FULL, distance_m=14 * 0.3048)
    result = compared(lamp("Tansy", (near, 1000.0)), lamp("Sorrel", (far, 1000.0)))
    assert result.distance_m == pytest.approx(14 * 0.3048)
    assert result.entries[0].illuminance == pytest.approx(1000.0 * (12 / 14) ** 2)
    assert result.entries[1].ratio_stops == pytest.approx(0.44, abs=0.01)
    (note,) = texts(result, Evenness.BROUGHT)
    assert "Tansy brought from 12 ft" in note
    assert "to 14 ft" in note
    assert "no walk read" in note
    assert "Tansy brought from 12 ft by the inverse-square law" in result.sentences[0]
    assert "distance law" in result.entries[1].ratio_estimate.shares


def test_nothing_is_brought_inward():
    far = replace(FULL, distance_m=4.0)
    result = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (far, 500.0)), distance=3.0)
    assert result.entries[1].illuminance is None
    assert not result.entries[1].comparable
    assert "nothing is brought inward" in result.entries[1].why_not
    assert result.sentences == ()


def walk_of(stray_stops: float):
    return [(replace(FULL, distance_m=d), 9000.0 / d**2 * 2.0 ** (stray_stops * (d == 4.0))) for d in (2.0, 4.0, 6.0)]


def test_a_walk_bears_the_law_out_or_each_distance_stands_by_itself():
    good = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", *walk_of(0.0)))
    assert good.distance_m == 3.0
    assert "follows the law within 0.01 stop" in texts(good, Evenness.BROUGHT)[0]
    assert good.entries[1].illuminance == pytest.approx(1000.0, rel=1e-6)
    bad = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", *walk_of(0.6)), distance=3.0)
    assert not bad.entries[1].comparable
    assert "strays" in bad.entries[1].why_not
    there = compared(lamp("Tansy", (replace(FULL, distance_m=2.0), 1000.0)), lamp("Sorrel", *walk_of(0.6)))
    assert there.distance_m == 2.0
    assert there.entries[1].comparable


def test_flood_is_compared_with_flood():
    """One lamp read in flood and spot against one in flood: a tie, not three stops."""
    flood, spot = replace(FULL, zoom="flood"), replace(FULL, zoom="spot")
    one = lamp("Tansy", (flood, 640.0), (spot, 5120.0), (flood, 642.0))
    result = compared(one, lamp("Sorrel", (flood, 640.0)))
    assert result.entries[0].illuminance == pytest.approx(641.0)
    assert result.entries[1].tie
    assert "flood" in result.sentences[0]
    assert [len(group) for group in result.entries[0].also] == [1]
    twice = [replace(one, own={"zoom": zoom}, part=zoom, name=f"Tansy, {zoom}") for zoom in ("flood", "spot")]
    against_itself = compared(*twice)
    assert against_itself.entries[1].ratio_stops == pytest.approx(2.996, abs=0.01)
    assert "spot" in against_itself.sentences[0]
    assert "flood" in against_itself.sentences[0]


AXES = {
    "mode": {"mode": "HSI", "hue_deg": 120.0, "cct_k": None},
    "cct": {"cct_k": 3200.0},
    "tint": {"tint": "+2"},
    "level": {"level_pct": 50.0},
    "zoom": {"zoom": "spot"},
    "configuration": {"configuration": ("reflector",)},
    "distance": {"distance_m": 5.0},
    "angle": {"angle_deg": 15.0},
    "plane": {"reference_plane": "front of the lens"},
}


@pytest.mark.parametrize("axis", AXES)
def test_a_reading_at_other_terms_changes_no_figure(axis):
    """Adding a reading at other terms never changes a figure; asking for its terms returns it alone."""
    before = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 1600.0)))
    tansy = both(lamp("Tansy", (FULL, 1000.0)), lamp("Tansy", (replace(FULL, **AXES[axis]), 77.0)))
    after = compared(tansy, lamp("Sorrel", (FULL, 1600.0)))
    assert [e.illuminance for e in after.entries] == [e.illuminance for e in before.entries]
    assert after.sentences == before.sentences
    asked = {name: terms.value(tansy.readings[1], name) for name in fields.NAMES}
    there = compared(tansy, **asked)
    assert there.entries[0].readings == tansy.readings[1:]


@pytest.mark.parametrize(("meter", "session"), [("m2", "s"), ("m1", "later")])
def test_meters_and_sessions_are_not_pooled(meter, session):
    tansy = both(
        lamp("Tansy", (FULL, 1000.0), (FULL, 1002.0)), lamp("Tansy", (FULL, 77.0), meter=meter, session=session)
    )
    result = compared(tansy, lamp("Sorrel", (FULL, 1600.0)))
    assert result.entries[0].illuminance == pytest.approx(1001.0)
    assert len(result.entries[0].also) == 1


def test_a_source_without_level_or_white_compares_by_what_it_has():
    """The sun as the reference: nothing is "not comparable" for a term that it cannot state."""
    found = Terms(mode="fixed", placement="unknown")
    sun = lamp("Sun", (found, 90_000.0), kind="sun", cct=5500.0)
    result = compared(sun, lamp("Tansy", (FULL, 1000.0), cct=5600.0), lamp("Sorrel", (FULL, 2000.0), cct=5600.0))
    assert all(e.readings for e in result.entries)
    assert result.entries[1].ratio_stops == pytest.approx(-6.49, abs=0.01)
    assert "Tansy (bare" in result.sentences[0]
    assert "than Sun" in result.sentences[0]


def test_what_was_not_stated_is_said_by_name_and_enters():
    silent = replace(FULL, level_pct=None)
    result = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (silent, 2000.0)), level=100.0, cct=5600.0)
    assert result.entries[1].comparable
    assert result.entries[1].unstated == ("level",)
    assert "level of Sorrel not stated" in texts(result, Evenness.UNKNOWN)


def test_bounds_and_ranges_keep_their_text():
    """`99+` is at least 99, and 240 to 260 an interval: they neither vanish nor become a number."""
    entrant = lamp("Tansy", (FULL, None))
    values = (
        Value("illuminance", None, Origin.TYPED, 240.0, 260.0, "240 to 260"),
        Value("ra", None, Origin.TYPED, 99.0, None, "99+"),
    )
    record = replace(entrant.readings[0].reading, values=values)
    typed = replace(entrant, readings=(Measured(ReadingState(record, FULL)),))
    result = compared(lamp("Sorrel", (FULL, 125.0)), typed)
    assert result.entries[1].texts["ra"] == "99+"
    assert result.entries[1].illuminance is None
    assert result.entries[1].ratio_estimate.low == pytest.approx(0.941, abs=0.01)  # 240 over 125
    assert result.entries[1].ratio_estimate.high == pytest.approx(1.057, abs=0.01)


def test_f_stops_of_one_session_make_ratios():
    """Check value 40: f/22 and 9 tenths against f/16 and 8 tenths is 1.1 stops."""
    one = lamp("Tansy", (FULL, None), f_stop=21.112)
    two = lamp("Sorrel", (FULL, None), f_stop=30.910)
    result = compared(one, two)
    assert result.entries[1].ratio_stops == pytest.approx(1.1, abs=0.005)
    other = compared(one, lamp("Sorrel", (FULL, None), f_stop=30.910, session="later"))
    assert other.entries[1].ratio is None


def test_f_stops_whose_exposure_nobody_stated_are_no_lux():
    """2 log2 N is a level for ratios alone: f/21.1 is not 446 lx."""
    one, two = lamp("Tansy", (FULL, None), f_stop=21.112), lamp("Sorrel", (FULL, None), f_stop=30.910)
    result = compared(one, two)
    assert all(entry.in_f_stops and entry.illuminance is None for entry in result.entries)
    ladder = stop_ladder(result)
    assert ladder.summary == "Sorrel +1.10 stops, Tansy 0.00 stop"
    assert ladder.title.startswith("stops from Tansy") and ladder.y.label == "stops"
    mixed = compared(lamp("Yarrow", (FULL, 800.0)), two)
    assert stop_ladder(mixed).summary == "Yarrow 800 lx" and not mixed.entries[1].comparable


def test_suspect_readings_are_out_where_others_stand_and_marked_where_none_do():
    entrant = lamp("Tansy", (FULL, 1000.0), (FULL, 500.0))
    suspect = replace(
        entrant, readings=(entrant.readings[0], Measured(replace(entrant.readings[1].state, suspect=True)))
    )
    sorrel = lamp("Sorrel", (FULL, 1000.0))
    assert compared(sorrel, suspect).entries[1].illuminance == pytest.approx(1000.0)
    alone = compared(sorrel, replace(suspect, readings=suspect.readings[1:]))
    assert alone.entries[1].doubtful == "1 suspect reading"
    assert "Tansy rests on 1 suspect reading" in alone.sentences[0]


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
    result = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (other, 4000.0), meter="m2"))
    differs = " ".join(texts(result, Evenness.DIFFERS))
    assert "on the lamp: Tansy bare; Sorrel reflector" in differs
    assert "meter: Tansy Spectrometer 1; Sorrel Spectrometer 2" in differs


def test_a_tie_is_called_a_tie_and_two_meters_tie_sooner():
    same = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 1060.0)))
    assert not same.entries[1].tie
    two = compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 1060.0), meter="m2"))
    assert two.entries[1].tie
    assert "differ by less than" in two.sentences[0]
    assert compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 1010.0))).entries[1].tie


def test_a_lamp_not_read_at_the_terms_is_named():
    result = compared(
        lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (replace(FULL, cct_k=3200.0), 1000.0)), cct=5600.0, level=100.0
    )
    assert "nothing read at these terms: Sorrel" in texts(result, Evenness.UNKNOWN)
    assert result.entries[1].illuminance is None


def test_the_true_minimum_against_the_dial():
    """Check value 50: 1 % that gives 10 % is 3.32 stops down, not 6.64."""
    floor = lamp("Comfrey", (FULL, 1000.0), (replace(FULL, level_pct=1.0), 100.0))
    (series,) = against_dimmer([floor], compared(floor), "stops")
    assert series.values[0] == pytest.approx(-3.32, abs=0.01)
    assert series.levels_pct == (1.0, 100.0)


def test_mired_series_keeps_its_sign():
    entrant = lamp("Tansy", (FULL, 1000.0), cct=4265.0)
    (series,) = against_dimmer([entrant], compared(entrant), "mired")
    assert series.values[0] == pytest.approx(55.9, abs=0.05)


def test_summary_rows_spread_and_gaps():
    entrant = lamp("Tansy", *[(FULL, v) for v in (640.0, 640.0, 600.0, 740.0, 440.0, 800.0, 800.0)], cct=5590.0)
    (row,) = rows_of(entrant, METERS)
    assert row.count == 7
    assert row.spread_pct == pytest.approx(56.25, abs=0.1)  # check value 13: 0.86 stop from lowest to highest
    assert [one.terms for one in headline_rows(entrant, METERS)] == [row.terms]
    missing = " ".join(gaps([entrant, lamp("Sorrel", (replace(FULL, cct_k=3200.0), 1.0))], {}))
    for part in (
        "Tansy at 3200 K",
        "other distances",
        "flicker",
        "power",
        "noise",
        "beam angle",
        "spectrum of Tansy",
    ):
        assert part in missing


@pytest.mark.parametrize("limits", [{"absolute": False}, {"zeroed_on": "Sorrel"}])
def test_a_meter_for_ratios_only_is_never_used_for_absolutes(limits):
    """Two lamps with one such meter make a ratio; against another meter they make none, and no level is published."""
    meters = {**METERS, "m1": replace(ONE, **limits)}
    tansy, sorrel = lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 2000.0))
    found = compare.compare([tansy, sorrel], {}, "Tansy", meters)
    assert found.entries[1].ratio == pytest.approx(2.0)
    assert any("for ratios only" in text for text in texts(found, Evenness.UNKNOWN))
    assert stop_ladder(found).summary == "Sorrel +1.00 stop, Tansy 0.00 stop"
    assert "illuminance" not in rows_of(tansy, meters)[0].figures
    with_another = lamp("Sorrel", (FULL, 2000.0), meter="m2")
    assert compare.compare([tansy, with_another], {}, "Tansy", meters).entries[1].ratio is None


# --- parts, and what a comparison needs


def test_parts_keep_every_reading_once():
    fitted = replace(FULL, configuration=("reflector",))
    whole = lamp("Tansy", (FULL, 1000.0), (fitted, 4000.0), (FULL, 1010.0))
    bare, with_it = parted(whole, Split.CONFIGURATIONS, {})
    assert (bare.name, with_it.name) == ("Tansy, bare", "Tansy, reflector")
    assert [len(part.readings) for part in (bare, with_it)] == [2, 1]
    assert len({whole.key, bare.key, with_it.key}) == 3
    assert parted(whole, Split.LAMPS, {}) == [whole]
    (session,) = parted(whole, Split.SESSIONS, {"s": "1 Jan 2026"})
    assert session.name == "Tansy, 1 Jan 2026" and session.readings == whole.readings


def test_a_lamp_against_itself_with_something_on_it():
    fitted = replace(FULL, configuration=("reflector",))
    parts = parted(lamp("Tansy", (FULL, 1000.0), (fitted, 4000.0)), Split.CONFIGURATIONS, {})
    result = compare.compare(parts, {}, parts[0].key, METERS)
    assert result.entries[1].ratio_stops == pytest.approx(2.0)
    assert result.sentences == (
        "Tansy, reflector is 2 stops brighter than Tansy, bare at 3 m, 5600 K dialled, 100 %: 4 times as bright.",
    )
    (differs,) = texts(result, Evenness.DIFFERS)
    assert differs == "on the lamp: Tansy, bare; Tansy, reflector"


def test_needed_are_the_terms_and_what_differs_in_one_axis():
    half, other = replace(FULL, level_pct=50.0), replace(FULL, cct_k=3200.0)
    walk = [replace(FULL, distance_m=d) for d in (2.0, 4.0)]
    elsewhere = replace(FULL, cct_k=3200.0, level_pct=50.0)
    one = lamp(
        "Tansy",
        (FULL, 1000.0),
        (FULL, 1000.0),
        (half, 500.0),
        (other, 900.0),
        (elsewhere, 1.0),
        *((t, 100.0) for t in walk),
    )
    (chosen,) = compare.choose([one], {})
    assert {m.terms for m in chosen.readings} == {FULL}
    assert {m.terms for m in compare.needed(chosen)} == {FULL, half, other, *walk}


@given(st.lists(st.floats(1.0, 1e5), min_size=2, max_size=6), st.floats(3.0, 20.0))
def test_ratios_do_not_depend_on_the_reference_or_the_distance(levels, distance):
    """Antisymmetry and scale: A over B is the inverse of B over A, wherever both are brought by the same law."""
    lamps = [lamp(f"Lamp {i}", (FULL, level)) for i, level in enumerate(levels)]
    first = compare.compare(lamps, {}, lamps[0].key, METERS)
    last = compare.compare(lamps, {"distance": distance}, lamps[-1].key, METERS)
    span = first.entries[-1].ratio_stops
    for a, b in zip(first.entries, last.entries, strict=True):
        assert a.ratio_stops - b.ratio_stops == pytest.approx(span, abs=1e-9)
        assert a.tie == (abs(a.ratio_stops) <= a.ratio_tolerance_stops)


def test_one_evening_that_all_share_comes_before_a_field_that_each_has_its_own_of():
    """A tungsten lamp behind a gel beside a panel in a reflector, tonight; bare with another meter years ago; both
    found at a window."""
    fixed = Terms(mode="fixed", level_pct=100.0, distance_m=3.0)
    window = Terms(mode="fixed", placement="equal")
    tansy = both(
        lamp("Tansy", (replace(FULL, configuration=("reflector",)), 4000.0), session="tonight"),
        lamp("Tansy", (window, 300.0), session="window"),
    )
    yarrow = both(
        lamp("Yarrow", (fixed, 1500.0), session="years ago", meter="m2"),
        lamp("Yarrow", (replace(fixed, configuration=("full blue gel",)), 500.0), session="tonight"),
    )
    ours, theirs = compared(tansy, yarrow).entries
    assert ours.first.terms.cct_k == 5600.0
    assert {m.reading.session_id for entry in (ours, theirs) for m in entry.readings} == {"tonight"}
    assert theirs.ratio_stops == pytest.approx(-3.0)


def test_a_distance_is_said_of_the_lamp_that_has_one():
    """The sun stands at no distance; and a zoom that one lamp states and another does not is not known, not
    different."""
    sun = lamp("Sun", (Terms(mode="fixed", placement="unknown"), 90_000.0), kind="sun")
    result = compared(lamp("Tansy", (replace(FULL, zoom="spot"), 9000.0)), lamp("Sorrel", (FULL, 4500.0)), sun)
    assert (
        result.sentences[1]
        == "Sun (as it was read) is 3.3 stops brighter than Tansy (bare, at 5600 K, spot, at 100 %, at"
        " 3 m): 10 times as bright."
    )
    assert texts(result, Evenness.UNKNOWN) == ["zoom: Tansy spot; not stated of Sorrel"]
    assert not any("Sun bare" in text for text in texts(result, Evenness.DIFFERS))


def test_a_distance_asked_of_one_lamp_is_not_brought_to_where_the_other_stands():
    near, far = replace(FULL, distance_m=1.0), FULL
    walk = lamp("Tansy", (near, 9000.0), (replace(FULL, distance_m=2.0), 2250.0), (far, 1000.0))
    one = replace(walk, name="Tansy, near", part="near", own={"distance": 1.0})
    other = replace(walk, name="Tansy, far", part="far", own={"distance": 3.0})
    result = compared(one, other)
    assert result.entries[1].ratio == pytest.approx(1.0 / 9.0)
    assert texts(result, Evenness.DIFFERS) == ["distance: Tansy, near 1 m; Tansy, far 3 m"]
    assert result.sentences == (
        (
            "Tansy, far (bare, at 3 m) is 3.2 stops darker than Tansy, near (bare, at 1 m), 5600 K"
            " dialled, 100 %: 0.11 times as bright."
        ),
    )
