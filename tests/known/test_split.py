"""One lamp side by side with itself: whites, levels, zooms, modes; the control; what the dimmer moves."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.bench.records import OFF
from even_beam.known import compare
from even_beam.known.comparison import Evenness
from even_beam.known.dimmer_series import changes_with_dimmer
from even_beam.known.split import FIELD_OF, Split, parted, split_named
from tests.known.test_compare import FULL, METERS, both, lamp, texts

WARM = replace(FULL, cct_k=3200.0)


def side_by_side(whole, by):
    parts = parted(whole, by, {"m1": "Spectrometer 1", "m2": "Spectrometer 2"})
    return parts, compare.compare(parts, {}, parts[0].key, METERS)


def test_levels_stand_from_the_brightest_down():
    whole = lamp(
        "Tansy", (replace(FULL, level_pct=25.0), 240.0), (FULL, 1000.0), (replace(FULL, level_pct=50.0), 500.0)
    )
    parts, result = side_by_side(whole, Split.LEVELS)
    assert [one.name for one in parts] == ["Tansy, 100 %", "Tansy, 50 %", "Tansy, 25 %"]
    assert [e.ratio_stops for e in result.entries] == pytest.approx([0.0, -1.0, -2.0589], abs=1e-3)
    assert texts(result, Evenness.DIFFERS) == ["level: Tansy, 100 %; Tansy, 50 %; Tansy, 25 %"]
    assert result.sentences[0].startswith("Tansy, 50 % (bare) is 1 stop darker than Tansy, 100 % (bare) at 3 m")


def test_whites_stand_from_the_warmest_and_are_said_once():
    parts, result = side_by_side(lamp("Tansy", (FULL, 1000.0), (WARM, 800.0)), Split.WHITES)
    assert [one.name for one in parts] == ["Tansy, 3200 K", "Tansy, 5600 K"]
    assert texts(result, Evenness.DIFFERS) == ["white: Tansy, 3200 K; Tansy, 5600 K"]
    assert result.sentences[0].count("5600 K") == result.sentences[0].count("3200 K") == 1


def test_modes_zooms_and_meters_have_their_own_words():
    boost, spot = replace(FULL, mode="Boost"), replace(FULL, zoom="spot")
    whole = both(
        lamp("Tansy", (FULL, 1000.0), (boost, 1400.0), (spot, 3000.0)), lamp("Tansy", (FULL, 990.0), meter="m2")
    )
    assert [one.name for one in parted(whole, Split.MODES, {})] == ["Tansy, CCT", "Tansy, Boost"]
    assert [one.name for one in parted(whole, Split.ZOOMS, {})] == ["Tansy, zoom not stated", "Tansy, spot"]
    meters, _ = side_by_side(whole, Split.METERS)
    assert [one.name for one in meters] == ["Tansy, Spectrometer 1", "Tansy, Spectrometer 2"]
    (unknown,) = texts(side_by_side(whole, Split.ZOOMS)[1], Evenness.UNKNOWN)
    assert unknown == "zoom: Tansy, spot; not stated of Tansy, zoom not stated"


def test_the_room_is_no_part_and_no_reading_is_lost():
    whole = lamp("Tansy", (FULL, 1000.0), (replace(FULL, mode=OFF, cct_k=None), 3.0), (WARM, 800.0))
    for by in FIELD_OF:
        parts = parted(whole, by, {})
        assert sum(len(one.readings) for one in parts) == 2, by
        assert len({one.key for one in parts}) == len(parts)
    assert {
        split_named(name) for name in ("lamp", "white", "level", "zoom", "tint", "mode", "modifier", "session", "meter")
    } == set(Split)


@given(st.floats(2000.0, 10000.0), st.floats(-30.0, 30.0))
def test_the_control_is_what_others_are_beyond_it(kelvin, further):
    """A difference of mired is that of 1e6 / T; what one meter gets wrong in both it gets wrong in neither."""
    other = 1e6 / (1e6 / kelvin + further)
    first, second = (
        lamp(n, (FULL, 1000.0), cct=k, duv=0.001, ra=95.0) for n, k in (("Tansy", kelvin), ("Sorrel", other))
    )
    base, entry = compare.compare([first, second], {}, "Tansy", METERS).entries
    assert not base.beyond
    assert entry.beyond["cct"].value == pytest.approx(further, abs=1e-6)
    assert entry.beyond["duv"].value == entry.beyond["ra"].value == 0.0
    apart = lamp("Sorrel", (FULL, 1000.0), meter="m2", cct=other, duv=0.001, ra=95.0)
    with_another = compare.compare([first, apart], {}, "Tansy", METERS).entries[1]
    assert with_another.beyond["cct"].half_width > entry.beyond["cct"].half_width


def test_what_the_dimmer_moves_lies_beyond_full_level():
    levels = [
        lamp("Tansy", (replace(FULL, level_pct=pct), 10.0 * pct), cct=1e6 / mired, duv=duv, ra=ra)
        for pct, mired, duv, ra in (
            (100.0, 180.0, 0.001, 96.0),
            (10.0, 186.0, 0.003, 93.0),
            (100.0, 182.0, 0.001, 98.0),
        )
    ]
    moved = {one.name: one for one in changes_with_dimmer(both(*levels), levels[0].readings[0])}
    assert moved["white, mired"].levels_pct == (10.0, 100.0, 100.0)
    assert moved["white, mired"].values == pytest.approx((5.0, -1.0, 1.0))
    assert moved["tint, 0.001 Duv"].values == pytest.approx((2.0, 0.0, 0.0))
    assert moved["Ra, points"].values == pytest.approx((-4.0, -1.0, 1.0))
    assert "R9, points" not in moved
    assert changes_with_dimmer(levels[0], levels[0].readings[0]) == ()
