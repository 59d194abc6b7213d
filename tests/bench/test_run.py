from dataclasses import fields, replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.bench.planning.costs import seconds_needed
from even_beam.bench.planning.sweep import Sweep, changed_parts, inserted_before, run_sheet
from even_beam.bench.records import Event, EventKind, Meter, Origin, Reading, Value, new_id
from even_beam.bench.run import ReadingState, Standing, fold, live_events, term_from_text, term_to_text

START = datetime(2026, 1, 1, tzinfo=UTC)
METER = Meter("m", "Spectrometer")
SWEEP = Sweep(("tansy", "sorrel"), (5600.0, 3200.0), (25.0, 100.0, 50.0), (2.0,), repeats=2)
SHEET = run_sheet(SWEEP, "s", METER)


class Story:
    """A run told step by step."""

    def __init__(self, steps=SHEET) -> None:
        self.steps, self.readings, self.events = list(steps), [], []

    def event(self, kind: EventKind, **fields) -> Event:
        n = len(self.events) + 1
        event = Event(new_id(), "s", n, START + timedelta(seconds=n), kind, **fields)
        self.events.append(event)
        return event

    def take(self, step=None) -> Reading:
        step = step or self.state.step.step
        reading = Reading(new_id(), "s", START, len(self.events) + 1, step.terms, step.source_ids, step.id)
        self.readings.append(reading)
        self.event(EventKind.TAKEN, reading_id=reading.id, step_id=step.id)
        return reading

    @property
    def state(self):
        return fold(self.steps, self.readings, self.events)


def test_the_sheet_goes_lamp_by_lamp_white_by_white_downwards():
    terms = [(s.source_ids[0], s.terms.cct_k, s.terms.level_pct) for s in SHEET]
    assert terms[:7] == [
        ("tansy", 5600.0, 100.0),
        ("tansy", 5600.0, 50.0),
        ("tansy", 5600.0, 25.0),
        ("tansy", 3200.0, 100.0),
        ("tansy", 3200.0, 50.0),
        ("tansy", 3200.0, 25.0),
        ("tansy", 5600.0, 100.0),
    ]
    assert terms[7][0] == "sorrel"
    assert [s.position for s in SHEET] == sorted(s.position for s in SHEET)


def test_time_is_honest():
    by_hand = replace(METER, kind="light meter")
    assert seconds_needed(SHEET, {"m": by_hand}) > 2 * len(SHEET) * 20
    assert seconds_needed(SHEET, {"m": METER}) < seconds_needed(SHEET, {"m": by_hand})
    moved = [SHEET[0], replace(SHEET[0], terms=replace(SHEET[0].terms, distance_m=3.0))]
    assert seconds_needed(moved, {"m": METER}) > seconds_needed([SHEET[0], SHEET[1]], {"m": METER})


def test_only_what_changes_is_lit():
    assert changed_parts(SHEET[0].terms, SHEET[1].terms) == {"level_pct"}
    assert changed_parts(SHEET[2].terms, SHEET[3].terms) == {"level_pct", "cct_k"}
    assert changed_parts(SHEET[0].terms, SHEET[0].terms) == frozenset()


def test_repeats_then_the_next_step():
    story = Story()
    assert story.state.current == 0
    story.take()
    assert story.state.current == 0
    story.take()
    assert story.state.current == 1
    assert story.state.steps[0].done


def test_taking_back_returns_to_the_step():
    story = Story()
    for _ in range(4):
        story.take()
    assert story.state.current == 2
    last = story.readings[-1]
    story.event(EventKind.TAKEN_BACK, reading_id=last.id)
    assert story.state.current == 1
    assert story.state.reading(last.id).standing is Standing.TAKEN_BACK
    assert len(story.state.counted) == 3


def test_a_doubtful_reading_does_not_count_until_it_is_kept():
    story = Story()
    doubtful = story.take()
    story.event(EventKind.IN_DOUBT, reading_id=doubtful.id, reason="off")
    assert story.state.steps[0].taken == 0
    assert story.state.step.pending_doubt.reading.id == doubtful.id
    story.event(EventKind.KEPT_IN_DOUBT, reading_id=doubtful.id)
    assert story.state.steps[0].taken == 1
    assert story.state.reading(doubtful.id).doubt == "off"


def test_a_retake_supersedes():
    story = Story()
    first = story.take()
    story.event(EventKind.IN_DOUBT, reading_id=first.id, reason="off")
    second = story.take()
    story.event(EventKind.SUPERSEDED, reading_id=first.id, new=second.id)
    assert [r.reading.id for r in story.state.counted] == [second.id]


def test_skip_jump_and_back_to_what_was_left():
    story = Story()
    story.event(EventKind.STEP_SKIPPED, step_id=SHEET[0].id)
    assert story.state.current == 1
    story.event(EventKind.JUMPED, step_id=SHEET[4].id)
    assert story.state.current == 4
    for _ in range(2 * (len(SHEET) - 4)):
        story.take()
    assert story.state.current == 1  # the rest is done: what was jumped over is next
    story.event(EventKind.JUMPED, step_id=SHEET[0].id)
    assert story.state.current == 0  # going to a skipped step takes it in again


def test_one_more_reading_of_a_step_that_was_done():
    story = Story()
    story.take(), story.take()
    story.event(EventKind.REPEAT_ASKED, step_id=SHEET[0].id)
    assert story.state.current == 0
    assert story.state.step.required == 3


