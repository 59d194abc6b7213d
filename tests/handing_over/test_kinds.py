"""Every kind of report on every invented logbook: nothing empty, nothing that its readings do not carry."""

import json
import re
from html.parser import HTMLParser

import pytest
from click.testing import CliRunner
from pypdf import PdfReader

from even_beam.bench.records import Terms
from even_beam.bench.target import matches
from even_beam.cli import main
from even_beam.collection.collection import Collection
from even_beam.handing_over.arrangement import Arrangement
from even_beam.handing_over.compose import composed
from even_beam.handing_over.kinds import Kind, usual_kind
from even_beam.handing_over.material import Material
from even_beam.logbook.store import Logbook
from even_beam.paper import page
from even_beam.shell.settings import Settings
from even_beam.words import notation
from tests.handing_over.invented import LONG, ROWS, STRANGE, invented


@pytest.fixture(scope="module")
def materials(tmp_path_factory):
    """The materials of all invented logbooks, each of its only session."""
    found, books = {}, []
    for name in ROWS:
        book = invented(name, tmp_path_factory.mktemp("invented"))
        books.append(book)
        collection = Collection(book)
        session = collection.sessions[-1] if collection.sessions else None
        found[name] = Material(collection, Settings(), session)
    yield found
    for book in books:
        book.close()


@pytest.fixture
def demo_material(demo):
    book = Logbook.open_to_read(demo)
    collection = Collection(book)
    specimen = next(s for s in collection.sessions if s.name.startswith("Specimen"))
    yield lambda fixtures=(): Material(
        collection, Settings(publisher="Film unit"), None if fixtures else specimen, fixtures
    )
    book.close()


def _sections(document):
    return [section for chapter in document.chapters for section in chapter.sections]


def _texts(document):
    for section in _sections(document):
        yield section.title
        yield from (said.text for said in section.said)
        for table in section.tables:
            yield from table.columns
            yield from (cell.text for row in table.rows for cell in row)


@pytest.mark.parametrize("kind", Kind)
@pytest.mark.parametrize("name", ROWS)
def test_nothing_is_empty_and_every_figure_has_its_readings(materials, name, kind):
    document = composed(materials[name], kind)
    own = {m.reading.id for m in materials[name].readings}
    for section in _sections(document):
        assert not section.empty
        assert not any(chart.empty for chart in section.charts), section.key
        for table in section.tables:
            assert table.rows and all(len(row) == len(table.columns) for row in table.rows)
            for place, column in enumerate(table.columns[1:], start=1):
                assert any(row[place].text not in {"", notation.NONE} for row in table.rows), (section.key, column)
            assert not table.readings or len(table.readings) == len(table.rows)
        for said in section.said:
            assert set(said.readings) <= own, said.text
    for text in _texts(document):
        assert not re.search(r"\bnan\b|\binf\b|None|\b1 lamps\b|\{|\}|  ", text), text


def test_an_empty_logbook_says_so(materials):
    document = composed(materials["empty"], Kind.FULL)
    assert [said.text for s in _sections(document) for said in s.said if s.key == "gaps"] == [
        "No reading counts yet: there is nothing to report on."
    ]


@pytest.mark.parametrize(
    ("name", "kind"),
    [("typed only", Kind.HEAD_TO_HEAD), ("colour only", Kind.COLOURS), ("one reading", Kind.LAMP),
     ("25 lamps", Kind.STORE), ("zooms", Kind.HEAD_TO_HEAD)],
)  # fmt: skip
def test_the_kind_that_fits_what_was_read(materials, name, kind):
    assert usual_kind(materials[name]) is kind


def test_a_shoot_out_of_many_lamps_has_no_chart_that_cannot_be_read(materials):
    """Curves of 25 lamps are no picture; a ladder of rows is one."""
    for kind in Kind:
        together = composed(materials["25 lamps"], kind).chapters[0]
        assert all(chart.rows for s in together.sections for chart in s.charts if not chart.empty), kind


def test_colours_come_without_output_and_the_best_first(materials):
    document = composed(materials["scores only"], Kind.COLOURS)
    assert {"brightness", "distances"}.isdisjoint(s.key for s in _sections(document))
    (table,) = next(s for s in _sections(document) if s.key == "colour").tables
    assert [row[0].text for row in table.rows][:1] == ["Tansy"]


def test_what_was_not_read_is_one_line(materials):
    document = composed(materials["typed only"], Kind.HEAD_TO_HEAD)
    gaps = next(s for s in _sections(document) if s.key == "gaps")
    (said,) = gaps.said
    assert "; flicker on camera; noise; whites and colours; a purpose; prices; claims." in said.text


