"""Match names dials and gels only as far as readings bear them: nothing far beyond, no gel for what no meter tells, and
*leave* only for a lamp that stands so by its own dial."""

import numpy as np
import pytest

from even_beam.bench.target import Target
from even_beam.known.matching.answer import Answer
from even_beam.known.matching.dial import TRIED_MIRED, DialPoint, dial_answer
from even_beam.known.matching.gels import Wanting, gel_answers
from even_beam.light.filters import correction, correction_names, tinted
from even_beam.light.gel_packs import Stock

NAMES = correction_names(second_series=False)
STOCK = Stock(NAMES, np.array([correction(name).transmission for name in NAMES]))


ASKED = Target(5600.0, 0.003)


def answer_of(point: DialPoint | None, target: Target) -> Answer:
    """What is said of a lamp that was read at one setting, or at none that could be dialled."""
    return Answer(
        name="Heron",
        terms="bare · 100 % · 2 m",
        target=target,
        cct_k=1e6 / point.mired if point is not None else target.cct_k,
        duv=target.duv if point is None else point.duv,
        half_mired=1.5,
        half_duv=0.001,
        repeats=(),
        dial=None if point is None else dial_answer([point], target),
        gels=(),
    )


def point(dial_k: float, gives_k: float, duv: float | None = None, tint: float | None = None) -> DialPoint:
    return DialPoint(dial_k, tint, 1e6 / gives_k, duv, 1.5, 0.001, None, ())


@pytest.mark.parametrize("reads", [(5600.0,), (5600.0, 5000.0), (3200.0, 4300.0, 5600.0)])
@pytest.mark.parametrize("wanted", [2000.0, 2400.0, 3000.0, 8000.0, 12_000.0])
def test_no_dial_is_named_farther_than_forty_mired_from_what_was_read(reads, wanted):
    found = dial_answer([point(k, k * 1.02) for k in reads], Target(wanted))
    far = min(abs(1e6 / wanted - 1e6 / (k * 1.02)) for k in reads)
    beyond = not min(reads) * 1.02 <= wanted <= max(reads) * 1.02
    if beyond and far > TRIED_MIRED:
        assert not found.reachable and found.dial_k in reads
    elif beyond and len(reads) < 3 and far > 1.0:
        assert found.reachable and found.tried


def test_a_wide_gap_between_readings_is_one_to_try():
    read = [point(2700.0, 2700.0), point(6500.0, 6500.0), point(6600.0, 6600.0)]
    assert dial_answer(read, Target(4000.0)).tried
    assert not dial_answer(read, Target(6550.0)).tried


def test_a_tint_dial_is_taken_at_most_half_as_far_again_as_it_was_read():
    read = [point(5600.0, 5600.0, duv=d, tint=t) for t, d in ((0.0, 0.004), (30.0, 0.009))]
    found = dial_answer(read, Target(5600.0, -0.010))
    assert found.tint == pytest.approx(-15.0) and found.tried
    inside = dial_answer(read, Target(5600.0, 0.006))
    assert 0.0 < inside.tint < 30.0 and not inside.tried
    assert dial_answer(read, Target(5600.0, 0.0041)).tint == 0.0, "it has that tint untouched"


def test_a_lamp_is_left_only_where_its_own_dial_says_the_white():
    """Read at 5000 and right for 6540 K: that is *dial 5000*, for at 6540 it gives something else."""
    target = Target(6540.0, 0.003)
    odd = answer_of(point(5000.0, 6540.0, duv=0.003, tint=0.0), target)
    assert odd.agrees and not odd.leaves
    assert odd.does == "dial 5000" and odd.sentence.startswith(f"{odd.name}: dial 5000, read so: ")
    assert "±" in odd.sentence
    usual = answer_of(point(6540.0, 6530.0, duv=0.003, tint=0.0), target)
    assert usual.leaves and usual.does == "leave"
    turned = answer_of(point(6540.0, 6530.0, duv=0.003, tint=10.0), target)
    assert turned.does == "dial 6540, tint +10"
    assert answer_of(None, ASKED).leaves, "a lamp without a dial stands as it stands"


@pytest.mark.parametrize("duv", [0.0022, -0.0022])
def test_no_gel_is_named_for_what_it_may_leave_as_far_off(duv):
    """A sheet of eighth minus green moves by about 0.0044 give or take 0.001: of 0.0022 it mends nothing for sure."""
    target = Target(5600.0, 0.003)
    wanting = [Wanting(tinted(5600.0, 0.003 + duv), target, dials=True)]
    assert gel_answers(wanting, STOCK) == [()]


def test_green_and_magenta_gels_only_where_the_meter_tells_the_tint():
    target = Target(5600.0, 0.003)
    light = tinted(5600.0, 0.010)
    (told,) = gel_answers([Wanting(light, target)], STOCK)
    assert told and any("green" in name for name in told[0].pack)
    (untold,) = gel_answers([Wanting(light, target, tint_told=False)], STOCK)
    assert not any("green" in name for one in untold for name in one.pack)


def test_packs_are_of_one_series():
    for kelvin in np.linspace(2500.0, 9000.0, 9):
        for pack in gel_answers([Wanting(tinted(kelvin, 0.002), Target(5600.0, 0.003))], STOCK)[0]:
            assert not any(name.startswith("even ") for name in pack.pack)
