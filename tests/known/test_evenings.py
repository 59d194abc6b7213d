"""Evenings and meters that disagree: found when they do, seldom when they do not, and told by every comparison."""

from dataclasses import replace
from datetime import UTC, datetime

import numpy as np
import pytest

from even_beam.bench import estimate
from even_beam.bench.exposure import Exposure
from even_beam.bench.measured import Measured
from even_beam.known import compare, evenings
from even_beam.known.comparison import Evenness
from even_beam.known.evidence import Evidence
from even_beam.known.matching.enough import enough
from tests.known.test_compare import FULL, METERS, ONE, both, lamp, texts

PAST = datetime(2025, 11, 3, tzinfo=UTC)


def earlier(entrant):
    """The same readings, of an evening two months before."""
    readings = [Measured(replace(m.state, reading=replace(m.reading, at=PAST))) for m in entrant.readings]
    return replace(entrant, readings=tuple(readings))


def two_evenings(now, then, **figures):
    """A lamp's readings of now, and those of another evening beside."""
    here = lamp("Pike", *((FULL, lux) for lux in now), **figures)
    return here, earlier(lamp("Pike", *((FULL, lux) for lux in then), session="before", **figures))


def level_of(repeats):
    return estimate.level(repeats, ONE)


def test_the_farther_pair_is_told_in_the_order_of_days():
    here, before = two_evenings([1600.0], [1000.0, 1010.0])
    apart = evenings.levels_apart(both(here, before).readings, level_of)
    assert [m.value("illuminance") for m in apart.then] == [1000.0, 1010.0]
    assert apart.change.value == pytest.approx(np.log2(1600.0 / 1005.0), abs=0.001)
    assert evenings.levels_in_words(apart, level_of) == "1\u202f010 lx on 3 Nov 2025 and 1\u202f600 lx on 1 Jan 2026"
    assert evenings.levels_apart(here.readings, level_of) is None


@pytest.mark.parametrize("beside", [False, True])
def test_a_comparison_tells_of_the_other_evening(beside):
    """Whether that evening is compared as well, or only stands in the logbook."""
    here, before = two_evenings([1600.0], [1000.0])
    pike = replace(here, beside=before.readings) if beside else both(here, before)
    result = compare.compare([lamp("Sorrel", (FULL, 900.0)), pike], {}, "Sorrel", METERS)
    told = (
        "Pike rests on one of two evenings that disagree (1\u202f000 lx on 3 Nov 2025 and 1\u202f600 lx on 1 Jan 2026)"
    )
    assert told in " ".join(texts(result, Evenness.UNKNOWN))
    assert f"{told}." in result.sentences[0]


def test_whites_of_two_meters_are_told_as_well():
    one, other = lamp("Pike", (FULL, 900.0), cct=5600.0), lamp("Pike", (FULL, 900.0), meter="m2", cct=4600.0)
    result = compare.compare([lamp("Sorrel", (FULL, 900.0), cct=5500.0), both(one, other)], {}, "Sorrel", METERS)
    assert (
        "one of two whites that disagree (5\u202f600 K on 1 Jan 2026 and 4\u202f600 K on 1 Jan 2026)"
        in result.entries[1].doubtful
    )


def test_another_setting_contradicts_nothing():
    here, _ = two_evenings([1600.0], [])
    dimmed = lamp("Pike", (replace(FULL, level_pct=50.0), 700.0), session="before")
    result = compare.compare([lamp("Sorrel", (FULL, 900.0)), both(here, earlier(dimmed))], {}, "Sorrel", METERS)
    assert not result.entries[1].doubtful


def test_equal_evenings_are_seldom_called_apart():
    """A lamp set up anew each evening: 1 % placement, 0.5 % scatter, 2 % of the mains; false at most 5 in 100."""
    draw, wrong = np.random.default_rng(4), 0
    for _ in range(200):
        every = [1000.0 * draw.normal(1.0, 0.02) * draw.normal(1.0, 0.005, 2) for _ in range(2)]
        here, before = two_evenings(*([float(v) for v in own] for own in every))
        wrong += evenings.levels_apart(both(here, before).readings, level_of) is not None
    assert wrong <= 10


def test_enough_light_tells_of_the_other_evening():
    here, before = two_evenings([1600.0], [1000.0])
    known = Evidence("Pike", "Pike", "panel", both(here, before).readings, METERS)
    found = enough(known, here.readings, 4.0, Exposure(800.0, 1 / 50, 250.0))
    assert ", resting on one of two evenings that disagree (1\u202f000 lx on 3 Nov 2025" in found.sentence
    alone = enough(replace(known, readings=here.readings), here.readings, 4.0, Exposure(800.0, 1 / 50, 250.0))
    assert "resting on" not in alone.sentence
