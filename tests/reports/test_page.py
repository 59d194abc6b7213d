"""A report as a file: whole or not at all, and nothing from outside."""

import os

import pytest

from even_beam.reports.errors import ReportError
from even_beam.reports.page import pdf_of, write_bytes


@pytest.mark.parametrize("url", ["file:///etc/hostname", "http://example.invalid/a.png"])
def test_nothing_outside_a_report_is_fetched(url):
    with pytest.raises(ReportError, match="nothing outside it is fetched"):
        pdf_of(f'<html lang="en"><title>t</title><p>x</p><img alt="a" src="{url}"></html>')


def test_a_place_that_cannot_be_written_is_said_and_leaves_what_was_there(tmp_path):
    there = tmp_path / "page.pdf"
    there.write_bytes(b"earlier")
    with pytest.raises(ReportError, match=r"page\.pdf"):
        write_bytes(tmp_path / "page.pdf" / "page.pdf", b"new")
    if os.geteuid() != 0:
        tmp_path.chmod(0o500)
        with pytest.raises(ReportError):
            write_bytes(there, b"new")
        tmp_path.chmod(0o700)
    assert there.read_bytes() == b"earlier"


def test_a_file_is_replaced_whole(tmp_path):
    path = tmp_path / "page.pdf"
    write_bytes(path, b"first")
    write_bytes(path, b"second")
    assert path.read_bytes() == b"second" and [one.name for one in tmp_path.iterdir()] == ["page.pdf"]
