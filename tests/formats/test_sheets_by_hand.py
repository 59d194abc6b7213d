"""Sheets as people have them, each with what must come out: every cell is understood, asked about, or left out with
words. All of it invented."""

from pathlib import Path

import pytest
from openpyxl import Workbook

from even_beam.answers.intake.past_table import PastTable, understand
from even_beam.formats import FormatError, readings_table
from even_beam.formats.readings_table import guess_of, load

FOOTCANDLE_LX = 10.763910416709722


def read(path: Path) -> PastTable:
    """The table as it comes in by its guess, as a person would confirm it."""
    table = load(path)
    return understand(table, guess_of(table))


def csv(tmp_path: Path, text: str, name: str = "sheet.csv") -> Path:
    path = tmp_path / name
    path.write_text(text, encoding="utf-8")
    return path


def figures(past: PastTable) -> list[tuple[str, dict[str, float | None]]]:
    """Each reading's lamp with its figures."""
    drafts = [draft for own in past.by_session.values() for draft in own]
    return [(draft.fixture, {value.quantity: value.value for value in draft.values}) for draft in drafts]


def terms(past: PastTable, field: str) -> list[object]:
    return [getattr(draft.terms, field) for own in past.by_session.values() for draft in own]


PLAIN = [("Heron", {"illuminance": 820.0, "cct": 5480.0}), ("Tansy", {"illuminance": 410.0, "cct": 5590.0})]


@pytest.mark.parametrize(
    "text",
    [
        "Lamp,Lux,Kelvin\nHeron,820,5480\nTansy,410,5590\n",
        "Leuchte;Beleuchtungsstärke;Farbtemperatur\nHeron;820;5480\nTansy;410;5590\n",
        "Projecteur;Éclairement (lux);Température de couleur\nHeron;820;5480\nTansy;410;5590\n",
        "Lámpara;Iluminancia;Temperatura de color\nHeron;820;5480\nTansy;410;5590\n",
        "Lampada;Illuminamento;Temperatura di colore\nHeron;820;5480\nTansy;410;5590\n",
        "Armatuur;Verlichtingssterkte;Kleurtemperatuur\nHeron;820;5480\nTansy;410;5590\n",
        "Projetor;Iluminância;Temperatura de cor\nHeron;820;5480\nTansy;410;5590\n",
        "Lamp\tlux\tkelvin\nHeron\t820 lx\t5480 K\nTansy\t410 lx\t5590K\n",
        "Readings of the garden\n\nLamp,Lux,Kelvin\nHeron,820,5480\nTansy,410,5590\n",
        "Lamp,Illuminance,CCT read\n,(lx),(K)\nHeron,820,5480\nTansy,410,5590\n",
        "Lamp,Lux,Kelvin\nHeron,820,5480\nTansy,410,5590\nMean,615,5535\nMax,820,5590\n",
        "Lamp,Lux,Kelvin\nHeron,820,5480\nTansy,410,5590\nMittelwert,615,5535\n",
        ",Heron,Tansy\nLux,820,410\nKelvin,5480,5590\n",
        "Lamp,Heron,Tansy\nLux,820,410\nKelvin,5480,5590\n",
        "Lamp,Lux,Kelvin\nHeron,820,5480\n,,\nTansy,410,5590\n",
        "Lamp,Lux,Kelvin,Remarks\nHeron,820,5480,n/a\nTansy,410,5590,–\n",
    ],
)
def test_one_table_in_sixteen_layouts(tmp_path, text):
    assert figures(read(csv(tmp_path, text))) == PLAIN


def test_footers_are_named_as_left_out(tmp_path):
    past = read(csv(tmp_path, "Lamp,Lux,Kelvin\nHeron,820,5480\nMean,615,5535\n"))
    assert past.passed_over == ["line 3: “Mean · 615 · 5535” sums up the others"]


def test_a_lamp_a_column_is_named_by_its_column(tmp_path):
    past = read(csv(tmp_path, "Lamp,Heron,Tansy,Mean\nLux,820,abc,615\nKelvin,5480,5590,5535\n"))
    assert [one.words for one in past.left_out] == ["column 4: “Mean · 615 · 5535” sums up the others"]
    assert past.refused[0].startswith("column 3: “abc lx”")
    assert past.refused[0].endswith("(the rest of the column comes in)")


def test_columns_that_are_nothing_here_are_named_as_left_out(tmp_path):
    past = read(csv(tmp_path, "Lamp,Lux,Kelvin,Mood\nHeron,820,5480,good\n"))
    assert past.passed_over == ["the column Mood"]


def test_terms_over_several_columns(tmp_path):
    past = read(csv(tmp_path, ",2 m,,4 m,\nLamp,Lux,Kelvin,Lux,Kelvin\nHeron,820,5480,205,5470\n"))
    assert figures(past) == [
        ("Heron", {"illuminance": 820.0, "cct": 5480.0}),
        ("Heron", {"illuminance": 205.0, "cct": 5470.0}),
    ]
    assert terms(past, "distance_m") == [2.0, 4.0]


