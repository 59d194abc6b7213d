"""Camera for walls and edges: the photograph with its line, the wall in false colour, the light along the line."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from even_beam.answers.camera.surface_page import SurfacePage
from even_beam.app import theme
from even_beam.app.stations.camera.parts_strip import image_of
from even_beam.app.stations.camera.points_view import Form, PointsView
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.text import label
from even_beam.figures.scores import Rgb

_LEGEND, _SQUARE = 26, 14
_BANDS_ARE = "false colour, half a stop a band: up to so many stops below the brightest part"


class _WallView(QWidget):
    """A wall in false colour over its legend."""

    def __init__(self) -> None:
        super().__init__()
        self._image: QImage | None = None
        self._bands: tuple[tuple[Rgb, str], ...] = ()
        self.setMinimumHeight(240)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def show_wall(self, page: SurfacePage) -> None:
        """Show a wall; nothing where it could not be told."""
        self._image = image_of(page.wall) if page.wall is not None else None
        self._bands = page.bands
        self.setAccessibleName("The wall in false colour, stops below its brightest part")
        self.setAccessibleDescription(" ".join(page.of_wall))
        self.setVisible(page.wall is not None)
        self.update()

    def sizeHint(self) -> QSize:
        """As a photograph."""
        return QSize(420, 300)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The picture, and what its bands are."""
        if self._image is None:
            return
        painter = QPainter(self)
        room = self.height() - _LEGEND
        scale = min(self.width() / self._image.width(), room / self._image.height())
        height = self._image.height() * scale
        painter.drawImage(QRectF(0.0, 0.0, self._image.width() * scale, height), self._image)
        painter.setFont(theme.font("small"))
        painter.setPen(theme.color(theme.tokens().secondary))
        x, y = 0, int(height) + 8
        for rgb, words in self._bands:
            painter.fillRect(x, y, _SQUARE, _SQUARE, QColor(*rgb))
            painter.drawText(x + _SQUARE + 5, y + _SQUARE - 2, words)
            x += _SQUARE + 16 + painter.fontMetrics().horizontalAdvance(words)
        painter.end()


class SurfacesPage(QWidget):
    """Shows plain values."""

    def __init__(self) -> None:
        super().__init__()
        self.photo, self._wall = PointsView(), _WallView()
        self._bands = label(_BANDS_ARE, "coming", wrap=True)
        self._chart, self._title = ChartView(), label("", "coming", wrap=True)
        self._chart.setMinimumHeight(200)
        right = QVBoxLayout()
        right.setSpacing(6)
        right.addWidget(self._wall, 1)
        right.addWidget(self._bands, 0, Qt.AlignmentFlag.AlignTop)
        row = QHBoxLayout()
        row.setSpacing(20)
        row.addWidget(self.photo, 1)
        row.addLayout(right, 1)
        frame = QVBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(8)
        frame.addLayout(row, 1)
        frame.addWidget(self._title)
        frame.addWidget(self._chart)

    def show_page(self, page: SurfacePage) -> None:
        """What is said of a photograph."""
        if page.photo is not None and not self.photo.placing:
            self.photo.form = Form.LINE
            self.photo.show_photo(page.preview, page.photo.size, page.across)
        elif page.photo is None:
            self.photo.show_photo(None, (1, 1), ())
        self.photo.setVisible(page.photo is not None)
        self._wall.show_wall(page)
        self._bands.setVisible(page.wall is not None)
        for widget in (self._chart, self._title):
            widget.setVisible(page.profile is not None)
        if page.profile is not None:
            self._chart.show_chart(page.profile)
            self._title.setText(page.profile.title)
