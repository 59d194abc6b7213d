"""What is told of a fixture first: few sentences, each with the readings it rests on, none of what does not count."""

from dataclasses import replace
from datetime import timedelta

import pytest

from even_beam.answers.findings import told
from even_beam.answers.findings.witness import Witness
from even_beam.bench.records import Event, EventKind, Origin, Reading, Session, Source, Terms, Value
from even_beam.collection.collection import Collection
from even_beam.handing_over.lamp_record import record_of
from even_beam.logbook.store import Logbook
from even_beam.paper.label import SIZES
from even_beam.shell.settings import Settings
from tests.known.findings.story import START


@pytest.fixture
def witness(demo):
    logbook = Logbook.open_to_read(demo)
    yield Witness(Collection(logbook))
    logbook.close()


def test_at_most_a_dozen_and_each_once(witness):
    for entrant in witness.entrants():
        sentences = [one.sentence for one in told.headline(witness, entrant)]
        assert 1 <= len(sentences) <= told.MOST
        assert len(sentences) == len(set(sentences))
        assert all(sentence.endswith((".", ")")) for sentence in sentences)


def test_what_is_told_first_is_part_of_everything(witness):
    (tansy,) = witness.entrants(["Tansy"])
    whole = {one.sentence for one in told.everything(witness, tansy)}
    subjects = {one.subject for one in told.headline(witness, tansy)}
    found = [one for one in told.headline(witness, tansy) if one.subject in {"output", "white", "colour", "dimming"}]
    assert {"output", "white", "claim"} <= subjects
    assert found and all(one.sentence in whole for one in found)


def test_each_rests_on_readings_of_the_lamp_itself(witness):
    for entrant in witness.entrants():
        own = {m.reading.id for m in entrant.readings}
        for one in told.everything(witness, entrant):
            if one.subject != "in doubt":
                assert set(one.readings) <= own


def test_the_same_is_told_from_a_file_that_is_open_elsewhere(demo, witness):
    (tansy,) = witness.entrants(["Tansy"])
    record = record_of(demo, tansy.source_id, Settings(), SIZES["62mm"])
    assert record.told == tuple(told.headline(witness, tansy))
    assert [one.sentence for one in record.claims] == [one.sentence for one in witness.claims(tansy)]


def test_a_reading_in_doubt_is_told_with_the_figure_that_rests_on_it(witness):
    for entrant in witness.entrants():
        doubtful = {m.reading.id for m in entrant.readings if m.state.suspect or m.state.doubt}
        for finding in witness.findings(entrant):
            if doubtful & set(finding.readings):
                (own,) = [
                    one for one in told.everything(witness, entrant) if one.sentence.startswith(finding.sentence)
                ][:1]
                assert "It rests on" in own.sentence


def test_of_equal_findings_the_usual_terms_are_told_first(witness):
    """A lamp that was read bare is not told by what a gel on it gives."""
    for entrant in witness.entrants():
        bare = {
            m.reading.id
            for m in entrant.readings
            if not m.terms.configuration and m.terms.level_pct and m.terms.distance_m
        }
        first = next((one for one in told.headline(witness, entrant) if one.subject == "output"), None)
        levels = [f for f in witness.findings(entrant) if f.name == "illuminance"]
        if first is not None and any(bare & set(f.readings) for f in levels):
            assert set(first.readings) <= bare


def test_the_headline_prefers_no_tint_many_readings_and_another_light(logbook):
    """Of an evening read thrice and a single reading of the next, and of whites with the tint dial turned."""
    bare = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
    settings = [
        *[("one", bare, 1000.0)] * 3,
        *[("one", replace(bare, distance_m=3.0), 444.0)] * 3,
        *[("one", replace(bare, cct_k=3200.0), 900.0)] * 2,
        *[("one", replace(bare, tint="+1 green"), 990.0)] * 4,
        ("two", bare, 1040.0),
    ]
    logbook.save(Source("lamp", "Tansy"), *(Session(name, name, START) for name in ("one", "two")))
    for number, (session, terms, lux) in enumerate(settings, start=1):
        values = (Value("illuminance", lux, Origin.TYPED),)
        at = START + timedelta(minutes=number)
        reading = Reading(f"r{number}", session, at, number, terms, ("lamp",), values=values)
        taken = Event(f"e{number}", session, number, at, EventKind.TAKEN, reading_id=reading.id)
        logbook.commit_reading(reading, [taken])
    own = Witness(Collection(logbook))
    levels = [one.readings for one in told.headline(own, own.entrants()[0]) if " lx (±" in one.sentence]
    assert levels == [("r1", "r2", "r3"), ("r7", "r8")]  # at the mark where most was read


def test_nothing_is_told_of_a_white_that_nobody_dialled(witness):
    """A lamp that was read as it stood by a window has no fixed white."""
    (sorrel,) = witness.entrants(["Sorrel"])
    said = " ".join(f.sentence for f in witness.findings(sorrel))
    assert "fixed white" not in said and "no white dialled" not in said
    assert "at bare · equal distance, not measured" in said


def test_what_is_claimed_is_told_with_its_unit_and_its_condition(witness):
    (tansy,) = witness.entrants(["Tansy"])
    (comfrey,) = witness.entrants(["Comfrey"])
    told_of_it = " ".join(one.sentence for one in told.headline(witness, comfrey))
    assert "colour temperature 3200 to 5600 K holds" in told_of_it
    (line,) = [one.sentence for one in told.headline(witness, tansy) if one.sentence.startswith("Of what is claimed")]
    assert "colour temperature" not in line, "neither end of its range was dialled and read"
    assert "illuminance 19 800 lx (at 1 m, full level, with the reflector) cannot be told" in line
