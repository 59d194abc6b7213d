"""On and off: a reading without it and one with it, what it did, and that it comes off again."""

import pytest

from even_beam.answers.match.stock import stock_of
from even_beam.bench.records import GEL, EventKind, Modifier
from even_beam.collection.collection import Collection
from even_beam.desk.session.desk import SessionDesk
from tests.desk.session.test_desk import with_run


def say(desk, text):
    return desk.confirm(desk.propose(text), keep_in_doubt=True)


def test_what_was_read_without_it_serves_and_then_it_goes_on(desk):
    say(desk, "1000 lx 5600 K duv 0.003")
    assert desk.with_and_without.begin("half CTO") == "Next: with half CTO."
    assert desk.free_terms.configuration == ("half CTO",)
    taken = say(desk, "700 lx 3480 K duv 0.001")
    assert "Half CTO gives 0.70× bare, +108.8 mired, Duv −0.0020." in taken.look.text
    assert "comes off again; Match takes it as it was read here" in taken.look.text
    assert desk.free_terms.configuration == ()
    assert say(desk, "1001 lx").measured.terms.configuration == ()
    assert [m for m in desk.logbook.all(Modifier) if m.kind == GEL and m.nickname == "half CTO"]
    stock = stock_of(Collection(desk.logbook), "", desk.counted)
    assert stock.names == ("half CTO",) and stock.unsure == (0.5,)


def test_without_it_first_where_the_lamp_was_not_read(desk):
    assert desk.with_and_without.begin("softbox") == "Next: without softbox."
    assert "Next: with softbox." in say(desk, "1000 lx").look.text
    taken = say(desk, "400 lx")
    assert taken.measured.terms.configuration == ("softbox",) and "softbox comes off again." in taken.look.text
    assert not desk.logbook.all(Modifier), "what colours no light is no gel"


def test_beginning_with_it_on_the_lamp(desk):
    """It was on already: what is missing is the reading without."""
    say(desk, "700 lx half CTO")
    assert desk.with_and_without.begin("Half  cto") == "Next: without half CTO." or desk.modifiers == ()
    taken = say(desk, "1000 lx")
    assert taken.measured.terms.configuration == ()
    assert "comes off again" in taken.look.text


def test_a_doubt_waits_and_another_lamp_is_another_matter(desk):
    say(desk, "1000 lx 5600 K")
    desk.with_and_without.begin("half CTO")
    desk.turn_to("other")
    say(desk, "300 lx")
    assert desk.free_terms.configuration == (), "the other lamp wears nothing for it"
    desk.turn_to("lamp")
    assert "comes off again" not in say(desk, "1002 lx no gel").look.text


def test_in_a_run_it_is_two_steps(desk):
    with_run(desk)
    here = desk.next_terms
    assert desk.with_and_without.begin("half CTO") == "without half CTO, then with it: put in right here."
    first, second = (state.step.terms.configuration for state in desk.state.steps if state.step.id in _inserted(desk))
    assert (first, second) == (here.configuration, (*here.configuration, "half CTO"))
    assert desk.next_terms.configuration == here.configuration


def _inserted(desk):
    return {event.step_id for event in desk.state.live_events if event.kind is EventKind.STEP_INSERTED}


@pytest.mark.parametrize("figures", ["700 lx 3480 K", "700 lx"])
def test_a_killed_process_loses_no_reading_of_it(desk, logbook, clock, figures):
    say(desk, "1000 lx 5600 K")
    desk.with_and_without.begin("half CTO")
    say(desk, figures)
    again = SessionDesk(logbook, desk.session, clock)
    assert [m.terms.configuration for m in again.counted] == [(), ("half CTO",)]
