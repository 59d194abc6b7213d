from dataclasses import replace
from itertools import pairwise

import pytest

from even_beam.bench.planning.costs import seconds_needed
from even_beam.bench.planning.protocols import Protocol, ProtocolError, expand, protocols_of, shipped
from even_beam.bench.planning.run_sheet import REFERENCE_EVERY, Bench, LampPlan, cautions, make_plan
from even_beam.bench.records import Meter, Terms

KEY, HAND = Meter("k", "Spectrometer"), Meter("h", "Light meter", kind="light meter", quantities=("illuminance",))
BENCH = Bench(KEY, HAND)
TANSY = (LampPlan("tansy"),)
BY_NAME = {protocol.name: protocol for protocol in shipped()}


def plan(*names: str, lamps=TANSY, kinds=None):
    return make_plan(lamps, [BY_NAME[name] for name in names], BENCH, kinds)


def test_the_shipped_set_answers_the_questions_of_the_bench():
    assert len(BY_NAME) == len(shipped()) >= 20
    for protocol in shipped():
        assert protocol.answers
        assert expand(protocol, Terms(level_pct=100.0, distance_m=2.0))


def test_a_full_review_reads_every_white_at_two_levels():
    made = plan("full review")
    whites = {s.terms.cct_k for s in made.steps}
    assert len(whites) >= 100
    assert {s.terms.level_pct for s in made.steps} == {100.0, 25.0}


def test_white_sweeps_by_kelvin_and_by_mired():
    kelvin = BY_NAME["CCT sweep"].whites
    assert kelvin[0] == 2700.0
    assert kelvin[1] - kelvin[0] == 200.0
    mired = BY_NAME["full review"].whites
    step = BY_NAME["full review"].white_step_mired
    assert step > 0.0
    for high, low in pairwise(sorted(mired, reverse=True)):
        rounding = 5.0 * 1e6 * (1 / high**2 + 1 / low**2)  # a white is set in tens of kelvin: 5 K either way
        assert 1e6 / low - 1e6 / high == pytest.approx(step, abs=rounding + 0.01)


def test_the_dearest_change_is_made_least():
    lamp = LampPlan("tansy", configurations=((), ("reflector",)))
    made = plan("distance walk", "modifier matrix", "dimming sweep", lamps=(lamp,))
    moves = sum(a.terms.configuration != b.terms.configuration for a, b in pairwise(made.steps))
    assert moves <= 2  # bare first, then the reflector, and back for the reference
    assert made.steps[0].terms.configuration == ()
    walk = [s.terms.distance_m for s in made.steps if s.terms.cct_k is None]
    assert walk[:4] == sorted(walk[:4], reverse=True)
    shuffled = sorted(made.steps, key=lambda s: s.id)
    meters = {"k": KEY, "h": HAND}
    assert made.seconds < seconds_needed(shuffled, meters)


def test_low_levels_come_after_high_ones():
    levels = [s.terms.level_pct for s in plan("dimming sweep").steps if s.terms.cct_k == 5600.0]
    assert levels[:8] == sorted(levels[:8], reverse=True)


def test_what_two_protocols_need_is_read_once():
    both, one = plan("quick look", "claims check"), plan("claims check")
    quick = [s for s in both.steps if s.terms.distance_m == 2.0]
    assert len(both.steps) == len(one.steps) + len(quick)
    twice = plan("quick look", "head to head")
    full = [s for s in twice.steps if s.terms.level_pct == 100.0 and s.terms.cct_k == 5600.0 and s.repeats > 1]
    assert len(full) == 1


def test_a_reference_comes_back_at_intervals_and_at_the_end():
    made = plan("full review")
    first = made.steps[0].terms
    places = [i for i, step in enumerate(made.steps) if step.terms == first]
    assert places[-1] == len(made.steps) - 1
    assert max(b - a for a, b in pairwise(places)) <= REFERENCE_EVERY + 1


def test_what_may_be_dropped_says_what_is_lost():
    made = plan("distance walk", "dimming sweep", "quick look")
    assert [d.seconds_saved for d in made.drops] == sorted((d.seconds_saved for d in made.drops), reverse=True)
    walk = next(d for d in made.drops if d.protocol == "distance walk")
    assert "virtual source" in walk.lost
    assert walk.seconds_saved > 120.0
    assert plan("quick look").drops == ()


def test_by_hand_protocols_use_the_meter_that_is_read_by_eye():
    made = plan("power")
    assert {s.meter_id for s in made.steps} == {"h"}
    assert made.steps[0].quantities == ("power_w", "power_va")
    assert cautions.MAINS in made.cautions
    assert cautions.FLASHING in plan("flicker on camera").cautions
    assert cautions.DISCHARGE in plan("quick look", kinds={"tansy": "discharge lamp"}).cautions


def test_a_fixed_white_is_not_dialled():
    made = plan("dimming sweep", lamps=(LampPlan("yarrow", fixed_white=True),))
    assert {s.terms.mode for s in made.steps} == {"fixed"}
    assert {s.terms.cct_k for s in made.steps} == {None}


@pytest.mark.parametrize(
    ("content", "words"),
    [
        ({"protocols": [{"name": "x"}]}, "needs"),
        ({"protocols": [{"name": "x", "answers": "y", "colour": 1}]}, "unknown entry colour"),
        ({"protocols": [{"name": "x", "answers": "y", "levels_pct": ["full"]}]}, "must be numbers"),
        ({"protocols": [{"name": "x", "answers": "y", "distances": ["far"]}]}, "far"),
        ({"protocols": [{"name": "x", "answers": "y", "repeats": 0}]}, "repeats"),
        ([], "a list named"),
    ],
)
def test_a_protocol_that_is_wrong_names_the_entry(content, words):
    with pytest.raises(ProtocolError, match=words):
        protocols_of(content)


def test_a_protocol_of_ones_own():
    (own,) = protocols_of(
        {"protocols": [{"name": "petals", "answers": "pinks", "whites_k": [4400], "levels_pct": [80]}]}
    )
    assert isinstance(own, Protocol)
    (terms,) = expand(own, Terms(distance_m=1.0))
    assert (terms.cct_k, terms.level_pct, terms.distance_m) == (4400.0, 80.0, 1.0)


def test_the_key_meter_reads_first_whatever_the_meters_are_called():
    protocols = [BY_NAME["quick look"], BY_NAME["power"]]
    for key, hand in (("a", "b"), ("b", "a")):
        made = make_plan(TANSY, protocols, Bench(replace(KEY, id=key), replace(HAND, id=hand)))
        assert made.steps[0].meter_id == key
        assert made.steps[-1].terms == made.steps[0].terms
        assert made.steps[-1].meter_id == key
