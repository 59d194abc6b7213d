"""Dials with steps, ends and notches."""

from dataclasses import replace

import pytest

from even_beam.bench.dial_steps import DialSteps, dial_of, steps_of
from even_beam.bench.records import Gear, Terms
from even_beam.bench.target import Target
from even_beam.known.findings import white
from even_beam.known.matching.answer import setting
from even_beam.known.matching.dial import DialPoint, dial_answer
from tests.known.findings.story import evidence, read


@pytest.mark.parametrize(
    ("text", "steps"),
    [
        ("in 50 K", DialSteps(50.0)),
        ("in steps of 100 K from 2800 to 6500 K", DialSteps(100.0, (), 2800.0, 6500.0)),
        ("10K 2000-10000", DialSteps(10.0, (), 2000.0, 10_000.0)),
        ("notches 2700, 3200, 4300, 5600, 6500", DialSteps(notches=(2700.0, 3200.0, 4300.0, 5600.0, 6500.0))),
        ("no numbers 2800 to 6500", DialSteps(1.0, (), 2800.0, 6500.0, numbered=False)),
        ("5600 / 3200", DialSteps(notches=(3200.0, 5600.0))),
        ("3200 K 5600 K", DialSteps(notches=(3200.0, 5600.0))),
    ],
)
def test_a_dial_as_it_is_written(text, steps):
    assert steps_of(text) == steps


@pytest.mark.parametrize("text", ["", "smooth", "in 0 K", "in 5000 K", "warm to cool"])
def test_what_is_no_dial_is_refused_and_leaves_the_usual(text):
    with pytest.raises(ValueError, match="write in 50 K"):
        steps_of(text)
    assert dial_of([Gear("g", "m", "dial", text)]) == DialSteps()


def test_the_nearest_notch_is_that_in_mired():
    """Between 3200 and 5600 K the middle is 4073 K in mired and 4400 K in kelvin."""
    notches = steps_of("3200, 5600")
    assert notches.nearest(4050.0) == 3200.0
    assert notches.nearest(4100.0) == 5600.0
    assert steps_of("in 100 K from 2800 to 6500").nearest(7000.0) == 6500.0
    assert steps_of("in 100 K from 2800 to 6500").nearest(2000.0) == 2800.0


def test_the_answer_is_one_that_the_dial_has():
    """Check value: 5600 gives 6049 and 5100 gives 5591; what is exact is 5110."""
    read = [DialPoint(k, None, 1e6 / r, None, 1.5, 0.001, None, ()) for k, r in ((5600.0, 6049.0), (5100.0, 5591.0))]
    for text, dial in (("in 10 K", 5110.0), ("in 100 K", 5100.0), ("3200, 4300, 5000, 5600", 5000.0)):
        found = dial_answer(read, Target(5600.0), steps_of(text))
        assert found.dial_k == dial and "hundreds" not in setting(found)
        slope = (1e6 / 5591.0 - 1e6 / 6049.0) / (1e6 / 5100.0 - 1e6 / 5600.0)
        assert found.mired == pytest.approx(1e6 / 5591.0 + slope * (1e6 / dial - 1e6 / 5100.0), abs=0.01)


def test_the_finding_says_what_the_dial_can_do():
    """The same check value as a finding: its value stays exact."""
    at = Terms(level_pct=100.0, distance_m=2.0)
    read_ = [read(n, replace(at, cct_k=k), cct=r) for n, (k, r) in enumerate(((5600.0, 6049.0), (5100.0, 5591.0)))]
    lamp = evidence(*read_)
    (usual,) = [f for f in white.what_to_dial(lamp) if "5600" in f.name]
    assert "Dial 5110 (5100 on a dial in hundreds) for 5600 K" in usual.sentence
    notched = replace(lamp, gear=(Gear("g", "m", "dial", "3200, 4300, 5000, 5600"),))
    (found,) = [f for f in white.what_to_dial(notched) if "5600" in f.name]
    assert found.sentence.startswith("Dial 5000 for 5600 K,") and found.value == usual.value
    none = replace(lamp, gear=(Gear("g", "m", "dial", "3200, 5600"),))
    assert [f for f in white.what_to_dial(none) if "5600" in f.name] == [], "no other setting is nearer"


def test_a_dial_without_numbers_is_told_from_its_warm_end():
    """In mired 2800 to 6500 K are 357 to 154: 4200 K, 238, are 59 % of the way."""
    steps = steps_of("no numbers 2800 to 6500")
    assert steps.words(4200.0) == "about 60 % of the way from its warm end"
    assert (steps.words(2800.0), steps.words(6500.0)) == (
        "about 0 % of the way from its warm end", "about 100 % of the way from its warm end",
    )  # fmt: skip
    read_ = [DialPoint(k, None, 1e6 / r, None, 1.5, 0.001, None, ()) for k, r in ((2800.0, 2700.0), (6500.0, 6000.0))]
    found = dial_answer(read_, Target(4200.0), steps)
    assert setting(found).startswith("try to turn it to about") and "hundreds" not in setting(found)
