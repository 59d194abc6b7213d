"""No figure rests on readings whose terms differ in a field that it does not name, over logbooks that cross every
axis."""

import dataclasses
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from even_beam.bench import fields, terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import Claim, Meter, Origin, Reading, Session, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.bench.tolerances import shipped
from even_beam.known import compare
from even_beam.known.choice import JOINABLE, JOINED, Entrant, along
from even_beam.known.dimmer_series import against_dimmer
from even_beam.known.evenings import NOT_OF_THE_LEVEL
from even_beam.known.evidence import Evidence
from even_beam.known.findings.claims import claims
from even_beam.known.findings.everything import findings_of
from even_beam.known.verdicts import verdict

START = datetime(2026, 1, 1, 19, tzinfo=UTC)
METERS = {"m1": Meter("m1", "Spectrometer"), "m2": Meter("m2", "Hand meter", kind="light meter")}
SESSIONS = {name: Session(name, name, START + timedelta(days=400 * i)) for i, name in enumerate(("s1", "s2"))}

settings_of_a_lamp = st.builds(
    Terms,
    mode=st.sampled_from(("CCT", "CCT", "CCT", "fixed", "Boost", "HSI")),
    cct_k=st.sampled_from((None, 3200.0, 4400.0, 5600.0)),
    tint=st.sampled_from(("", "", "0", "-2", "+2")),
    hue_deg=st.sampled_from((None, None, None, 0.0, 240.0)),
    saturation_pct=st.sampled_from((None, None, None, 50.0, 100.0)),
    level_pct=st.sampled_from((None, 10.0, 50.0, 100.0, 100.0)),
    zoom=st.sampled_from(("", "flood", "spot")),
    configuration=st.sampled_from(((), (), ("reflector",), ("full CTO",), ("reflector", "full CTO"))),
    distance_m=st.sampled_from((None, 1.0, 2.0, 3.0, 4.0)),
    placement=st.sampled_from(("on axis", "on axis", "unknown", "equal", "shaded")),
    angle_deg=st.sampled_from((0.0, 0.0, -15.0, 15.0, 30.0)),
    turn_deg=st.sampled_from((0.0, 0.0, 90.0)),
    reference_plane=st.sampled_from(("", "", "front of the lens")),
)
figures = st.fixed_dictionaries(
    {},
    optional={
        "illuminance": st.floats(10.0, 5000.0),
        "cct": st.floats(2800.0, 6500.0),
        "duv": st.floats(-0.01, 0.01),
        "ra": st.floats(60.0, 99.0),
        "power_w": st.floats(50.0, 300.0),
        "sound_db": st.floats(20.0, 50.0),
        "f_stop": st.floats(2.0, 22.0),
        "flicker_hz": st.floats(100.0, 25_000.0),
        "tlci": st.floats(40.0, 99.0),
        "cc": st.floats(-5.0, 5.0),
    },
)


@st.composite
def readings(draw: st.DrawFn, least: int = 2, most: int = 14, letter: str = "r") -> tuple[Measured, ...]:
    """Readings of one lamp over few terms, so that many differ in one or two fields alone."""
    pool = draw(st.lists(settings_of_a_lamp, min_size=1, max_size=4))
    found = []
    for number in range(draw(st.integers(least, most))):
        at = draw(st.sampled_from(pool))
        if draw(st.booleans()):  # one field alone is another
            other = draw(settings_of_a_lamp)
            name = draw(st.sampled_from([f.name for f in dataclasses.fields(Terms)]))
            at = replace(at, **{name: getattr(other, name)})
        session = draw(st.sampled_from(tuple(SESSIONS)))
        values = tuple(Value(name, value, Origin.TYPED) for name, value in draw(figures).items())
        record = Reading(
            f"{letter}{number}",
            session,
            SESSIONS[session].created_at + timedelta(minutes=number),
            number,
            at,
            ("lamp",),
            meter_id=draw(st.sampled_from((None, "m1", "m1", "m2"))),
            values=values,
        )
        found.append(Measured(ReadingState(record, at)))
    return tuple(found)


