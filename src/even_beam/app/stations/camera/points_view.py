"""A photograph with what is marked on it: the outline of a chart, a line, a part; placed with the mouse or the keys."""

from enum import StrEnum

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.app import theme
from even_beam.camera.sampling import Corners

_REACH, _RADIUS = 22.0, 10.0
_FINE, _COARSE = 1.0, 10.0
_ARROWS = {
    Qt.Key.Key_Left: (-1.0, 0.0),
    Qt.Key.Key_Right: (1.0, 0.0),
    Qt.Key.Key_Up: (0.0, -1.0),
    Qt.Key.Key_Down: (0.0, 1.0),
}


class Form(StrEnum):
    """What is marked, by what one of its points is called."""

    OUTLINE = "corner"
    LINE = "end"
    PART = "corner of the part"


class PointsView(QWidget):
    """`placed` tells new points in pixels of the photograph, of the `form` that was begun; `left` that placing was
    given up."""

    placed = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._image: QImage | None = None
        self._size = (1, 1)
        self._points: list[tuple[float, float]] = []
        self._kept: tuple[Form, list[tuple[float, float]]] = (Form.OUTLINE, [])
        self._at = 0
        self.placing = False
        self.form = Form.OUTLINE
        self.setMinimumHeight(220)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self._say()

    def show_photo(self, preview: NDArray[np.uint8] | None, size: tuple[int, int], points: Corners) -> None:
        """Show a photograph by a small one of shape (h, w, 3), its own size, and where its chart is."""
        if preview is None:
            self._image = None
        else:
            height, width = preview.shape[:2]
            self._image = QImage(preview.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888).copy()
        self._size = size
        self._points = [(float(x), float(y)) for x, y in points]
        self.placing = False
        self._say()
        self.update()

    def begin(self, form: Form | None = None, points: Corners | None = None) -> None:
        """Place the points from where they are, or others of another form from where these are."""
        if self._image is None:
            return
        self._kept, self._at, self.placing = (self.form, list(self._points)), 0, True
        if form is not None and points is not None:
            self.form, self._points = form, [(float(x), float(y)) for x, y in points]
        self.setFocus()
        self._say()
        self.update()

    @property
    def points(self) -> list[tuple[float, float]]:
        """Where they are, in pixels of the photograph."""
        return self._points

    def _say(self) -> None:
        if self._image is None:
            self.setAccessibleName("No photograph")
        elif self.placing:
            x, y = self._points[self._at]
            from_where = ", clockwise from the first patch" if self.form is Form.OUTLINE else ""
            of = f"{self.form} {self._at + 1} of {len(self._points)}{from_where}".capitalize()
            self.setAccessibleName(f"{of}, at {x:.0f}, {y:.0f}")
        else:
            self.setAccessibleName("The photograph, with what is marked on it")

    # --- geometry

    def sizeHint(self) -> QSize:
        """A third of a page."""
        return QSize(420, 300)

    def _frame(self) -> QRectF:
        """Where the photograph is painted."""
        width, height = self._size
        scale = min(self.width() / width, self.height() / height)
        return QRectF(0.0, 0.0, width * scale, height * scale)

    def _on_screen(self, corner: tuple[float, float]) -> QPointF:
        scale = self._frame().width() / self._size[0]
        return QPointF(corner[0] * scale, corner[1] * scale)

    def _move(self, place: int, x: float, y: float) -> None:
        width, height = self._size
        self._points[place] = min(max(x, 0.0), float(width)), min(max(y, 0.0), float(height))
        self._say()
        self.update()

    # --- painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The photograph, the outline, and while corners are placed their handles."""
        if self._image is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(self._frame(), self._image)
        points = [self._on_screen(corner) for corner in self._points]
        for colour, width in ((QColor(0, 0, 0, 160), 3.0), (theme.color(theme.tokens().accent), 1.4)):
            painter.setPen(QPen(colour, width))
            if self.form is Form.PART and len(points) == 2:
                painter.drawRect(QRectF(points[0], points[1]).normalized())
            elif points:
                painter.drawPolygon(QPolygonF(points))  # of two points a line
        if self.placing:
            self._paint_handles(painter, points)
        painter.end()

    def _paint_handles(self, painter: QPainter, points: list[QPointF]) -> None:
        painter.setFont(theme.font("small", mono=True, bold=True))
        for place, point in enumerate(points):
            here = place == self._at
            painter.setPen(QPen(QColor(0, 0, 0, 200), 2.0))
            painter.setBrush(theme.color(theme.tokens().accent if here else "#ececec"))
            painter.drawEllipse(point, _RADIUS, _RADIUS)
            painter.setPen(QColor("#111111"))
            box = QRectF(point.x() - _RADIUS, point.y() - _RADIUS, 2 * _RADIUS, 2 * _RADIUS)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(place + 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)

    # --- placing

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows move a point by a pixel, with Shift by ten; Space goes to the next; Enter is done, Esc gives up."""
        if event is None or not self.placing:
            if event is not None:
                event.ignore()
            return
        key = Qt.Key(event.key())
        if key in _ARROWS:
            by = _COARSE if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else _FINE
            x, y = self._points[self._at]
            self._move(self._at, x + by * _ARROWS[key][0], y + by * _ARROWS[key][1])
        elif key in {Qt.Key.Key_Space, Qt.Key.Key_N}:
            self._at = (self._at + 1) % len(self._points)
            self._say()
            self.update()
        elif key in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.placing = False
            self._say()
            self.update()
            self.placed.emit(list(self._points))
        elif key == Qt.Key.Key_Escape:
            self.form, self._points, self.placing = *self._kept, False
            self._say()
            self.update()
            self.left.emit()
        else:
            event.ignore()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take the nearest point; a click begins placing."""
        if event is None or self._image is None or not self._points:
            return
        if not self.placing:
            self.begin()
        at = event.position()
        away = [np.hypot(at.x() - p.x(), at.y() - p.y()) for p in map(self._on_screen, self._points)]
        nearest = int(np.argmin(away))
        if away[nearest] <= _REACH:
            self._at = nearest
            self._say()
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag the point that was taken."""
        if event is None or not self.placing or not event.buttons() & Qt.MouseButton.LeftButton:
            return
        scale = self._size[0] / max(self._frame().width(), 1.0)
        self._move(self._at, event.position().x() * scale, event.position().y() * scale)