class _Links(HTMLParser):
    def __init__(self):
        super().__init__()
        self.targets, self.ids = set(), set()

    def handle_starttag(self, tag, attrs):
        given = dict(attrs)
        self.ids.add(given.get("id"))
        if tag == "a":
            self.targets.add(given["href"].removeprefix("#"))


WITH_READINGS = Arrangement()
"""Nothing left out: every reading stands in the report."""


def test_readings_are_out_unless_they_are_asked_for(demo_material):
    for kind in Kind:
        assert composed(demo_material(), kind).readings == ()


def test_every_figure_leads_to_its_readings(demo_material):
    text = page.html(composed(demo_material(), Kind.HEAD_TO_HEAD, WITH_READINGS))
    links = _Links()
    links.feed(text)
    assert len(links.targets) > 5
    assert links.targets <= links.ids


def test_a_mark_names_its_reading(demo_material):
    """A pointer on a mark shows it, without a script."""
    text = page.html(composed(demo_material(), Kind.FULL, WITH_READINGS))
    assert len(re.findall(r"<title>[^<]*reading \d+, [^<]*K · 100 %", text)) > 5
    assert "<script" not in text


def test_html_reaches_for_nothing_outside(demo_material):
    text = page.html(composed(demo_material(), Kind.HEAD_TO_HEAD))
    assert not re.findall(r"""(?:src|href)\s*=\s*["'](?!#|data:)[^"']*["']|url\((?!#|data:)""", text)


def _flat(text):
    return re.sub(r"\s+", " ", text.replace("\u202f", " ").replace("\u00a0", " "))


def _unbroken(text):
    return re.sub(r"\s+", "", text)


def test_the_pdf_holds_what_findings_say(demo_material, demo, tmp_path):
    """Levels, whites and scores of `findings --json`, read back out of the PDF by another program's reader."""
    found = json.loads(CliRunner().invoke(main, ["findings", str(demo), "--fixture", "Burdock", "--json"]).stdout)
    page.write(composed(demo_material(("Burdock",)), Kind.LAMP), tmp_path / "lamp.pdf")
    text = _flat(" ".join(one.extract_text() for one in PdfReader(tmp_path / "lamp.pdf").pages))
    rows = [row for row in found["fixtures"][0]["findings"] if row["terms"].startswith("reflector") and row["value"]]
    levels = {_grouped(float(f"{row['value']:.3g}")) for row in rows if row["name"] == "illuminance"}
    whites = {kelvin for row in rows if row["name"] == "white error" for kelvin in row["series"]["measured_k"]}
    assert len(levels) > 1 and len(whites) > 1
    assert all(figure in text for figure in (*levels, *(_grouped(round(kelvin, -1)) for kelvin in whites)))


def _grouped(value):
    return f"{value:,.0f}".replace(",", " ")


@pytest.mark.parametrize("lamp", ["Sorrel", "Tansy", "Burdock", "Yarrow", "North window"])
def test_a_lamp_is_one_page(demo_material, tmp_path, lamp):
    page.write(composed(demo_material((lamp,)), Kind.LAMP), tmp_path / "lamp.pdf")
    (only,) = (_flat(one.extract_text()) for one in PdfReader(tmp_path / "lamp.pdf").pages)
    assert "Not measured" in only and "makes no assessment for eyes" in only
    assert only.count("Spectrometer 2") <= 2, "the terms are said once"


def test_a_store_is_a_line_a_lamp(materials, tmp_path):
    """Sixty lamps on two pages (here twenty-five on one), each with what makes it agree."""
    material = materials["25 lamps"]
    document = composed(material, Kind.STORE)
    (table,) = next(s for s in _sections(document) if s.key == "store").tables
    assert [row[0].text for row in table.rows] == [entrant.name for entrant in material.entrants]
    then = [row[table.columns.index("then")].text for row in table.rows]
    answers = {one.name: one for one in material.matched(material.common_white).answers}
    for row, told in zip(table.rows, then, strict=True):
        one = answers[row[0].text]
        assert told.startswith("agrees") is matches(*one.left), (row[0].text, told)
        assert ("±" in told) is bool(one.gels and not one.leaves and not one.gels[0].is_read)
    page.write(document, tmp_path / "store.pdf")
    assert len(PdfReader(tmp_path / "store.pdf").pages) == 1


