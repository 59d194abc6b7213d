"""Levels along a walk: brought only where the walk bears it out. Truth from closed forms: points, and a disc."""

import re
from dataclasses import replace
from datetime import UTC, datetime

import numpy as np
import pytest

from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter, Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.bench.walks import NotBroughtError, Walk
from tests.known.findings.story import METER, read

FULL = Terms(cct_k=5600.0, level_pct=100.0)


def walk(marks, light) -> Walk:
    return Walk.of(
        [read(i, replace(FULL, distance_m=d), illuminance=light(d)) for i, d in enumerate(marks)], METER, 60.0
    )


def point(candela: float, behind_m: float = 0.0):
    return lambda d: candela / (d + behind_m) ** 2


def disc(radius_m: float, luminance: float):
    """Illuminance on the axis of an even disc: pi L R^2 / (R^2 + d^2) (closed form of the view factor)."""
    return lambda d: np.pi * luminance * radius_m**2 / (radius_m**2 + d**2)


@pytest.mark.parametrize("behind", [0.0, 0.2, 0.5, -0.1])
def test_a_mark_between_is_what_the_law_gives(behind):
    own = walk((1.0, 1.5, 3.0, 4.0), point(8000.0, behind))
    level, rests_on, how = own.at(2.0)
    assert 2.0**level.value == pytest.approx(point(8000.0, behind)(2.0), rel=1e-3)
    assert len(rests_on) == 4 and how is not None and how.words.startswith("brought along its own walk (the walk from ")


def test_what_was_read_there_stays_as_it_was_read():
    own = walk((1.0, 2.0, 3.0), point(8000.0))
    level, rests_on, how = own.at(2.0)
    assert 2.0**level.value == pytest.approx(2000.0) and len(rests_on) == 1 and how is None


@pytest.mark.parametrize("target", [0.5, 0.9])
def test_nothing_is_brought_inward(target):
    with pytest.raises(NotBroughtError, match="nothing is brought inward"):
        walk((1.0, 2.0, 3.0), point(8000.0)).at(target)


def test_outward_by_the_inverse_square_from_the_farthest():
    level, (mark,), how = walk((1.0, 2.0, 3.0), point(9000.0)).at(6.0)
    assert 2.0**level.value == pytest.approx(250.0, rel=1e-3)
    assert mark.terms.distance_m == 3.0 and "inverse-square" in how.words


def test_a_walk_that_strays_is_said_and_not_used():
    off = {1.0: 1.0, 2.0: 1.0, 3.0: 0.5, 4.0: 1.0, 5.0: 1.0}
    own = walk(off, lambda d: off[d] * 8000.0 / d**2)
    assert not own.holds and "each distance stands by itself" in own.words
    for target in (2.5, 7.0):
        with pytest.raises(NotBroughtError):
            own.at(target)
    assert own.at(3.0)[2] is None  # what was read there is still to be had


def test_the_near_field_of_a_panel_is_not_part_of_its_law():
    own = walk((0.3, 2.0, 3.0, 4.0, 5.0), disc(0.3, 1000.0))
    assert own.used_m[0] > 0.3 and own.holds
    level, _, _ = own.at(2.5)
    assert 2.0**level.value == pytest.approx(disc(0.3, 1000.0)(2.5), rel=0.01)
    with pytest.raises(NotBroughtError, match="falls short of the law"):
        own.at(1.0)


def test_two_marks_make_no_walk():
    own = walk((1.0, 3.0), point(9000.0))
    assert own.law is None and own.words == "no walk was read"
    level, (mark,), how = own.at(2.0)  # outward from the nearer mark
    assert mark.terms.distance_m == 1.0 and "inverse-square" in how.words
    assert 2.0**level.value == pytest.approx(2250.0, rel=1e-3)


def test_no_mark_says_so():
    with pytest.raises(NotBroughtError, match="not stated"):
        Walk.of([read(1, FULL, illuminance=100.0)], Meter("m", "Meter")).at(2.0)


@pytest.mark.parametrize(("behind", "where"), [(0.5, "behind the front"), (-0.4, "in front of it")])
def test_where_the_light_comes_from_is_said_on_the_right_side(behind, where):
    own = walk((1.0, 1.5, 2.0, 3.0, 4.0, 5.0), point(8000.0, behind))
    found = re.fullmatch(r"as from (\d+) ±(\d+) cm (.*)", own.source_words)
    assert found is not None and found[3] == where
    half = 100.0 * 1.96 * own.law.offset_error_m
    assert abs(int(found[1]) - 100.0 * abs(behind)) <= half
    assert int(found[2]) == pytest.approx(half, abs=0.51) and 1.0 < half < 10.0
    assert own.words == f"the walk from 1 m to 5 m follows the law within 0.01 stop, {own.source_words}"


def test_a_source_at_the_front_is_not_spoken_of():
    own = walk((1.0, 2.0, 3.0, 4.0), point(8000.0))
    assert own.source_words == ""
    assert own.words == "the walk from 1 m to 4 m follows the law within 0.01 stop"


