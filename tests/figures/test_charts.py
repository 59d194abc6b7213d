from dataclasses import replace

import numpy as np
import pytest

from even_beam.bench.records import Spectrum
from even_beam.figures import axes
from even_beam.figures.chart import Line, Points, Text
from even_beam.figures.comparison import Walked, dimmer_chart, distance_chart, stop_ladder
from even_beam.figures.print_renderer import svg
from even_beam.figures.progress import dimming_chart, walk_chart
from even_beam.figures.scores import Sampled, hue_strip_chart, samples_chart
from even_beam.figures.spectrum import Curve, Scaling, overlay_chart, spectrum_chart
from even_beam.known import compare
from even_beam.known.dimmer_series import against_dimmer
from even_beam.light import WAVELENGTH_NM, planckian
from even_beam.light.colorimetry import illuminance
from tests.bench.judging.test_second_look import curve, walk
from tests.known.test_compare import FULL, METERS, lamp


def test_axes_have_round_ticks_inside():
    axis = axes.nice("x", [0.1, 7.3], least=1.0)
    positions = [position for position, _ in axis.ticks]
    assert 4 <= len(positions) <= 8
    assert all(axis.low <= p <= axis.high for p in positions)
    assert axes.nice("x", [], least=2.0).high > axes.nice("x", [], least=2.0).low
    assert axes.nice("duv", [0.0003], least=0.008, decimals=3, signed=True).ticks[0][1].startswith(("+", "−", "0"))


def test_the_walk_shows_every_mark_and_the_law():
    chart = walk_chart(walk(d25=300, d20=450, d15=800, d10=1800), "ft")
    assert [label for _, label in chart.x.ticks] == ["10 ft", "15 ft", "20 ft", "25 ft"]
    assert sum(isinstance(mark, Points) for mark in chart.marks) == 4
    line = next(mark for mark in chart.marks if isinstance(mark, Line))
    assert (line.y[0] - line.y[1]) / (line.x[1] - line.x[0]) == pytest.approx(2.0)  # inverse square in doublings
    assert "4 marks" in chart.summary


def test_a_doubtful_mark_is_lit_and_tied_to_what_was_expected():
    from even_beam.bench.judging.expectation import expected_illuminance

    marks = walk(d25=800, d20=1200, d10=4200, d15=1080)
    expected = expected_illuminance(marks[:3], "lamp", marks[3].terms)
    chart = walk_chart(marks[:3], "ft", marks[3], expected, in_doubt=True)
    assert any(isinstance(mark, Text) and mark.text == "1\u202f080" for mark in chart.marks)
    assert any(isinstance(mark, Line) and mark.x[0] == mark.x[1] for mark in chart.marks)


def test_dimming_in_stops_below_full():
    chart = dimming_chart(curve())
    points = next(mark for mark in chart.marks if isinstance(mark, Points))
    assert list(points.y) == pytest.approx([0.0, np.log2(0.75), -1.0])
    assert dimming_chart([]).empty


def test_spectra_are_scaled_as_said():
    dim, bright = Spectrum(WAVELENGTH_NM, planckian(3200.0)), Spectrum(WAVELENGTH_NM, 40 * planckian(5600.0))
    for scaling in Scaling:
        chart = overlay_chart([Curve(dim, 0, "Yarrow"), Curve(bright, 1, "Tansy")], scaling)
        lines = [np.array(mark.y) for mark in chart.marks if isinstance(mark, Line) and mark.label]
        measure = (lambda v: v.max()) if scaling is Scaling.PEAK else (lambda v: float(illuminance(v)))
        assert measure(lines[0]) == pytest.approx(measure(lines[1]))
    assert spectrum_chart(dim, 3200.0).summary.startswith("Spectrum, highest at 780 nm")


def test_the_ladder_and_the_dimmer_charts():
    a, b = lamp("Tansy", (FULL, 1000.0), cct=5500.0, duv=0.001), lamp("Sorrel", (FULL, 4000.0), cct=5700.0, duv=-0.002)
    result = compare.compare([a, b], {}, "Tansy", METERS)
    chart = stop_ladder(result)
    heights = [mark.y[0] for mark in chart.marks if isinstance(mark, Points)]
    assert heights[0] - heights[1] == pytest.approx(2.0), "two stops apart, the brighter first"
    assert [mark.series for mark in chart.marks if isinstance(mark, Points)] == [1, 0]
    assert "Tansy 1\u202f000 lx" in chart.summary
    for quantity in ("stops", "mired", "duv"):
        one = dimmer_chart(against_dimmer([a, b], result, quantity), quantity)
        assert not one.empty
        assert one.legend == ((0, "Tansy"), (1, "Sorrel"))
        assert len(one.as_table().splitlines()) > 2