def evidence(own: tuple[Measured, ...], *claimed: Claim) -> Evidence:
    return Evidence("lamp", "Tansy", "panel", own, METERS, claimed)


def fields_that_differ(own: list[Measured]) -> set[str]:
    return set(terms.varying(own))


def test_every_field_of_terms_has_its_place():
    assert {one.stored for one in fields.FIELDS if one.stored} == {f.name for f in dataclasses.fields(Terms)}
    assert {"meter", "session"} <= set(fields.NAMES)
    reading = Measured(ReadingState(Reading("r", "s", START, 1, Terms()), Terms()))
    with pytest.raises(KeyError):
        terms.key(reading, "mood")


@settings(deadline=None, max_examples=150, suppress_health_check=list(HealthCheck))
@given(readings())
def test_findings_rest_on_readings_that_differ_in_their_axis_alone(own):
    by_id = {m.reading.id: m for m in own}
    for finding in findings_of(evidence(own), (), SESSIONS, battery_wh=98.0):
        assert finding.readings, finding.name
        off = fields_that_differ([by_id[i] for i in finding.readings]) - set(finding.axis)
        assert not off, (finding.name, off)


@settings(deadline=None, max_examples=150, suppress_health_check=list(HealthCheck))
@given(readings())
def test_findings_with_the_same_words_for_their_terms_are_at_the_same_terms(own):
    """A field that differs from one finding to the next of the same name, and is no axis, is said. Whether a white can
    be dialled at all is not: of one lamp it is always the same."""
    own = tuple(m for m in own if m.terms.mode != "fixed")
    by_id = {m.reading.id: m for m in own}
    named = {name: f"evening {name}" for name in SESSIONS}
    known = replace(evidence(own), session_names=named)
    by_words: dict[tuple[object, ...], set[object]] = {}
    for finding in findings_of(known, (), SESSIONS, battery_wh=98.0):
        key = terms.key(by_id[finding.readings[0]], *finding.axis)
        by_words.setdefault((finding.name, finding.axis, finding.terms), set()).add(key)
    for words, keys in by_words.items():
        assert len(keys) == 1, (words, keys)


@settings(deadline=None, max_examples=150, suppress_health_check=list(HealthCheck))
@given(readings(), readings(1, 8, "q"))
def test_a_comparison_rests_on_one_set_of_terms_a_lamp(ours, theirs):
    lamps = [Entrant("a", "Tansy", "panel", ours), Entrant("b", "Sorrel", "panel", theirs)]
    found = compare.compare(lamps, {}, "a", METERS)
    for entry, lamp in zip(found.entries, lamps, strict=True):
        if not entry.readings:
            continue
        assert fields_that_differ(list(entry.readings)) == set()
        assert set(entry.readings) == {m for m in lamp.readings if terms.key(m) == terms.key(entry.readings[0])}
        assert fields_that_differ([*entry.rests_on, *entry.readings]) <= {"distance"}
        assert fields_that_differ([*entry.colour, *entry.readings]) <= {"distance", "placement", "plane", "meter"}
        if entry.read_at_m is not None and found.distance_m is not None and entry.how:
            assert min(m.terms.distance_m for m in entry.rests_on) < found.distance_m  # never inward
    for one in found.said:
        assert set(one.readings) <= {m.reading.id for m in (*ours, *theirs)}
    for series in against_dimmer(lamps, found, "stops"):
        own = {m.reading.id: m for m in (*ours, *theirs)}
        assert fields_that_differ([own[i] for i in series.reading_ids]) <= {"level"}


@settings(deadline=None, max_examples=100, suppress_health_check=list(HealthCheck))
@given(readings(), readings(1, 8, "q"), st.sets(st.sampled_from(JOINABLE), min_size=1))
def test_what_is_joined_differs_in_what_was_asked_to_be_joined_alone(ours, theirs, joined):
    lamps = [Entrant("a", "Tansy", "panel", ours), Entrant("b", "Sorrel", "panel", theirs)]
    found = compare.compare(lamps, dict.fromkeys(joined, JOINED), "a", METERS)
    for entry, lamp in zip(found.entries, lamps, strict=True):
        if not entry.readings:
            continue
        first = terms.key(entry.readings[0], *joined)
        there = {m for m in lamp.readings if terms.key(m, *joined) == first}
        lit = {m for one in lamp.lit for m in one.readings} & there
        assert lit <= set(entry.readings) <= there
        assert entry.joined_fields <= joined and bool(entry.joined_fields) <= bool(entry.joined)
        assert entry.joined_fields.isdisjoint(found.at)