def test_how_sure_a_mark_between_is():
    """Calibration is common to all marks and stays whole; the plane is 2 dd/d at the mark asked; the fit adds its
    own."""
    own = walk((1.0, 1.5, 3.0, 4.0), point(8000.0))
    shares = own.at(2.0)[0].shares
    assert shares["calibration of the meter"] == pytest.approx(METER.level_tolerance / np.log(2.0))
    assert shares["reference plane"] == pytest.approx(2.0 * 0.01 / 2.0 / np.log(2.0))
    assert 0.003 < shares["distance law"] < 0.05


def test_what_a_mark_between_leaves_open_by_its_parts():
    """The plane by 2 dx / d, the meter as at every mark, the law by its fit; each in stops."""
    found = walk((1.0, 2.0, 3.0, 4.0), point(4000.0)).at(2.5)[0]
    shares = found.shares
    assert shares["reference plane"] == pytest.approx(2.0 * 0.01 / 2.5 / np.log(2.0))
    assert shares["calibration of the meter"] == pytest.approx(METER.level_tolerance / np.log(2.0))
    assert 0.0 < shares["distance law"] < 0.1


def test_a_walk_that_strays_widens_the_law():
    steady = walk((1.0, 2.0, 3.0, 4.0), point(4000.0))
    shaken = walk((1.0, 2.0, 3.0, 4.0), lambda d: point(4000.0)(d) * (1.06 if d in {2.0, 4.0} else 0.94))
    assert shaken.at_law(2.5).shares["distance law"] > 2.0 * steady.at_law(2.5).shares["distance law"]


def test_the_error_of_a_mark_is_what_scatters_it_alone():
    one = walk((1.0, 2.0, 3.0), point(4000.0))
    parts = one.levels[0].parts
    own = [
        p.size
        for p in parts
        if p.name in {"distance of the mark", "aim", "repeatability", "rounding of what was typed"}
    ]
    assert Walk._own_error(one.levels[0]) == pytest.approx(np.sqrt(np.sum(np.square(own))) * np.log(2.0) / 1.96)


def test_no_law_has_no_mark_that_strays_and_is_not_spoken_of():
    two = walk((1.0, 2.0), point(4000.0))
    assert two.worst_stops == float("inf")
    assert two.used_m == ()
    assert two.words == "no walk was read"
    with pytest.raises(NotBroughtError):
        two.at_law(1.5)


def test_a_walk_holds_within_a_tenth_of_a_stop():
    for off, holds in ((0.12, True), (0.55, False)):
        found = walk((2.0, 3.0, 4.0, 5.0), lambda d, off=off: point(4000.0)(d) * (2.0**off if d == 3.0 else 1.0))
        assert found.holds is holds, (off, found.worst_stops)
        assert (found.worst_stops <= 0.1) is holds


# --- where the light comes from


def _walked(rng: np.random.Generator, marks: tuple[float, ...], law) -> Walk:
    """Two readings a mark with a plane and marks to 1 cm and a meter that repeats to 1.5 % (all 95 %)."""
    plane, found = rng.normal(0.0, 0.01 / 1.96), []
    for place, mark in enumerate(marks):
        true = law(mark + plane + rng.normal(0.0, 0.01 / 1.96))
        for again in range(2):
            level = float(f"{true * np.exp(rng.normal(0.0, 0.015 / 1.96)):.4g}")
            value = Value("illuminance", level, Origin.TYPED, text=f"{level:g}")
            terms, at = Terms(level_pct=100.0, distance_m=mark), datetime(2026, 1, 1, tzinfo=UTC)
            name = f"{place}.{again}"
            reading = Reading(name, "s", at, 2 * place + again, terms, ("lamp",), meter_id="m", values=(value,))
            found.append(Measured(ReadingState(reading, terms)))
    return Walk.of(found, Meter("m", "Hand meter", kind="light meter", ratio_tolerance=0.015))


_MARKS = ((1.0, 2.0, 3.0, 4.0), (1.0, 1.5, 2.0, 3.0, 4.0, 5.0), (3.048, 4.572, 6.096, 7.62), (2.0, 3.0, 5.0, 8.0))


def _said(law_of, draws: int = 60) -> float:
    rng = np.random.default_rng(7)
    return sum(bool(_walked(rng, _MARKS[rng.integers(4)], law_of(rng)).source_words) for _ in range(draws)) / draws


def test_a_panel_whose_light_comes_from_its_front_has_no_source_behind_it():
    """A disc of radius r gives E in proportion to 1 / (d² + r²) on its axis (Lambertian source, closed form)."""

    def disc(rng):
        radius = rng.uniform(0.1, 0.6)
        return lambda d: 3000.0 / (d * d + radius * radius)

    assert _said(disc) <= 0.06
    assert _said(lambda rng: lambda d: 3000.0 / d**2) <= 0.06


@pytest.mark.parametrize("origin", [0.4, 0.8, 1.5, -0.3])
def test_light_that_comes_from_elsewhere_is_told(origin):
    assert _said(lambda rng: lambda d: 3000.0 / (d + origin) ** 2, 25) >= 0.95
