"""Pages of a PDF as pictures on the screen."""

from pathlib import Path

from PyQt6.QtCore import QSize, QSizeF, Qt
from PyQt6.QtGui import QImage, QPainter, QPixmap
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtWidgets import QLabel, QScrollArea, QVBoxLayout, QWidget

from even_beam.app.widgets.turns import turns

MOST_PAGES = 12
"""So many pages are shown; the file has all."""
_WIDTH, _LEAST_WIDTH, _BESIDE = 760, 420, 48


def loaded(path: Path) -> QPdfDocument:
    """A file's pages, ready to be drawn."""
    document = QPdfDocument(None)
    document.load(str(path))
    return document


def drawn(document: QPdfDocument, page: int, width: int, ratio: float) -> QPixmap:
    """A page so many logical pixels wide on white, at the screen's `ratio`."""
    image = document.render(page, _size(document.pagePointSize(page), width * ratio))
    paper = QImage(image.size(), QImage.Format.Format_RGB32)
    paper.fill(Qt.GlobalColor.white)
    painter = QPainter(paper)
    painter.drawImage(0, 0, image)
    painter.end()
    pixmap = QPixmap.fromImage(paper)
    pixmap.setDevicePixelRatio(ratio)
    return pixmap


def _size(points: QSizeF, width: float) -> QSize:
    return QSize(round(width), round(points.height() * width / max(points.width(), 1.0)))


class Pages(QScrollArea):
    """The first pages beneath each other. Their room is there at once, each is drawn in a turn of its own."""

    def __init__(self) -> None:
        super().__init__()
        paper = QWidget()
        self._column = QVBoxLayout(paper)
        self._column.setAlignment(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
        self._column.setSpacing(14)
        self.setWidget(paper)
        self.setWidgetResizable(True)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        self.setAccessibleName("Preview of the report")
        self._document: QPdfDocument | None = None

    @property
    def count(self) -> int:
        """How many pages are shown."""
        return self._column.count()

    def clear(self) -> None:
        """Show none."""
        while (item := self._column.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.deleteLater()
        self._document = None

    def show_file(self, path: Path) -> int:
        """Show a file's pages; returns how many it has."""
        self.clear()
        document = self._document = loaded(path)
        ratio = self.devicePixelRatioF()
        width = min(_WIDTH, max(_LEAST_WIDTH, self.width() - _BESIDE))
        pages = document.pageCount()
        for number in range(min(pages, MOST_PAGES)):
            page = QLabel()
            page.setAccessibleName(f"Page {number + 1} of {pages}")
            page.setFixedSize(_size(document.pagePointSize(number), width))
            self._column.addWidget(page)
            turns().ask(page, lambda page=page, number=number: self._draw(document, page, number, width, ratio))  # type: ignore[misc]
        return pages

    def _draw(self, document: QPdfDocument, page: QLabel, number: int, width: int, ratio: float) -> None:
        if document is self._document:  # else another report is shown by now
            page.setPixmap(drawn(document, number, width, ratio))

    def turn(self, by: int) -> None:
        """A screenful further down, or up where negative."""
        bar = self.verticalScrollBar()
        if bar is not None:
            bar.setValue(bar.value() + by * (self.height() - 60))