@settings(deadline=None, max_examples=120, suppress_health_check=list(HealthCheck))
@given(readings(), st.data())
def test_asking_for_terms_returns_exactly_the_readings_there(own, data):
    wanted = data.draw(st.sampled_from(own))
    asked = {name: terms.value(wanted, name) for name in fields.NAMES}
    (chosen,) = compare.choose([Entrant("a", "Tansy", "panel", own)], asked)
    assert set(chosen.readings) == {m for m in own if terms.key(m) == terms.key(wanted)}
    assert chosen.unstated == ()


@settings(deadline=None, max_examples=100, suppress_health_check=list(HealthCheck))
@given(readings(), readings(1, 1))
def test_a_reading_at_other_terms_changes_no_figure_of_one_set_of_terms(own, further):
    """Every figure without an axis stands as it was, whatever else is read of the lamp."""
    strange = replace(
        further[0], state=replace(further[0].state, reading=replace(further[0].reading, id="x", session_id="s3"))
    )
    before = findings_of(evidence(own), (), SESSIONS)
    after = {(f.name, f.readings): f for f in findings_of(evidence((*own, strange)), (), SESSIONS)}
    for finding in before:
        if not finding.axis and finding.name not in {"loss off axis"}:
            again = after[finding.name, finding.readings]
            assert again.value == finding.value or finding.value != finding.value
            assert again.uncertainty == finding.uncertainty


@settings(deadline=None, max_examples=100, suppress_health_check=list(HealthCheck))
@given(readings())
def test_verdicts_and_claims_rest_on_one_configuration_zoom_and_place(own):
    by_id = {m.reading.id: m for m in own}
    claimed = (
        Claim("c", "m", "ra", 90.0, None, "", "90+"),
        Claim("d", "m", "illuminance", 500.0, 500.0, "lx", "500", "at 2 m"),
    )
    known = evidence(own, *claimed)
    found = findings_of(known, (), SESSIONS)
    for tolerances in shipped():
        for judgement in verdict(known, found, tolerances).judgements:
            off = fields_that_differ([by_id[i] for i in judgement.readings])
            allowed = {"drift_mired": {"level"}, "evenness_pct": {"angle"}, "ageing_stops": {"session", "meter"}}
            assert off <= allowed.get(judgement.limit, set()), judgement.limit
    for judged in claims(known):
        if judged.readings and "does not say in which zoom" not in judged.sentence:
            off = fields_that_differ([by_id[i] for i in judged.readings])
            allowed = fields.NAMES if judged.value is None else ("distance",)
            if "it fails " in judged.sentence:  # one light on two evenings: both halves are named
                allowed = (*allowed, *NOT_OF_THE_LEVEL)
            assert off <= set(allowed), (judged.claim.quantity, off)


@settings(deadline=None, max_examples=100, suppress_health_check=list(HealthCheck))
@given(readings(), st.data())
def test_the_same_readings_in_any_order_say_the_same(own, data):
    shuffled = tuple(data.draw(st.permutations(own)))
    a = compare.compare([Entrant("a", "Tansy", "panel", own)], {}, "a", METERS)
    b = compare.compare([Entrant("a", "Tansy", "panel", shuffled)], {}, "a", METERS)
    assert set(a.entries[0].readings) == set(b.entries[0].readings)
    assert a.distance_m == b.distance_m


@settings(deadline=None, max_examples=80, suppress_health_check=list(HealthCheck))
@given(readings(), st.sets(st.sampled_from(fields.NAMES)))
def test_readings_along_some_axes_are_those_with_the_same_key_but_for_these(own, axes):
    for first in own:
        wanted = terms.key(first, *axes)
        assert along(own, first, *axes) == [m for m in own if terms.key(m, *axes) == wanted]
