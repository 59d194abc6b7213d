"""A lamp's picture: the photo that was kept of it, or a drawing of what things of its kind look like."""

from collections.abc import Callable, Mapping

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QImage, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from even_beam.app import theme

_SIZE = QSize(72, 64)


class LampPicture(QWidget):
    """Paints one, 72 by 64."""

    def __init__(self, photo: bytes | None, drawn_as: str, name: str) -> None:
        super().__init__()
        self._image = QImage.fromData(photo) if photo is not None else QImage()
        self._draw = _DRAWINGS.get(drawn_as, _bulb)
        self.setFixedSize(_SIZE)
        self.setAccessibleName(f"A photo of {name}" if not self._image.isNull() else f"A drawing: {drawn_as}")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The photo cut to size, else the drawing in two tones."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        if not self._image.isNull():
            image = self._image.scaled(
                self.size(), Qt.AspectRatioMode.KeepAspectRatioByExpanding, Qt.TransformationMode.SmoothTransformation
            )
            painter.drawImage(QPointF((self.width() - image.width()) / 2, (self.height() - image.height()) / 2), image)
        else:
            t = theme.tokens()
            painter.setPen(QPen(theme.color(t.secondary), 1.6, cap=Qt.PenCapStyle.RoundCap))
            self._draw(painter)
            painter.setPen(QPen(theme.color(t.accent), 1.6, cap=Qt.PenCapStyle.RoundCap))
            _light(painter)
        painter.end()


def _light(painter: QPainter) -> None:
    """Three rays to the right, the same for all."""
    for y, end in ((20.0, 14.0), (32.0, 32.0), (44.0, 50.0)):
        painter.drawLine(QLineF(54.0, y, 68.0, end))


def _panel(painter: QPainter) -> None:
    painter.drawRoundedRect(QRectF(20.0, 8.0, 24.0, 40.0), 2.0, 2.0)
    for row in range(5):
        for column in range(3):
            painter.drawPoint(QPointF(26.0 + 6.0 * column, 14.0 + 7.0 * row))
    painter.drawLine(QLineF(32.0, 48.0, 32.0, 60.0))


def _tube(painter: QPainter) -> None:
    painter.drawRoundedRect(QRectF(34.0, 4.0, 8.0, 56.0), 4.0, 4.0)
    painter.drawLine(QLineF(34.0, 12.0, 42.0, 12.0))
    painter.drawLine(QLineF(34.0, 52.0, 42.0, 52.0))


def _spot(painter: QPainter) -> None:
    points = ((8.0, 22.0), (34.0, 16.0), (34.0, 48.0), (8.0, 42.0))
    painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in points]))
    painter.drawEllipse(QRectF(30.0, 16.0, 8.0, 32.0))
    yoke = ((14.0, 18.0), (14.0, 54.0), (28.0, 54.0), (28.0, 49.0))
    painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in yoke]))


def _window(painter: QPainter) -> None:
    painter.drawRect(QRectF(14.0, 8.0, 32.0, 46.0))
    painter.drawLine(QLineF(30.0, 8.0, 30.0, 54.0))
    painter.drawLine(QLineF(14.0, 31.0, 46.0, 31.0))


def _sun(painter: QPainter) -> None:
    painter.drawEllipse(QRectF(18.0, 20.0, 24.0, 24.0))


def _flash(painter: QPainter) -> None:
    points = ((30.0, 8.0), (16.0, 36.0), (27.0, 36.0), (22.0, 56.0), (40.0, 26.0), (29.0, 26.0), (36.0, 8.0))
    painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in points]))


def _bulb(painter: QPainter) -> None:
    painter.drawEllipse(QRectF(16.0, 10.0, 30.0, 30.0))
    painter.drawRect(QRectF(25.0, 41.0, 12.0, 12.0))


_DRAWINGS: Mapping[str, Callable[[QPainter], None]] = {
    "panel": _panel, "tube": _tube, "spot": _spot, "window": _window, "sun": _sun, "flash": _flash, "bulb": _bulb,
}  # fmt: skip
