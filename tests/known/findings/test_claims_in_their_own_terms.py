"""Claims with their own tolerance, in their own mode, tint untouched, at full level, both ends of a range."""

from dataclasses import replace

import pytest

from even_beam.bench.records import Claim, Terms
from even_beam.known.findings.claims import Even, Holds, claimed_whites, claims, white_bound
from tests.known.findings.story import evidence, read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)


def white(text: str, low: float, high: float | None = None, condition: str = "") -> Claim:
    return Claim("c", "m", "cct", low, low if high is None else high, "K", text, condition)


def judged(claim: Claim, *readings):
    (found,) = claims(evidence(*readings, claims=(claim,)))
    return found


@pytest.mark.parametrize(
    ("claim", "whites", "mired"),
    [
        (white("5600", 5600.0), [5600.0], 10.0),
        (white("5600 K ±200", 5400.0, 5800.0), [5600.0], 1e6 / 5400 - 1e6 / 5600),
        (white("5600", 5600.0, condition="within 50 K"), [5600.0], 1e6 / 5550 - 1e6 / 5600),
        (white("5600", 5600.0, condition="within 4 mired"), [5600.0], 4.0),
        (white("2700 to 6500", 2700.0, 6500.0), [2700.0, 6500.0], 10.0),
    ],
)
def test_the_tolerance_of_a_claim_is_its_own(claim, whites, mired):
    assert claimed_whites(claim) == whites
    assert white_bound(claim, 5600.0) == pytest.approx(mired)


def test_a_white_200_k_off_is_within_400_and_not_within_50():
    off = [read(i, FULL, cct=k) for i, k in enumerate((5400.0, 5402.0))]
    assert judged(white("5600 K ±400", 5200.0, 6000.0), *off).holds is Holds.YES
    refuted = judged(white("5600", 5600.0, condition="within 10 K"), *off)
    assert refuted.holds is Holds.NO and "; 0.3 are allowed" in refuted.sentence


def test_what_the_tint_dial_or_a_mode_does_refutes_nothing():
    """A lamp is claimed as it stands: untouched, and in no mode of its own."""
    right = [read(1, FULL, cct=5610.0, ra=96.0), read(2, FULL, cct=5612.0, ra=96.0)]
    turned = [read(3, replace(FULL, tint="+30"), cct=5000.0, ra=80.0)]
    boost = [read(4, replace(FULL, mode="Boost"), cct=5000.0, ra=70.0)]
    claim = white("5600", 5600.0)
    assert judged(claim, *right, *turned, *boost).holds is Holds.YES
    assert judged(claim, *turned, *boost).even is Even.NOT_MEASURED
    score = Claim("s", "m", "ra", 90.0, None, "", "90+")
    assert judged(score, *right, *turned, *boost).holds is Holds.YES
    assert judged(replace(score, condition="in Boost"), *right, *boost).holds is Holds.NO


def test_a_range_holds_at_both_ends_or_not_at_all():
    claim = white("3200 to 5600", 3200.0, 5600.0)
    warm, cold = replace(FULL, cct_k=3200.0), FULL
    good = [read(1, warm, cct=3203.0), read(2, cold, cct=5605.0)]
    assert judged(claim, *good).holds is Holds.YES
    edge = [read(1, warm, cct=1e6 / (1e6 / 3200 + 9.5)), read(2, cold, cct=5605.0)]  # too near the limit to tell
    assert judged(claim, *edge).holds is Holds.CANNOT_TELL
    assert judged(claim, read(1, warm, cct=2900.0), read(2, cold, cct=5605.0)).holds is Holds.NO
    assert judged(claim, read(1, warm, cct=3203.0)).even is Even.NOT_MEASURED


def test_dimmed_it_bears_nothing_out():
    half = replace(FULL, level_pct=50.0)
    score = Claim("s", "m", "ra", 90.0, None, "", "90+")
    assert judged(score, read(1, half, ra=97.0)).holds is Holds.CANNOT_TELL
    power = Claim("p", "m", "power_w", None, 100.0, "W", "100")
    assert judged(power, read(1, half, power_w=60.0)).holds is Holds.CANNOT_TELL
    assert judged(power, read(1, half, power_w=130.0)).holds is Holds.NO
    assert judged(power, read(1, FULL, power_w=60.0)).holds is Holds.YES


@pytest.mark.parametrize(
    ("claim", "figures"),
    [
        (white("5600", 5600.0), ({"cct": 5610.0}, {"cct": 4700.0})),
        (Claim("s", "m", "ra", 90.0, None, "", "90+"), ({"ra": 96.0}, {"ra": 70.0})),
        (
            Claim("e", "m", "illuminance", 900.0, None, "lx", "900", "at 2 m"),
            ({"illuminance": 1000.0}, {"illuminance": 600.0}),
        ),
    ],
)
def test_a_claim_that_holds_one_evening_and_fails_another_is_one_statement(claim, figures):
    """One of the evenings is wrong, and nothing tells which: both stand in the sentence, whichever came first."""
    for good, bad in ((0, 1), (1, 0)):
        told = judged(claim, *(read(i, FULL, session=f"s{i}", **figures[place]) for i, place in enumerate((good, bad))))
        assert told.holds is Holds.CANNOT_TELL
        assert "it fails on " in told.sentence and " and holds on " in told.sentence and "100 %" in told.sentence
        assert len(told.readings) == 2
    twice = [read(i, FULL, session=f"s{i}", **figures[1]) for i in range(2)]
    assert judged(claim, *twice).holds is Holds.NO