def test_levels_and_distances_in_headings(tmp_path):
    past = read(csv(tmp_path, "Lamp,lux at 2 m 50%,lux at 2 m 100 %\nHeron,410,820\n"))
    assert terms(past, "level_pct") == [50.0, 100.0]
    assert terms(past, "distance_m") == [2.0, 2.0]


def test_feet_and_footcandles_in_a_heading(tmp_path):
    past = read(csv(tmp_path, "Lamp,fc@10 ft,Kelvin\nHeron,76,5480\n"))
    assert figures(past)[0][1]["illuminance"] == pytest.approx(76.0 * FOOTCANDLE_LX)
    assert terms(past, "distance_m")[0] == pytest.approx(3.048)


@pytest.mark.parametrize(
    ("cell", "low", "value", "high", "qualifier"),
    [
        ("~500", None, 500.0, None, "about"),
        ("ca. 500", None, 500.0, None, "about"),
        ("<500", None, None, 500.0, "below"),
        (">500", 500.0, None, None, "above"),
        ("500 ± 20", 480.0, None, 520.0, "range"),
        ("500 lx", None, 500.0, None, ""),
        ("50 fc", None, 50.0 * FOOTCANDLE_LX, None, ""),
    ],
)
def test_cells_that_say_how_they_are_meant(tmp_path, cell, low, value, high, qualifier):
    past = read(csv(tmp_path, f"Lamp,Lux,Kelvin\nHeron,{cell},5480\n"))
    ((reading,),) = past.by_session.values()
    found = reading.values[0]
    assert (found.low, found.high, found.qualifier) == (low, high, qualifier)
    assert found.value == (pytest.approx(value) if value is not None else None)


@pytest.mark.parametrize(
    ("sign", "cells", "values"),
    [
        (",", ("1.600,5", "820,25"), (1600.5, 820.25)),
        (".", ("1,600.5", "820.25"), (1600.5, 820.25)),
        (" ", ("1 600", "12 820"), (1600.0, 12820.0)),
        ("'", ("1'600", "12'820"), (1600.0, 12820.0)),
    ],
)
def test_signs_of_decimals_and_thousands(tmp_path, sign, cells, values):
    past = read(csv(tmp_path, f"Lamp;Lux;Kelvin\nHeron;{cells[0]};5480\nTansy;{cells[1]};5590\n"))
    assert [each["illuminance"] for _, each in figures(past)] == list(values)


@pytest.mark.parametrize(
    ("dates", "days"),
    [
        (("03.10.2026", "04.10.2026"), ((2026, 10, 3), (2026, 10, 4))),
        (("03/10/2026", "25/10/2026"), ((2026, 10, 3), (2026, 10, 25))),
        (("10/03/2026", "10/25/2026"), ((2026, 10, 3), (2026, 10, 25))),
        (("2026-10-03", "2026-10-04"), ((2026, 10, 3), (2026, 10, 4))),
        (("3-10-26", "25-10-26"), ((2026, 10, 3), (2026, 10, 25))),
    ],
)
def test_dates_in_the_order_that_their_column_tells(tmp_path, dates, days):
    past = read(csv(tmp_path, f"Lamp;Date;Lux\nHeron;{dates[0]};820\nTansy;{dates[1]};410\n"))
    drafts = [draft for own in past.by_session.values() for draft in own]
    assert [(d.at.year, d.at.month, d.at.day) for d in drafts if d.at is not None] == list(days)


def test_a_date_that_could_be_two_is_refused_and_not_guessed(tmp_path):
    past = read(csv(tmp_path, "Lamp;Date;Lux\nHeron;03/10/2026;820\nTansy;2026-10-04;410\n"))
    assert figures(past) == [("Tansy", {"illuminance": 410.0})]
    assert "could be two" in past.refused[0]


def test_cri_is_asked_for(tmp_path):
    path = csv(tmp_path, "Lamp,Lux,CRI\nHeron,820,96\n")
    with pytest.raises(FormatError, match="mean of all fifteen"):
        read(path)
    table = load(path)
    for target in ("ra", "re"):
        past = understand(table, {**guess_of(table), "CRI": f"measured {target}"})
        assert figures(past) == [("Heron", {"illuminance": 820.0, target: 96.0})]


@pytest.mark.parametrize(("heading", "quantity"), [("CRI (Ra)", "ra"), ("CRI Re", "re"), ("Ra", "ra")])
def test_cri_that_says_which(tmp_path, heading, quantity):
    assert figures(read(csv(tmp_path, f"Lamp,Lux,{heading}\nHeron,820,96\n"))) == [
        ("Heron", {"illuminance": 820.0, quantity: 96.0})
    ]


