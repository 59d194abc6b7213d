"""A file that something else takes away or writes into while it is open: what was confirmed is rescued,
and it is said where."""

import os
import shutil

import pytest

from even_beam.bench.records import Session, Source, new_id
from even_beam.logbook.errors import DestroyedError
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook
from tests.logbook.killed import BEGAN, an_evening, levels_in, take

LEVELS = [800.0, 810.0, 820.0, 830.0, 840.0]


def overwritten(path, other: bytes) -> None:
    """As a program does it that synchronises in place."""
    with path.open("r+b") as file:
        file.write(other)
        file.truncate()


def page_overwritten(path) -> None:
    size = path.stat().st_size
    with path.open("r+b") as file:
        file.seek(size - 8192)
        file.write(os.urandom(4096))


HARMS = {
    "removed": lambda path, older: path.unlink(),
    "renamed": lambda path, older: path.rename(path.with_name("elsewhere.evenbeam")),
    "replaced": lambda path, older: (path.with_name("o").write_bytes(older), path.with_name("o").replace(path)),
    "emptied": lambda path, older: os.truncate(path, 0),
    "cut": lambda path, older: os.truncate(path, 8192),
    "a page overwritten": lambda path, older: page_overwritten(path),
    "an older state in place": overwritten,
    "something else in place": lambda path, older: overwritten(path, b"a shopping list" * 9000),
}


@pytest.fixture(params=HARMS)
def harmed(request, tmp_path):
    """A logbook with five confirmed readings whose file was then destroyed, held open."""
    path = an_evening(tmp_path / "card" / "book.evenbeam", "own", LEVELS[:2])
    older = path.read_bytes()
    book = Logbook.open(path)
    for level in LEVELS[2:]:
        take(book, "s-own", level)
    HARMS[request.param](path, older)
    return book


def rescued_from(error: DestroyedError) -> list[float]:
    assert error.rescued is not None
    assert str(error.rescued) in str(error)
    assert check(error.rescued).sound
    Logbook.open(error.rescued).close()
    return levels_in(error.rescued)


def test_what_was_confirmed_is_rescued_at_the_next_commit(harmed):
    with pytest.raises(DestroyedError, match="This was not kept") as raised:
        take(harmed, "s-own", 850.0)
    assert rescued_from(raised.value) == LEVELS
    assert raised.value.rescued.name == "book (rescued).evenbeam"


def test_and_at_the_end_where_nothing_came_any_more(harmed):
    with pytest.raises(DestroyedError) as raised:
        harmed.close()
    assert rescued_from(raised.value) == LEVELS


def test_all_of_the_folder_may_be_gone(tmp_path, monkeypatch):
    """A card that was pulled: what is held goes to the person's own folder."""
    home = tmp_path / "home"
    home.mkdir()
    monkeypatch.setenv("HOME", str(home))
    path = an_evening(tmp_path / "card" / "book.evenbeam", "own", LEVELS)
    book = Logbook.open(path)
    shutil.rmtree(path.parent)
    with pytest.raises(DestroyedError) as raised:
        take(book, "s-own", 1.0)
    assert raised.value.rescued.parent == home
    assert rescued_from(raised.value) == LEVELS


def test_a_large_file_cut_in_the_middle_loses_no_reading_of_the_day(tmp_path):
    """Most of what was read in earlier years cannot be had any more; what this program was told is."""
    path = tmp_path / "book.evenbeam"
    book = Logbook.create(path)
    book.save(*(Session(new_id(), f"Evening {n}", BEGAN, question="x" * 3000) for n in range(300)))
    book.close()
    book = Logbook.open(path)
    book.save(Session("s-own", "own", BEGAN), Source("lamp", "Tansy"))
    for level in LEVELS:
        take(book, "s-own", level)
    os.truncate(path, 40_000)
    with pytest.raises(DestroyedError) as raised:
        take(book, "s-own", 850.0)
    assert rescued_from(raised.value) == LEVELS


def test_a_file_that_was_only_touched_goes_on(tmp_path):
    path = an_evening(tmp_path / "book.evenbeam", "own", LEVELS[:1])
    book = Logbook.open(path)
    os.utime(path, (1, 1))
    for level in LEVELS[1:]:
        take(book, "s-own", level)
    book.close()
    assert levels_in(path) == LEVELS
    assert [file.name for file in tmp_path.iterdir()] == ["book.evenbeam"]
