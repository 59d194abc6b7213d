"""What is given up where time is short, against all ways of giving up that brute force can think of."""

import itertools
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.bench.planning.costs import Costs
from even_beam.bench.planning.protocols import shipped
from even_beam.bench.planning.run_sheet import Bench, LampPlan, make_plan
from even_beam.bench.planning.shortening import CHECK, CONTROL, REPEAT, shortened
from even_beam.bench.records import Meter

KEY, HAND = Meter("k", "Spectrometer"), Meter("h", "Light meter", kind="light meter", quantities=("illuminance",))
BENCH = Bench(KEY, HAND)
SHIPPED = {protocol.name: protocol for protocol in shipped()}
NAMES = ("quick look", "head to head", "dimming sweep", "distance walk", "CCT sweep", "claims check", "beam section")


def plan(*names: str, lamps: tuple[str, ...] = ("tansy",), bench: Bench = BENCH):
    protocols = [SHIPPED[name] for name in names]
    return make_plan([LampPlan(lamp) for lamp in lamps], protocols, bench)


@given(st.sets(st.sampled_from(NAMES), min_size=1, max_size=4), st.integers(1, 3), st.floats(0.3, 1.1))
def test_it_fits_or_says_that_it_does_not_and_keeps_the_ends(names, lamps, share):
    made = plan(*sorted(names), lamps=tuple("abc"[:lamps]))
    short = shortened(made, share * made.seconds, BENCH)
    assert short.seconds == pytest.approx(BENCH.seconds(short.steps))
    assert short.seconds <= made.seconds
    if made.seconds <= share * made.seconds:
        assert (short.steps, short.given_up) == (made.steps, ())
    assert {s.source_ids for s in short.steps} == {s.source_ids for s in made.steps}
    for axis in ("distance_m", "level_pct", "cct_k", "angle_deg"):
        before, after = ([v for s in p.steps if (v := getattr(s.terms, axis)) is not None] for p in (made, short))
        assert (min(before, default=0), max(before, default=0)) == (min(after, default=0), max(after, default=0))
    kinds = {one.kind for one in short.given_up}
    assert short.seconds <= share * made.seconds or {REPEAT, CONTROL} & kinds or made.seconds < 60.0
    assert {s.terms for s in short.steps} <= {s.terms for s in made.steps}
    assert [s.position for s in short.steps] == [float(i + 1) for i in range(len(short.steps))]


def test_the_dearest_control_goes_before_anything_that_is_asked():
    """The control of a matrix costs a modifier and back: four minutes for one reading."""
    lamp = LampPlan("tansy", configurations=((), ("reflector",)))
    made = make_plan([lamp], [SHIPPED["modifier matrix"], SHIPPED["dimming sweep"]], BENCH)
    short = shortened(made, made.seconds - 60.0, BENCH)
    assert [one.kind for one in short.given_up] == [CONTROL]
    assert len(short.steps) == len(made.steps) - 1
    assert short.given_up[0].seconds == pytest.approx(made.seconds - short.seconds) == 180.0 + 2.0 + 6.0 + 60.0 - 60.0


def test_a_cheap_control_stays_longer_than_levels_that_their_neighbours_tell():
    made = plan("dimming sweep")
    short = shortened(made, made.seconds - 10.0, BENCH)
    (gone, *_) = short.given_up
    assert (gone.kind, gone.value) == ("level_pct", 75.0), "between 100 and 50 % it tells least: a stop in seven"
    assert short.steps[-1].terms == short.steps[0].terms


def test_every_second_white_goes_at_once_and_none_beside_another():
    made = plan("full review")
    short = shortened(made, 0.75 * made.seconds, BENCH)
    whites = sorted({s.terms.cct_k for s in made.steps})
    gone = [whites.index(one.value) for one in short.given_up if one.kind == "cct_k"]
    assert len(gone) > 20
    assert not {place + 1 for place in gone} & {*gone}


def test_a_white_stays_where_something_is_read_at_it_alone():
    """5600 and 3200 K carry the dimming sweep: between them nothing is read at 50 %."""
    made = plan("full review", "dimming sweep")
    short = shortened(made, 0.5 * made.seconds, BENCH)
    assert {5600.0, 3200.0} <= {s.terms.cct_k for s in short.steps}
    assert len({s.terms.cct_k for s in short.steps}) < len({s.terms.cct_k for s in made.steps})


def test_what_is_kept_is_not_given_up():
    made = plan("claims check", "dimming sweep", "distance walk")
    first = shortened(made, 0.6 * made.seconds, BENCH)
    kind = first.given_up[-1].kind
    again = shortened(made, 0.6 * made.seconds, BENCH, {kind})
    assert kind not in {one.kind for one in again.given_up}
    assert {s.terms for s in again.steps} != {s.terms for s in first.steps} or again.steps != first.steps


def test_controls_in_between_go_as_one():
    made = plan("full review")
    kept = {"cct_k", "level_pct", CONTROL, REPEAT}
    short = shortened(made, 0.5 * made.seconds, BENCH, kept)
    assert [one.kind for one in short.given_up] == [CHECK]
    assert sum(s.terms == made.steps[0].terms for s in short.steps) == 2


COSTS = ("knob_s", "zoom_s", "aim_s", "modifier_s")


@given(st.permutations([2.0, 10.0, 30.0, 240.0]))
def test_no_order_of_a_grid_takes_less_time_than_ours(seconds):
    """Own costs decide the order: against every order in which the axes of a grid can be nested."""
    bench = replace(BENCH, costs=Costs(warm_up_s=0.0, **dict(zip(COSTS, seconds, strict=True))))
    two = {"levels_pct": (100.0, 50.0), "zooms": ("flood", "spot"), "angles_deg": (0.0, 15.0)}
    grid = replace(SHIPPED["grid"], **two)  # sixteen steps: no control in between
    lamp = LampPlan("tansy", configurations=((), ("reflector",)))
    (*steps, _control) = make_plan([lamp], [grid], bench).steps
    fields = ("level_pct", "zoom", "angle_deg", "configuration")
    brute = min(
        bench.seconds(sorted(steps, key=lambda s: [str(getattr(s.terms, f)) for f in order]))
        for order in itertools.permutations(fields)
    )
    assert bench.seconds(steps) == pytest.approx(brute)


def test_what_another_meter_reads_at_the_same_terms_is_no_control():
    """Power stands beside the first reading, at its terms: it is asked for, and no repeat of anything."""
    made = plan("power", "head to head", "CCT sweep")
    for share in (0.9, 0.7, 0.4):
        short = shortened(made, share * made.seconds, BENCH)
        assert sum("power_w" in s.quantities for s in short.steps) == 6, short.given_up
        assert sum(one.steps for one in short.given_up if one.kind == CONTROL) <= 1
