"""Opening, locking, migrating, copying; foreign, newer, damaged, locked and read-only files are left untouched."""

import os
import shutil
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest

from even_beam.bench.records import Session, Source, new_id
from even_beam.logbook import LogbookError, creation
from even_beam.logbook.header import FileKind, inspect_header
from even_beam.logbook.integrity import check
from even_beam.logbook.schema import APPLICATION_ID, SCHEMA_VERSION
from even_beam.logbook.store import Logbook


@pytest.fixture
def path(tmp_path) -> Path:
    file = tmp_path / "bench.evenbeam"
    Logbook.create(file).close()
    return file


def untouched(file: Path, opener=Logbook.open) -> str:
    before = file.read_bytes()
    with pytest.raises(LogbookError) as raised:
        opener(file)
    assert file.read_bytes() == before
    assert raised.value.what
    assert raised.value.kept
    assert raised.value.do
    return str(raised.value)


def test_a_new_file_is_a_logbook(path):
    data = path.read_bytes()
    assert data.startswith(b"SQLite format 3\x00")
    assert int.from_bytes(data[68:72], "big") == APPLICATION_ID == 0x4576426D
    assert inspect_header(path) is FileKind.CURRENT
    assert [f.name for f in path.parent.iterdir()] == ["bench.evenbeam"]  # a single file once it is closed


