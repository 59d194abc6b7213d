"""One source over all sessions: which readings, which events, in what order, and no more than that."""

import os
from datetime import UTC, datetime, timedelta

import pytest

from even_beam.bench.records import Computed, Event, EventKind, Origin, Reading, Session, Source, Terms, Value, new_id
from even_beam.known.split import Split
from even_beam.logbook.read_ahead import read_ahead
from even_beam.logbook.rows import KeptVectors
from even_beam.shell.job import CancelledError

NOW = datetime(2026, 3, 1, 20, tzinfo=UTC)
BARE, FITTED = Terms(cct_k=5600.0, distance_m=2.0), Terms(cct_k=5600.0, distance_m=2.0, configuration=("softbox",))


class Story:
    """Sessions told reading by reading."""

    def __init__(self, logbook) -> None:
        self.logbook = logbook
        logbook.save(*(Source(name, name.capitalize()) for name in ("tansy", "sorrel", "teasel")))

    def session(self, name: str, days: int) -> str:
        one = Session(name, name, NOW + timedelta(days=days))
        self.logbook.save(one)
        return one.id

    def take(self, session: str, sources: tuple[str, ...], lux: float, terms: Terms = BARE) -> str:
        number = self.logbook.next_sequence(session)
        record = Reading(
            f"{session}-{number}",
            session,
            NOW,
            number,
            terms,
            sources,
            values=(Value("illuminance", lux, Origin.TYPED),),
        )
        self.logbook.commit_reading(record, [Event(new_id(), session, number, NOW, EventKind.TAKEN, record.id)])
        return record.id

    def say(self, session: str, kind: EventKind, reading: str | None = None, **more: str) -> str:
        event = Event(new_id(), session, self.logbook.next_sequence(session), NOW, kind, reading, **more)
        self.logbook.add_events(event)
        return event.id


@pytest.fixture
def story(logbook):
    return Story(logbook)


def test_a_source_is_found_in_all_its_sessions_in_order(story, logbook):
    late, early = story.session("b", 2), story.session("a", 1)
    story.take(late, ("tansy",), 10.0)
    story.take(early, ("sorrel",), 20.0)
    story.take(early, ("tansy",), 30.0)
    story.take(early, ("tansy", "sorrel"), 40.0)
    found = logbook.history_of("tansy")
    assert [r.id for r in found.readings] == ["a-2", "b-1"]
    assert all(r.values == () for r in found.readings)  # figures are left where they are
    assert found.events == []  # that a reading was taken goes without saying
    assert logbook.history_of("teasel").readings == []


def test_what_speaks_of_others_comes_with_it(story, logbook):
    one = story.session("a", 1)
    other = story.take(one, ("sorrel",), 20.0)
    own = story.take(one, ("tansy",), 30.0)
    room = story.take(one, (), 0.4, Terms(mode="off", distance_m=2.0))
    story.say(one, EventKind.SUSPECT_FROM, other)
    unnamed = story.take(one, (), 50.0)
    story.say(one, EventKind.SOURCE_NAMED, unnamed, new="tansy")
    found = logbook.history_of("tansy")
    assert [r.id for r in found.readings] == [other, own, room, unnamed]
    assert {e.kind for e in found.events} == {EventKind.SUSPECT_FROM, EventKind.SOURCE_NAMED}


def test_a_reading_of_its_own_that_speaks_of_others_comes_once(story, logbook):
    one = story.session("a", 1)
    own = story.take(one, ("tansy",), 30.0)
    story.say(one, EventKind.SUSPECT_FROM, own)
    for figures in (False, True):
        assert [r.id for r in logbook.history_of("tansy", figures=figures).readings] == [own]


def test_work_goes_on_where_it_was_left(story, logbook):
    """An older session that was taken up again stays at hand after a crash; old tables that came in since do not
    count."""
    assert logbook.last_worked_in() is None
    older, newer = story.session("a", -2), story.session("b", -1)
    assert logbook.last_worked_in().id == newer
    story.take(newer, ("tansy",), 10.0)
    story.take(older, ("tansy",), 20.0)
    assert logbook.last_worked_in().id == older
    logbook.save(Session("c", "later", NOW + timedelta(days=1)))
    assert logbook.last_worked_in().id == "c"


def test_a_source_that_was_only_named_later_is_found(story, logbook):
    one = story.session("a", 1)
    unnamed = story.take(one, (), 50.0)
    story.say(one, EventKind.SOURCE_NAMED, unnamed, new="teasel")
    assert [r.id for r in logbook.history_of("teasel").readings] == [unnamed]
    assert logbook.reading_counts(Split.LAMPS)["teasel", ""] == 0


def test_a_reading_that_was_taken_back_by_undo_keeps_both_events(story, logbook):
    one = story.session("a", 1)
    number = logbook.next_sequence(one)
    record = Reading("r", one, NOW, number, BARE, ("tansy",))
    taken = Event("taken", one, number, NOW, EventKind.TAKEN, "r")
    logbook.commit_reading(record, [taken])
    story.say(one, EventKind.UNDONE, undoes="taken")
    assert {e.kind for e in logbook.history_of("tansy").events} == {EventKind.TAKEN, EventKind.UNDONE}


