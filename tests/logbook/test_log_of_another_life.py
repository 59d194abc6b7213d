"""A log is played into the file that it is of and into no other, whatever was put under its name meanwhile."""

import shutil
import sqlite3

import pytest

from even_beam.logbook import LogbookError, creation
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook
from tests.logbook.killed import BESIDE, an_evening, killed, levels_in, take


def opened(path) -> tuple[list[float], str]:
    """What is in it once it was opened to write and closed again, and what was told."""
    book = Logbook.open(path)
    told = " ".join(book.notices)
    book.close()
    assert check(path).sound
    return levels_in(path), told


@pytest.mark.parametrize("count", range(10))
def test_what_a_killed_one_confirmed_is_there(tmp_path, count):
    path = killed(an_evening(tmp_path / "book.evenbeam", "own", [800, 810]), [820 + n for n in range(count)])
    levels = [800, 810, *(820 + n for n in range(count))]
    assert levels_in(path) == levels  # for a command that only reads, before anybody folded it in
    assert opened(path) == (levels, "")


def test_the_log_of_one_that_was_thrown_away_is_not_played_into_a_new_one(tmp_path):
    """The name begun anew: six strangers' readings stood in it once."""
    path = killed(an_evening(tmp_path / "book.evenbeam", "thrown away"), range(1, 7))
    log = path.with_name("book.evenbeam-wal").read_bytes()
    path.unlink()
    book = Logbook.create(path)
    assert "book (log of another file)" in book.notices[0]
    assert book.sessions() == []
    book.close()
    assert check(path).sound
    assert (tmp_path / "book (log of another file)").read_bytes() == log


@pytest.mark.parametrize("levels_since", [[], [900.0, 910.0]])
def test_a_backup_put_over_a_killed_one_is_the_backup(tmp_path, levels_since):
    path = an_evening(tmp_path / "book.evenbeam", "own", [800])
    backup = tmp_path / "backup.evenbeam"
    shutil.copyfile(path, backup)
    book = Logbook.open(path)
    for level in levels_since:
        take(book, "s-own", level)
    book.close()
    killed(path, [820, 830])
    shutil.copyfile(backup, path)
    if not levels_since:  # the log goes on from just this state: it is its own
        assert opened(path) == ([800, 820, 830], "")
        return
    assert levels_in(path) == [800]
    book = Logbook.open_to_read(path)
    assert "log of another file" in book.notices[0]
    book.close()
    levels, told = opened(path)
    assert levels == [800]
    assert "log of another file" in told


def test_a_saved_copy_goes_a_way_of_its_own(tmp_path):
    """A copy put in the place of the one it was made of, which was killed since."""
    path = an_evening(tmp_path / "book.evenbeam", "own", [800])
    book = Logbook.open(path)
    copy = book.save_copy(tmp_path / "copy.evenbeam")
    book.close()
    killed(path, [820, 830])
    copy.replace(path)
    assert opened(path)[0] == [800]


def test_a_copy_over_a_killed_one_replaces_all_of_it(tmp_path):
    target = killed(an_evening(tmp_path / "target.evenbeam", "other", [100]), [110, 120])
    book = Logbook.open(an_evening(tmp_path / "book.evenbeam", "own", [800]))
    book.save_copy(target)
    book.close()
    assert levels_in(target) == [800]
    assert opened(target) == ([800], "")
    assert sorted(file.name for file in tmp_path.iterdir()) == ["book.evenbeam", "target.evenbeam"]


def test_a_copy_that_fails_at_the_last_leaves_what_stood_there_with_all_its_readings(tmp_path, monkeypatch):
    target = killed(an_evening(tmp_path / "target.evenbeam", "other", [100]), [110, 120])
    book = Logbook.open(an_evening(tmp_path / "book.evenbeam", "own", [800]))
    usual = creation.sync_folder

    def fails(folder) -> None:
        usual(folder)
        raise OSError(5, "Input/output error")

    monkeypatch.setattr(creation, "sync_folder", fails)
    with pytest.raises(LogbookError, match="could not be written"):
        book.save_copy(target)
    book.close()
    assert levels_in(target) == [100, 110, 120]
    assert sorted(file.name for file in tmp_path.iterdir()) == ["book.evenbeam", "target.evenbeam"]


