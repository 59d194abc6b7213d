"""Frames as a sensor would show a plain grey wall under flickering light: bands within them, beats between them."""

import numpy as np
from PyQt6.QtCore import QRectF, QSize
from PyQt6.QtGui import QImage, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.app import theme
from even_beam.camera.shutter import CameraSees
from even_beam.light.adaptation import srgb_of_linear

FRAMES = 8
_GREY = 0.25
"""The wall as linear light where all is even."""

_GAP, _HEIGHT = 8, 132


class FrameStrip(QWidget):
    """The first frames of a recording, simulated."""

    def __init__(self) -> None:
        super().__init__()
        self._frames: list[QImage] = []
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(_HEIGHT + 18)
        self.setAccessibleName("No frames")

    def show_camera(self, sees: CameraSees | None, words: str) -> None:
        """Show what one exposure shows."""
        self._frames = [] if sees is None else [_picture(rows) for rows in sees.rows[:FRAMES]]
        self.setAccessibleName(f"Simulated frames: {words}" if sees is not None else "No frames")
        self.update()

    def sizeHint(self) -> QSize:
        """One row."""
        return QSize(600, _HEIGHT + 18)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The frames beside each other, numbered."""
        painter = QPainter(self)
        painter.setFont(theme.font("small", mono=True))
        painter.setPen(theme.color(theme.tokens().secondary))
        wide = min((self.width() - (FRAMES - 1) * _GAP) / FRAMES, _HEIGHT * 16.0 / 9.0)
        for place, frame in enumerate(self._frames):
            box = QRectF(place * (wide + _GAP), 0.0, wide, _HEIGHT)
            painter.drawImage(box, frame)
            painter.drawText(QRectF(box.left(), _HEIGHT + 2.0, wide, 16.0), 0, f"{place + 1}")
        painter.end()


def _picture(rows: np.ndarray) -> QImage:
    """One frame, a pixel wide."""
    grey = np.round(255.0 * srgb_of_linear(_GREY * rows)).astype(np.uint8)
    column = np.repeat(grey[:, None], 4, axis=1)
    return QImage(column.tobytes(), 4, len(grey), 4, QImage.Format.Format_Grayscale8).copy()
