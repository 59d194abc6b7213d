"""What is asked is planned, or said: every axis crossed by one protocol, and a word where a chosen one reads none."""

from itertools import product

import pytest

from even_beam.answers.plan.view import GRID, PlanForm, all_protocols, bench_of, plan_of, unread_of
from even_beam.bench.planning.costs import Costs
from even_beam.bench.records import Meter

METERS = [Meter("key", "Spectrometer", simulated="spectrometer"), Meter("hand", "Hand", kind="light meter")]
ASKED = PlanForm(
    ("one",),
    (GRID,),
    distance="2 m",
    walk="2, 4 m",
    whites="5600 3200",
    levels="100 50 10",
    configurations="bare; reflector",
    zooms="flood, spot",
)


def test_everything_that_is_asked_is_crossed():
    plan = plan_of(ASKED, all_protocols(), bench_of(METERS, Costs()), {})
    read = {
        (s.terms.cct_k, s.terms.level_pct, s.terms.zoom, s.terms.configuration, s.terms.distance_m) for s in plan.steps
    }
    asked = product((5600.0, 3200.0), (100.0, 50.0, 10.0), ("flood", "spot"), ((), ("reflector",)), (2.0, 4.0))
    assert read == set(asked)
    assert unread_of(ASKED, all_protocols()) == {}


@pytest.mark.parametrize(
    ("protocol", "unread"),
    [
        ("head to head", {"configurations", "walk"}),
        ("modifier matrix", {"levels", "walk"}),
        ("distance walk", {"whites", "levels", "configurations"}),
        ("dimming sweep", {"configurations", "walk"}),
    ],
)
def test_what_the_chosen_protocol_does_not_read_is_said_at_its_field(protocol, unread):
    form = PlanForm(
        ("one",), (protocol,), walk="2, 4 m", whites="5600", levels="100 50", configurations="bare; reflector"
    )
    found = unread_of(form, all_protocols())
    assert set(found) == unread
    assert all(GRID in words for words in found.values())


def test_where_nothing_is_asked_or_chosen_nothing_is_said():
    assert unread_of(PlanForm(("one",), ("head to head",)), all_protocols()) == {}
    assert unread_of(PlanForm(("one",), (), levels="50"), all_protocols()) == {}


def test_tints_and_hues_are_crossed_as_well_and_hues_stand_beside_the_whites():
    form = PlanForm(("one",), (GRID,), whites="5600 3200", tints="-2 0", hues="0 120")
    plan = plan_of(form, all_protocols(), bench_of(METERS, Costs()), {})
    terms = {step.terms for step in plan.steps}
    assert {(t.cct_k, t.tint) for t in terms if t.hue_deg is None} == set(product((5600.0, 3200.0), ("-2", "0")))
    hues = [t for t in terms if t.hue_deg is not None]
    assert {t.hue_deg for t in hues} == {0.0, 120.0}
    assert all((t.mode, t.cct_k, t.saturation_pct) == ("HSI", None, 100.0) for t in hues)
    fixed = plan_of(
        PlanForm(("one",), (GRID,), hues="0", fixed_white=("one",)), all_protocols(), bench_of(METERS, Costs()), {}
    )
    assert all(step.terms.hue_deg is None for step in fixed.steps)
    assert set(unread_of(PlanForm(("one",), ("quick look",), tints="-2", hues="0"), all_protocols())) == {
        "tints",
        "hues",
    }
