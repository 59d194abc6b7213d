"""Parquet files against the logbook they are of, and the queries of docs/sharing.md as they stand there, in DuckDB."""

import re
import sqlite3
from pathlib import Path

import duckdb
import pytest

from even_beam.collection.collection import Collection
from even_beam.files.errors import OutputError
from even_beam.handing_over.parquet import write_parquet
from even_beam.logbook.store import Logbook

DOCS = Path(__file__).parents[2] / "docs" / "sharing.md"


@pytest.fixture(scope="module")
def folders(built_demo, tmp_path_factory):
    """The demo twice, as two logbooks that share readings."""
    root = tmp_path_factory.mktemp("parquet")
    for name in ("one", "two"):
        book = Logbook.open_to_read(built_demo)
        write_parquet(Collection(book), root / "logbooks" / name)
        book.close()
    return root


def ask(folders, query: str):
    with duckdb.connect() as connection:
        return connection.execute(query.replace("'logbooks/", f"'{folders}/logbooks/")).fetchall()


def truth(built_demo, query: str):
    with sqlite3.connect(f"file:{built_demo}?mode=ro", uri=True) as connection:
        found = connection.execute(query).fetchall()
    connection.close()
    return found


@pytest.mark.parametrize(
    ("file", "table"), [("readings", "reading"), ("values", "value"), ("spectra", "spectrum"), ("computed", "computed")]
)
def test_every_row_is_there(folders, built_demo, file, table):
    assert ask(folders, f"SELECT count(*) FROM 'logbooks/one/{file}.parquet'") == truth(
        built_demo, f"SELECT count(*) FROM {table}"
    )


def test_figures_are_to_the_bit(folders, built_demo):
    mine = ask(folders, "SELECT reading_id, cct, ra FROM 'logbooks/one/computed.parquet' ORDER BY 1")
    assert mine == truth(built_demo, "SELECT reading_id, cct, ra FROM computed ORDER BY 1")
    sums = ask(folders, "SELECT reading_id, len(values), len(wavelength_nm) FROM 'logbooks/one/spectra.parquet'")
    sizes = dict(truth(built_demo, "SELECT reading_id, length(samples) / 8 FROM spectrum"))
    assert all(sizes[reading_id] == count == grid for reading_id, count, grid in sums) and sums


def queries() -> list[str]:
    """The queries as the documentation has them."""
    text = DOCS.read_text("utf-8").partition("## A collection beyond one machine")[2].partition("## Copies by day")[0]
    lines = "\n".join(line[4:] for line in text.splitlines() if line.startswith("    "))
    return [one.strip() for one in re.split(r";", lines) if one.strip()]


def test_the_documented_queries_say_what_the_logbook_has(folders, built_demo):
    counted, off, weak = (ask(folders, query) for query in queries())
    assert counted[0][0] == truth(built_demo, "SELECT count(*) FROM reading")[0][0], "those of both count once"
    white = truth(
        built_demo,
        "SELECT count(*) FROM reading r JOIN computed c ON c.reading_id = r.id WHERE cct_k = 5600 AND level_pct = 100"
        " AND c.cct > 0",
    )
    assert 0 < sum(row[2] for row in off) <= white[0][0]
    least = min(row[0] for row in truth(built_demo, "SELECT r9 FROM computed WHERE r9 IS NOT NULL"))
    assert not weak or weak[0][1] >= least


def test_a_folder_with_something_in_it_is_left_alone(folders, built_demo):
    book = Logbook.open_to_read(built_demo)
    with pytest.raises(OutputError, match="has something in it"):
        write_parquet(Collection(book), folders / "logbooks" / "one")
    book.close()
