"""Tables of old tests with titles, units in headings, a column a distance; footcandles are never lux."""

import pytest

from even_beam.answers.intake.importing import import_table, keep, understand
from even_beam.formats import FormatError, columns, readings_table
from even_beam.formats.kinds import READINGS, kind_of
from even_beam.light.photometry import LUX_PER_FOOTCANDLE
from even_beam.logbook.store import Logbook


def written(tmp_path, text: str):
    path = tmp_path / "old.csv"
    path.write_text(text, encoding="utf-8")
    return path


def readings(path, logbook: Logbook, clock):
    table = readings_table.load(path)
    keep(understand(table, columns.guess(table.headings)), logbook, clock)
    (session,) = logbook.sessions()
    return logbook.readings(session.id)


def test_footcandles_are_never_lux(tmp_path, logbook, clock):
    found = readings(written(tmp_path, "Lamp,Dist ft,FC\nTansy,10,100\n"), logbook, clock)
    assert found[0].terms.distance_m == pytest.approx(3.048)
    assert found[0].values[0].value == pytest.approx(100.0 * LUX_PER_FOOTCANDLE)


def test_a_column_a_distance(tmp_path, logbook, clock):
    found = readings(written(tmp_path, "Lamp,fc @ 10ft,fc @ 20ft\nTansy,100,25\nSorrel,80,20\n"), logbook, clock)
    assert [(r.terms.distance_m, round(r.values[0].value / LUX_PER_FOOTCANDLE)) for r in found] == [
        (pytest.approx(3.048), 100), (pytest.approx(6.096), 25), (pytest.approx(3.048), 80), (pytest.approx(6.096), 20),
    ]  # fmt: skip


def test_a_title_above_remarks_between_and_units_below(tmp_path, logbook, clock):
    text = (
        "Bench evening of the spring,,,\n,,,\nLamp,Distance,Level,Lux\n,(ft),(%),(lx)\n"
        "Tansy,10,100,820\nafter the break,,,\nTansy,10,50,410\n"
    )
    path = written(tmp_path, text)
    assert kind_of(path) is READINGS
    found = readings(path, logbook, clock)
    assert [(r.terms.level_pct, r.values[0].value) for r in found] == [(100.0, 820.0), (50.0, 410.0)]
    assert found[0].terms.distance_m == pytest.approx(3.048)


def test_one_lamp_a_row_with_its_quantities_as_columns(tmp_path, logbook, clock):
    text = "Lamp,Set CCT,Lux,CCT read,CRI Ra,TLCI\nTansy,5600,820,5480,96,95\nSorrel,5600,640,5710,93,90\n"
    found = readings(written(tmp_path, text), logbook, clock)
    assert [{v.quantity: v.value for v in r.values} for r in found] == [
        {"illuminance": 820.0, "cct": 5480.0, "ra": 96.0, "tlci": 95.0},
        {"illuminance": 640.0, "cct": 5710.0, "ra": 93.0, "tlci": 90.0},
    ]


def test_every_row_that_fails_is_told_with_its_reason(tmp_path, logbook, clock):
    path = written(tmp_path, "fixture,quantity,value\nTansy,illuminance,many\nTansy,mood,3\n")
    with pytest.raises(FormatError) as raised:
        import_table(path, logbook, clock)
    assert "ine 2" in str(raised.value)
    assert "line 3" in str(raised.value)


@pytest.mark.parametrize(
    ("text", "words", "unit", "at"),
    [
        ("Dist ft", "dist", "ft", ()),
        ("FC", "fc", "fc", ()),
        ("fc @ 10ft", "fc", "fc", (("distance", "10ft"),)),
        ("Lux [lx]", "lux", "lx", ()),
        ("Distance (m)", "distance", "m", ()),
        ("power_w", "power w", "", ()),
        ("level at 2 m", "level", "", (("distance", "2 m"),)),
    ],
)
def test_headings(text, words, unit, at):
    found = columns.heading(text)
    assert (found.words, found.unit, found.at) == (words, unit, at)


@pytest.mark.parametrize("name", ["=1+1", "+cmd", "-x", "@sum", "ctl\x07bell", "$\\alpha$"])
def test_names_are_text_in_every_export_and_come_back(tmp_path, name):
    """A spreadsheet must not work out a nickname; what cannot stand in a sheet at all is replaced, and seen."""
    row = {"fixture": name, "quantity": "illuminance", "value": "-820.5"}
    text = readings_table.write_csv([row])
    cells = text.splitlines()[1].split(",")
    assert not cells[1].startswith(("=", "+", "-", "@"))
    assert "-820.5" in cells  # a number stays one
    (tmp_path / "out.csv").write_text(text, encoding="utf-8")
    assert readings_table.figures_of(readings_table.load(tmp_path / "out.csv"))[0]["fixture"] == name
    (tmp_path / "out.xlsx").write_bytes(readings_table.workbook([row]))
    back = readings_table.figures_of(readings_table.load(tmp_path / "out.xlsx"))[0]["fixture"]
    assert back == name.replace("\x07", "\N{REPLACEMENT CHARACTER}")
