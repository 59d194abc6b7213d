"""Bars on a grid of stops, and scores as a strip that reads in black and white."""

import math
from itertools import pairwise

import pytest

from even_beam.figures.chart import Line, Rule, Text
from even_beam.figures.ranking import THICK_PT, ranked_bars
from even_beam.figures.strip import Strip, ground_of
from even_beam.figures.whites import landing_chart
from tests.known.test_compare import FULL, compared, lamp


def test_bars_end_at_their_levels_the_brightest_on_top_a_stop_a_line():
    chart = ranked_bars(compared(lamp("Tansy", (FULL, 1000.0)), lamp("Sorrel", (FULL, 4000.0))))
    assert [name for _, name in sorted(chart.y.ticks, reverse=True)] == ["Sorrel", "Tansy"]
    rules = sorted(mark.at for mark in chart.marks if isinstance(mark, Rule))
    assert {round(b - a, 9) for a, b in pairwise(rules)} == {1.0}
    ends = [mark for mark in chart.marks if isinstance(mark, Line) and mark.bar == THICK_PT]
    middles = {mark.label: sum(mark.x) / 2.0 for mark in ends}
    assert middles["Sorrel"] - middles["Tansy"] == pytest.approx(2.0)
    assert middles["Tansy"] == pytest.approx(math.log2(1000.0))
    words = [mark.text.strip() for mark in chart.marks if isinstance(mark, Text)]
    assert words == ["4\u202f000 lx · 2 stops brighter", "1\u202f000 lx · the one to compare with"]


def test_a_single_lamp_is_no_ranking():
    assert ranked_bars(compared(lamp("Tansy", (FULL, 1000.0)))).empty


@pytest.mark.parametrize(
    ("score", "ground"),
    [(90.0, "light"), (89.5, "light"), (89.4, "grey"), (79.6, "grey"), (-20.0, "black"), (None, "none")],
)
def test_a_score_stands_on_the_ground_of_what_is_printed(score, ground):
    assert ground_of(score) == ground


def test_a_strip_without_a_score_is_empty():
    assert Strip("", ("1",), (), (("Tansy", (None,)),)).empty
    assert not Strip("", ("1",), (), (("Tansy", (97.0,)),)).empty


def test_whites_land_to_the_right_where_they_are_warm():
    chart = landing_chart("Tansy", [(3200.0, 3020.0, 18.6), (5600.0, 6050.0, -13.3)])
    bars = {mark.y[0]: mark.x for mark in chart.marks if isinstance(mark, Line)}
    assert bars == {1: [0.0, 18.6], 0: [0.0, -13.3]}, "the warmest on top"
    assert [name for _, name in chart.y.ticks] == ["5600", "3200"]
    anchors = {mark.text.strip(): mark.anchor for mark in chart.marks if isinstance(mark, Text)}
    assert anchors == {"3\u202f020 K": "left", "6\u202f050 K": "right"}
