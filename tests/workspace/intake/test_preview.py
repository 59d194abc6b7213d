"""What would come of a table: what is doubtful stands first and says why; nothing is kept by looking."""

import pytest

from even_beam.bench import notation
from even_beam.formats import FormatError, columns, readings_table
from even_beam.workspace.intake.importing import keep
from even_beam.workspace.intake.past_table import understand
from even_beam.workspace.intake.preview import LOOKED_AT, preview_of

TEXT = """Lamp,Dim,Dist ft,FC
Yarrow,100,10,160
Yarrow,50,10,80
Sorrel,100,10,12l
Sorrel,100,10,120
Sorrel,100,15,53.3
Sorrel,100,20,301
Sorrel,100,25,19.2
"""


@pytest.fixture
def table(tmp_path):
    path = tmp_path / "old.csv"
    path.write_text(TEXT)
    return readings_table.load(path)


def test_doubtful_rows_stand_first_with_their_reason(table, logbook, clock):
    preview = preview_of(table, columns.guess(table.headings), "ft")
    first, second, *rest = preview.rows
    assert (first.line, first.terms) == (4, "left out")
    assert "12l" in first.figures
    assert second.line == 7
    assert "a factor of ten" in second.doubt
    assert "323.9 lx" in second.doubt or "324 lx" in second.doubt
    assert [row.line for row in rest] == [2, 3, 5, 6, 8]
    assert all(not row.doubt for row in rest)
    assert preview.sentence.startswith("6 readings of Sorrel, Yarrow in 1 session. 1 in doubt: out until you say so.")
    assert logbook.sessions() == []
    report = keep(understand(table, columns.guess(table.headings)), logbook, clock)
    assert len(report.doubts) == 1, "what is lit is what is in doubt once it is kept"


def test_figures_are_said_in_the_units_of_whoever_reads(table):
    notation.speak("fc")
    try:
        rows = preview_of(table, columns.guess(table.headings), "ft").rows
    finally:
        notation.speak("lx")
    assert any(row.figures.startswith("160 fc") for row in rows)
    assert all("10 ft" in row.terms for row in rows if row.line in {2, 3, 5})


def test_a_long_table_is_looked_at_in_part(tmp_path):
    path = tmp_path / "long.csv"
    path.write_text("Lamp,Dim,FC\n" + "".join(f"Yarrow,{1 + n % 100},{100 + n}\n" for n in range(LOOKED_AT + 50)))
    table = readings_table.load(path)
    assert (
        f"the first {LOOKED_AT} of {LOOKED_AT + 50} rows"
        in preview_of(table, columns.guess(table.headings), "m").sentence
    )
    with pytest.raises(FormatError):
        preview_of(table, {"Lamp": "fixture"}, "m")


def test_where_values_have_a_column_a_white_was_dialled():
    long = columns.guess(("lamp", "cct", "quantity", "value"))
    assert long["cct"] == "cct_k"
    assert columns.guess(("lamp", "cct", "lux"))["cct"] == "measured cct"
    both = columns.guess(("lamp", "cct_k", "cct", "quantity", "value"))
    assert (both["cct_k"], both["cct"]) == ("cct_k", "measured cct")