def test_the_pdf_is_tagged_has_bookmarks_and_its_fonts(demo_material, tmp_path):
    """ISO 14289-1 asks for a language, a title and a structure; its identification stands in the metadata."""
    page.write(composed(demo_material(), Kind.HEAD_TO_HEAD), tmp_path / "report.pdf")
    reader = PdfReader(tmp_path / "report.pdf")
    root = reader.trailer["/Root"]
    assert root["/MarkInfo"]["/Marked"] and root["/StructTreeRoot"] and root["/Lang"] == "en-GB"
    assert reader.metadata.title.startswith("Specimen table")
    assert b"pdfuaid" in root["/Metadata"].get_data()
    assert len(reader.outline) >= 1
    fonts = {
        font.get_object()["/BaseFont"] for one in reader.pages for font in one["/Resources"].get("/Font", {}).values()
    }
    assert fonts and all("B612" in name or "+" in name for name in fonts), fonts
    assert "1 / " in reader.pages[0].extract_text()


def test_what_a_reader_must_know_stands_on_it(demo_material, tmp_path):
    page.write(composed(demo_material(), Kind.HEAD_TO_HEAD), tmp_path / "report.pdf")
    text = _flat(" ".join(one.extract_text() for one in PdfReader(tmp_path / "report.pdf").pages))
    for words in (
        "All readings are simulated",
        "May Tansy replace Yarrow",  # the question
        "Not decided yet",  # the decision
        "on approval until Friday",
        "Burdock is lent",  # who supplied the lamps
        "Not alike: White: none was dialled on Yarrow",
        "were corrected after reading",
        "Read with: Spectrometer 2 (simulated)",
        "an opinion, no measurement",
        "Not measured",
        "flicker on camera",
        "Per EUR Burdock gives most light (57 cd), Tansy least (12 cd)",
        "makes no assessment for eyes",
        "Film unit",
    ):
        assert words in text, words


def test_names_stand_as_they_are(materials):
    for kind in (Kind.HEAD_TO_HEAD, Kind.STORE, Kind.LAMP):
        text = page.html(composed(materials["strange names"], kind))
        assert "$5 =1+1" in text and STRANGE[2] in text
        assert "&lt;b&gt;x&lt;/b&gt; &amp; co" in text and "<b>x</b>" not in text
    assert LONG in page.html(composed(materials["typed only"], Kind.STORE))


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_paper(demo, tmp_path, paper):
    book = Logbook.open_to_read(demo)
    collection = Collection(book)
    material = Material(collection, Settings(paper=paper), collection.sessions[0])
    page.write(composed(material, Kind.LAMP), tmp_path / "page.pdf")
    book.close()
    box = PdfReader(tmp_path / "page.pdf").pages[0].mediabox
    assert round(float(box.width)) == {"A4": 595, "Letter": 612}[paper]


def test_every_session_of_the_demo_in_the_kind_that_fits(demo):
    book = Logbook.open_to_read(demo)
    collection = Collection(book)
    kinds = {}
    for session in collection.sessions:
        material = Material(collection, Settings(), session)
        kinds[session.name] = usual_kind(material)
        assert session.name.partition(":")[0] in page.html(composed(material, kinds[session.name]))
    book.close()
    assert kinds["Walk with Bracken"] is Kind.WALK
    assert kinds["Glasshouse, north window"] is Kind.ROOM


def test_a_walk_has_its_distances_and_its_law(demo):
    book = Logbook.open_to_read(demo)
    collection = Collection(book)
    session = next(s for s in collection.sessions if s.name == "Walk with Bracken")
    document = composed(Material(collection, Settings(), session), Kind.WALK)
    book.close()
    walk = next(s for s in _sections(document) if s.key == "distance")
    assert walk.said and walk.charts and len(walk.tables[0].rows) == 16
    (gaps,) = (s for s in _sections(document) if s.key == "gaps")
    said = " ".join(one.text for one in gaps.said)
    assert "other distances" not in said
    assert said.casefold().count("power") == said.casefold().count("noise") == 1


def test_a_beam_that_was_read_across_has_its_section_and_its_chart(desk):
    for angle in (-30.0, -20.0, -10.0, 0.0, 10.0, 20.0, 30.0):
        desk.free_terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0, angle_deg=angle)
        desk.confirm(desk.propose(f"{1000.0 * 2.0 ** -((angle / 12.0) ** 2):.2f} lx"), keep_in_doubt=True)
    document = composed(Material(Collection(desk.logbook), Settings(), None), Kind.FULL)
    beam = next(s for s in _sections(document) if s.key == "beam")
    assert beam.charts
    assert any(re.match(r"Beam angle 2[45]°", said.text) for said in beam.said)  # half at 12 degrees, marks 10 apart
