"""The beam of a lamp from its side."""

import math

import pytest

from even_beam.figures.chart import Line, Text
from even_beam.figures.cone import cone_chart

MARKS = [(1.0, "19 600 lx"), (2.0, "4 900 lx"), (2.1, "4 440 lx"), (8.0, "306 lx")]


@pytest.mark.parametrize("beam", [10.0, 26.0, 110.0])
def test_the_cone_is_as_wide_as_its_angle_and_to_scale(beam):
    chart = cone_chart(MARKS, beam)
    assert chart.to_scale
    edge = next(mark for mark in chart.marks if isinstance(mark, Line) and mark.series == 0)
    assert 2.0 * math.degrees(math.atan2(abs(edge.y[1]), edge.x[1])) == pytest.approx(beam)
    crossing = [mark for mark in chart.marks if isinstance(mark, Line) and mark.x[0] == mark.x[1]]
    for (metres, words), line in zip(MARKS, crossing, strict=True):
        assert line.label == words and line.x[0] == metres
        assert line.y[1] - line.y[0] == pytest.approx(2.0 * metres * math.tan(math.radians(beam / 2.0)))
    assert chart.y.high > max(line.y[1] for line in crossing)


def test_marks_beside_each_other_have_one_breadth():
    told = [mark.x for mark in cone_chart(MARKS, 26.0).marks if isinstance(mark, Text)]
    assert told == [1.0, 2.0, 8.0]
    assert "2.1 m: 4 440 lx, 0.97 m wide" in cone_chart(MARKS, 26.0).summary
