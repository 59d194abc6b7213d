"""Logbooks of every earlier format open with all they hold, also those that were killed with readings in their log."""

import shutil

import pytest

from even_beam.bench.records import Gear, Meter, Model, Source
from even_beam.logbook import LogbookError, creation
from even_beam.logbook.header import FileKind, inspect_header
from even_beam.logbook.integrity import check
from even_beam.logbook.schema import SCHEMA_VERSION
from even_beam.logbook.store import Logbook
from tests.logbook.older_formats import FORMATS, LEVELS, closed, killed
from tests.logbook.older_formats.make import BEFORE, IN_THE_LOG


def levels_in(book: Logbook) -> tuple[float, ...]:
    """What is typed in the only session, in order."""
    (session,) = book.sessions()
    return tuple(reading.values[0].value for reading in book.readings(session.id))


def holds(path, count: int) -> Logbook:
    """Opened, with the first readings of so many, and all else that it was given."""
    book = Logbook.open(path)
    assert levels_in(book) == LEVELS[:count]
    assert [source.nickname for source in book.all(Source)] == ["Tansy"]
    assert [model.kind for model in book.all(Model)] == ["six-emitter colour light"]
    assert [meter.nickname for meter in book.all(Meter)] == ["Hand meter"]
    assert book.sessions()[0].question == "Yes or back?"
    with_spectrum = {f"reading-{n}" for n in (2, 5) if n <= count}
    assert set(book.spectra([f"reading-{n}" for n in range(1, 13)])) == with_spectrum
    assert check(path).sound
    return book


def test_there_is_one_of_every_earlier_format():
    assert FORMATS == tuple(range(1, SCHEMA_VERSION))


@pytest.mark.parametrize("number", FORMATS)
def test_a_closed_one_keeps_everything(number, tmp_path):
    path = closed(number, tmp_path / "book.evenbeam")
    before = path.read_bytes()
    report = check(path)
    assert report.sound and report.older == number and report.readings == BEFORE
    with pytest.raises(LogbookError, match="older format"):
        Logbook.open_to_read(path)
    assert path.read_bytes() == before
    book = holds(path, BEFORE)
    book.save(Gear("g", "model", "weight", "2.4 kg"))
    (told,) = book.notices
    assert "book.evenbeam.before-migration" in told
    book.close()
    assert inspect_header(path) is FileKind.CURRENT
    assert (tmp_path / "book.evenbeam.before-migration").read_bytes() == before
    assert sorted(file.name for file in tmp_path.iterdir()) == ["book.evenbeam", "book.evenbeam.before-migration"]


@pytest.mark.parametrize("in_the_log", range(IN_THE_LOG + 1))
@pytest.mark.parametrize("number", FORMATS)
def test_a_killed_one_keeps_what_only_its_log_has(number, in_the_log, tmp_path):
    path = killed(number, tmp_path / "book.evenbeam", in_the_log)
    assert check(path).readings == BEFORE + in_the_log
    holds(path, BEFORE + in_the_log).close()
    again = holds(path, BEFORE + in_the_log)
    assert again.notices == ()
    again.close()


@pytest.mark.parametrize("number", FORMATS)
def test_the_log_of_another_life_is_put_aside(number, tmp_path):
    """The file of one format beside what a killed one of another left."""
    other = FORMATS[number % len(FORMATS)]
    path = killed(other, tmp_path / "book.evenbeam")
    closed(number, path)
    strange = path.with_name("book.evenbeam-wal").read_bytes()
    book = holds(path, BEFORE)
    (told,) = book.notices
    assert "book (log of another file)" in told
    assert (tmp_path / "book (log of another file)").read_bytes() == strange
    book.close()


@pytest.mark.parametrize("number", FORMATS)
def test_a_migration_that_fails_leaves_all_readings(number, tmp_path, monkeypatch):
    path = killed(number, tmp_path / "book.evenbeam")

    def broken(_) -> None:
        raise RuntimeError("no")

    with monkeypatch.context() as patched:
        patched.setattr(creation, "upgrade", broken)
        with pytest.raises(LogbookError, match="left as it is, of the former format"):
            Logbook.open(path)
    assert [file.name for file in tmp_path.iterdir()] == ["book.evenbeam"]
    assert check(path).older == number
    holds(path, BEFORE + IN_THE_LOG).close()


def test_two_migrations_of_one_name_keep_both_former_files(tmp_path):
    path = closed(1, tmp_path / "book.evenbeam")
    Logbook.open(path).close()
    closed(3, path)
    book = Logbook.open(path)
    assert "book.evenbeam 2.before-migration" in book.notices[0]
    book.close()
    shutil.copy(tmp_path / "book.evenbeam.before-migration", tmp_path / "first.evenbeam")
    assert check(tmp_path / "first.evenbeam").older == 1