def test_print_is_svg_and_repeatable():
    chart = walk_chart(walk(d25=300, d20=450, d15=800), "ft")
    drawing = svg(chart)
    assert drawing.startswith("<svg")
    assert "the walk" in drawing or "<path" in drawing


def test_many_lamps_stand_as_rows_with_their_names():
    lamps = [lamp(f"Lamp {n:02}", (FULL, 500.0 + 100.0 * n), cct=5500.0, duv=0.0) for n in range(25)]
    result = compare.compare(lamps, {}, "Lamp 00", METERS)
    chart = stop_ladder(result, {"Lamp 03": 7})
    assert chart.rows == 25
    assert [label for _, label in chart.y.ticks] == [f"Lamp {n:02}" for n in reversed(range(25))]
    points = {mark.label: mark for mark in chart.marks if isinstance(mark, Points)}
    assert points["Lamp 24"].y[0] == 24.0, "the brightest on top"
    assert {name: mark.series for name, mark in points.items() if mark.series is not None} == {"Lamp 03": 7}
    assert points["Lamp 24"].x[0] - points["Lamp 00"].x[0] == pytest.approx(np.log2(2900.0 / 500.0))


def test_along_a_walk_a_level_line_follows_the_inverse_square():
    metres = (1.0, 2.0, 4.0)
    ideal = Walked("A", metres, (4000.0,) * 3, ("a", "b", "c"))
    twice = Walked("B", metres, (8000.0, 8000.0, 8000.0), ("d", "e", "f"))
    chart = distance_chart([ideal, twice], "m")
    first, second = (mark for mark in chart.marks if isinstance(mark, Line))
    assert len(set(first.y)) == 1
    assert np.array(second.y) - np.array(first.y) == pytest.approx(1.0), "a stop apart"
    assert [label for _, label in chart.x.ticks] == ["1 m", "2 m", "4 m"]
    assert distance_chart([], "m").empty


def test_samples_of_all_lamps_stand_on_one_axis():
    names = [f"R{i}" for i in range(1, 16)]
    lamps = [
        Sampled("A", tuple(90.0 + i % 5 for i in range(15)), "a"),
        Sampled("B", (95.0,) * 8 + (-30.0,) + (float("nan"),) * 6, "b"),
    ]
    chart = samples_chart(lamps, names, (), {"B": 3})
    a, b = (mark for mark in chart.marks if isinstance(mark, Points))
    assert (a.series, b.series) == (None, 3), "the grey one behind"
    assert len(b.x) == 9
    assert chart.y.low < -30.0 < chart.y.high
    assert "B lowest in R9" in chart.summary
    assert samples_chart([Sampled("C", (float("nan"),) * 15, "c")], names, ()).empty


def test_a_hue_strip_leans_by_the_turn():
    chroma, turn = np.zeros(16), np.zeros(16)
    chroma[4], turn[4] = -8.0, 2.0 * np.pi / 16.0
    chart = hue_strip_chart(chroma, turn, ((0, 0, 0),) * 16, "hues")
    line = next(mark for mark in chart.marks if isinstance(mark, Line) and mark.label == "hue 5")
    assert list(line.x) == pytest.approx([4.0, 5.0]), "the width of a hue reaches the next column"
    assert list(line.y) == [0.0, -8.0]
    assert "hue 5 of 16" in chart.summary


def test_words_in_a_picture_do_not_stand_on_each_other():
    """A label for each of eight lamps, close together, in the type of a film: no two boxes overlap."""
    from matplotlib import rc_context
    from matplotlib.backends.backend_agg import FigureCanvasAgg
    from matplotlib.figure import Figure

    from even_beam.figures.chart import Axis, Chart, Points, Text
    from even_beam.figures.drawing import SETTINGS, draw, register_fonts
    from even_beam.figures.ink import DARK

    marks = [Points([float(n)], [1.0], series=n, label=f"Lamp {n}") for n in range(8)]
    words = [Text(float(n), 1.0, f"North window {n}", above=above) for n in range(8) for above in (True, False)]
    chart = Chart("levels", Axis("lamp", -1.0, 9.0), Axis("lx", 0.0, 2.0), (*marks, *words), "eight lamps")
    register_fonts()
    with rc_context(SETTINGS):
        figure = Figure(figsize=(16.0, 9.0))
        canvas = FigureCanvasAgg(figure)
        axes = draw(figure, chart, replace(DARK, size_pt=23.0))
        boxes = [text.get_window_extent(canvas.get_renderer()) for text in axes.texts]
    assert len(boxes) == 16
    assert not any(a.overlaps(b) for n, a in enumerate(boxes) for b in boxes[n + 1 :])
