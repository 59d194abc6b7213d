import dataclasses
import threading
from datetime import UTC, datetime, timedelta, timezone

import numpy as np
import pytest

from even_beam.bench import records
from even_beam.bench.records import (
    Computed,
    Event,
    EventKind,
    Meter,
    Origin,
    Reading,
    Session,
    Source,
    Spectrum,
    Step,
    Terms,
    Value,
    new_id,
)
from even_beam.light import METHOD_VERSION, WAVELENGTH_NM, planckian
from even_beam.logbook import LogbookError, rows, schema
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook

NOW = datetime(2026, 11, 20, 18, 0, 0, 123000, tzinfo=UTC)
TERMS = Terms(
    "CCT", 5600.0, "+2", 25.0, None, None, "spot", ("reflector", "full blue gel"), 2.0, "on axis", 5.0, "front glass"
)


def session(book: Logbook) -> Session:
    made = Session(new_id(), "Test", NOW, "Europe/Lisbon", "why?", "because", "own")
    book.save(made, Meter("m", "Spectrometer 2", quantities=("illuminance", "cct")), Source("lamp", "Tansy"))
    return made


def take(book: Logbook, of: Session, spectrum=None, terms=TERMS) -> Reading:
    n = book.next_sequence(of.id)
    reading = Reading(
        new_id(),
        of.id,
        NOW,
        n,
        terms,
        ("lamp",),
        None,
        "m",
        "by hand",
        (
            Value("illuminance", 1185.0, Origin.TYPED, text="1185", unit="lx"),
            Value("ra", None, Origin.TYPED, 99.0, None, "99+", "", "at least"),
        ),
    )
    book.commit_reading(reading, [Event(new_id(), of.id, n, NOW, EventKind.TAKEN, reading.id)], spectrum)
    return reading


def test_every_record_comes_back_as_it_was(logbook):
    own = session(logbook)
    model = records.Model(new_id(), "soft panel", "bicolour panel", "n")
    step = Step(new_id(), own.id, 1.5, ("lamp",), TERMS, ("illuminance", "cct"), "m", 3, True)
    others = [
        model,
        records.Claim(new_id(), model.id, "cct", 2700.0, 6500.0, "K", "2700 to 6500"),
        records.Cost(new_id(), model.id, "lamp", 640.0, "EUR"),
        records.Modifier(new_id(), "softbox"),
        records.Calibration(new_id(), "m", NOW, "dark"),
        records.ToleranceSet(new_id(), "skin", "skin key", {"mired": 6.5}),
        records.Conditions(new_id(), own.id, NOW, "shed", 0.4, 19.5, 229.0, "n"),
        step,
    ]
    logbook.save(*others)
    for record in others:
        kind = type(record)
        found = logbook.of_session(kind, own.id) if hasattr(record, "session_id") else logbook.all(kind)
        assert record in found
    assert logbook.sessions() == [own]


def test_columns_are_the_fields_of_the_records(logbook):
    for kind, table in rows.TABLES.items():
        names = {f.name for f in dataclasses.fields(kind)} - {"terms", "values"}
        if "terms" in {f.name for f in dataclasses.fields(kind)}:
            names |= {f.name for f in dataclasses.fields(Terms)}
        owner = {"reading_id"} if kind is Value else set()
        columns = logbook._connection.execute(f"PRAGMA table_info({table})").fetchall()
        assert {column[1] for column in columns} == names | owner


def test_readings_with_figures(logbook):
    own = session(logbook)
    reading = take(logbook, own)
    (found,) = logbook.readings(own.id)
    assert dataclasses.replace(found, values=()) == dataclasses.replace(reading, values=())
    assert set(found.values) == set(reading.values)
    (event,) = logbook.of_session(Event, own.id)
    assert event.kind is EventKind.TAKEN
    assert logbook.next_sequence(own.id) == 2


