"""One way to write any file: whole or not at all, and over nothing of another kind."""

import os
import resource
import subprocess
import sys

import pytest

from even_beam.files.errors import OutputError
from even_beam.files.writing import kind_of, with_suffix, write

PDF, HTML, TABLE = b"%PDF-1.7 new", b"<!doctype html>\n<p>new", b"session,fixture\nnew,Tansy\n"


def names(folder) -> list[str]:
    return sorted(file.name for file in folder.iterdir())


@pytest.mark.parametrize("data", [PDF, HTML, TABLE])
def test_a_file_is_replaced_by_one_of_its_kind(tmp_path, data):
    path = tmp_path / "out"
    write(path, data.replace(b"new", b"old"))
    write(path, data)
    assert path.read_bytes() == data
    assert names(tmp_path) == ["out"]


@pytest.mark.parametrize("there", [b"a shopping list", b"lamp;lux\nTansy;800\n", PDF, b"\x89PNG\r\n", b"PK\x03\x04"])
@pytest.mark.parametrize("data", [HTML, TABLE])
def test_what_is_of_another_kind_stays_unless_it_is_forced(tmp_path, there, data):
    path = tmp_path / "notes.csv"
    path.write_bytes(there)
    with pytest.raises(OutputError, match="of another kind"):
        write(path, data)
    assert path.read_bytes() == there
    write(path, data, over_others=True)
    assert path.read_bytes() == data


def test_a_logbook_is_replaced_by_nothing(tmp_path):
    path = tmp_path / "book.evenbeam"
    path.write_bytes(b"SQLite format 3\x00" + bytes(200))
    for forced in (False, True):
        with pytest.raises(OutputError, match="is a logbook"):
            write(path, PDF, over_others=forced)


def test_what_it_is_made_from_is_never_replaced(tmp_path):
    photo, link = tmp_path / "photo.png", tmp_path / "same.png"
    photo.write_bytes(b"\x89PNG one")
    link.hardlink_to(photo)
    with pytest.raises(OutputError, match="is what this is made from"):
        write(link, b"\x89PNG two", over_others=True, inputs=[photo])
    assert photo.read_bytes() == b"\x89PNG one"


def test_folders_pipes_and_devices_are_refused_at_once(tmp_path):
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    for path in (tmp_path, pipe, "/dev/null"):
        with pytest.raises(OutputError, match="is no file"):
            write(type(tmp_path)(path), PDF, over_others=True)


def test_a_link_is_replaced_and_what_it_points_to_is_left(tmp_path):
    thesis, link = tmp_path / "thesis.pdf", tmp_path / "out.pdf"
    thesis.write_bytes(b"%PDF years of work")
    link.symlink_to(thesis)
    write(link, PDF)
    assert thesis.read_bytes() == b"%PDF years of work"
    assert link.read_bytes() == PDF


def test_links_laid_under_the_usual_names_are_not_followed(tmp_path):
    thesis = tmp_path / "thesis"
    thesis.write_bytes(b"years of work")
    for suffix in (".part", ".new", ".lock", ".tmp"):
        (tmp_path / f"out.pdf{suffix}").symlink_to(thesis)
    write(tmp_path / "out.pdf", PDF)
    assert thesis.read_bytes() == b"years of work"


@pytest.mark.parametrize("name", ["x" * 244 + ".pdf", "x" * 255, "a\nb.pdf", "caf\udce9.pdf"])
def test_any_name_that_the_file_system_takes(tmp_path, name):
    write(tmp_path / name, PDF)
    assert names(tmp_path) == [name]


@pytest.mark.parametrize("name", ["x" * 256 + ".pdf", "a\0b.pdf", "no/where.pdf"])
def test_a_name_that_it_does_not_take_is_said(tmp_path, name):
    with pytest.raises(OutputError, match="Nothing was changed"):
        write(tmp_path / name, PDF)
    assert names(tmp_path) == []


def test_a_full_disk_leaves_what_stood_there(tmp_path):
    """By the limit of a file's size, in a process of its own."""
    path = tmp_path / "out.pdf"
    path.write_bytes(b"%PDF old")
    script = (
        "import resource, signal; from pathlib import Path; from even_beam.files.writing import write\n"
        "signal.signal(signal.SIGXFSZ, signal.SIG_IGN); resource.setrlimit(resource.RLIMIT_FSIZE, (1000, 1000))\n"
        f"write(Path({str(path)!r}), b'%PDF' + bytes(5000))"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=False)
    assert "could not be written: File too large. Nothing was changed." in done.stderr
    assert path.read_bytes() == b"%PDF old"
    assert names(tmp_path) == ["out.pdf"]
    assert resource.getrlimit(resource.RLIMIT_FSIZE)[0] != 1000


def test_a_suffix_is_added_where_there_is_none_and_another_is_refused(tmp_path):
    assert with_suffix(tmp_path / "out", ".csv").name == "out.csv"
    assert with_suffix(tmp_path / "out.CSV", ".csv").name == "out.CSV"
    with pytest.raises(OutputError, match="does not end in"):
        with_suffix(tmp_path / "notes.v2", ".csv")


def test_kinds_are_told_by_how_files_begin():
    assert kind_of(b"") == ""
    assert kind_of(b"\xef\xbb\xbfLamp,lux\n1") == kind_of(b"lamp,lux\r\n2")
    assert kind_of(b"PK\x03\x04a") == kind_of(b"PK\x03\x04b") != kind_of(b"PK")
