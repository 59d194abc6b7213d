"""Charts as pictures for films and articles: any size, dark, light or transparent, type that is read on a phone, with
the terms burnt in."""

import io
import textwrap
from dataclasses import replace

from even_beam.figures.chart import Chart
from even_beam.figures.drawing import SETTINGS, draw, register_fonts
from even_beam.figures.ink import DARK, LIGHT, Ink

INCHES = 16.0
"""A picture is drawn as if so wide, whatever its pixels: type has the same share of it."""
TYPE_PT = 23.0
"""About a thirtieth of the height of a picture of 16 to 9: what a phone shows as the smallest that is read with ease
(common practice, no source)."""
SMALLEST_PX, LARGEST_PX = 320, 8192

GROUNDS: dict[str, Ink] = {
    "dark": DARK,
    "light": LIGHT,
    "transparent": replace(DARK, ground=None),
    "transparent-light": replace(LIGHT, ground=None),
}
"""The grounds by their names: transparent ones are for dark and for light footage."""


def picture(chart: Chart, terms: str, width: int, height: int, *, ground: str = "dark", form: str = "png") -> bytes:
    """The chart as PNG or SVG of so many pixels, `terms` beneath it.

    Raises `ValueError` for a size that no film has, and `KeyError` for a ground that there is not.
    """
    if not all(SMALLEST_PX <= side <= LARGEST_PX for side in (width, height)):
        raise ValueError(f"{width} x {height}: a picture has from {SMALLEST_PX} to {LARGEST_PX} pixels a side")
    from matplotlib import rc_context
    from matplotlib.backends.backend_agg import FigureCanvasAgg
    from matplotlib.figure import Figure

    register_fonts()
    dpi = width / INCHES
    inches = (INCHES, height / dpi)
    type_pt = TYPE_PT * min(1.0, inches[1] / 9.0)
    ink = replace(GROUNDS[ground], size_pt=type_pt)
    with rc_context(SETTINGS):
        figure = Figure(figsize=inches, dpi=dpi)
        FigureCanvasAgg(figure)
        figure.patch.set_visible(ink.ground is not None)
        if ink.ground is not None:
            figure.patch.set_facecolor(ink.ground)
        draw(figure, chart, ink)
        _burn_in(figure, terms, ink)
        drawn = io.BytesIO()
        figure.savefig(drawn, format=form, dpi=dpi, transparent=ink.ground is None)
    return drawn.getvalue()


def _burn_in(figure: object, terms: str, ink: Ink) -> None:
    """The terms in lines beneath the chart, which makes room for them."""
    width, height = figure.get_size_inches()  # type: ignore[attr-defined]
    em = ink.size_pt / 72.0
    lines = textwrap.wrap(terms, int((width - 2.0 * em) / (0.52 * em))) if terms else []
    bottom = figure.subplotpars.bottom + 1.35 * em * len(lines) / height  # type: ignore[attr-defined]
    figure.subplots_adjust(bottom=min(bottom, 0.6))  # type: ignore[attr-defined]
    for number, line in enumerate(reversed(lines)):
        y = (0.5 * em + 1.35 * em * number) / height
        figure.text(em / width, y, line, fontsize=ink.size_pt, color=ink.text, va="bottom")  # type: ignore[attr-defined]