def test_a_new_file_equals_the_newest_migration(path, tmp_path):
    migrated = tmp_path / "migrated.evenbeam"
    sqlite3.connect(migrated).close()
    creation.upgrade(migrated)

    def schema(file: Path) -> dict[str, set[tuple]]:
        """Tables with their columns, keys and indices; a migrated file has its newer columns last."""
        connection = sqlite3.connect(file)
        names = [row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        return {
            name: {
                *(row[1:] for row in connection.execute(f"PRAGMA table_info({name})")),
                *(row[2:5] for row in connection.execute(f"PRAGMA foreign_key_list({name})")),
                *(row[2:] for row in connection.execute(f"PRAGMA index_list({name})")),
            }
            for name in names
        }

    assert schema(path) == schema(migrated)
    for file in (path, migrated):
        connection = sqlite3.connect(file)
        assert len(connection.execute("SELECT here FROM chain").fetchall()) == 1
        assert connection.execute("PRAGMA user_version").fetchone() == (SCHEMA_VERSION,)


def test_a_file_that_is_damaged_inside_is_said_to_be_damaged(path, clock):
    """Not that something could not be kept: nothing was asked to be."""
    book = Logbook.open(path)
    book.save(*(Session(new_id(), f"Evening {n}" + "x" * 900, clock()) for n in range(40)))
    book.close()
    data = bytearray(path.read_bytes())
    page = int.from_bytes(data[16:18], "big")
    at = data.index(b"Evening 20") // page * page
    data[at : at + page] = b"\xff" * page
    path.write_bytes(data)
    before = path.read_bytes()
    for door in (Logbook.open_to_read, Logbook.open):
        try:
            opened = door(path)
        except LogbookError as error:
            told = str(error)
        else:
            with pytest.raises(LogbookError) as found:
                opened.sessions()
            told = str(found.value)
            opened.close()
        assert "is damaged" in told and "could not be kept" not in told
    assert path.read_bytes() == before


def test_creating_over_something_is_refused(path):
    assert "exists already" in untouched(path, Logbook.create)


@pytest.mark.parametrize("content", [b"", b"hello", b"PK\x03\x04" + bytes(200), b"SQLite format 3\x00" + bytes(20)])
def test_a_foreign_file(tmp_path, content):
    file = tmp_path / "foreign.evenbeam"
    file.write_bytes(content)
    assert "not an Even Beam logbook" in untouched(file)


def test_a_database_of_another_program(tmp_path):
    file = tmp_path / "other.evenbeam"
    connection = sqlite3.connect(file)
    connection.execute("CREATE TABLE t (x)")
    connection.commit()
    connection.close()
    assert "another program" in untouched(file)


def test_a_newer_file(path):
    connection = sqlite3.connect(path)
    connection.execute("PRAGMA user_version=99")
    connection.commit()
    connection.close()
    assert "newer Even Beam" in untouched(path)


def test_a_migration_that_fails_leaves_the_file(path, monkeypatch):
    connection = sqlite3.connect(path)
    connection.execute("PRAGMA user_version=0")
    connection.commit()
    connection.close()

    def broken(_: Path) -> None:
        raise RuntimeError("no")

    monkeypatch.setattr(creation, "upgrade", broken)
    assert "could not be brought" in untouched(path)
    assert [f.name for f in path.parent.iterdir()] == ["bench.evenbeam"]


def test_a_damaged_file(path):
    data = bytearray(path.read_bytes())
    data[100:4096] = os.urandom(3996)
    path.write_bytes(bytes(data))
    assert "damaged" in untouched(path)
    with pytest.raises(LogbookError, match="damaged"):
        check(path)


def test_a_cut_off_file(path):
    path.write_bytes(path.read_bytes()[:5000])
    assert "damaged" in untouched(path)


def test_a_folder_and_a_missing_file(tmp_path):
    with pytest.raises(LogbookError, match="is a folder"):
        Logbook.open(tmp_path)
    with pytest.raises(LogbookError, match="There is no"):
        Logbook.open(tmp_path / "nothing.evenbeam")
    assert not (tmp_path / "nothing.evenbeam").exists()


def test_a_locked_file_names_who_holds_it(path):
    book = Logbook.open(path)
    with pytest.raises(LogbookError, match=f"process {os.getpid()}"):
        Logbook.open(path)
    reader = Logbook.open_to_read(path)  # the command line may read meanwhile
    assert reader.sessions() == []
    with pytest.raises(LogbookError, match="read only"):
        reader.save(Source(new_id(), "Yarrow"))
    reader.close()
    book.close()
    Logbook.open(path).close()


def test_a_killed_process_frees_the_lock_and_is_noticed(path):
    script = (
        "from pathlib import Path; from even_beam.logbook.store import Logbook; import os, signal; b ="
        f" Logbook.open(Path({str(path)!r})); os.kill(os.getpid(), signal.SIGKILL)"
    )
    assert subprocess.run([sys.executable, "-c", script], check=False).returncode == -9
    book = Logbook.open(path)
    assert book.was_left_open
    book.close()
    again = Logbook.open(path)
    assert not again.was_left_open
    again.close()


@pytest.mark.skipif(os.geteuid() != 0 or shutil.which("setpriv") is None, reason="needs another user")
def test_a_read_only_folder(path):
    """Run as another user, since root may write anywhere."""
    folder = path.parent
    for place in (folder, *folder.parents):
        if place == place.parent or place.stat().st_mode & 0o005 == 0o005:
            continue
        place.chmod(place.stat().st_mode | 0o005)
    path.chmod(0o644)
    script = f"""
from pathlib import Path
from even_beam.logbook import LogbookError
from even_beam.logbook.store import Logbook
try:
    Logbook.open(Path({str(path)!r}))
except LogbookError as error:
    print(error)
Logbook.open_to_read(Path({str(path)!r})).close()
print("read")
"""
    setpriv = ["setpriv", "--reuid=65534", "--regid=65534", "--clear-groups", "--inh-caps=-all"]
    environment = {"PATH": os.environ["PATH"], "HOME": "/nonexistent", "PYTHONDONTWRITEBYTECODE": "1"}
    result = subprocess.run(
        [*setpriv, sys.executable, "-c", script], capture_output=True, text=True, check=False, env=environment, cwd="/"
    )
    if "ModuleNotFoundError" in result.stderr or "Permission denied" in result.stderr:
        pytest.skip("another user cannot reach this Python")
    assert "cannot be written" in result.stdout, result.stderr
    assert "Copy the logbook to a folder of your own" in result.stdout


def test_a_full_disk(path, clock):
    """By SQLite's page limit: what was confirmed stays, what was not is said."""
    book = Logbook.open(path)
    session = Session(new_id(), "Test", clock())
    book.save(session)
    book._connection.execute("PRAGMA max_page_count=1")
    with pytest.raises(LogbookError, match="disk is full"):
        for number in range(2000):
            book.save(Source(new_id(), f"Lamp {number}", notes="x" * 500))
    assert [s.id for s in book.sessions()] == [session.id]
    kept = len(book.all(Source))
    book.close()
    again = Logbook.open(path)
    assert len(again.all(Source)) == kept
    again.close()


def test_a_copy_is_whole_while_the_book_is_open(path, tmp_path, clock):
    book = Logbook.open(path)
    book.save(Session(new_id(), "Test", clock()))
    target = tmp_path / "copy.evenbeam"
    book.save_copy(target)
    assert check(target).sound
    copy = Logbook.open_to_read(target)
    assert [s.name for s in copy.sessions()] == ["Test"]
    copy.close()
    with pytest.raises(LogbookError, match="There is no folder"):
        book.save_copy(tmp_path / "no" / "where.evenbeam")
    book.close()


def test_the_durable_pragmas_are_in_force(path):
    book = Logbook.open(path)
    values = {
        name: book._connection.execute(f"PRAGMA {name}").fetchone()[0]
        for name in ("journal_mode", "synchronous", "foreign_keys")
    }
    assert values == {"journal_mode": "wal", "synchronous": 2, "foreign_keys": 1}
    book.close()
