"""Clocks jump: a reading keeps the time that was shown, right or wrong, and only the order of events is forced."""

from datetime import UTC, datetime, timedelta

import pytest

from even_beam.bench.records import Event, Meter, Source, Terms
from even_beam.collection.collection import Collection
from even_beam.desk.session.document import Document
from even_beam.handing_over.compose import write_report
from even_beam.handing_over.kinds import Kind
from even_beam.handing_over.material import Material
from even_beam.handing_over.table import table_rows
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings

EVENING = datetime(2026, 11, 20, 18, 0, tzinfo=UTC)


def read_at(path, times) -> Logbook:
    """A logbook with a reading at each time that the clock showed."""
    book = Logbook.create(path)
    book.save(Source("tansy", "Tansy"), Meter("m", "Hand meter", kind="light meter"))
    now = [times[0]]
    document = Document(book, Settings(), lambda: now[0])
    desk = document.begin("Evening")
    desk.free_source, desk.free_meter = "tansy", "m"
    for number, at in enumerate(times):
        now[0] = at
        desk.free_terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0 + number)
        desk.confirm(desk.propose(f"{3200 / (2 + number) ** 2:.0f} lx"), keep_in_doubt=True)
        desk.waited_s, desk.since_change_s  # noqa: B018 (a screen asks for them all the while)
    return book


def test_a_clock_that_was_ahead_once_gives_no_later_reading_a_false_time(tmp_path):
    times = [EVENING, EVENING + timedelta(days=400), *(EVENING + timedelta(minutes=m) for m in (2, 4, 6))]
    book = read_at(tmp_path / "book.evenbeam", times)
    (session,) = book.sessions()
    readings = book.readings(session.id)
    assert [reading.at for reading in readings] == times
    assert [reading.note for reading in readings] == ["", "", "the clock had gone back by 400 days", "", ""]
    events = book.of_session(Event, session.id)
    moments = [event.at for event in events]
    assert moments == sorted(moments) and len({event.sequence for event in events}) == len(events)
    rows = table_rows(Collection(book))
    assert [row["time"] for row in rows] == [at.isoformat(timespec="seconds") for at in times]
    assert "gone back by 400 days" in rows[2]["note"]
    book.close()


FIRST, LAST = datetime.min.replace(tzinfo=UTC), datetime.max.replace(tzinfo=UTC)


@pytest.mark.parametrize("times", [[FIRST] * 3, [LAST] * 3, [EVENING, FIRST, LAST, EVENING], [LAST, FIRST]])
def test_the_ends_of_time_end_nothing(tmp_path, times):
    book = read_at(tmp_path / "book.evenbeam", times)
    (session,) = book.sessions()
    assert len(book.readings(session.id)) == len(times)
    document = Document(book, Settings(), lambda: times[-1])
    assert document.desk is not None
    assert document.desk.undo() is not None
    assert document.learned_costs() is not None
    material = Material(Collection(book), Settings(), session, ())
    write_report(material, Kind.FULL, tmp_path / "page.html")
    book.close()
    assert check(tmp_path / "book.evenbeam").sound
    book = Logbook.open(tmp_path / "book.evenbeam")
    assert len(book.readings(session.id)) == len(times)
    book.close()
