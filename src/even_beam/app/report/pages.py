"""Pages of a PDF as pictures on the screen."""

from pathlib import Path

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QImage, QPainter, QPixmap
from PyQt6.QtPdf import QPdfDocument


def page_count(path: Path) -> int:
    """How many pages there are."""
    document = QPdfDocument(None)
    document.load(str(path))
    return document.pageCount()


def drawn(path: Path, page: int, width: int, ratio: float) -> QPixmap:
    """A page so many logical pixels wide on white, at the screen's `ratio`."""
    document = QPdfDocument(None)
    document.load(str(path))
    size = document.pagePointSize(page)
    scale = width * ratio / max(size.width(), 1.0)
    image = document.render(page, QSize(round(size.width() * scale), round(size.height() * scale)))
    paper = QImage(image.size(), QImage.Format.Format_RGB32)
    paper.fill(Qt.GlobalColor.white)
    painter = QPainter(paper)
    painter.drawImage(0, 0, image)
    painter.end()
    pixmap = QPixmap.fromImage(paper)
    pixmap.setDevicePixelRatio(ratio)
    return pixmap
