from dataclasses import replace

import pytest

from even_beam.answers.plan.given_up import given_up_words
from even_beam.answers.plan.view import PlanError, PlanForm, all_protocols, bench_of, plan_of, sheet_rows, time_of
from even_beam.bench.planning.costs import Costs
from even_beam.bench.records import Meter, Source

METERS = [Meter("k", "Spectrometer"), Meter("h", "Plug", kind="power meter", quantities=("power_w",))]
BENCH = bench_of(METERS, Costs())
FORM = PlanForm(("one",), ("dimming sweep", "claims check", "full review"))


def words_for(time: str, form: PlanForm = FORM, unit: str = "m") -> tuple[str, ...]:
    plan = plan_of(replace(form, time=time), all_protocols(), BENCH, {})
    return given_up_words(plan, time_of(time), unit)


@pytest.mark.parametrize(
    ("text", "minutes"),
    [("45 min", 45), ("45", 45), ("1 h 30", 90), ("1:30", 90), ("1.5 h", 90), ("2h", 120), ("1 h 05 min", 65)],
)
def test_times_as_people_write_them(text, minutes):
    assert time_of(text) == 60.0 * minutes


@pytest.mark.parametrize("text", ["soon", "2", "-45", "45 kg", "30 h", "1 h 30 lx"])
def test_what_is_no_time_is_refused(text):
    with pytest.raises(PlanError, match="not a time for a plan"):
        time_of(text)


def test_nothing_is_given_up_where_there_is_time():
    assert words_for("8 h") == ()


def test_each_kind_is_said_once_with_what_is_lost_and_the_last_can_come_back():
    lines = words_for("40 min")
    assert lines[0].startswith("Given up: ")
    assert all(line.count("lost: ") == 1 for line in lines)
    assert any("whites (" in line and "taken from their neighbours" in line for line in lines)
    assert [line.endswith("G takes this back.") for line in lines] == [False] * (len(lines) - 1) + [True]
    assert not any(line.startswith("Even so") for line in lines)


def test_a_time_that_is_too_short_for_the_ends_alone_says_so():
    last = words_for("5 min")[-1]
    assert last.startswith("Even so it takes ")
    assert last.endswith(", not 5 min: leave out a lamp or a question.")


def test_a_mark_is_named_in_the_readers_unit_and_few_values_by_name():
    walk = PlanForm(("one",), ("distance walk",), walk="1 2 3 4 5 6 m")
    lines = words_for("18 min", walk)
    assert lines[0] == "Given up: 5 m, 4 m and 3 m (3 steps, 4 min); lost: the walk stands on fewer marks."


def test_power_is_read_once_a_white_and_level_and_named_as_by_hand():
    form = PlanForm(("one",), ("power", "head to head"), distance="1 2 m", zooms="flood, spot", angles="0 15")
    plan = plan_of(form, all_protocols(), BENCH, {})
    power = [step for step in plan.steps if "power_w" in step.quantities]
    assert len(power) == len({(s.terms.cct_k, s.terms.level_pct) for s in power}) == 6
    assert len({s.terms.distance_m for s in plan.steps}) == 2
    rows = {row.step_id: row for row in sheet_rows(plan, {"one": Source("one", "Heron")}, BENCH, "m")}
    assert all("power by hand, " in rows[step.id].figure for step in power)
    assert not any("by hand" in rows[s.id].figure for s in plan.steps if s not in power)
