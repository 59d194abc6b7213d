"""Whatever terms and values a person gives come back from a row as they were, by the quick way and in any company."""

from datetime import UTC, datetime

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from even_beam.bench.limits import TERM_LIMITS
from even_beam.bench.records import (
    Computed,
    Event,
    EventKind,
    Origin,
    Reading,
    Session,
    Source,
    Step,
    Terms,
    Value,
    new_id,
)
from even_beam.logbook.store import Logbook
from even_beam.words.quantities import QUANTITIES

words = st.text(st.characters(blacklist_categories=("Cs", "Cc")), max_size=12)


def term(name: str) -> st.SearchStrategy[float | None]:
    limit = TERM_LIMITS[name]
    return st.none() | st.floats(limit.low, limit.high)


@st.composite
def values(draw: st.DrawFn) -> Value:
    quantity = QUANTITIES[draw(st.sampled_from(("illuminance", "cct", "ra")))]
    numbers = st.none() | st.floats(quantity.low, quantity.high)
    return Value(
        quantity.name,
        draw(numbers),
        draw(st.sampled_from(list(Origin))),
        draw(numbers),
        draw(numbers),
        draw(words),
        draw(words),
        draw(words),
    )


terms = st.builds(
    Terms,
    mode=words,
    cct_k=term("cct_k"),
    tint=words,
    level_pct=term("level_pct"),
    hue_deg=term("hue_deg"),
    saturation_pct=term("saturation_pct"),
    zoom=words,
    configuration=st.lists(words, max_size=3).map(tuple),
    distance_m=term("distance_m"),
    placement=words,
    angle_deg=st.floats(-180.0, 180.0),
    reference_plane=words,
)
NOW = datetime(2026, 3, 1, 20, 15, 30, 125_000, tzinfo=UTC)


@pytest.fixture(scope="module")
def book(tmp_path_factory):
    logbook = Logbook.create(tmp_path_factory.mktemp("rows") / "rows.evenbeam")
    logbook.save(Source("lamp", "Tansy"))
    yield logbook
    logbook.close()


@settings(deadline=None, max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    given_terms=terms,
    given_values=st.lists(values(), max_size=3, unique_by=lambda v: (v.quantity, v.origin)),
    note=words,
)
def test_a_reading_comes_back_as_it_was(book, given_terms, given_values, note):
    session = Session(new_id(), "Property", NOW)
    step = Step(new_id(), session.id, 1.0, ("lamp",), given_terms, ("illuminance",), None, 2, False, 0.1, 30.0)
    book.save(session, step)
    reading = Reading(
        new_id(),
        session.id,
        NOW,
        1,
        given_terms,
        ("lamp",),
        step.id,
        None,
        note,
        tuple(given_values),
        12.5,
        "flash",
        "high",
    )
    book.commit_reading(reading, [Event(new_id(), session.id, 1, NOW, EventKind.TAKEN, reading.id)])
    (found,) = book.readings(session.id)
    assert set(found.values) == set(reading.values)
    assert (found.terms, found.at, found.note, found.source_ids) == (given_terms, NOW, note, ("lamp",))
    assert (found.since_change_s, found.meter_mode, found.meter_range) == (12.5, "flash", "high")
    assert book.of_session(Step, session.id) == [step]
    by_lamp = next(r for r in book.history_of("lamp").readings if r.id == reading.id)
    assert by_lamp.terms == given_terms
    assert set(book.figures([reading.id])[reading.id].values) == set(reading.values)


@settings(deadline=None, max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    cct=st.floats(1000.0, 50_000.0),
    rendering=st.lists(st.none() | st.floats(-300.0, 100.0, allow_nan=False), min_size=15, max_size=15),
)
def test_computed_figures_come_back_with_what_has_no_answer(book, cct, rendering):
    session = Session(new_id(), "Computed", NOW)
    reading = Reading(new_id(), session.id, NOW, 1, Terms(), ("lamp",))
    book.save(session)
    book.commit_reading(reading, [Event(new_id(), session.id, 1, NOW, EventKind.TAKEN, reading.id)])
    vector = tuple(float("nan") if v is None else v for v in rendering)
    book.save_computed([Computed(reading.id, 1, {"cct": cct}, {"R": vector})])
    found = book.computed(session.id)[reading.id]
    assert found.scalars == {"cct": cct}
    assert found.vectors["R"] == pytest.approx(vector, nan_ok=True)
    assert book.figures([reading.id])[reading.id].computed.scalars == {"cct": cct}
