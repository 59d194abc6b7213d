"""An evening of three lights, read aloud: what would be false if it were published is not said. Invented figures."""

import re
from dataclasses import replace
from datetime import timedelta

import pytest

from even_beam.answers.findings import told
from even_beam.answers.findings.witness import Witness
from even_beam.bench.records import (
    Claim,
    Event,
    EventKind,
    Meter,
    Model,
    Origin,
    Reading,
    Session,
    Source,
    Terms,
    Value,
)
from even_beam.collection.collection import Collection
from even_beam.handing_over.material import Material
from even_beam.handing_over.sentences import statements
from even_beam.shell.settings import Settings
from tests.known.findings.story import START

BARE = Terms(cct_k=5600.0, level_pct=100.0, distance_m=1.0)
GELLED = replace(BARE, configuration=("softbox", "half CTO"))
SPOT = Terms(level_pct=100.0, distance_m=2.0, zoom="spot")
WARM = "4 180 K is 61 mired warmer than what was dialled (5 600 K). One wrong digit would make it 5 180."

EVENING = (
    ("panel", BARE, {"illuminance": 5010.0, "cct": 5480.0, "duv": 0.0021, "ra": 96.2}),
    ("panel", BARE, {"illuminance": 5060.0, "cct": 5476.0, "duv": 0.0022, "ra": 96.1}),
    ("panel", replace(BARE, cct_k=3200.0), {"illuminance": 4460.0, "cct": 3268.0}),
    ("panel", replace(BARE, mode="HSI", cct_k=None, hue_deg=240.0, saturation_pct=100.0), {"illuminance": 240.0}),
    ("panel", replace(BARE, angle_deg=30.0), {"illuminance": 3010.0, "cct": 5380.0}),
    ("phone", BARE, {"illuminance": 6100.0, "cct": 5900.0}),
    ("phone", replace(BARE, cct_k=3200.0), {"illuminance": 5300.0}),
    ("panel", GELLED, {"illuminance": 1480.0, "cct": 4180.0}),
    ("spot", SPOT, {"illuminance": 9800.0, "cct": 5590.0, "duv": -0.0061, "ra": 91.0}),
    ("spot", replace(SPOT, zoom="flood"), {"illuminance": 2450.0, "cct": 5590.0, "duv": -0.0061}),
    ("spot", replace(SPOT, level_pct=50.0), {"illuminance": 5096.0}),
    ("spot", replace(SPOT, distance_m=4.0), {"illuminance": 2490.0}),
    ("window", Terms(), {"illuminance": 1210.0, "cct": 6700.0, "duv": 0.0041}),
)


@pytest.fixture
def witness(logbook):
    logbook.save(
        Model("p", "Panel two by one", "bicolour panel"),
        Model("s", "Spot", "daylight spot"),
        Source("panel", "Foxglove", "p"),
        Source("spot", "Meadowsweet", "s"),
        Source("window", "Kitchen window", kind="window"),
        Meter("m", "Spectrometer"),
        Meter("p", "Phone", kind="phone", level_tolerance=0.2),
        Session("one", "One", START),
        Claim("c1", "p", "illuminance", 5200.0, 5200.0, "lx", "5200 lx", "at 1 m"),
        Claim("c2", "p", "ra", 96.0, None, "", "96+"),
    )
    for number, (who, terms, figures) in enumerate(EVENING, start=1):
        values = tuple(Value(name, value, Origin.TYPED) for name, value in figures.items())
        at = START + timedelta(minutes=number)
        lamp, meter = ("panel", "p") if who == "phone" else (who, "m")
        reading = Reading(f"r{number}", "one", at, number, terms, (lamp,), meter_id=meter, values=values)
        events = [Event(f"e{number}", "one", number, at, EventKind.TAKEN, reading_id=reading.id)]
        if terms == GELLED:
            doubt = Event("d", "one", 98, at, EventKind.IN_DOUBT, reading_id=reading.id, reason=WARM)
            events += [doubt, Event("k", "one", 99, at, EventKind.KEPT_IN_DOUBT, reading_id=reading.id)]
        logbook.commit_reading(reading, events)
    return Witness(Collection(logbook))


def headline(witness, name):
    return [one.sentence for one in told.headline(witness, witness.entrants([name])[0])]


def test_what_was_doubted_is_said_and_not_the_level_that_was_not(witness):
    said = next(one for one in headline(witness, "Foxglove") if one.startswith("Foxglove: kept in doubt"))
    assert said == "Foxglove: kept in doubt: 4 180 K is 61 mired warmer than what was dialled (5 600 K)."


def test_the_headline_is_of_white_light_where_most_was_read_and_by_the_meter_that_read_most(witness):
    levels = [one for one in headline(witness, "Foxglove") if " lx (±" in one]
    assert [one.split(" lx")[0] for one in levels] == ["It gives 5\u202f040", "It gives 4\u202f460"]
    assert all("2 m" in one for one in headline(witness, "Meadowsweet") if " lx (±" in one)
    assert any("limit 0.003" in one for one in headline(witness, "Meadowsweet")), "judged where most is known"


def test_the_dial_is_not_tried_for_what_a_gel_does_nor_for_the_edge_of_a_beam(witness):
    tried = [one for one in headline(witness, "Foxglove") if "try" in one]
    assert not any("CTO" in one or "off axis" in one for one in tried)
    (panel,) = witness.entrants(["Foxglove"])
    said = [one.sentence for one in told.everything(witness, panel)]
    assert not any("4300" in one for one in said if "ial " in one or "try " in one), "nobody asks for 4300 K of it"


def test_claims_that_cannot_be_told_are_not_refuted(witness, logbook):
    assert "Of what is claimed Ra 96+ and illuminance 5200 lx (at 1 m) cannot be told." in headline(witness, "Foxglove")
    said = [one.long for one in statements(lambda: Material(Collection(logbook), Settings(), None, ()))]
    assert "Foxglove: what was read bears out none of its claims, and refutes none." in said


def test_nobody_is_asked_to_dial_a_window(witness):
    from even_beam.known.summary import gaps

    collection = Collection(witness._collection.logbook)
    found = gaps(collection.entrants(), collection.sources)
    assert not any(re.search(r"(Kitchen window|Meadowsweet) at \d{4}", one) for one in found)


def test_a_gel_is_said_to_take_a_tint_back_only_where_it_does(witness):
    (spot,) = witness.entrants(["Meadowsweet"])
    said = [one.sentence for one in told.everything(witness, spot) if "leans magenta" in one.sentence]
    assert said and all("0.0061 from the Planckian" in one and ", eighth plus green would" in one for one in said)
