"""One part of photographs side by side, the benchmark first, each by its name and how far it is from that."""

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QImage, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.answers.camera.crops import ShownPart
from even_beam.app import theme

_HEIGHT, _NAME, _GAP = 150, 24, 10


def image_of(pixels: NDArray[np.uint8]) -> QImage:
    """A picture of shape (h, w, 3) as the toolkit has it."""
    height, width = pixels.shape[:2]
    return QImage(pixels.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888).copy()


class PartsStrip(QWidget):
    """Shows them in a row, as large as there is room."""

    def __init__(self) -> None:
        super().__init__()
        self._parts: list[tuple[QImage, str]] = []
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(_HEIGHT + _NAME)

    def show_parts(self, parts: list[ShownPart]) -> None:
        """Show parts; nothing of none."""
        said = [one.name if not place else f"{one.name} · {one.delta_e:.1f}" for place, one in enumerate(parts)]
        self._parts = [(image_of(one.picture), words) for one, words in zip(parts, said, strict=True)]
        self.setAccessibleName("A part of each photograph, with CIEDE2000 from the benchmark: " + ", ".join(said))
        self.setVisible(bool(parts))
        self.update()

    def sizeHint(self) -> QSize:
        """A row."""
        return QSize(600, _HEIGHT + _NAME)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Pictures of one height, their names below."""
        if not self._parts:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setFont(theme.font("small"))
        painter.setPen(theme.color(theme.tokens().secondary))
        widths = [_HEIGHT * image.width() / image.height() for image, _ in self._parts]
        scale = min(1.0, (self.width() - _GAP * (len(widths) - 1)) / max(sum(widths), 1.0))
        x = 0.0
        for (image, words), width in zip(self._parts, widths, strict=True):
            painter.drawImage(QRectF(x, 0.0, width * scale, _HEIGHT * scale), image)
            box = QRectF(x, _HEIGHT * scale + 4.0, width * scale, _NAME)
            shown = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideMiddle, int(box.width()))
            painter.drawText(box, Qt.AlignmentFlag.AlignTop, shown)
            x += width * scale + _GAP
        painter.end()
