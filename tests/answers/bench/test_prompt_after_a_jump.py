"""The prompt lights what stands otherwise than it was last set, also after a jump; the end names what held."""

from datetime import UTC, datetime

import pytest

from even_beam.answers.bench import moved
from even_beam.answers.bench.view import held_words, prompt
from even_beam.bench.records import Meter, Session, Source, Step, Terms
from even_beam.desk.session.desk import SessionDesk
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings

HAND = Meter("hand", "Hand meter", kind="light meter", quantities=("illuminance",))


@pytest.fixture
def run(tmp_path):
    clock = iter(datetime(2026, 11, 19, 18, minute, tzinfo=UTC) for minute in range(60))
    book = Logbook.create(tmp_path / "e.evenbeam")
    session = Session("s", "Run", datetime(2026, 11, 19, 18, tzinfo=UTC))
    settings = [("one", 5600.0, 100.0), ("one", 5600.0, 50.0), ("one", 3200.0, 50.0), ("two", 3200.0, 50.0)]
    steps = [
        Step(f"step-{i}", "s", i + 1.0, (lamp,), Terms(cct_k=w, level_pct=p, distance_m=2.0), ("illuminance",), "hand")
        for i, (lamp, w, p) in enumerate(settings)
    ]
    book.save(HAND, Source("one", "Tansy"), Source("two", "Sorrel"), session, *steps)
    yield SessionDesk(book, session, lambda: next(clock))
    book.close()


def lit(desk: SessionDesk) -> set[str]:
    shown = prompt(desk, Settings())
    return {part.text for part in (*shown.above, *shown.parts) if part.changes}


def test_after_a_jump_the_prompt_lights_what_differs_from_what_stands_there(run):
    run.confirm(run.propose("800"))
    assert lit(run) == {"50 %"}
    run.go_to("step-2")
    assert lit(run) == {"3200 K", "50 %"}, "not what differs from the step before on the sheet"
    run.go_to("step-3")
    assert "Sorrel" in lit(run)
    run.go_to("step-0")  # read already, and standing as it was
    assert lit(run) == set()


def test_the_end_names_each_lamp_and_what_is_suspect_still(run):
    for level in ("800", "400", "390", "300"):
        run.confirm(run.propose(level), keep_in_doubt=True)
    run.go_to("step-0")
    run.confirm(run.propose("805"), keep_in_doubt=True)
    words = held_words(run)
    assert "Tansy held (+0.01 stop)" in words and "Sorrel not repeated" in words
    since = run.may_have_moved()[0]
    title, told = moved.mark(run, moved.choices(run, Settings())[0], Settings())
    assert since.state.suspect is False and run.of(since.reading.id).state.suspect
    assert "suspect still" in held_words(run)
    assert "suspect" in title and "tells" in told


def test_what_moved_is_asked_and_taken_back_where_a_repeat_tells_that_nothing_did(run):
    for level in ("800", "400", "390", "300"):
        run.confirm(run.propose(level), keep_in_doubt=True)
    asked = moved.choices(run, Settings())
    assert [choice.reading_id for choice in asked] == [m.reading.id for m in run.counted[1:]]
    assert all(" of " in choice.words for choice in asked)
    _, told = moved.mark(run, asked[1], Settings())
    assert [m.state.suspect for m in run.counted] == [False, False, True, True]
    assert " tells: Set it right" in told
    last = moved.choices(run, Settings())[-1]
    assert (last.reading_id, last.words) == (None, "Nothing had moved: 2 suspect readings trusted again")
    assert moved.mark(run, last, Settings())[0] == "Nothing had moved"
    assert not any(m.state.suspect for m in run.counted)
    assert run.redo() is not None and any(m.state.suspect for m in run.counted)