def test_nothing_is_copied_onto_itself_or_onto_an_open_one(tmp_path):
    path, other = an_evening(tmp_path / "book.evenbeam", "own", [800]), an_evening(tmp_path / "other.evenbeam", "b")
    book, second = Logbook.open(path), Logbook.open(other)
    with pytest.raises(LogbookError, match="is this logbook itself"):
        book.save_copy(path)
    with pytest.raises(LogbookError, match="open in another window"):
        book.save_copy(other)
    (tmp_path / "notes.evenbeam").write_text("a shopping list")
    with pytest.raises(LogbookError, match="not an Even Beam logbook"):
        book.save_copy(tmp_path / "notes.evenbeam")
    take(book, "s-own", 810)
    take(second, "s-b", 5)
    book.close(), second.close()
    assert (levels_in(path), levels_in(other)) == ([800, 810], [5])
    assert (tmp_path / "notes.evenbeam").read_text() == "a shopping list"


def test_a_journal_of_another_life_is_put_aside(tmp_path):
    """SQLite would roll its pages back into whatever stands under the name."""
    path = an_evening(tmp_path / "book.evenbeam", "own", [800])
    other = tmp_path / "other.db"
    base = sqlite3.connect(other)
    base.execute("CREATE TABLE t (x)")
    base.executemany("INSERT INTO t VALUES (?)", [("x" * 500,)] * 500)
    base.commit()
    base.execute("PRAGMA cache_size=1")
    base.execute("UPDATE t SET x = 'y'")
    shutil.copyfile(tmp_path / "other.db-journal", tmp_path / "book.evenbeam-journal")
    base.rollback()
    base.close()
    levels, told = opened(path)
    assert levels == [800]
    assert "book (journal of another file)" in told


def test_a_change_of_another_program_in_the_log_is_tried_before_it_is_taken(tmp_path):
    """It bears no mark of ours, but all that was kept is in it still."""
    path = an_evening(tmp_path / "book.evenbeam", "own", [800])
    by_hand = sqlite3.connect(path)
    by_hand.execute("PRAGMA wal_autocheckpoint=0")
    by_hand.execute("UPDATE session SET question = 'by hand'")
    by_hand.commit()
    shutil.copyfile(path.with_name(path.name + "-wal"), tmp_path / "log")
    before = path.read_bytes()
    by_hand.close()
    path.write_bytes(before)
    shutil.move(tmp_path / "log", path.with_name(path.name + "-wal"))
    book = Logbook.open(path)
    assert (book.notices, book.sessions()[0].question) == ((), "by hand")
    book.close()


def test_an_empty_log_is_nothing(tmp_path):
    path = an_evening(tmp_path / "book.evenbeam", "own", [800])
    for beside in BESIDE[1:]:
        path.with_name(path.name + beside).touch()
    assert opened(path) == ([800], "")
    assert [file.name for file in tmp_path.iterdir()] == ["book.evenbeam"]


def test_a_log_that_ends_in_mid_write_is_whole_up_to_there(tmp_path):
    path = killed(an_evening(tmp_path / "book.evenbeam", "own", [800]), [820, 830])
    log = path.with_name(path.name + "-wal")
    log.write_bytes(log.read_bytes()[:-100])
    assert opened(path)[0] == [800, 820]


def test_a_hot_journal_of_another_program_is_no_damage(tmp_path):
    """It took the logbook out of its log and was killed in mid-change: its own journal is rolled back, and said."""
    path = an_evening(tmp_path / "book.evenbeam", "own", [800, 810])
    before = path.read_bytes()
    base = sqlite3.connect(path)
    base.execute("PRAGMA journal_mode=DELETE")
    base.execute("PRAGMA cache_size=1")
    base.execute("BEGIN")
    base.execute("UPDATE session SET question = printf('%90000c', 'x')")
    base.executemany("INSERT INTO mapping VALUES (?, ?, '{}')", [(f"m{n}", "x" * 900 + str(n)) for n in range(300)])
    hot = {name: path.with_name(name).read_bytes() for name in (path.name, path.name + "-journal")}
    base.rollback()
    base.close()
    for name, content in hot.items():
        path.with_name(name).write_bytes(content)
    assert hot[path.name] != before
    try:
        assert levels_in(path) == [800, 810]
    except LogbookError as error:
        assert "damaged" not in str(error)
    levels, _ = opened(path)
    assert levels == [800, 810]