@pytest.mark.parametrize(
    ("cells", "quantity", "values"),
    [(("3 G", "M2"), "cc", (3.0, -2.0)), (("+0.0021", "-0.001"), "duv", (0.0021, -0.001))],
)
def test_a_column_of_tint_that_no_dial_can_have(tmp_path, cells, quantity, values):
    past = read(csv(tmp_path, f"Lamp,Lux,Tint\nHeron,820,{cells[0]}\nTansy,410,{cells[1]}\n"))
    assert [each[quantity] for _, each in figures(past)] == list(values)


# --- spreadsheets


def workbook(tmp_path: Path, rows: list[list[object]], *merged: str) -> tuple[Workbook, Path]:
    book = Workbook()
    for row in rows:
        book.active.append(row)
    for area in merged:
        book.active.merge_cells(area)
    return book, tmp_path / "sheet.xlsx"


def test_per_cents_of_a_spreadsheet(tmp_path):
    book, path = workbook(tmp_path, [["Lamp", "Dimmer", "Lux"], ["Heron", 0.5, 410], ["Heron", 1, 820]])
    for row in (2, 3):
        book.active.cell(row, 2).number_format = "0%"
    book.save(path)
    assert terms(read(path), "level_pct") == [50.0, 100.0]


def test_merged_names_name_every_row(tmp_path):
    rows = [["Lamp", "Dimmer", "Lux"], ["Heron", 100, 820], [None, 50, 410], ["Tansy", 100, 300], [None, 50, 150]]
    book, path = workbook(tmp_path, rows, "A2:A3", "A4:A5")
    book.save(path)
    assert [lamp for lamp, _ in figures(read(path))] == ["Heron", "Heron", "Tansy", "Tansy"]


def test_merged_headings_stand_over_all_their_columns(tmp_path):
    rows = [
        [None, "2 m", None, "4 m", None],
        ["Lamp", "Lux", "Kelvin", "Lux", "Kelvin"],
        ["Heron", 820, 5480, 205, 5470],
    ]
    book, path = workbook(tmp_path, rows, "B1:C1", "D1:E1")
    book.save(path)
    assert terms(read(path), "distance_m") == [2.0, 4.0]


def test_a_sheet_a_lamp(tmp_path):
    book, path = workbook(tmp_path, [["Dimmer", "Lux"], [100, 820]])
    book.active.title = "Heron"
    other = book.create_sheet("Tansy")
    for row in (["Dimmer", "Lux"], [100, 410]):
        other.append(row)
    notes = book.create_sheet("Remarks")
    notes.append(["What I thought of them", "and when"])
    notes.append(["nice", "Tuesday"])
    book.save(path)
    past = read(path)
    assert figures(past) == [("Heron", {"illuminance": 820.0}), ("Tansy", {"illuminance": 410.0})]
    assert past.passed_over[0].startswith(
        "line 1 of sheet Remarks: “What I thought of them · and when” are other columns"
    )


def test_rows_of_two_sheets_on_the_same_line_are_two_rows(tmp_path):
    book, path = workbook(tmp_path, [["Dimmer", "Lux"], [100, "820 lumpy"], [50, 410]])
    book.active.title = "Heron"
    other = book.create_sheet("Tansy")
    for row in (["Dimmer", "Lux"], [100, 300], [50, 150]):
        other.append(row)
    book.save(path)
    past = read(path)
    (refusal,) = past.refusals
    assert refusal.words.startswith("line 2 of sheet Heron: “820 lumpy")
    assert not refusal.alone  # nothing else of Heron's row came in
    assert not any(draft.notes for own in past.by_session.values() for draft in own)


def test_a_hidden_sheet_is_nobodys(tmp_path):
    book, path = workbook(tmp_path, [["Lamp", "Lux"], ["Heron", 820]])
    hidden = book.create_sheet("Old")
    hidden.append(["Lamp", "Lux"])
    hidden.append(["Heron", 99])
    hidden.sheet_state = "hidden"
    book.save(path)
    assert figures(read(path)) == [("Heron", {"illuminance": 820.0})]


def test_columns_may_be_named_in_place_of_their_headings(tmp_path):
    table = load(csv(tmp_path, "a,b,c,d\nHeron,76,96,x\n"))
    named = table.headed(["Lamp", "fc@10 ft", "Ra", "-"])
    past = understand(named, readings_table.guess_of(named))
    assert [each for _, each in figures(past)] == [{"illuminance": pytest.approx(76.0 * FOOTCANDLE_LX)}, {"ra": 96.0}]
    with pytest.raises(FormatError, match="has 4 columns"):
        table.headed(["Lamp"] * 5)


def test_a_named_column_keeps_the_terms_that_stood_over_it(tmp_path):
    table = load(csv(tmp_path, ",2 m,,4 m\nLamp,Lux,CRI,Lux\nHeron,820,96,205\n"))
    assert table.headed(["Lamp", "fc", "Ra", "lux @ 5 m"]).headings == ("Lamp", "fc @ 2 m", "Ra @ 2 m", "lux @ 5 m")
    assert table.headed(["Lamp", "lux", "-"]).headings == ("Lamp", "lux @ 2 m", "", "")
