"""Open data: a logbook into a folder and out of it into a new one is equal, twice still; what cannot be is refused."""

import json
from dataclasses import replace

import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from even_beam.answers.intake.session_folder import keep_session, read_session
from even_beam.bench.planning.sweep import Sweep
from even_beam.bench.records import Claim, FileMapping, Meter, Model, Source, new_id
from even_beam.cli import main
from even_beam.collection.collection import Collection
from even_beam.collection.files import new_logbook
from even_beam.desk.session.document import Document
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.formats import FormatError
from even_beam.formats.session_data import SessionData, written
from even_beam.handing_over.folder import data_of, write_folder
from even_beam.logbook import LogbookError
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings


def all_of(book: Logbook) -> SessionData:
    collection = Collection(book)
    return data_of(collection, collection.sessions)


def as_plain(data: SessionData) -> dict:
    """Whatever order the records stand in."""
    plain = json.loads(written(data))
    return {k: sorted(map(json.dumps, v)) if isinstance(v, list) else v for k, v in plain.items()}


def a_run(path, clock, taken: int, *, with_meters: bool = True) -> Logbook:
    """A run of two lamps of two models, broken off after so many readings."""
    book = new_logbook(path) if with_meters else Logbook.create(path)
    book.save(
        Model("a", "Garden six", "six-emitter colour light"), Model("b", "Old panel"), Model("c", "On the shelf"),
        Source("tansy", "Tansy", "a", simulated="six-emitter colour light"), Claim(new_id(), "c", "ra", 95, 95, "", ""),
        Source("yarrow", "Yarrow", "b", simulated="tungsten Fresnel"), FileMapping("f", "a shape", {"columns": [1, 2]}),
    )  # fmt: skip
    document = Document(book, Settings(), clock, Instruments(clock, seed=2))
    meter = next((m for m in book.all(Meter) if m.simulated), None)
    if meter is None:
        meter = Meter("m", "Spectrometer", simulated="spectrometer")
        book.save(meter)
    desk = document.plan_run(Sweep(("tansy", "yarrow"), (5600.0,), (100.0,), (2.0,)), meter, "run")
    for _ in range(taken):
        document.set_simulated_lamps()
        desk.take(document.instruments.meter(meter).read())
    return book


@pytest.mark.parametrize("taken", [0, 1, 2])
def test_a_run_that_is_not_done_comes_out_as_it_went_in(tmp_path, clock, taken):
    """Models of lamps that stand in steps alone were left out once, and the whole was refused."""
    book = a_run(tmp_path / "one.evenbeam", clock, taken)
    folder = tmp_path / "handed over"
    write_folder(Collection(book), Settings(), None, folder)
    before = as_plain(all_of(book))
    book.close()
    run = CliRunner()
    for _ in range(2):
        done = run.invoke(main, ["import", str(folder), str(tmp_path / "two.evenbeam")])
        assert done.exit_code == 0, done.output
        second = Logbook.open_to_read(tmp_path / "two.evenbeam")
        assert as_plain(all_of(second)) == before
        second.close()


def test_the_demo_comes_out_as_it_went_in(demo, tmp_path):
    book = Logbook.open_to_read(demo)
    before = all_of(book)
    book.close()
    second = Logbook.create(tmp_path / "two.evenbeam")
    for _ in range(2):
        keep_session(before, second)
        assert as_plain(all_of(second)) == as_plain(before)
    second.close()


def test_one_session_alone_brings_what_it_rests_on_and_no_more(tmp_path, clock):
    book = a_run(tmp_path / "one.evenbeam", clock, 1)
    Document(book, Settings(), clock).begin("another evening")
    collection = Collection(book)
    data = data_of(collection, [s for s in collection.sessions if s.name == "run"])
    assert {model.id for model in data.models} == {"a", "b"}
    assert {source.id for source in data.sources} == {"tansy", "yarrow"}
    book.close()


@pytest.fixture(scope="module")
def sound(tmp_path_factory) -> dict:
    """A run with a reading, as plain JSON."""
    from tests.conftest import Clock

    book = a_run(tmp_path_factory.mktemp("sound") / "one.evenbeam", Clock(), 1, with_meters=False)
    data = all_of(book)
    book.close()
    return json.loads(written(data))


BENT = {
    "no zone there is": ("sessions", "zone", "Nowhere/At all"),
    "no zone": ("sessions", "zone", ""),
    "year 1": ("sessions", "created_at", "0001-01-01T00:00:00Z"),
    "year 9999": ("readings", "at", "9999-12-31T23:59:59Z"),
    "a date without a zone": ("readings", "at", "2026-01-01T10:00:00"),
    "a date that is none": ("events", "at", "2026-99-99T10:00:00Z"),
    "a whole number beyond 64 bits": ("readings", "sequence", 2**64),
    "a number beyond a double": ("meters", "constant", 10**400),
    "half a letter": ("sessions", "name", "\ud800"),
    "a NUL in a nickname": ("sources", "nickname", "Tan\0sy"),
    "a name as long as a book": ("sources", "nickname", "x" * 5_000_000),
    "a correction of no field": ("events", "kind", "terms corrected"),
    "an exposure that is none": ("events", "kind", "exploded"),
    "a spectrum of one point": ("spectra", "wavelength_nm", [380.0]),
    "a spectrum that falls": ("spectra", "wavelength_nm", None),
    "a figure that cannot be": ("readings", "terms", {"cct_k": 5600.0, "level_pct": 1e300}),
    "a reading of no session": ("readings", "session_id", "nobody"),
    "an event of no reading": ("events", "reading_id", "nobody"),
}


@pytest.mark.parametrize(("kind", "name", "value"), BENT.values(), ids=BENT)
def test_what_cannot_be_is_refused_with_words_and_nothing_is_kept(sound, tmp_path, kind, name, value):
    plain = json.loads(json.dumps(sound))
    row = plain[kind][0]
    row[name] = row[name][::-1] if value is None else value
    file = tmp_path / "session.json"
    file.write_text(json.dumps(plain))
    book = Logbook.create(tmp_path / "two.evenbeam")
    empty = as_plain(all_of(book))
    with pytest.raises((FormatError, LogbookError)) as raised:
        keep_session(read_session(file), book)
    assert len(str(raised.value)) < 600
    assert as_plain(all_of(book)) == empty
    book.close()


@given(st.integers(0, 10**9))
def test_a_bent_one_is_refused_or_can_be_worked_with(sound, tmp_path_factory, seed):
    import random

    from benchmarks.fuzz import bent

    folder = tmp_path_factory.mktemp("bent")
    file = folder / "session.json"
    file.write_bytes(bent(json.dumps(sound).encode(), random.Random(seed)))
    book = Logbook.create(folder / "two.evenbeam")
    try:
        keep_session(read_session(file), book)
    except (FormatError, LogbookError):
        assert book.sessions() == []
        book.close()
        return
    collection = Collection(book)
    for session in collection.sessions:
        assert collection.readings_in(session.id) is not None
    assert not book.notices
    book.close()


def test_usual_meters_that_were_used_stay(tmp_path, clock):
    one = a_run(tmp_path / "one.evenbeam", clock, 1)
    data = all_of(one)
    two = a_run(tmp_path / "two.evenbeam", clock, 1)
    keep_session(replace(data, sessions=tuple(replace(s, id=s.id) for s in data.sessions)), two)
    assert len(two.all(Meter)) == 4
    one.close(), two.close()