def test_an_inserted_step_is_next_and_the_run_goes_on():
    story = Story()
    story.take(), story.take()
    extra = inserted_before(story.steps, story.state.current, replace(SHEET[1].terms, level_pct=33.0), SHEET[1])
    story.steps.append(extra)
    event = story.event(EventKind.STEP_INSERTED, step_id=extra.id)
    assert story.state.step.step.terms.level_pct == 33.0
    story.take()
    assert story.state.step.step.id == SHEET[1].id
    story.event(EventKind.UNDONE, undoes=event.id)
    assert all(s.step.id != extra.id for s in story.state.steps)


def test_terms_corrected_and_undone():
    story = Story()
    reading = story.take()
    event = story.event(EventKind.TERMS_CORRECTED, reading_id=reading.id, field="distance_m", old="2.0", new="3.6576")
    state = story.state.reading(reading.id)
    assert state.reading.terms.distance_m == pytest.approx(3.6576)
    assert state.as_taken.distance_m == 2.0
    story.event(EventKind.UNDONE, undoes=event.id)
    assert story.state.reading(reading.id).reading.terms.distance_m == 2.0


def test_something_moved_marks_from_there_on():
    story = Story()
    readings = [story.take() for _ in range(3)]
    story.event(EventKind.SUSPECT_FROM, reading_id=readings[1].id)
    after = story.take()
    control = story.take()
    everything = (*readings, after, control)
    assert [story.state.reading(r.id).suspect for r in everything] == [False, True, True, True, True]
    agrees = story.event(EventKind.AGREES_AGAIN, reading_id=control.id)
    everything = (*everything, story.take())
    assert [story.state.reading(r.id).suspect for r in everything] == [False, True, True, True, False, False]
    story.event(EventKind.UNDONE, undoes=agrees.id)
    assert story.state.reading(control.id).suspect


@pytest.mark.parametrize(
    ("name", "value"),
    [
        ("level_pct", 33.0),
        ("distance_m", None),
        ("zoom", "spot"),
        ("configuration", ("reflector", "full blue gel")),
        ("configuration", ()),
    ],
)
def test_terms_travel_as_text(name, value):
    assert term_from_text(name, term_to_text(value)) == value


def test_an_undo_may_be_undone():
    story = Story()
    reading = story.take()
    undo = story.event(EventKind.UNDONE, undoes=story.events[0].id)
    assert story.state.reading(reading.id).standing is Standing.TAKEN_BACK
    story.event(EventKind.UNDONE, undoes=undo.id)
    assert story.state.reading(reading.id).standing is Standing.COUNTED


ACTS = st.lists(
    st.sampled_from(["take", "back", "again", "skip", "jump", "doubt", "keep", "undo", "correct"]), max_size=30
)


@given(ACTS, st.randoms(use_true_random=False))
def test_any_history_folds_to_a_state_that_it_explains(acts, random):
    """Whatever happens, no reading is lost, counted ones are taken ones, and the fold does not depend on the order
    given."""
    story = Story()
    for act in acts:
        state = story.state
        target = random.choice(story.readings).id if story.readings else None
        if act == "take" and state.step is not None:
            story.take()
        elif act == "skip" and state.step is not None:
            story.event(EventKind.STEP_SKIPPED, step_id=state.step.step.id)
        elif act == "jump":
            story.event(EventKind.JUMPED, step_id=random.choice(SHEET).id)
        elif act == "again":
            story.event(EventKind.REPEAT_ASKED, step_id=random.choice(SHEET).id)
        elif act == "undo" and story.events:
            story.event(EventKind.UNDONE, undoes=random.choice(story.events).id)
        elif target is not None and act in {"back", "doubt", "keep", "correct"}:
            kind = {
                "back": EventKind.TAKEN_BACK,
                "doubt": EventKind.IN_DOUBT,
                "keep": EventKind.KEPT_IN_DOUBT,
                "correct": EventKind.TERMS_CORRECTED,
            }[act]
            story.event(kind, reading_id=target, reason="why", field="level_pct", new="42.0")
    state = story.state
    assert {s.reading.id for s in state.readings} == {r.id for r in story.readings}
    live = live_events(story.events)
    taken = {e.reading_id for e in live if e.kind is EventKind.TAKEN}
    assert {s.reading.id for s in state.counted} <= taken
    if state.current is not None:
        assert not state.steps[state.current].done
    else:
        assert all(step.done for step in state.steps)
    shuffled = list(story.events)
    random.shuffle(shuffled)
    again = fold(story.steps[::-1], story.readings[::-1], shuffled)
    assert again.current == state.current
    assert {(s.reading.id, s.standing, s.counts) for s in again.readings} == {
        (s.reading.id, s.standing, s.counts) for s in state.readings
    }


@pytest.mark.parametrize("kind", [Reading, ReadingState])
def test_figures_are_all_that_is_new_of_a_reading_with_its_figures(kind):
    """Whatever fields there are: what is written out by hand forgets none of them."""
    reading = Reading(**{f.name: f"a {f.name}" for f in fields(Reading)})  # type: ignore[arg-type]
    values = (Value("illuminance", 820.0, Origin.TYPED),)
    with_figures = replace(reading, values=values)
    if kind is Reading:
        assert reading.with_values(values) == with_figures
        return
    state = ReadingState(**{f.name: reading if f.name == "reading" else f"a {f.name}" for f in fields(ReadingState)})
    assert state.with_values(values) == replace(state, reading=with_figures)
