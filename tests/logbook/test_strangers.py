"""Logbooks that no program of ours made: nothing in them is run, nothing is guessed, one bad session takes no other."""

import sqlite3
from contextlib import closing

import pytest

from even_beam.bench.records import Event, Meter, Reading, Session, Source, Step, new_id
from even_beam.collection.collection import Collection
from even_beam.desk.session.document import Document
from even_beam.logbook import LogbookError
from even_beam.logbook.integrity import check
from even_beam.logbook.notices import LISTENERS
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings
from tests.logbook.killed import BEGAN, an_evening, levels_in, take

ENDLESS = "WITH RECURSIVE n(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n) SELECT x FROM n"

STRANGE = {
    "a trigger that doubles": "CREATE TRIGGER t AFTER INSERT ON value BEGIN UPDATE value SET value = 2 * value; END",
    "a trigger that deletes": "CREATE TRIGGER t AFTER INSERT ON event BEGIN DELETE FROM value; END",
    "a view that never ends": f"ALTER TABLE session RENAME TO s2; CREATE VIEW session AS {ENDLESS}",
    "a view beside": f"CREATE VIEW more AS {ENDLESS}",
    "a generated column": "ALTER TABLE value ADD COLUMN twice FLOAT GENERATED ALWAYS AS (value * 2)",
    "a column more": "ALTER TABLE session ADD COLUMN mood VARCHAR",
    "a table more": "CREATE TABLE other (x)",
    "a table fewer": "DROP TABLE look",
    "an index that runs something": "CREATE INDEX i ON value (abs(value))",
    "a virtual table": "CREATE VIRTUAL TABLE v USING fts5(x)",
    "a check": "CREATE TABLE x (a CHECK (a > 0))",
}


@pytest.mark.parametrize("statements", STRANGE.values(), ids=STRANGE)
def test_a_file_with_other_tables_is_refused_at_every_door(tmp_path, statements):
    path = an_evening(tmp_path / "book.evenbeam", "own", [800])
    with closing(sqlite3.connect(path)) as base:
        base.executescript(statements)
    before = path.read_bytes()
    for door in (Logbook.open, Logbook.open_to_read):
        with pytest.raises(LogbookError, match=r"no logbook has|more than hold rows|than a logbook has|no table"):
            door(path)
    assert not check(path).sound
    assert path.read_bytes() == before


def test_an_older_format_with_a_trigger_is_refused_too(tmp_path):
    from tests.logbook.older_formats import closed

    path = closed(5, tmp_path / "book.evenbeam")
    with closing(sqlite3.connect(path)) as base:
        base.execute("CREATE TRIGGER t AFTER INSERT ON value BEGIN DELETE FROM value; END")
        base.commit()
    with pytest.raises(LogbookError, match="trigger"):
        Logbook.open(path)


@pytest.fixture
def two(tmp_path):
    """A logbook with a bad and a good evening."""
    path = an_evening(tmp_path / "book.evenbeam", "good", [800, 810])
    book = Logbook.open(path)
    book.save(Session("s-bad", "bad", BEGAN), Step("step", "s-bad", 1.0, (), _terms()), Meter("m", "Hand meter"))
    take(book, "s-bad", 5)
    correction = Event(
        new_id(), "s-bad", 2, BEGAN, _kind("terms corrected"), _reading_of(book), None, "cct_k", "", "3200"
    )
    book.add_events(correction)
    book.close()
    return path


def _terms():
    from even_beam.bench.records import Terms

    return Terms()


def _kind(word: str):
    from even_beam.bench.records import EventKind

    return EventKind(word)


def _reading_of(book: Logbook) -> str:
    return book.readings("s-bad")[0].id


