"""Judged tables and sentences on the demo: claims, limits, for and against, the day a lamp goes back."""

from dataclasses import replace
from datetime import date

import pytest

from even_beam.bench import compare
from even_beam.bench.records import Source
from even_beam.logbook.store import Logbook
from even_beam.workspace.compare import judged as compare_judged
from even_beam.workspace.compare import table as compare_table
from even_beam.workspace.findings.witness import Witness
from even_beam.workspace.logbook.collection import Collection


@pytest.fixture
def book(demo):
    logbook = Logbook.open(demo)
    yield logbook
    logbook.close()


def told(book):
    witness = Witness(Collection(book))
    return witness, witness.entrants(["Tansy", "Comfrey", "Yarrow"])


def compared(witness, entrants):
    return compare.compare(entrants, {}, entrants[0].key, witness.evidence(entrants[0]).meters)


def test_a_claim_stands_in_its_own_row_with_an_answer_for_its_lamp(book):
    witness, entrants = told(book)
    rows = {row.name: row.cells for row in compare_judged.claims_table(witness, entrants)}
    tansy, comfrey, yarrow = rows["Ra 97, with the reflector"]
    assert tansy.marked and tansy.text == "does not hold: 94.2"
    assert comfrey.quiet and comfrey.text == yarrow.text == "–"
    assert any(cell.text == "not measurable" for cells in rows.values() for cell in cells)
    assert len(rows) == sum(len(witness.evidence(e).claims) for e in entrants)
    said = compare_judged.claim_sentences(witness, entrants)
    assert all("does not hold" in one for one in said)
    assert any(one.startswith("Comfrey: Ra 90+ claimed") for one in said)


def test_for_and_against_is_said_once_and_with_its_number(book):
    witness, entrants = told(book)
    rows = compare_judged.for_and_against(witness, entrants, "background and effects", compared(witness, entrants))
    names = [row.name for row in rows]
    assert names[0] == "for it" and "against it" in names and len(rows) <= 2 * compare_judged.MOST_SENTENCES
    for place in range(3):
        said = [row.cells[place].text for row in rows if row.cells[place].text]
        assert len(said) == len(set(said))
        assert all(any(c.isdigit() for c in one) for one in said)


def test_every_limit_of_a_purpose_is_a_row(book):
    witness, entrants = told(book)
    rows = compare_judged.verdict_table(witness, entrants, "product", compared(witness, entrants))
    sets = {one.name: one for one in witness.tolerance_sets()}
    assert len(rows) == 1 + len(sets["product"].limits)
    assert rows[0].cells[1].text == "outside"
    with pytest.raises(KeyError):
        compare_judged.verdict_table(witness, entrants, "warmth", compared(witness, entrants))


def test_the_day_it_goes_back(book):
    witness, entrants = told(book)
    assert witness.return_by(entrants[0]) == date(2026, 11, 20) and witness.return_by(entrants[2]) is None
    source = next(s for s in book.all(Source) if s.nickname == "Comfrey")
    book.save(replace(source, return_by="2026-12-24"))
    witness, entrants = told(book)
    assert witness.return_by(entrants[1]) == date(2026, 12, 24)
    said = compare_judged.decision_sentences(witness, entrants, "skin key", compared(witness, entrants))
    assert said[1].startswith("Comfrey: Send it back by 24 December 2026: ")
    features = {row.name: row.cells for row in compare_table.feature_table(witness, entrants, Collection(book))}
    assert features["goes back by"][1].text == "24 December 2026" and features["goes back by"][2].quiet


def test_a_white_of_its_own_is_judged_against_the_white_of_the_others(book):
    witness = Witness(Collection(book))
    entrants = witness.entrants(["Tansy", "Yarrow"])
    asked = compare_judged.asked_of(compared(witness, entrants), entrants[1])
    assert asked["cct"] == 5600.0
    judged = witness.verdict(entrants[1], "skin key", asked)
    (white,) = [one for one in judged.judgements if one.limit.startswith("white") and one.value is not None][:1]
    assert "its own white, held against 5600 K" in white.sentence
    assert compare_judged.asked_of(compared(witness, entrants[1:]), entrants[1])["cct"] is None
