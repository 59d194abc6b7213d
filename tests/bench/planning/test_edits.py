"""A plan changed by hand, and what its changes cost: every edit keeps the rest, and the time follows."""

from datetime import UTC, datetime, timedelta

import pytest

from even_beam.bench.measured import Measured
from even_beam.bench.planning.costs import LEAST_OBSERVED, Costs, learned, seconds_needed
from even_beam.bench.planning.edits import doubled, moved, split_over_days, without
from even_beam.bench.planning.protocols import shipped
from even_beam.bench.planning.run_sheet import Bench, LampPlan, make_plan
from even_beam.bench.records import Meter, Reading, Terms
from even_beam.bench.run import ReadingState

KEY, HAND = Meter("k", "Spectrometer"), Meter("h", "Light meter", kind="light meter", quantities=("illuminance",))
BENCH = Bench(KEY, HAND)
LAMPS = (LampPlan("tansy"), LampPlan("burdock", 3.0))
BY_NAME = {protocol.name: protocol for protocol in shipped()}


def plan(*names: str, lamps=LAMPS[:1], bench=BENCH, kinds=None):
    return make_plan(lamps, [BY_NAME[name] for name in names], bench, kinds)


def positions(steps) -> list[float]:
    return [step.position for step in steps]


def test_a_step_is_moved_doubled_and_left_out():
    before = plan("dimming sweep")
    ids = [s.id for s in before.steps]
    down = moved(before, ids[2], 3, BENCH)
    assert [s.id for s in down.steps] == [*ids[:2], *ids[3:6], ids[2], *ids[6:]]
    assert positions(down.steps) == sorted(positions(down.steps))
    assert moved(down, ids[2], -3, BENCH) == before
    assert moved(before, ids[0], 4, BENCH).steps[0].wait_s == before.steps[0].wait_s
    assert [s.id for s in moved(before, ids[0], -5, BENCH).steps] == ids  # the sheet has an end
    twice = doubled(before, ids[4], BENCH)
    assert len(twice.steps) == len(ids) + 1
    assert twice.steps[5].terms == twice.steps[4].terms
    assert twice.steps[5].id not in ids
    assert twice.seconds == pytest.approx(before.seconds + 2 * BENCH.costs.by_key_s)
    assert [s.id for s in without(twice, twice.steps[5].id, BENCH).steps] == ids


def test_the_warm_up_is_waited_for_whatever_is_left_out():
    before = plan("dimming sweep")
    assert before.steps[0].wait_s == BENCH.costs.warm_up_s
    assert without(before, before.steps[0].id, BENCH).steps[0].wait_s == BENCH.costs.warm_up_s


def test_a_worse_order_costs_more():
    lamp = LampPlan("tansy", configurations=((), ("reflector",)))
    matrix = plan("modifier matrix", lamps=(lamp,))
    last_bare = next(i for i, s in enumerate(matrix.steps) if s.terms.configuration) - 1
    worse = moved(matrix, matrix.steps[last_bare].id, 1, BENCH)
    assert worse.seconds == pytest.approx(matrix.seconds + 2 * BENCH.costs.modifier_s, abs=10.0)


def test_days_hold_what_fits_and_open_and_close_on_a_control():
    made = plan("full review", "distance walk", lamps=LAMPS)
    split = split_over_days(made, 1800.0, BENCH)
    assert len(split.days) > 2
    planned = {s.id for s in made.steps}
    assert planned <= {s.id for s in split.steps}  # nothing is lost
    for day, following in zip(split.days, split.days[1:], strict=False):
        assert BENCH.seconds(day) <= 1800.0 + 75.0  # the closing control comes on top
        assert following[0].wait_s == BENCH.costs.warm_up_s  # every evening begins cold
        if day[-1].source_ids == following[0].source_ids:
            assert day[-1].terms == following[0].terms  # the night is seen in one reading repeated
    assert positions(split.steps) == sorted(set(positions(split.steps)))


def test_a_day_shorter_than_a_step_still_ends():
    assert len(split_over_days(plan("quick look"), 1.0, BENCH).days) >= 2


