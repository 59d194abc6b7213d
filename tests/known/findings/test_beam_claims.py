"""A claimed beam angle is judged by what was read across the beam, and sets what an aim error costs where none was."""

from dataclasses import replace

import numpy as np
import pytest

from even_beam.bench.records import Claim, Terms
from even_beam.known.claim_order import in_order
from even_beam.known.findings.claims import Even, Holds, claims
from tests.known.findings.story import evidence, read

FIXED = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0)


def claimed(low, high=None, condition="") -> Claim:
    return Claim("c", "m", "beam_deg", low, high if high is not None else low, "°", f"{low:g}", condition)


def section(half_deg, zoom="", configuration=(), start=1):
    """A Gaussian beam that has half its peak at so many degrees, on one side."""
    angles = np.arange(0.0, 2.4 * half_deg, half_deg / 5.0)
    share = 0.5 ** ((angles / half_deg) ** 2)
    at = replace(FIXED, zoom=zoom, configuration=configuration)
    return [
        read(start + i, replace(at, angle_deg=float(a)), illuminance=float(1000.0 * s))
        for i, (a, s) in enumerate(zip(angles, share, strict=True))
    ]


@pytest.mark.parametrize(
    ("claim", "holds"),
    [(20.0, Holds.YES), (20.8, Holds.YES), (30.0, Holds.NO), (15.0, Holds.NO), (22.0, Holds.CANNOT_TELL)],
)
def test_a_beam_is_as_wide_as_claimed_within_a_tenth(claim, holds):
    (judged,) = claims(evidence(*section(10.0), claims=(claimed(claim),)))
    assert judged.holds is holds
    assert judged.value == pytest.approx(20.0, abs=0.2)
    assert "20 ±1° measured across it" in judged.sentence and str(holds) in judged.sentence


def test_both_ends_of_a_zoom_must_be_read():
    both = [*section(8.0, "spot"), *section(25.0, "flood", start=40)]
    (judged,) = claims(evidence(*both, claims=(claimed(16.0, 50.0),)))
    assert judged.holds is Holds.YES and len(judged.readings) == len(both)
    (wrong,) = claims(evidence(*both, claims=(claimed(16.0, 65.0),)))
    assert wrong.holds is Holds.NO and wrong.value == pytest.approx(50.0, abs=0.5)
    (one,) = claims(evidence(*section(8.0, "spot"), claims=(claimed(16.0, 50.0),)))
    assert one.holds is Holds.CANNOT_TELL and "not both ends" in one.sentence


def test_a_claim_for_the_bare_lamp_is_not_judged_by_a_lens():
    (judged,) = claims(evidence(*section(10.0, configuration=("lens",)), claims=(claimed(30.0),)))
    assert judged.even is Even.NOT_EQUAL and judged.holds is Holds.CANNOT_TELL
    (named,) = claims(
        evidence(*section(10.0, configuration=("lens",)), claims=(claimed(20.0, condition="with the lens"),))
    )
    assert named.holds is Holds.YES


def test_without_a_section_nothing_is_measured():
    (judged,) = claims(evidence(read(1, FIXED, illuminance=800.0), claims=(claimed(30.0),)))
    assert judged.even is Even.NOT_MEASURED
    (short,) = claims(evidence(*section(10.0)[:5], claims=(claimed(20.0),)))
    assert short.even is Even.NOT_MEASURED and "ends before half its peak" in short.sentence


def test_a_claimed_beam_says_what_an_aim_error_costs():
    """A Gaussian beam falls by ln 2 (a / half)²: four times as much at half the width."""

    def aim(readings, *own):
        lamp = evidence(*readings, claims=own)
        return next(part.size for part in lamp.level_of(readings[:1]).parts if part.name == "aim")

    alone = [read(1, FIXED, illuminance=800.0)]
    assert aim(alone, claimed(15.0)) == pytest.approx(4.0 * aim(alone, claimed(30.0)))
    assert aim(alone, claimed(60.0)) == aim(alone), "60 degrees are assumed where nobody says"
    assert aim(alone, claimed(15.0, 50.0)) == aim(alone, claimed(15.0)), "of a range its narrow end"
    assert aim(alone, claimed(15.0, condition="with the lens")) == aim(alone)
    with_lens = [read(1, replace(FIXED, configuration=("lens",)), illuminance=800.0)]
    assert aim(with_lens, claimed(15.0, condition="with the lens")) == aim(alone, claimed(15.0))
    assert aim(with_lens, claimed(15.0)) == aim(alone), "a claim for the bare lamp says nothing of the lens"
    measured = section(10.0)
    assert aim(measured, claimed(60.0)) == pytest.approx(aim(alone, claimed(20.0)), rel=0.03), "measured before claimed"


def test_claims_stand_in_the_order_in_which_they_are_asked():
    """Whatever their ids are, which are random in a logbook."""
    names = ["power_w", "weight", "ra", "beam_deg", "illuminance", "cct"]
    stated = [Claim(f"{9 - n}", "m", name, 1.0, 1.0, "", "1") for n, name in enumerate(names)]
    assert [one.quantity for one in in_order(stated)] == ["cct", "ra", "illuminance", "beam_deg", "power_w", "weight"]
