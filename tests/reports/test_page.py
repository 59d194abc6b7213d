from dataclasses import replace

import pytest
from pypdf import PdfReader

from even_beam.bench.records import Session
from even_beam.logbook.store import Logbook
from even_beam.reports.errors import ReportError
from even_beam.reports.page import html, write_html, write_pdf
from even_beam.workspace.logbook.collection import Collection
from even_beam.workspace.report.content import page_content, write_report
from even_beam.workspace.shell.settings import Settings


@pytest.fixture
def content(demo):
    book = Logbook.open_to_read(demo)
    collection = Collection(book)
    session = next(s for s in collection.sessions if s.name.startswith("Specimen"))
    yield page_content(collection, session, Settings(publisher="Film unit of the garden"))
    book.close()


def test_one_page_with_all_that_must_stand_on_it(content, tmp_path):
    write_pdf(content, tmp_path / "page.pdf")
    reader = PdfReader(tmp_path / "page.pdf")
    assert len(reader.pages) == 1
    text = " ".join(reader.pages[0].extract_text().split())
    for words in (
        "May Tansy replace Yarrow",  # the question
        "Not decided yet",  # the decision
        "on approval until Friday",  # who supplied the lamp
        "Burdock is lent",
        "Differs: white: Yarrow cannot be dialled",
        "Tansy, Yarrow brought from 2.00 m (by the inverse-square law, no walk read) to 3.00 m",
        "terms corrected",
        "reflector · 5600 K · 100 % · 2.00 m · on axis",  # the terms of each figure
        "Spectrometer 2",
        "Not measured",
        "flicker on camera",
        "Do not look into the lamp",
        "Film unit of the garden",
    ):
        assert words in text, words


def test_calibrations_stand_beside_the_room(content):
    assert "Room and meters" not in html(content)
    told = html(replace(content, calibrations=("Spectrometer 2: calibrated at the institute, 2 March 2026",)))
    assert "Room and meters" in told
    assert "Spectrometer 2: calibrated at the institute, 2 March 2026." in told


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_paper(content, tmp_path, paper):
    write_pdf(replace(content, paper=paper), tmp_path / "page.pdf")
    box = PdfReader(tmp_path / "page.pdf").pages[0].mediabox
    assert round(float(box.width)) == {"A4": 595, "Letter": 612}[paper]


def test_html_is_self_contained_and_escapes(content):
    session: Session = replace(content.session, question="<script>alert(1)</script> & more", decision="")
    text = html(replace(content, session=session))
    assert "<script>" not in text
    assert "&lt;script&gt;" in text
    assert "No decision was written down yet" in text
    assert "http://" not in text.replace("http://www.w3.org", "").replace("http://purl.org", "").replace(
        "http://creativecommons.org", ""
    )
    assert 'src="http' not in text


def test_a_report_fetches_nothing(content, tmp_path, monkeypatch):
    from even_beam.reports import page

    monkeypatch.setattr(page, "html", lambda _: "<img src='file:///etc/hostname'><p>x</p>")
    try:
        write_pdf(content, tmp_path / "page.pdf")
    except ReportError as error:
        assert "nothing outside it is fetched" in str(error)
    else:
        assert b"/Image" not in (tmp_path / "page.pdf").read_bytes()


def test_a_place_that_cannot_be_written(content, tmp_path):
    for write, name in ((write_html, "page.html"), (write_pdf, "page.pdf")):
        with pytest.raises(ReportError, match="logbook is unharmed"):
            write(content, tmp_path / "no" / name)


def test_every_session_of_the_demo_can_be_reported(demo, tmp_path):
    book = Logbook.open_to_read(demo)
    collection = Collection(book)
    for index, session in enumerate(collection.sessions):
        write_report(collection, session, Settings(), tmp_path / f"{index}.html")
        assert session.name.partition(":")[0] in (tmp_path / f"{index}.html").read_text(encoding="utf-8")
    book.close()
