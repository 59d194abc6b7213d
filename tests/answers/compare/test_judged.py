"""Lamps judged on the demo: claims, limits, for and against, the day a lamp goes back."""

from dataclasses import replace
from datetime import date

import pytest

from even_beam.answers.compare import judged as compare_judged
from even_beam.answers.findings.witness import Witness
from even_beam.bench.records import Claim, Source
from even_beam.collection.collection import Collection
from even_beam.known import compare
from even_beam.known.verdicts import Answer
from even_beam.logbook.store import Logbook


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


def test_a_line_a_lamp_on_its_claims_what_does_not_hold_first(book):
    witness, entrants = told(book)
    lines = compare_judged.claim_lines(witness, entrants)
    assert lines[0].startswith("Tansy: Ra 97 does not hold (94.2)")
    assert "not read at those terms" in lines[0]
    assert any(line.startswith("Comfrey: Ra 90+ does not hold") for line in lines)
    for entrant, line in zip(entrants, lines, strict=True):
        assert line.count(";") == len(witness.evidence(entrant).claims) - 1, "each claim once"


def test_what_speaks_for_and_against_is_said_once_and_with_its_number(book):
    witness, entrants = told(book)
    judged = compare_judged.judged_of(witness, entrants, "background and effects", compared(witness, entrants))
    assert any(line.startswith("for Tansy:") for line in judged.sides)
    assert any(line.startswith("against Comfrey:") for line in judged.sides)
    assert len(judged.sides) <= 2 * len(entrants)
    assert all(any(c.isdigit() for c in line) for line in judged.sides)


def test_every_limit_of_a_purpose_is_a_row_on_its_own_scale(book):
    witness, entrants = told(book)
    judged = compare_judged.judged_of(witness, entrants, "product", compared(witness, entrants))
    sets = {one.name: one for one in witness.tolerance_sets()}
    assert len(judged.limits) == len(sets["product"].limits)
    assert [lamp.word for lamp in judged.lamps][1] == "no"
    for place, entrant in enumerate(entrants):
        verdict = witness.verdict(entrant, "product", compare_judged.asked_of(compared(witness, entrants), entrant))
        for limit, own in zip(judged.limits, verdict.judgements, strict=True):
            figure = limit.figures[place]
            if figure.at is None:
                continue
            assert 0.0 <= figure.low <= figure.at <= figure.high <= 1.0
            inside = limit.allowed[0] - 1e-9 <= figure.at <= limit.allowed[1] + 1e-9
            assert inside == (own.answer is Answer.WITHIN), f"{entrant.name}, {own.sentence}"
            whole = limit.allowed[0] - 1e-9 <= figure.low and figure.high <= limit.allowed[1] + 1e-9
            if own.answer is Answer.WITHIN and own.certain:
                assert whole, "the whole of what the meter can tell lies within"
    with pytest.raises(KeyError):
        compare_judged.judged_of(witness, entrants, "warmth", compared(witness, entrants))


def test_a_word_a_lamp_with_what_says_so(book):
    witness, entrants = told(book)
    judged = compare_judged.judged_of(witness, entrants, "skin key", compared(witness, entrants))
    for lamp, entrant in zip(judged.lamps, entrants, strict=True):
        verdict = witness.verdict(entrant, "skin key", compare_judged.asked_of(compared(witness, entrants), entrant))
        sure = [j.label for j in verdict.judgements if j.answer is Answer.OUTSIDE and j.certain]
        assert (lamp.word == "no") == bool(sure)
        assert lamp.word != "yes" or all(j.answer is Answer.WITHIN for j in verdict.judgements)
        assert all(label in lamp.why for label in sure[:2])
    rows = compare_judged.sheet_of(judged)
    assert [cells[0].text for _, _, cells in rows.rows] == ["Tansy", "Comfrey", "Yarrow"]
    assert len(rows.columns) == 4 + len(judged.limits)


def test_the_day_it_goes_back(book):
    witness, entrants = told(book)
    assert witness.return_by(entrants[0]) == date(2026, 11, 20) and witness.return_by(entrants[2]) is None
    source = next(s for s in book.all(Source) if s.nickname == "Comfrey")
    book.save(replace(source, return_by="2026-12-24"))
    witness, entrants = told(book)
    assert witness.return_by(entrants[1]) == date(2026, 12, 24)
    judged = compare_judged.judged_of(witness, entrants, "skin key", compared(witness, entrants))
    assert judged.lamps[1].act == "goes back by Thursday 24 December"
    assert judged.lamps[2].act == "", "what is the store's own goes nowhere"


def test_a_lamp_is_judged_alike_whoever_stands_beside_it(book):
    """A white of its own is held against what is claimed of it, or against what somebody asks for."""
    witness = Witness(Collection(book))
    entrants = witness.entrants(["Tansy", "Yarrow"])
    yarrow = entrants[1]
    beside = compare_judged.asked_of(compared(witness, entrants), yarrow)
    assert beside["cct"] is None, "no neighbour says what it is to give"
    told = [one.sentence for one in witness.verdict(yarrow, "skin key", beside | {"cct": 5600.0}).judgements]
    assert any("its own white, held against 5600 K" in one for one in told), "somebody asks for it"
    alone = compare_judged.asked_of(compared(witness, entrants[1:]), yarrow)
    bare = [one.sentence for one in witness.verdict(yarrow, "skin key", alone).judgements]
    assert any("held against its claim of 3200 K" in one for one in bare)
    gelled = [one.sentence for one in witness.verdict(yarrow, "skin key", beside).judgements]
    assert beside["configuration"] == ("full blue gel",) and not any("its claim" in one for one in gelled)


def test_a_claim_of_a_quantity_that_nobody_knows_is_said_by_its_name(book):
    """As of a logbook of another hand, or of a later day."""
    model = next(source.model_id for source in book.all(Source) if source.nickname == "Tansy")
    book.save(Claim("strange", model, "sparkle", 8.0, 8.0, "", "8"))
    witness = Witness(Collection(book))
    (tansy,) = witness.entrants(["Tansy"])
    assert any("sparkle 8" in line for line in compare_judged.claim_lines(witness, [tansy]))
