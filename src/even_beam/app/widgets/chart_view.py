"""A chart on screen: draws the plain data of `figures` with pyqtgraph, in the theme's colours."""

import time
from collections.abc import Iterator
from typing import Any

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QGuiApplication, QMouseEvent, QPainterPath, QShowEvent
from PyQt6.QtWidgets import QGraphicsPathItem, QWidget

from even_beam.app import theme
from even_beam.app.shapes import SERIES_SHAPES, shape_path
from even_beam.app.widgets.turns import turns
from even_beam.figures.chart import Axis, Band, Chart, Line, Points, Ring, Rule, Sticks, Text, Tone, line_style

LINE_PENS = {
    "solid": Qt.PenStyle.SolidLine,
    "dashed": Qt.PenStyle.DashLine,
    "dotted": Qt.PenStyle.DotLine,
    "dash-dotted": Qt.PenStyle.DashDotLine,
}

_PORTION_S = 0.012
"""So long one turn draws: layout and painting come on top of it before a key is heard."""

_ANCHORS = {"left": 0.0, "centre": 0.5, "right": 1.0}


def _unit_path(name: str) -> QPainterPath:
    return shape_path(name, QPointF(0.0, 0.0), 0.5)


class ChartView(pg.PlotWidget):  # type: ignore[misc]
    """One chart. `chosen` tells the key (a reading's id) of a mark that was clicked.

    A `zoomable` one is zoomed by the wheel, moved by dragging, and shown whole again by a double click.
    """

    chosen = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None, *, zoomable: bool = False) -> None:
        super().__init__(parent, enableMenu=False)  # nobody opens it, and it is a third of the work
        self._chart: Chart | None = None
        self._drawn = True
        self._left: Iterator[object] | None = None
        self._zoomable = zoomable
        self._selected = ""
        self._selection: list[object] = []
        self.setMouseEnabled(zoomable, zoomable)
        self.hideButtons()
        self.setAntialiasing(True)
        self.setFrameShape(self.Shape.NoFrame)
        self.getPlotItem().setContentsMargins(0, 10, 14, 0)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)

    @property
    def chart(self) -> Chart | None:
        """The chart that is shown."""
        return self._chart

    def show_chart(self, chart: Chart) -> None:
        """Have a chart drawn in place of the present one, in turns of its own and not before it can be seen."""
        self._chart = chart
        self._drawn, self._left = False, None
        self.setAccessibleName(chart.title)
        self.setAccessibleDescription(chart.summary)
        self.setBackground(theme.tokens().ground)
        self.getPlotItem().hide()
        if self.isVisible():
            turns().ask(self, self._draw_portion)

    def showEvent(self, event: QShowEvent | None) -> None:
        """What came while nobody could see it is drawn."""
        super().showEvent(event)
        if not self._drawn:
            turns().ask(self, self._draw_portion)

    def _draw_portion(self) -> None:
        """Draw as much as a turn may take; what is left is drawn in the next, and the chart shown when it is whole."""
        ended = time.perf_counter() + _PORTION_S
        while not self._drawn and time.perf_counter() < ended:
            self._draw_next()
        if not self._drawn:
            turns().ask(self, self._draw_portion)

    def _draw_next(self) -> None:
        """The frame of a chart first, then its marks one by one."""
        if self._chart is None:
            self._drawn = True
            return
        if self._left is None:
            self._begin(self._chart)
            self._left = iter(self._chart.marks)
            return
        mark = next(self._left, None)
        if mark is not None:
            self._draw(mark, self._chart)
            return
        self._drawn, self._left = True, None
        self.getPlotItem().show()
        self._ring()

    def _begin(self, chart: Chart) -> None:
        item = self.getPlotItem()
        item.clear()
        self._style_axis(item.getAxis("left"), chart.y)
        self._style_axis(item.getAxis("bottom"), chart.x)
        item.getAxis("left").setStyle(showValues=bool(chart.y.ticks), tickLength=0)
        item.setTitle(None)
        item.setRange(xRange=(chart.x.low, chart.x.high), yRange=(chart.y.low, chart.y.high), padding=0.0)
        self._selection = []

    def select(self, key: str) -> None:
        """Ring the marks of a reading, here as in every chart beside; in its own turn where it is not drawn yet."""
        self._selected = key
        if self._drawn:
            self._ring()

    def _ring(self) -> None:
        plot, key = self.getPlotItem(), self._selected
        for old in self._selection:
            plot.removeItem(old)
        self._selection = []
        points = [
            mark
            for mark in (self._chart.marks if self._chart is not None else ())
            if isinstance(mark, Points) and mark.keys
        ]
        places = [(x, y) for mark in points for x, y, own in zip(mark.x, mark.y, mark.keys, strict=False) if own == key]
        if places:
            ring = pg.ScatterPlotItem(
                [x for x, _ in places],
                [y for _, y in places],
                size=20,
                symbol=_unit_path("disc"),
                pen=pg.mkPen(theme.tokens().accent, width=2.0),
                brush=QBrush(Qt.BrushStyle.NoBrush),
            )
            ring.setZValue(8)
            plot.addItem(ring)
            self._selection = [ring]

    def show_whole(self) -> None:
        """Undo all zooming."""
        if self._chart is not None:
            x, y = self._chart.x, self._chart.y
            self.getPlotItem().setRange(xRange=(x.low, x.high), yRange=(y.low, y.high), padding=0.0)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Show the whole chart."""
        if self._zoomable:
            self.show_whole()
        else:
            super().mouseDoubleClickEvent(event)

    def copy(self) -> None:
        """Put the chart on the clipboard, as a picture and as a table."""
        if self._chart is None:
            return
        while not self._drawn:
            self._draw_next()
        from PyQt6.QtCore import QMimeData

        data = QMimeData()
        data.setImageData(self.grab().toImage())
        data.setText(self._chart.as_table())
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setMimeData(data)

    def _style_axis(self, axis: Any, description: Axis) -> None:
        t = theme.tokens()
        axis.setPen(pg.mkPen(t.line if description.ticks or description.label else t.ground))
        axis.setTextPen(pg.mkPen(t.secondary))
        axis.setTickFont(theme.font("small"))
        axis.setTicks([list(description.ticks)])
        axis.setStyle(tickLength=0, tickTextOffset=6)
        axis.enableAutoSIPrefix(False)  # ticks are written by the chart: nobody divides them by a thousand
        name = ", ".join(part for part in (description.label, description.unit) if part)
        axis.showLabel(bool(name))
        if name:
            axis.setLabel(name, color=t.secondary, **{"font-size": f"{theme.SIZES['small']}px"})

    def _colour(self, series: int | None, tone: Tone) -> str:
        t = theme.tokens()
        return t.tone(tone) if series is None else t.of_series(series)

    def _draw(self, mark: object, chart: Chart) -> None:
        match mark:
            case Line():
                is_plain = mark.series is None or mark.bar > 0.0
                own = Qt.PenStyle.SolidLine if is_plain else LINE_PENS[line_style(mark.series or 0)]
                style = Qt.PenStyle.DashLine if mark.dashed else own
                thin = mark.dashed or (mark.series is None and mark.tone is Tone.QUIET)
                width = 1.6 * mark.bar or (1.0 if thin else 1.6)
                pen = pg.mkPen(self._colour(mark.series, mark.tone), width=width, style=style)
                curve = pg.PlotCurveItem(np.array(mark.x), np.array(mark.y), pen=pen, connect="finite")
                self.getPlotItem().addItem(curve)
            case Points():
                self._draw_points(mark)
            case Sticks():
                self._draw_sticks(mark)
            case Rule():
                style = Qt.PenStyle.DashLine if mark.dashed else Qt.PenStyle.SolidLine
                pen = pg.mkPen(theme.tokens().hairline, width=1.0, style=style)
                line = pg.InfiniteLine(mark.at, angle=0 if mark.axis == "y" else 90, pen=pen)
                line.setZValue(-10)
                self.getPlotItem().addItem(line)
            case Band():
                band = pg.LinearRegionItem(
                    (mark.low, mark.high),
                    "horizontal" if mark.axis == "y" else "vertical",
                    QBrush(theme.color(theme.tokens().hairline)),
                    movable=False,
                    pen=pg.mkPen(None),
                )
                band.setZValue(-20)
                self.getPlotItem().addItem(band)
            case Text():
                self._draw_text(mark)
            case Ring():
                self._draw_ring(mark)

    def _draw_points(self, mark: Points) -> None:
        colour = self._colour(mark.series, mark.tone)
        shape = SERIES_SHAPES[(mark.series or 0) % len(SERIES_SHAPES)]
        points = pg.ScatterPlotItem(
            np.array(mark.x),
            np.array(mark.y),
            size=11,
            symbol=_unit_path(shape),
            pen=pg.mkPen(colour, width=2.0) if mark.hollow else pg.mkPen(theme.tokens().ground, width=0.5),
            brush=QBrush(Qt.BrushStyle.NoBrush) if mark.hollow else QBrush(QColor(colour)),
            data=list(mark.keys) or None,
            hoverable=bool(mark.hints),
            tip=(lambda x, y, data: self._hint(mark, x, y)) if mark.hints else None,
        )
        points.setZValue(5)
        if mark.keys:
            points.sigClicked.connect(lambda _, clicked, __: self.chosen.emit(str(clicked[0].data())))
        self.getPlotItem().addItem(points)

    def _draw_sticks(self, mark: Sticks) -> None:
        t = theme.tokens()
        x, y = np.array(mark.x), np.array(mark.y)
        stems = np.stack([np.full(x.size, mark.base), y], axis=-1).ravel()
        self.getPlotItem().addItem(
            pg.PlotCurveItem(np.repeat(x, 2), stems, connect="pairs", pen=pg.mkPen(t.line, width=2.0))
        )
        heads = pg.ScatterPlotItem(
            x,
            y,
            size=12 if x.size < 40 else 7,
            symbol=_unit_path("disc"),
            pen=pg.mkPen(t.secondary, width=0.8),
            brush=[QBrush(QColor(*colour)) for colour in mark.colours],
            hoverable=bool(mark.hints),
            tip=(lambda x, y, data: self._hint(mark, x, y)) if mark.hints else None,
        )
        self.getPlotItem().addItem(heads)

    @staticmethod
    def _hint(mark: Points | Sticks, x: float, y: float) -> str:
        for px, py, hint in zip(mark.x, mark.y, mark.hints, strict=True):
            if px == x and py == y:
                return hint
        return ""

    def _draw_text(self, mark: Text) -> None:
        item = pg.TextItem(
            mark.text, color=self._colour(None, mark.tone), anchor=(_ANCHORS[mark.anchor], 1.0 if mark.above else 0.0)
        )
        item.setFont(theme.font("body"))
        item.setPos(mark.x, mark.y)
        item.setZValue(6)
        self.getPlotItem().addItem(item, ignoreBounds=True)

    def _draw_ring(self, mark: Ring) -> None:
        path = QPainterPath()
        path.addEllipse(QPointF(mark.x, mark.y), mark.width / 2.0, mark.height / 2.0)
        ring = QGraphicsPathItem(path)
        ring.setPen(pg.mkPen(self._colour(None, mark.tone), width=1.0, style=Qt.PenStyle.DashLine))
        self.getPlotItem().addItem(ring, ignoreBounds=True)


def configure() -> None:
    """Settings of pyqtgraph for the whole application."""
    pg.setConfigOptions(antialias=True, background=theme.tokens().ground, foreground=theme.tokens().secondary)
