"""What Compare answers: sensible when nothing is asked, true to what is asked, and anew after forgetting."""

from dataclasses import replace

import pytest

from even_beam.answers.compare.answer import WHOLE, Answers, Question, reference_of
from even_beam.answers.compare.chips import CHOICES
from even_beam.answers.compare.questions import Ask
from even_beam.collection.collection import Lamp
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.lamp_form import LampForm, form_of
from even_beam.desk.session.desk import SessionDesk
from even_beam.known.choice import JOINED
from even_beam.known.comparison import Evenness
from even_beam.known.split import Split
from even_beam.logbook.store import Logbook

SPECIMEN = "Specimen table: Tansy or tungsten?"


@pytest.fixture
def answers(demo):
    return Answers(demo)


def session_id(answers, name):
    return next(i for i, n in answers.ask(Question()).sessions if n == name)


def test_unasked_it_picks_what_can_be_compared(answers):
    shown = answers.ask(Question())
    assert len(shown.chosen) > 1 and shown.reference == shown.chosen[0]
    assert shown.comparison is not None and shown.pictures and shown.sheet.rows and shown.lines
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
    chips = {chip.field: chip for chip in shown.chips if chip.field and chip.field not in CHOICES}
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
    assert shown.comparison is None and shown.lamps and not shown.sheet.rows and set(shown.missing) == set(Ask)


@pytest.mark.parametrize("ask", list(Ask))
def test_every_question_is_answered_or_says_what_is_missing(answers, ask):
    whole = answers.ask(Question(session_id=WHOLE, ask=ask))
    assert whole.session == "the whole logbook"
    assert len(whole.comparison.entries) == len(whole.chosen) <= 5
    assert bool(whole.lines) != (ask in whole.missing)
    assert len(whole.lines) <= 3
    assert whole.sheet.rows
    assert whole.published
    for picture in whole.pictures:
        assert picture.chart.summary


def test_lamps_keep_their_number_for_good(answers, demo, clock):
    before = answers.ask(Question(session_id=WHOLE)).numbers
    logbook = Logbook.open(demo)
    kit = KitDesk(logbook)
    kit.add_lamp(LampForm("Agrimony"))
    card = next(c for c in kit.lamps() if c.source.nickname == "Tansy")
    kit.edit_lamp(card, replace(form_of(card), nickname="Zinnia"))
    logbook.close()
    answers.forget()
    after = answers.ask(Question(session_id=WHOLE)).numbers
    assert {key: after[key] for key in before} == before
    narrowed = answers.ask(Question(session_id=session_id(answers, SPECIMEN))).numbers
    assert all(before[key] == number for key, number in narrowed.items())
    parts = answers.ask(Question(session_id=WHOLE, split=Split.CONFIGURATIONS)).numbers
    assert len(set(parts.values())) == len(parts), "no two things have one number"


def test_what_is_chosen_beside_terms_stands_on_the_strip(answers):
    enough = answers.ask(Question(session_id=WHOLE, ask=Ask.ENOUGH))
    assert [chip.field for chip in enough.chips[:3]] == ["purpose", "session_id", "split"]
    assert {option.value for option in enough.chips[0].options} == set(enough.purposes)
    colours = answers.ask(Question(session_id=WHOLE, ask=Ask.COLOURS))
    assert {"scaling", "against", "seen"} <= {chip.field for chip in colours.chips}


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


def test_a_flash_is_no_reference_for_lamps_read_in_lux():
    flash, sun, panel = (Lamp(kind, kind, kind) for kind in ("flash", "sun", "panel"))
    assert reference_of([panel, flash, sun]) == sun.key
    assert reference_of([flash, panel]) == flash.key, "else the first"
    assert reference_of([panel, flash]) == panel.key
