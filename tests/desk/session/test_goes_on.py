"""Just reading goes on where it was left, when a session is opened again."""

from dataclasses import replace

from even_beam.bench.records import Session, new_id
from even_beam.desk.session.desk import Aside, SessionDesk


def test_the_lamp_and_the_terms_of_the_last_reading_stand_there_again(desk, logbook, clock):
    desk.confirm(desk.propose("820 50 %"))
    left = desk.free_terms
    again = SessionDesk(logbook, desk.session, clock)
    assert again.free_terms == left and again.free_terms.level_pct == 50.0
    assert again.next_sources == ("lamp",)


def test_what_was_read_aside_is_no_light_to_go_on_with(desk, logbook, clock):
    desk.confirm(desk.propose("820"))
    left = desk.free_terms
    desk.read_aside(Aside.ROOM)
    desk.confirm(desk.propose("3 lx"))
    again = SessionDesk(logbook, desk.session, clock)
    assert (again.free_terms, again.free_source) == (left, "lamp")


def test_another_session_begins_with_nothing_said(desk, logbook, clock):
    desk.confirm(desk.propose("820"))
    other = Session(new_id(), "Another", clock())
    logbook.save(other)
    again = SessionDesk(logbook, other, clock)
    assert again.free_source is None and again.free_terms == replace(again.free_terms, cct_k=None, level_pct=None)