def test_counts_by_lamp_by_what_sits_on_it_and_by_session(story, logbook):
    first, second = story.session("a", 1), story.session("b", 2)
    for session, terms in ((first, BARE), (first, FITTED), (second, FITTED)):
        story.take(session, ("tansy",), 10.0, terms)
    story.take(second, ("tansy", "sorrel"), 10.0)
    assert logbook.reading_counts(Split.LAMPS) == {("tansy", ""): 3}
    assert logbook.reading_counts(Split.CONFIGURATIONS) == {("tansy", "bare"): 1, ("tansy", "softbox"): 2}
    assert logbook.reading_counts(Split.SESSIONS) == {("tansy", "a"): 2, ("tansy", "b"): 1}
    assert logbook.sessions_reading() == {"tansy": {"a": 2, "b": 2}, "sorrel": {"b": 1}}  # alone or together


def test_some_readings_and_whole_sessions(story, logbook):
    first, second = story.session("a", 1), story.session("b", 2)
    ids = [story.take(session, ("tansy",), 10.0) for session in (first, first, second)]
    aside = story.say(first, EventKind.SET_ASIDE, ids[0], reason="aim")
    found = logbook.history_of_readings([ids[0]])
    assert [r.id for r in found.readings] == [ids[0]]
    assert [e.id for e in found.events] == [aside]
    assert [r.id for r in logbook.history_of_sessions([first, second]).readings] == ids
    assert logbook.history_of_readings([]).readings == []


def test_figures_come_by_the_hundred(story, logbook):
    one = story.session("a", 1)
    ids = [story.take(one, ("tansy",), float(i)) for i in range(3)]
    logbook.save_computed([Computed(ids[0], 1, {"cct": 5600.0}, {"R": (1.0, 2.0)})])
    many = [*ids, *(f"none {i}" for i in range(1200))]
    found = logbook.figures(many)
    assert len(found) == len(many)
    assert found[ids[2]].values[0].value == 2.0 and found[ids[2]].computed is None
    assert found[ids[0]].computed.scalars == {"cct": 5600.0}
    assert found["none 7"] == ((), None)


def test_vectors_stay_text_until_they_are_asked_for():
    kept = KeptVectors('{"R": [90.5, null], "Rf_h": [1.0]}')
    assert dict(kept)["Rf_h"] == (1.0,) and len(kept) == 2 and list(kept) == ["R", "Rf_h"]
    assert kept["R"][0] == 90.5 and kept["R"][1] != kept["R"][1]  # not a number
    assert kept.get("Rcs_h", ()) == ()
    assert len(KeptVectors(None)) == 0


def test_reading_ahead_can_be_left(tmp_path):
    path = tmp_path / "large"
    path.write_bytes(bytes(9 * 2**20))
    pieces = []
    file = os.open(path, os.O_RDONLY)
    read_ahead(file, lambda: pieces.append(1))
    assert len(pieces) == 2

    def leave() -> None:
        raise CancelledError

    with pytest.raises(CancelledError):
        read_ahead(file, leave)
    os.close(file)


def test_figures_of_an_older_method_are_found_a_few_at_a_time(story, logbook):
    from even_beam.bench.records import Spectrum
    from even_beam.collection.evaluation import BATCH, renewed_batch
    from even_beam.light import METHOD_VERSION, WAVELENGTH_NM, planckian

    one = story.session("a", 1)
    taken, events = [], []
    for number in range(1, BATCH + 11):
        record = Reading(f"r{number}", one, NOW, number, BARE, ("tansy",))
        taken.append((record, Spectrum(WAVELENGTH_NM, planckian(2500.0 + number))))
        events.append(Event(new_id(), one, number, NOW, EventKind.TAKEN, record.id))
    logbook.commit_readings(taken, events)
    logbook.save_computed([Computed("r1", METHOD_VERSION - 1), Computed("r2", METHOD_VERSION + 1)])
    assert len(logbook.out_of_date(METHOD_VERSION)) == BATCH + 10
    assert len(logbook.out_of_date(METHOD_VERSION, 3)) == 3
    first = renewed_batch(logbook.path)
    assert len(first) == BATCH
    logbook.save_computed(first)
    logbook.save_computed(renewed_batch(logbook.path))
    assert renewed_batch(logbook.path) == []
    assert logbook.computed(one)["r2"].scalars["cct"] == pytest.approx(2502.0, rel=1e-4)


def test_a_history_is_narrowed_to_some_sessions(story, logbook):
    for number, name in enumerate("abc"):
        session = story.session(name, number)
        story.take(session, ("tansy",), 10.0)
        story.say(session, EventKind.SUSPECT_FROM, story.take(session, ("sorrel",), 20.0))
    assert [r.id for r in logbook.history_of("tansy", {"b"}).readings] == ["b-1", "b-2"]
    assert {e.session_id for e in logbook.history_of("tansy", {"b"}).events} == {"b"}
    assert logbook.history_of("tansy", ()).readings == []


def test_more_readings_are_asked_for_than_a_statement_takes_parameters(story, logbook):
    one = story.take(story.session("a", 1), ("tansy",), 10.0)
    asked = [f"nobody-{number}" for number in range(40_000)]  # SQLite takes 32 766 (its documentation, "Limits")
    found = logbook.figures([*asked, one])
    assert found[one].values[0].value == 10.0
    assert logbook.spectra([*asked, one]) == {}
    assert [r.id for r in logbook.history_of_readings([*asked, one]).readings] == [one]