def test_lamps_warm_while_others_are_read():
    made = plan("full review", lamps=LAMPS)
    first, second = (next(s for s in made.steps if s.source_ids == (lamp.source_id,)) for lamp in LAMPS)
    assert first.wait_s == BENCH.costs.warm_up_s
    assert second.wait_s == 0.0  # lit, turned away, while the first was read for longer than that
    quick = plan("quick look", lamps=LAMPS)
    waits = [s.wait_s for s in quick.steps if s.wait_s]
    assert waits[0] == BENCH.costs.warm_up_s
    assert len(waits) == 1  # both warm at once
    tungsten = plan("quick look", kinds={"tansy": "tungsten Fresnel"})
    assert tungsten.steps[0].wait_s == 120.0


def test_a_warm_up_begins_cold_and_comes_before_all_else():
    made = plan("warm-up", "quick look")
    minutes = BY_NAME["warm-up"].again_after_min
    cold = made.steps[: len(minutes)]
    assert cold[0].wait_s == 0.0
    assert sum(s.wait_s for s in cold) == 60.0 * minutes[-1]
    assert len({s.terms for s in cold}) == 1
    assert all(s.wait_s == 0.0 for s in made.steps[len(minutes) :])


def test_all_lamps_lit_in_one_step():
    made = plan("quick look", "all lit together", lamps=LAMPS)
    together = [s for s in made.steps if len(s.source_ids) > 1]
    assert [s.source_ids for s in together] == [("tansy", "burdock")]
    assert not [s for s in plan("all lit together").steps if len(s.source_ids) > 1]  # one lamp is not together


def test_the_spread_that_asks_for_a_third_is_the_strictest():
    made = plan("head to head", "quick look")
    limits = {s.terms.level_pct: s.spread_stops for s in made.steps[:-1]}
    assert limits[100.0] == BY_NAME["head to head"].spread_stops
    assert all(s.spread_stops is None for s in plan("quick look").steps)


def test_own_costs_change_the_time_and_wrong_ones_are_refused():
    slow = Costs().with_own({"by_key_s": 60.0})
    assert plan("quick look", bench=Bench(KEY, HAND, slow)).seconds > plan("quick look").seconds
    for own in ({"coffee_s": 60.0}, {"knob_s": -1.0}, {"knob_s": float("nan")}):
        with pytest.raises(ValueError, match="is no cost"):
            Costs().with_own(own)


def timed(gaps: list[tuple[Terms, str, float]], meter: str = "k") -> list[Measured]:
    """Readings so many seconds after each other."""
    at, found = datetime(2026, 1, 1, tzinfo=UTC), []
    for number, (terms, lamp, seconds) in enumerate(gaps):
        at += timedelta(seconds=seconds)
        found.append(
            Measured(ReadingState(Reading(f"r{number}", "s", at, number, terms, (lamp,), meter_id=meter), terms))
        )
    return found


def test_costs_are_learned_from_the_gaps_between_readings():
    """A move takes 95 s here and a repeat 11 s, with a break for tea between: medians do not mind it."""
    gaps = []
    for place in range(8):
        terms = Terms(level_pct=100.0, distance_m=2.0 + place)
        gaps += [(terms, "lamp", 106.0 if place != 4 else 1500.0), (terms, "lamp", 11.0)]
    found = learned([timed(gaps)], {"k": KEY}, Costs())
    assert found.costs.by_key_s == pytest.approx(11.0)
    assert found.costs.distance_s == pytest.approx(95.0)
    assert found.costs.modifier_s == Costs().modifier_s  # never changed: not known
    assert found.observed["distance_s"] == 7
    assert learned([timed(gaps[: 2 * LEAST_OBSERVED - 4])], {"k": KEY}, Costs()).observed.get("distance_s") is None
    imported = [(terms, lamp, 0.0) for terms, lamp, _ in gaps]
    assert learned([timed(imported)], {"k": KEY}, Costs()).observed == {}


def test_a_wait_swallows_the_change_made_meanwhile():
    made = plan("quick look")
    assert seconds_needed(made.steps[:1], BENCH.meters) == BENCH.costs.warm_up_s + 2 * BENCH.costs.by_key_s
