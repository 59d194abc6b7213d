"""Pictures of Compare: every reading is a mark that names it, the ring and the curves lie where they should."""

import numpy as np
import pytest

from even_beam.bench.records import Spectrum
from even_beam.figures.beams import Section, section_chart
from even_beam.figures.chart import Line, Points, Ring, Rule, Text
from even_beam.figures.chromaticity import Whites, chromaticity_chart
from even_beam.figures.spectrum import Curve, Scaling, overlay_chart
from even_beam.figures.value import quality_chart, value_chart
from even_beam.figures.whites import AgainstWhite, Misses, miss_plot, white_chart
from even_beam.known.value import Priced
from even_beam.light import WAVELENGTH_NM, planckian


def marks(chart, kind):
    return [mark for mark in chart.marks if isinstance(mark, kind)]


def keys(chart):
    return [key for mark in marks(chart, Points) for key in mark.keys]


def test_the_miss_plot_counts_what_lies_within_the_ring():
    lamps = [
        Misses("A", (5600.0, 3200.0), (9.0, -12.0), (0.0, 0.001), ("r1", "r2")),
        Misses("B", (5600.0,), (7.5, ), (0.0025,), ("r3",)),
    ]  # fmt: skip
    chart = miss_plot(lamps)
    assert keys(chart) == ["r1", "r2", "r3"]
    assert chart.summary == "1 of 3 readings lie within the ring."  # 0.75² + 0.83² is more than one
    (ring,) = marks(chart, Ring)
    assert (ring.width, ring.height) == (20.0, 0.006)
    assert chart.x.low <= -12.0 and chart.x.high >= 10.0
    daylight = next(line for line in marks(chart, Line) if "daylight" in line.label)
    assert daylight.y[0] == pytest.approx(0.0033, abs=1e-4)  # check value 31, CIE D series


def test_a_quantity_against_white_runs_evenly_in_mired():
    chart = white_chart([AgainstWhite("A", (3200.0, 5600.0, 5600.0), (-4.0, 2.0, 4.0), ("r1", "r2", "r3"))], "mired")
    (line,) = marks(chart, Line)
    assert line.x == [-312.5, pytest.approx(-178.571, abs=1e-3)]
    assert line.y == [-4.0, 3.0]  # the median of repeats
    assert keys(chart) == ["r1", "r2", "r3"]
    assert "−4.00 to +4.00" in chart.summary
    assert white_chart([], "mired").summary == "Nothing read."


def test_readings_stand_beside_both_curves():
    """A Planckian 3200 K and D65 (u' 0.1978, v' 0.4683: CIE 15) lie on their curves."""
    chart = chromaticity_chart([Whites("A", (3200.0, 6504.0), (0.0, 0.0032), ("r1", "r2"))])
    planck, day = marks(chart, Line)
    (points,) = marks(chart, Points)
    assert points.x[1] == pytest.approx(0.1978, abs=3e-4) and points.y[1] == pytest.approx(0.4683, abs=3e-4)
    for line, place in ((planck, 0), (day, 1)):
        away = np.hypot(np.array(line.x) - points.x[place], np.array(line.y) - points.y[place])
        assert away.min() < 6e-4
    assert {"3200 K", "5600 K"} <= {mark.text.strip() for mark in marks(chart, Text)}
    assert chromaticity_chart([]).summary == "0 readings of 0 lamps beside both curves."


def test_a_section_marks_half_and_tenth():
    chart = section_chart([Section("A", (-20.0, 0.0, 20.0), (0.5, 1.0, 0.5), ("r1", "r2", "r3"))])
    assert [rule.at for rule in marks(chart, Rule)] == [50.0, 10.0]
    assert keys(chart) == ["r1", "r2", "r3"] and chart.x.low <= -20.0
    assert "No lamp" in section_chart([]).summary


def test_value_marks_where_more_money_buys_little():
    lamps = [
        Priced(n, i, p, "EUR", "lamp", c, 95.0, (f"r{i}",))
        for i, (n, p, c) in enumerate((("A", 100.0, 1000.0), ("B", 200.0, 2000.0), ("C", 1000.0, 2200.0)))
    ]
    chart = value_chart(lamps, "EUR")
    assert "Beyond B more money buys little light" in chart.summary and "A 10.0 cd per EUR" in chart.summary
    assert keys(chart) == ["r0", "r1", "r2"]
    assert len(marks(chart, Rule)) == 1
    assert len(marks(value_chart(lamps[:2], "EUR"), Rule)) == 0
    assert "both a price and a level" in value_chart([], "EUR").summary
    assert "Ra 95" in quality_chart(lamps, "EUR").summary
    assert "score" in quality_chart([], "EUR").summary


def test_a_tick_is_called_what_it_is():
    from even_beam.figures import axes

    for values in ((93.0, 99.0), (0.001, 0.012), (0.0, 11.0), (2.0, 4.3)):
        axis = axes.nice("", values, least=0.001)
        for place, text in axis.ticks:
            assert float(text.replace("\u2212", "-").replace("\u202f", "")) == pytest.approx(place, abs=1e-9)


def test_a_spectrum_laid_over_is_dashed_and_named_above_the_curves():
    spectra = [Spectrum(WAVELENGTH_NM, planckian(k)) for k in (3200.0, 5600.0)]
    plain = overlay_chart([Curve(spectra[0], 0, "Tansy")], Scaling.PEAK)
    chart = overlay_chart(
        [Curve(spectra[0], 0, "Tansy"), Curve(spectra[1], 1, "Sorrel, 5600 K", laid_over=True)], Scaling.PEAK
    )
    curves = [line for line in marks(chart, Line) if line.label]
    assert [line.dashed for line in curves] == [False, True]
    (named,) = [text for text in marks(chart, Text) if text.y > 0.0]
    highest = max(max(line.y) for line in curves)
    assert named.text == "Sorrel, 5600 K" and named.y > highest
    assert chart.y.high > plain.y.high >= highest
    assert chart.legend == ((0, "Tansy"), (1, "Sorrel, 5600 K"))
    hues = [text.text for text in marks(plain, Text)]
    assert hues == ["violet", "blue", "green", "orange", "red"], "colours are named, not shown: no coloured light"
