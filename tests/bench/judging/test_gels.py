"""A lamp behind a gel is not off its dial. The shifts of the correction series are common practice, from memory, no
source; the second look is held to what smooth filters of such shifts do to lights."""

import numpy as np
import pytest

from even_beam.bench.judging.gels import named_shift
from even_beam.bench.judging.second_look import Context, Subject, second_look
from even_beam.bench.records import Terms
from even_beam.light import daylight, planckian
from even_beam.light.colorimetry import cct_and_duv, tristimulus, uv_1960, xy
from even_beam.light.filters import correction, correction_names, nominal_mired


def looked_at(cct: float, *configuration: str, dialled: float = 5600.0, gels: tuple[str, ...] = ()):
    terms = Terms(cct_k=dialled, level_pct=100.0, distance_m=1.0, configuration=configuration)
    return second_look(Subject({"cct": cct}, terms, "lamp", None, True), Context(gels=frozenset(gels)))


@pytest.mark.parametrize(
    ("configuration", "expected"),
    [
        ((), (0.0, 0.0)),
        (("softbox",), (0.0, 0.0)),
        (("half CTO",), (81.0, 109.0)),
        (("even half CTO",), (81.0, 81.0)),
        (("softbox", "Full blue gel"), (-137.0, -131.0)),
        (("½ CTB", "quarter plus green"), (-78.0, -68.0)),
        (("half CTO", "half CTO"), (162.0, 218.0)),
        (("amber gel",), None),
        (("CTO",), None),
        (("half CTO", "peach filter"), None),
        (("doors", "night blue"), (0.0, 0.0)),  # nothing says that it is a gel
    ],
)
def test_what_names_say(configuration, expected):
    assert named_shift(configuration) == expected


def test_what_the_kit_has_as_a_gel_is_one():
    assert named_shift(("doors", "Night blue"), {"night Blue"}) is None


@pytest.mark.parametrize("name", correction_names())
def test_a_lamp_behind_a_correction_fits(name):
    """The white that a filter of the series gives on the light that it is defined on, looked at by the dial."""
    light, dialled = (planckian(3200.0), 3200.0) if "CTO" not in name else (daylight(5500.0), 5500.0)
    cct, _ = cct_and_duv(*uv_1960(*xy(tristimulus(light * correction(name).transmission))))
    assert not looked_at(float(cct), name, dialled=dialled).in_doubt
    low, high = nominal_mired(name)
    assert low - 1.0 <= 1e6 / float(cct) - 1e6 / dialled <= high + 1.0


def test_a_wrong_white_behind_a_gel_is_seen_all_the_same():
    assert not looked_at(4180.0, "softbox", "half CTO").in_doubt
    assert looked_at(3000.0, "half CTO", dialled=3200.0).in_doubt  # a half is 81 mired at least, this is 21
    found = looked_at(5500.0, "full CTO")  # as if it were not on
    assert found.in_doubt and "behind full CTO" in found.text and "cooler" in found.text
    assert looked_at(2900.0).in_doubt and not looked_at(2900.0, "full CTO").in_doubt


def test_a_gel_that_says_nothing_of_its_shift_leaves_the_white_open():
    assert not looked_at(9000.0, "deep blue gel").in_doubt
    assert not looked_at(9000.0, "Dusk", gels=("dusk",)).in_doubt
    assert looked_at(9000.0, "Dusk").in_doubt


def test_a_blue_gel_on_a_cool_lamp_leaves_no_white_to_expect():
    assert not looked_at(30_000.0, "full CTB", "full CTB", dialled=5600.0).in_doubt
    assert np.isfinite(nominal_mired("full CTB")).all()
