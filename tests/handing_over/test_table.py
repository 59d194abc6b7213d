"""The table of readings marks what does not count, and what counts in doubt: whoever reckons with it must see it."""

from dataclasses import replace

import pytest

from even_beam.bench.run import Standing
from even_beam.collection.collection import Collection
from even_beam.handing_over.table import table_rows
from even_beam.logbook.store import Logbook


@pytest.mark.parametrize(
    ("state", "note"),
    [
        ({"suspect": True}, "suspect: something moved"),
        ({"standing": Standing.TAKEN_BACK}, str(Standing.TAKEN_BACK)),
        ({"doubt": "0.6 stop low"}, "in doubt, not kept"),
        ({"doubt": "0.6 stop low", "kept_in_doubt": True}, "kept in doubt"),
    ],
)
def test_what_does_not_count_is_marked(demo, monkeypatch, state, note):
    logbook = Logbook.open_to_read(demo)
    collection = Collection(logbook)
    read = collection.readings_in
    marked = lambda session: tuple(replace(m, state=replace(m.state, **state)) for m in read(session))  # noqa: E731
    monkeypatch.setattr(collection, "readings_in", marked)
    rows = table_rows(collection, [collection.sessions[0].id])
    logbook.close()
    assert rows and all(note in row["note"] for row in rows)
