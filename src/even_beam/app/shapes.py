"""Marks painted as shapes, so that no font can lack them: series marks, ticks, arrows."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen

SERIES_SHAPES = ("disc", "square", "triangle", "diamond", "triangle down", "cross", "star", "ring")


def shape_path(name: str, centre: QPointF, radius: float) -> QPainterPath:
    """The outline of a series mark about a point."""
    path = QPainterPath()
    x, y, r = centre.x(), centre.y(), radius
    corners = {
        "triangle": ((x, y - r), (x + r, y + 0.8 * r), (x - r, y + 0.8 * r)),
        "triangle down": ((x, y + r), (x + r, y - 0.8 * r), (x - r, y - 0.8 * r)),
        "diamond": ((x, y - 1.2 * r), (x + 1.2 * r, y), (x, y + 1.2 * r), (x - 1.2 * r, y)),
        "star": (
            (x, y - 1.3 * r),
            (x + 0.4 * r, y - 0.3 * r),
            (x + 1.2 * r, y),
            (x + 0.4 * r, y + 0.3 * r),
            (x, y + 1.3 * r),
            (x - 0.4 * r, y + 0.3 * r),
            (x - 1.2 * r, y),
            (x - 0.4 * r, y - 0.3 * r),
        ),
    }
    if name in corners:
        path.moveTo(*corners[name][0])
        for corner in corners[name][1:]:
            path.lineTo(*corner)
        path.closeSubpath()
    elif name == "square":
        path.addRect(QRectF(x - 0.9 * r, y - 0.9 * r, 1.8 * r, 1.8 * r))
    elif name == "cross":
        path.addRect(QRectF(x - r, y - 0.3 * r, 2 * r, 0.6 * r))
        path.addRect(QRectF(x - 0.3 * r, y - r, 0.6 * r, 2 * r))
    else:
        path.addEllipse(centre, r, r)
        if name == "ring":
            path.addEllipse(centre, 0.5 * r, 0.5 * r)
    return path


def paint_series_mark(painter: QPainter, index: int, centre: QPointF, radius: float, colour: str) -> None:
    """The mark of a lamp: colour and shape together."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QBrush(QColor(colour)))
    painter.drawPath(shape_path(SERIES_SHAPES[index % len(SERIES_SHAPES)], centre, radius))


def paint_tick(painter: QPainter, centre: QPointF, size: float, colour: str) -> None:
    """A tick: done."""
    pen = QPen(QColor(colour), 1.6)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    painter.setPen(pen)
    x, y = centre.x(), centre.y()
    painter.drawLine(QPointF(x - size, y), QPointF(x - 0.3 * size, y + 0.8 * size))
    painter.drawLine(QPointF(x - 0.3 * size, y + 0.8 * size), QPointF(x + size, y - 0.9 * size))


def paint_chevron(painter: QPainter, centre: QPointF, size: float, colour: str) -> None:
    """An arrow head to the right: here."""
    pen = QPen(QColor(colour), 1.6)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    painter.setPen(pen)
    x, y = centre.x(), centre.y()
    painter.drawLine(QPointF(x - 0.5 * size, y - size), QPointF(x + 0.5 * size, y))
    painter.drawLine(QPointF(x + 0.5 * size, y), QPointF(x - 0.5 * size, y + size))


def paint_doubt(painter: QPainter, centre: QPointF, size: float, colour: str) -> None:
    """A hollow diamond: in doubt."""
    painter.setPen(QPen(QColor(colour), 1.6))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(shape_path("diamond", centre, size))
