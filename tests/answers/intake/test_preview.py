"""What would come of a table: what is doubtful stands first and says why; nothing is kept by looking."""

import pytest

from even_beam.answers.intake.importing import keep
from even_beam.answers.intake.past_table import understand
from even_beam.answers.intake.preview import LOOKED_AT, column_words, preview_of
from even_beam.collection.collection import session_state
from even_beam.formats import FormatError, columns, readings_table
from even_beam.words import notation

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
    assert (first.where.number, first.terms) == (4, "left out")
    assert "12l" in first.figures
    assert second.where.number == 7
    assert "a factor of ten" in second.doubt
    assert "323.9 lx" in second.doubt or "324 lx" in second.doubt
    assert [row.where.number for row in rest] == [2, 3, 5, 6, 8]
    assert all(not row.doubt for row in rest)
    assert preview.sentence.startswith("6 readings of Sorrel, Yarrow in 1 session. 1 in doubt: out until you say so.")
    assert logbook.sessions() == []
    report = keep(understand(table, columns.guess(table.headings)), logbook, clock)
    assert len(report.doubts) == 1, "what is lit is what is in doubt once it is kept"


def test_one_bad_figure_leaves_the_rest_of_its_row(tmp_path, logbook, clock):
    path = tmp_path / "wide.csv"
    path.write_text("Lamp,Dim,Dist ft,FC,Ra\nSorrel,100,10,12l,96\nSorrel,50,10,60,95\n")
    table = readings_table.load(path)
    preview = preview_of(table, readings_table.guess_of(table), "ft")
    first = preview.rows[0]
    assert (first.where.number, first.terms, first.figures) == (2, "this figure is left out", "12l")
    assert preview.sentence.startswith("2 readings of Sorrel in 1 session. 1 figure cannot be understood; first, line")
    assert preview.sentence.endswith("(the rest of the line comes in).")
    assert [(row.where.number, row.figures) for row in preview.rows[1:]] == [(2, "Ra 96"), (3, "646 lx · Ra 95")]
    report = keep(understand(table, readings_table.guess_of(table)), logbook, clock)
    _, kept = session_state(logbook, report.sessions[0].id)
    assert [one.reading.note for one in kept] == ["not understood in the table: “12l”", ""]
    again = keep(understand(table, readings_table.guess_of(table)), logbook, clock)
    assert (again.readings, again.again) == (0, 2)


@pytest.mark.parametrize(
    ("cells", "dialled"),
    [
        (("3200", "5600", "5600"), True),
        (("3200 K", "5600K", "4000"), True),
        (("3190", "5600", "5600"), False),
        (("3200", "5600"), False),
    ],
)
def test_round_whites_were_dialled(tmp_path, cells, dialled):
    path = tmp_path / "whites.csv"
    path.write_text("Lamp,Kelvin,Lux\n" + "".join(f"Sorrel,{cell},{100 + n}\n" for n, cell in enumerate(cells)))
    table = readings_table.load(path)
    guess = readings_table.guess_of(table)
    assert guess["Kelvin"] == ("cct_k" if dialled else "measured cct")
    assert any("5600 K" in row.terms for row in preview_of(table, guess, "m").rows) == dialled


def test_a_column_is_called_by_the_unit_it_is_read_in():
    assert column_words("measured illuminance", "fc") == "figures: illuminance, fc"
    assert column_words("measured illuminance") == "figures: illuminance, lx"
    assert column_words("distance", "ft") == "distance, ft"
    assert column_words("measured cct", "ft") == "figures: colour temperature, K"


def test_figures_are_said_in_the_units_of_whoever_reads(table):
    with notation.speaking(notation.Units("fc", "ft")):
        rows = preview_of(table, columns.guess(table.headings), "ft").rows
    assert any(row.figures.startswith("160 fc") for row in rows)
    assert all("10 ft" in row.terms for row in rows if row.where.number in {2, 3, 5})


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


def test_a_file_that_is_no_text_is_named_in_plain_words(tmp_path):
    path = tmp_path / "photo.csv"
    path.write_bytes(b"\xe2,\x91\rf\xd0,\n,\x8b\r;\n")
    with pytest.raises(FormatError, match="photo") as told:
        readings_table.load(path)
    assert "universal" not in str(told.value)
