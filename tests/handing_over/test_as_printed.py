"""What an editor would strike out, in every kind of report of invented logbooks: terms said twice, sentences that begin
with a figure or never end, digits that nobody can read, pages that hold nothing."""

import re
from dataclasses import replace
from itertools import pairwise

import pytest
import weasyprint
from pypdf import PdfReader

from even_beam.answers.findings import told
from even_beam.answers.intake.importing import AsSaid, import_files
from even_beam.collection.collection import Collection
from even_beam.handing_over.compose import composed
from even_beam.handing_over.kinds import Kind
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.lamp import BY_LAMP
from even_beam.handing_over.sentences import as_text, statements
from even_beam.known.verdicts import Answer
from even_beam.logbook.store import Logbook
from even_beam.paper import page
from even_beam.paper.document import Setting
from even_beam.shell.settings import Settings
from tests.handing_over.invented import ROWS, invented
from tests.handing_over.printed_text import printed_over
from tests.test_one_answer import table

MOST_WORDS = 25


def of_table(seed, tmp_path, logbook, clock) -> Material:
    """An invented logbook that crosses modes, tints, zooms, modifiers, meters and evenings."""
    path = tmp_path / "invented.csv"
    path.write_text(table(seed))
    import_files([path], logbook, clock, AsSaid(guess=True))
    return Material(Collection(logbook), Settings(), None)


def sections(document):
    return [section for chapter in document.chapters for section in chapter.sections]


@pytest.fixture(params=[*ROWS, *range(6)])
def material(request, tmp_path, logbook, clock):
    if isinstance(request.param, int):
        yield of_table(request.param, tmp_path, logbook, clock)
        return
    book = invented(request.param, tmp_path)
    collection = Collection(book)
    yield Material(collection, Settings(), next(iter(collection.sessions), None))
    book.close()


def test_an_answer_is_short_and_a_sentence_begins_with_no_figure(material):
    for kind in (Kind.LAMP, Kind.FULL, Kind.HEAD_TO_HEAD):
        for section in sections(composed(material, kind)):
            if section.setting is Setting.ANSWER:
                for said in section.said:
                    assert len(said.text.split()) <= MOST_WORDS + 10 * ("sixty characters" in said.text), said.text
                    assert not said.text[0].isdigit() and said.text.endswith("."), said.text


def test_the_terms_of_a_lamp_are_said_once(material):
    """No sentence below the line of terms repeats a term of it."""
    for entrant in material.entrants:
        at = told.block_terms(material.witness, entrant)
        every = told.told_of(material.witness, entrant, material.witness.findings(entrant))
        shared = {part for part in at.split(", ")[:-1] if re.search(r"\d (m|ft|%)$", part)}
        for one in every:
            assert at not in one.in_block
            assert not one.words[0].isdigit() or one.words.endswith("as typed"), one.words
            differs = set(re.split(r" · |, ", one.differs.removeprefix("at ")))
            assert not differs & shared, (one.in_block, at)


def test_what_differs_and_what_is_shared_are_all_the_terms(material):
    """A sentence in its block says no less than it says alone: each of its own terms stands in it or above it."""
    for entrant in material.entrants:
        at = told.block_terms(material.witness, entrant)
        for one in told.told_of(material.witness, entrant, material.witness.findings(entrant)):
            for term in one.terms.split(" · "):
                known = term.removesuffix(" K") if term.endswith(" K") else term
                if not re.search(r"\d{4}", term) or term.endswith(" K"):  # the day is said of the block by its month
                    assert known in f"{at} · {one.differs}" or term in one.in_block, (term, at, one.in_block)


def test_no_figure_has_more_digits_than_any_meter_is_good_for(material):
    """Levels to three figures, whites to ten kelvin, in all that is found; what was typed comes back as typed."""
    for entrant in material.entrants:
        for one in material.witness.findings(entrant):
            if one.name == "repeats that disagree":
                continue
            for level in re.findall(r"([\d\u202f.]+) lx", one.words):
                digits = level.replace("\u202f", "").replace(".", "").lstrip("0")
                assert len(digits.rstrip("0")) <= 3, one.words
            for kelvin in re.findall(r"gives ([\d\u202f]+) K", one.words):
                assert kelvin.endswith("0"), one.words


def test_sentences_say_their_terms_once_and_name_every_lamp(material):
    text = as_text(statements(lambda: material))
    lines = [line for line in text.splitlines() if line.strip()]
    heads = [line for line in lines if "Unless a line says otherwise" in line or "Alike for all" in line]
    assert all(one != after for one, after in pairwise(heads)) and len(heads) <= len(material.entrants) + 1
    assert not re.search(r"\bnan\b|None|\(\)|  \.|\.\.", text)
    for entrant in material.entrants:
        if material.witness.findings(entrant):
            assert entrant.name in text


def test_a_lamp_is_one_page_its_review_two_and_lamps_against_each_other_three(tmp_path, clock):
    """Of five lamps that cross every term; nothing is printed over something else."""
    book = Logbook.create(tmp_path / "book.evenbeam")
    made = of_table(3, tmp_path, book, clock)
    lamps = len(made.entrants)
    of_kind = {Kind.LAMP: lamps + 1, Kind.FULL: 2 * lamps + 1, Kind.HEAD_TO_HEAD: 3, Kind.CLAIMS: 2, Kind.COLOURS: 3}
    for kind, most in of_kind.items():  # what all of them were read with follows the last lamp
        path = tmp_path / f"{kind}.pdf"
        page.write(composed(made, kind), path)
        pages = [one.extract_text().strip() for one in PdfReader(path).pages]
        assert len(pages) <= most, kind
        assert printed_over(path) == [], kind
        assert all(len(text) > 60 for text in pages), "no page that holds nothing"
    book.close()


def test_what_is_printed_over_something_else_is_seen(tmp_path):
    path = tmp_path / "over.pdf"
    weasyprint.HTML(string="<p>12 300</p><p style='margin-top:-1.7em'>4 880 lx</p>").write_pdf(path)
    assert printed_over(path)


def test_sentences_of_the_same_words_are_said_once():
    law = told.Told("dimming", "The dimmer follows a linear law", ("a",), "5600 K", "")
    same = replace(law, readings=("b",), terms="3200 K", differs="at 3200 K")
    other = told.Told("dimming", "At 1 % it gives 1 % of full", ("c",), "5600 K", "")
    assert [one.in_block for one in told.as_one([law, same, other])] == [
        "The dimmer follows a linear law, and so at 3200 K.",
        "At 1 % it gives 1 % of full.",
    ]
    assert told.as_one([law, same])[0].readings == ("a", "b")
    nowhere_else = told.as_one([same, replace(same, differs="on 19 Nov 2026")])
    assert [one.in_block for one in nowhere_else] == ["The dimmer follows a linear law, at 3200 K; on 19 Nov 2026."]


def test_for_and_against_are_the_verdicts(material):
    """A limit stands on one side alone: what surely speaks for a lamp never stands against it as well."""
    for entrant in material.entrants:
        for section in BY_LAMP["sides"][1](material, entrant).tables:
            verdicts = {v.purpose: v for v in material.witness.verdicts(entrant)}
            for row in section.rows:
                cells = dict(zip(section.columns, (cell.text for cell in row), strict=True))
                judged = verdicts[cells["for"]].judgements
                for one in judged:
                    surely = "speaks for it" if one.answer is Answer.WITHIN else "against it"
                    unread = one.answer is Answer.NOT_MEASURED
                    side = "not read" if unread else surely if one.certain else "cannot be told"
                    assert one.label in cells[side], (one, cells)
