"""What Compare answers: sensible when nothing is asked, true to what is asked, and anew after forgetting."""

import pytest

from even_beam.bench.choice import JOINED
from even_beam.bench.comparison import Evenness
from even_beam.logbook.store import Logbook
from even_beam.workspace.compare.answer import WHOLE, Answers, Question
from even_beam.workspace.compare.charts import View
from even_beam.workspace.session.desk import SessionDesk

SPECIMEN = "Specimen table: Tansy or tungsten?"


@pytest.fixture
def answers(demo):
    return Answers(demo)


def session_id(answers, name):
    return next(i for i, n in answers.ask(Question()).sessions if n == name)


def test_unasked_it_picks_what_can_be_compared(answers):
    shown = answers.ask(Question())
    assert len(shown.chosen) > 1 and shown.reference == shown.chosen[0]
    assert shown.comparison is not None and shown.charts and shown.rows
    at_work = session_id(answers, SPECIMEN)
    assert answers.ask(Question(at_work=at_work)).session == SPECIMEN


def test_what_is_not_offered_falls_back(answers):
    shown = answers.ask(Question(session_id="gone", purpose="none", reference="gone"))
    assert shown.purpose == shown.purposes[0] and shown.reference == shown.chosen[0]


def test_terms_that_nobody_was_read_at_are_said_and_the_chips_offer_those_that_were(answers):
    at_work = session_id(answers, SPECIMEN)
    nowhere = answers.ask(Question(session_id=at_work, asked=(("cct", 9999.0),)))
    assert "nothing read at these terms" in " ".join(chip.text for chip in nowhere.chips)
    shown = answers.ask(Question(session_id=at_work))
    chips = {chip.field: chip for chip in shown.chips if chip.field}
    assert {option.words for option in chips["level"].options} >= {"100 %", "50 %"}
    assert all(len(chip.options) > 1 or chip.evenness is not Evenness.SAME for chip in chips.values())
    half = answers.ask(Question(session_id=at_work, asked=(("level", 50.0),)))
    assert {m.terms.level_pct for e in half.comparison.entries for m in e.readings} == {50.0}
    tansy = shown.chosen[0]
    own = answers.ask(Question(session_id=at_work, own=((tansy, "level", 50.0),)))
    assert [e.readings[0].terms.level_pct for e in own.comparison.entries[:2]] == [50.0, 100.0]
    assert "level: Tansy 50 %" in " ".join(chip.text for chip in own.chips)


def test_sessions_are_joined_from_their_chip(answers):
    shown = answers.ask(Question(session_id=WHOLE))
    chip = next(chip for chip in shown.chips if chip.field == "session")
    assert (chip.options[-1].value, chip.options[-1].words) == (JOINED, "all of them, joined")
    joined = answers.ask(Question(session_id=WHOLE, asked=(("session", JOINED),)))
    many = [e for e in joined.comparison.entries if len({m.reading.session_id for m in e.readings}) > 1]
    assert many and all(e.joined.startswith("the mean of ") for e in many)
    told = " ".join(chip.text for chip in joined.chips if chip.field == "session")
    assert f"{many[0].name}: {many[0].joined}" in told


def test_no_lamp_chosen(answers):
    shown = answers.ask(Question(session_id=WHOLE, chosen=()))
    assert shown.comparison is None and shown.lamps and not shown.rows


@pytest.mark.parametrize("view", list(View))
def test_a_view_says_the_same_of_a_session_and_of_the_whole_logbook_narrowed_to_its_lamps(answers, view):
    whole = answers.ask(Question(session_id=WHOLE, view=view))
    assert whole.session == "the whole logbook"
    assert len(whole.comparison.entries) == len(whole.chosen) <= 5
    assert whole.rows or whole.sentences
    for chart in whole.charts:
        assert chart.summary


def test_it_is_read_anew_when_told(answers, demo, clock):
    question = Question(session_id=session_id(answers, SPECIMEN))
    before = answers.ask(question)
    logbook = Logbook.open(demo)
    session = next(s for s in logbook.sessions() if s.name == SPECIMEN)
    desk = SessionDesk(logbook, session, clock)
    behind = before.readings_of(before.chosen[1])
    for reading_id in behind:
        desk.set_aside(reading_id, "aim was off")
    assert answers.ask(question).readings_of(before.chosen[1]) == behind
    answers.forget()
    assert not set(answers.ask(question).readings_of(before.chosen[1])) & set(behind)
    logbook.close()
