"""Judged tables and sentences on the demo: claims, limits, for and against, the day a lamp goes back."""

from dataclasses import replace
from datetime import date

import pytest

from even_beam.bench.records import Source
from even_beam.logbook.store import Logbook
from even_beam.workspace import compare_judged, compare_table
from even_beam.workspace.collection import Collection
from even_beam.workspace.evidence import Witness


@pytest.fixture
def book(demo):
    logbook = Logbook.open(demo)
    yield logbook
    logbook.close()


def told(book):
    witness = Witness(Collection(book))
    return witness, witness.entrants(["Tansy", "Comfrey", "Yarrow"])


def test_a_claim_stands_in_its_own_row_with_an_answer_for_its_lamp(book):
    witness, entrants = told(book)
    rows = {row.name: row.cells for row in compare_judged.claims_table(witness, entrants)}
    tansy, comfrey, yarrow = rows["Ra 97"]
    assert tansy.marked and tansy.text == "does not hold: 94.1"
    assert comfrey.quiet and comfrey.text == yarrow.text == "–"
    assert any(cell.text == "not measurable" for cells in rows.values() for cell in cells)
    assert len(rows) == sum(len(witness.evidence(e).claims) for e in entrants)
    said = compare_judged.claim_sentences(witness, entrants)
    assert all("does not hold" in one for one in said)
    assert any(one.startswith("Comfrey: Ra 90+ claimed") for one in said)


def test_for_and_against_is_said_once_and_with_its_number(book):
    witness, entrants = told(book)
    rows = compare_judged.for_and_against(witness, entrants, "background and effects")
    names = [row.name for row in rows]
    assert names[0] == "for it" and "against it" in names and len(rows) <= 2 * compare_judged.MOST_SENTENCES
    for place in range(3):
        said = [row.cells[place].text for row in rows if row.cells[place].text]
        assert len(said) == len(set(said))
        assert all(any(c.isdigit() for c in one) for one in said)


def test_every_limit_of_a_purpose_is_a_row(book):
    witness, entrants = told(book)
    rows = compare_judged.verdict_table(witness, entrants, "product")
    sets = {one.name: one for one in witness.tolerance_sets()}
    assert len(rows) == 1 + len(sets["product"].limits)
    assert rows[0].cells[1].text == "outside"
    with pytest.raises(KeyError):
        compare_judged.verdict_table(witness, entrants, "warmth")


def test_the_day_it_goes_back(book):
    witness, entrants = told(book)
    assert witness.return_by(entrants[0]) == date(2026, 11, 20) and witness.return_by(entrants[2]) is None
    source = next(s for s in book.all(Source) if s.nickname == "Comfrey")
    book.save(replace(source, return_by="2026-12-24"))
    witness, entrants = told(book)
    assert witness.return_by(entrants[1]) == date(2026, 12, 24)
    said = compare_judged.decision_sentences(witness, entrants, "skin key")
    assert said[1].startswith("Comfrey: Send it back by 24 December 2026: ")
    features = {row.name: row.cells for row in compare_table.feature_table(witness, entrants, Collection(book))}
    assert features["goes back by"][1].text == "24 December 2026" and features["goes back by"][2].quiet
