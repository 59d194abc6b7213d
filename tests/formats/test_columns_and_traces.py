"""Spreadsheets as people keep them, and quantities against time."""

from pathlib import Path

import numpy as np
import pytest

from even_beam.formats import FormatError, columns, readings_table, trace_table
from even_beam.formats.kinds import BEAMS, FILMS, PHOTOS, READINGS, SPECTRA, file_filter
from even_beam.formats.readings_table import UnknownColumnsError

WIDE = """Lamp;Set CCT;Dimmer;Distance (ft);Lux;CCT read;CRI;Weather
Yarrow;3200;100;10;1600;3187;99;rain
Yarrow;3200;50;10;790;2960;99;
Sorrel;5600;100;10;2210;5480;;
"""


def table(tmp_path, text: str, name: str = "old.csv") -> readings_table.Table:
    path = tmp_path / name
    path.write_text(text, encoding="utf-8")
    return readings_table.load(path)


def test_headings_are_guessed(tmp_path):
    guess = columns.guess(table(tmp_path, WIDE).headings)
    assert guess == {
        "Lamp": "fixture",
        "Set CCT": "cct_k",
        "Dimmer": "dimmer_pct",
        "Distance (ft)": "distance",
        "Lux": "measured illuminance",
        "CCT read": "measured cct",
        "CRI": "?",
        "Weather": "",
    }
    assert columns.guess(["Lux", "lx"]) == {"Lux": "measured illuminance", "lx": ""}  # no two columns are the same


def test_a_column_a_quantity_becomes_a_figure_each(tmp_path):
    old = table(tmp_path, WIDE)
    figures = readings_table.figures_of(old, {**columns.guess(old.headings), "CRI": "measured ra"})
    assert len(figures) == 8
    assert {f["quantity"] for f in figures[:3]} == {"illuminance", "cct", "ra"}
    assert figures[0]["distance"] == "10 ft"  # the unit of the heading
    assert figures[0].where.number == 2


def test_unknown_columns_are_asked_about(tmp_path):
    with pytest.raises(UnknownColumnsError, match="unknown column Weather") as raised:
        readings_table.figures_of(table(tmp_path, WIDE))
    assert raised.value.guess["Lamp"] == "fixture"
    assert raised.value.table.shape == "readings lamp|set cct|dimmer|distance (ft)|lux|cct read|cri|weather"


@pytest.mark.parametrize(
    ("mapping", "words"),
    [
        ({"a": "fixture"}, "no column holds a figure"),
        ({"a": "measured cct", "b": "measured cct"}, "two columns"),
        ({"a": "measured mood"}, "nothing that a column can be"),
        ({"a": "quantity"}, "no column holds a figure"),
    ],
)
def test_mappings_that_cannot_be(mapping, words):
    with pytest.raises(FormatError, match=words):
        columns.checked(mapping)


def test_a_power_log_comes_in_as_traces(tmp_path):
    log = "Time [min],Power (W),PF,note\n0,100,0.90,\n0.5,112,0.91,\n1.0,118,0.91,\n2.0,,0.92,\n3.0,120,0.92,\n"
    assert not trace_table.is_trace(table(tmp_path, log).headings)  # a note is no quantity
    log = log.replace(",note", "").replace(",\n", "\n")
    power, factor = trace_table.traces_of(table(tmp_path, log))
    assert power.quantity == "power_w"
    assert power.seconds.tolist() == [0.0, 30.0, 60.0, 180.0]  # the gap is left out
    assert factor.quantity == "power_factor"
    assert factor.values.size == 5


@pytest.mark.parametrize(
    ("times", "seconds"),
    [
        ("10 20 30.5", [0.0, 10.0, 20.5]),
        ("0:10 1:10 1:00:10", [0.0, 60.0, 3600.0]),
        ("2026-11-25T20:00:00 2026-11-25T20:00:30 2026-11-25T20:02:00", [0.0, 30.0, 120.0]),
    ],
)
def test_times_as_loggers_write_them(tmp_path, times, seconds):
    text = "time,lux\n" + "".join(f"{time},{100 + i}\n" for i, time in enumerate(times.split()))
    (trace,) = trace_table.traces_of(table(tmp_path, text))
    assert np.allclose(trace.seconds, seconds)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("time,lux\n0,1\n1,2\n", "at least 3"),
        ("time,lux\n0,1\n2,2\n1,3\n", "line 4: the time does not go on"),
        ("time,lux\n0,1\n1,l2\n2,3\n", "line 3: “l2” is not a number"),
        ("time,lux\n0,1\n1,nan\n2,3\n", "not a number"),
        ("time,lux\n0,1\n1,-5\n2,3\n", "line 3: -5 is no illuminance"),
        ("time,lux\nsoon,1\n1,2\n2,3\n", "“soon” is not a time"),
        ("time,lux\n0,\n1,\n2,3\n", "no column has 3"),
    ],
)
def test_logs_that_are_broken(tmp_path, text, words):
    with pytest.raises(FormatError, match=words):
        trace_table.traces_of(table(tmp_path, text))


def test_a_dialog_offers_what_a_kind_takes():
    offered = file_filter(READINGS, SPECTRA)
    assert offered.startswith("Readings, spectra (") and offered.endswith(";;All files (*)")
    assert {f"*{one}" for one in READINGS.suffixes | SPECTRA.suffixes} == set(
        offered.partition("(")[2].partition(")")[0].split()
    )
    assert BEAMS.takes(Path("A lamp.IES")) and not BEAMS.takes(Path("ies"))
    assert not PHOTOS.suffixes & FILMS.suffixes, "what is dropped is one or the other"