@pytest.mark.parametrize("wavelength", [WAVELENGTH_NM, np.sort(np.random.default_rng(2).uniform(380, 780, 200))])
def test_spectra_come_back_bit_for_bit(logbook, wavelength):
    own = session(logbook)
    values = np.random.default_rng(4).random(wavelength.size) * 1e-3
    reading = take(logbook, own, Spectrum(wavelength, values))
    found = logbook.spectra([reading.id])[reading.id]
    np.testing.assert_array_equal(found.values, values)
    np.testing.assert_array_equal(found.wavelength_nm, wavelength)
    assert found.absolute


def test_computed_figures_follow_the_method(logbook):
    from even_beam.collection.evaluation import computed_figures, evaluate_outdated

    own = session(logbook)
    reading = take(logbook, own, Spectrum(WAVELENGTH_NM, planckian(3200.0)))
    dark = take(logbook, own, Spectrum(WAVELENGTH_NM, np.zeros(401)))
    assert set(logbook.out_of_date(METHOD_VERSION)) == {reading.id, dark.id}
    assert evaluate_outdated(logbook) == 2
    assert logbook.out_of_date(METHOD_VERSION) == []
    assert len(logbook.out_of_date(METHOD_VERSION + 1)) == 2
    found = logbook.computed(own.id)
    assert found[reading.id].scalars["cct"] == pytest.approx(3200.0, rel=1e-5)
    assert len(found[reading.id].vectors["R"]) == 15
    assert found[dark.id].scalars == {}
    fresh = computed_figures(reading.id, Spectrum(WAVELENGTH_NM, planckian(3200.0)))
    assert set(fresh.scalars) == set(schema.COMPUTED_SCALARS)
    logbook.save_computed([Computed(reading.id, 99, {"cct": 1.0})])
    assert logbook.computed(own.id)[reading.id].method_version == 99


def test_a_reading_and_its_events_are_kept_together_or_not_at_all(logbook):
    own = session(logbook)
    reading = take(logbook, own)
    n = logbook.next_sequence(own.id)
    second = dataclasses.replace(reading, id=new_id(), sequence=n)
    (first,) = logbook.of_session(Event, own.id)
    clash = dataclasses.replace(first, reading_id=second.id)  # its identity is taken
    with pytest.raises(LogbookError, match="could not be kept"):
        logbook.commit_reading(second, [clash])
    assert [r.id for r in logbook.readings(own.id)] == [reading.id]


def test_nicknames_are_unique(logbook):
    session(logbook)
    with pytest.raises(LogbookError, match="nickname is taken"):
        logbook.save(Source(new_id(), "Tansy"))


def test_times_keep_their_moment(logbook):
    east = timezone(timedelta(hours=9))
    own = Session(new_id(), "East", datetime(2026, 1, 1, 3, 0, tzinfo=east))
    logbook.save(own)
    assert logbook.sessions()[0].created_at == own.created_at
    with pytest.raises(Exception, match="without a zone"):
        logbook.save(Session(new_id(), "Naive", datetime(2026, 1, 1)))


def test_the_check_finds_what_is_wrong(logbook):
    own = session(logbook)
    take(logbook, own)
    assert check(logbook.path).sound
    for statement in ("PRAGMA foreign_keys=OFF", "DELETE FROM event", "DELETE FROM meter"):
        logbook._connection.execute(statement)
    report = check(logbook.path)
    assert not report.sound
    assert any("missing meter" in problem for problem in report.problems)
    assert any("without the event" in problem for problem in report.problems)


def test_readings_read_while_others_are_kept_are_whole(logbook):
    """A job reads the window's own logbook while the hand at the lamp goes on: no reading comes without its figures,
    and nothing is lost."""
    own = session(logbook)
    faults: list[str] = []
    done = threading.Event()

    def look() -> None:
        while not done.is_set():
            found = [*logbook.readings(own.id), *logbook.history_of("lamp", figures=True).readings]
            faults.extend(reading.id for reading in found if len(reading.values) != 2)

    looking = [threading.Thread(target=look) for _ in range(2)]
    for thread in looking:
        thread.start()
    taken = [take(logbook, own).id for _ in range(60)]
    done.set()
    for thread in looking:
        thread.join()
    assert faults == []
    assert [reading.id for reading in logbook.readings(own.id)] == taken