IN_A_SESSION = {
    "a level that is a text": "UPDATE reading SET level_pct = 'full' WHERE session_id = 's-bad'",
    "a number for a configuration": "UPDATE reading SET configuration = '[5]' WHERE session_id = 's-bad'",
    "a configuration cut off": "UPDATE reading SET configuration = '[\"dish\"' WHERE session_id = 's-bad'",
    "an infinite distance": "UPDATE reading SET distance_m = 9e999 WHERE session_id = 's-bad'",
    "a date that is none": "UPDATE reading SET at = '2026-99-99' WHERE session_id = 's-bad'",
    "a date without a zone": "UPDATE event SET at = '2026-01-01T10:00:00' WHERE session_id = 's-bad'",
    "an event of a kind that is none": "UPDATE event SET kind = 'exploded' WHERE session_id = 's-bad' AND sequence = 2",
    "a correction of no field": "UPDATE event SET field = 'mood' WHERE session_id = 's-bad' AND sequence = 2",
    "a correction to no number": "UPDATE event SET new = 'warm' WHERE session_id = 's-bad' AND sequence = 2",
    "a correction to infinity": "UPDATE event SET new = 'inf' WHERE session_id = 's-bad' AND sequence = 2",
    "bytes for a name": "UPDATE session SET name = x'ff' WHERE id = 's-bad'",
    "a number for a note": "UPDATE reading SET note = x'00ff' WHERE session_id = 's-bad'",
    "half a spectrum": (
        "INSERT INTO spectrum SELECT id, 380, 5, NULL, x'0102', 1 FROM reading WHERE session_id = 's-bad'"
    ),
    "a spectrum without end": (
        "INSERT INTO spectrum SELECT id, 380, 0, NULL, zeroblob(80), 1 FROM reading WHERE session_id = 's-bad'"
    ),
    "a figure that is a text": (
        "UPDATE value SET value = 'bright' WHERE reading_id = (SELECT id FROM reading WHERE session_id = 's-bad')"
    ),
    "an origin that is none": (
        "UPDATE value SET origin = 'guessed' WHERE reading_id = (SELECT id FROM reading WHERE session_id = 's-bad')"
    ),
    "a step whose place is a text": "UPDATE step SET position = 'first'",
    "sources that are no list": "UPDATE reading SET source_ids = '{}' WHERE session_id = 's-bad'",
    "a computed figure that is a text": (
        "INSERT INTO computed (reading_id, method_version, cct, vectors) SELECT id, 1, 'warm', '{}' FROM reading"
        " WHERE session_id = 's-bad'"
    ),
}


@pytest.mark.parametrize("statement", IN_A_SESSION.values(), ids=IN_A_SESSION)
def test_a_bad_session_is_set_apart_and_told_and_takes_no_other(two, statement, clock, monkeypatch, tmp_path):
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    with closing(sqlite3.connect(two)) as base:
        base.execute(statement)
        base.commit()
    report = check(two)
    assert not report.sound
    told: list[str] = []
    LISTENERS.append(lambda path, words, rescued: told.append(words))
    try:
        document = Document.open(two, Settings(), clock)  # as the window does
        assert document.desk is None or document.desk.session.id == "s-good" or "spectrum" in statement
        document.close()
        book = Logbook.open_to_read(two)
        collection = Collection(book)
        read = {session.id: collection.readings_in(session.id) for session in collection.sessions}
        for readings in read.values():
            book.spectra(m.reading.id for m in readings)
        assert [m.value("illuminance") for m in read["s-good"]] == [800, 810]
        assert book.is_set_apart("s-bad")
        assert [session.id for session in book.sessions()] == ["s-good"]
        assert not collection.readings_in("s-good")[0].state.suspect
        book.close()
    finally:
        LISTENERS.pop()
    assert any("set apart" in words and ("“bad”" in words or "xff" in words) for words in told)


IN_THE_KIT = {
    "an infinite tolerance": ("UPDATE meter SET level_tolerance = 9e999", "meter m: an infinite number"),
    "quantities that are no list": ("UPDATE meter SET quantities = '7'", "meter m: neither a list"),
    "a nickname that is bytes": ("UPDATE source SET nickname = x'41'", "source"),
    "a nickname of a megabyte": ("UPDATE source SET nickname = printf('%1000000c', 'x')", "more than 1000 letters"),
    "a NUL in a name": ("UPDATE meter SET nickname = 'a' || char(0) || 'b'", "letter that is none"),
}


@pytest.mark.parametrize(("statement", "told"), IN_THE_KIT.values(), ids=IN_THE_KIT)
def test_a_bad_row_of_the_kit_is_refused_with_its_table_and_id(two, statement, told):
    with closing(sqlite3.connect(two)) as base:
        base.execute(statement)
        base.commit()
    assert any(told in problem for problem in check(two).problems)
    book = Logbook.open_to_read(two)
    with pytest.raises(LogbookError, match=told):
        [book.all(kind) for kind in (Source, Meter)]
    book.close()


def test_what_is_sound_is_told_nothing(two):
    book = Logbook.open_to_read(two)
    assert [len(book.readings(s.id)) for s in book.sessions()] == [2, 1]
    assert isinstance(book.readings("s-bad")[0], Reading)
    assert book.notices == ()
    book.close()
    assert check(two).sound
    assert levels_in(two) == [800, 810, 5]
