"""A logbook under any name and in any folder: opened, copied, migrated, checked, read; nothing lost, nothing laid
beside it."""

import os
import sqlite3
import subprocess
import sys
import tempfile
from pathlib import Path

import pytest

from even_beam.bench.records import Session, new_id
from even_beam.logbook import LogbookError, creation
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook
from tests.logbook.older_formats import closed

NAMES = (
    "Shoot #3",
    "what?",
    "100%25 sure",
    "50 % level",
    "a blank",
    'it\'s “quoted” "twice"',
    "Gärtnerei 植物",
    "a&mode=memory",
    "x;y=z",
    os.fsdecode(b"caf\xe9"),
)


@pytest.fixture(params=NAMES)
def path(request, tmp_path) -> Path:
    folder = tmp_path / request.param
    folder.mkdir()
    return folder / f"{request.param}.evenbeam"


def with_a_session(path: Path, clock) -> Path:
    book = Logbook.create(path)
    book.save(Session(new_id(), "Evening", clock()))
    book.close()
    return path


def alone(path: Path, *besides: str) -> bool:
    return {f.name for f in path.parent.iterdir()} == {path.name, *besides}


def test_any_name_is_read_copied_and_checked(path, clock):
    with_a_session(path, clock)
    assert alone(path)
    book = Logbook.open_to_read(path)
    assert [s.name for s in book.sessions()] == ["Evening"]
    copy = path.with_name("copy of " + path.name)
    book.save_copy(copy)
    book.close()
    assert check(path).sound
    assert [s.name for s in Logbook.open_to_read(copy).sessions()] == ["Evening"]
    assert alone(path, copy.name)  # reading leaves no file beside it, and none at a name cut short


def test_any_name_is_migrated_with_every_row(path):
    book = Logbook.open(closed(1, path))
    assert [s.name for s in book.sessions()] == ["An evening"]
    book.close()
    assert alone(path, path.name + ".before-migration")


def test_a_migration_that_loses_a_row_changes_nothing(tmp_path, clock, monkeypatch):
    path = with_a_session(tmp_path / "bench.evenbeam", clock)
    connection = sqlite3.connect(path)
    connection.execute("PRAGMA user_version=2")
    connection.commit()
    connection.close()
    before = path.read_bytes()

    def loses_a_row(file: Path) -> None:
        working = sqlite3.connect(file)
        working.execute("DELETE FROM session")
        working.commit()
        working.close()

    monkeypatch.setattr(creation, "upgrade", loses_a_row)
    with pytest.raises(LogbookError, match="session: 1 rows became 0"):
        Logbook.open(path)
    assert path.read_bytes() == before
    assert alone(path)


def test_a_copy_that_lacks_rows_is_not_called_a_copy(tmp_path, clock, monkeypatch):
    path = with_a_session(tmp_path / "bench.evenbeam", clock)
    book = Logbook.open(path)
    empty = tmp_path / "empty.evenbeam"
    Logbook.create(empty).close()
    read = creation.connect_to_read
    monkeypatch.setattr(creation, "connect_to_read", lambda file: read(empty if file == path else file))
    counts = creation.row_counts
    monkeypatch.setattr(creation, "row_counts", lambda file: {"session": 1} if file == path else counts(file))
    with pytest.raises(LogbookError, match="lacks rows of session"):
        book.save_copy(tmp_path / "copy.evenbeam")
    book.close()
    assert not (tmp_path / "copy.evenbeam").exists()


def test_a_read_only_place_is_read(clock):
    """As from a colleague's share; under another user, for the tests may run as root.

    In a folder of its own: those of the tests are shut to others whenever another run begins.
    """
    with tempfile.TemporaryDirectory() as shared:
        folder = Path(shared)
        path = with_a_session(folder / "bench.evenbeam", clock)
        folder.chmod(0o555)
        path.chmod(0o444)
        script = (
            "import os; from pathlib import Path; from even_beam.logbook.store import Logbook\n"
            f"path = Path({str(path)!r});"
            " Logbook.open_to_read(path).close()\nos.getuid() or os.setuid(65534)\nprint([s.name for s in"
            " Logbook.open_to_read(path).sessions()])"
        )
        done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=False)
        assert done.stdout.strip() == "['Evening']", done.stderr
        assert alone(path)
        folder.chmod(0o755)


def test_what_is_no_file_is_refused_at_once(tmp_path):
    pipe, link = tmp_path / "pipe.evenbeam", tmp_path / "link.evenbeam"
    os.mkfifo(pipe)
    link.symlink_to(tmp_path / "unplugged" / "gone.evenbeam")
    for path in (pipe, link):
        with pytest.raises(LogbookError):
            Logbook.open(path)
    assert link.is_symlink()


def test_two_names_of_one_file_have_one_lock(tmp_path, clock):
    path = with_a_session(tmp_path / "bench.evenbeam", clock)
    link, second = tmp_path / "link.evenbeam", tmp_path / "second.evenbeam"
    link.symlink_to(path)
    second.hardlink_to(path)
    book = Logbook.open(path)
    with pytest.raises(LogbookError, match="another window"):
        Logbook.open(link)
    with pytest.raises(LogbookError, match="under another name"):
        Logbook.open(second)
    book.close()
    Logbook.open(second).close()


@pytest.mark.parametrize("kind", ["link", "pipe", "folder"])
def test_a_lock_that_is_no_file_is_neither_waited_for_nor_emptied(tmp_path, clock, kind):
    path = with_a_session(tmp_path / "bench.evenbeam", clock)
    precious, lock = tmp_path / "thesis.txt", tmp_path / "bench.evenbeam.lock"
    precious.write_text("years of work")
    {"link": lambda: lock.symlink_to(precious), "pipe": lambda: os.mkfifo(lock), "folder": lock.mkdir}[kind]()
    with pytest.raises(LogbookError):
        Logbook.open(path)
    assert precious.read_text() == "years of work"
    assert len(Logbook.open_to_read(path).sessions()) == 1


def test_kept_is_kept_though_the_log_cannot_be_folded(tmp_path, clock):
    """A checkpoint that fails after the commit is no reason to say that nothing was kept."""
    path = with_a_session(tmp_path / "bench.evenbeam", clock)
    book = Logbook.open(path)
    reader = sqlite3.connect(path)
    reader.execute("BEGIN").execute("SELECT * FROM session").fetchall()
    holding = sqlite3.connect(path)
    book.save(Session(new_id(), "Second", clock()))
    assert [s.name for s in book.sessions()] == ["Evening", "Second"]
    reader.close(), holding.close()
    book.close()
