"""A lamp's label as it would be printed, larger: what stands on it and its code."""

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QImage, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from even_beam.app import theme
from even_beam.fonts.widths import POINT_MM
from even_beam.paper.label import Label
from even_beam.paper.qr_code import modules_of

_PX_A_MM = 4.4


class LabelView(QWidget):
    """Paints one on white, whatever the theme: paper is white."""

    def __init__(self, label: Label) -> None:
        super().__init__()
        self._label = label
        self.setFixedSize(round(label.width_mm * _PX_A_MM), round(label.height_mm * _PX_A_MM))
        self.setAccessibleName("Its label: " + "; ".join(one.text for one in label.placed))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Lines where they stand, and the code."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor("#ffffff"))
        painter.setPen(QColor("#111111"))
        for line in self._label.placed:
            font = QFont(theme.font("body"))
            font.setBold(line.bold)
            font.setPixelSize(max(round(line.size_pt * POINT_MM * _PX_A_MM), 1))
            painter.setFont(font)
            box = QRectF(line.x_mm, line.y_mm, line.width_mm + 2.0, line.height_mm)
            scaled = QRectF(*(v * _PX_A_MM for v in (box.x(), box.y(), box.width(), box.height())))
            painter.drawText(scaled, Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextDontClip, line.text)
        code = self._label.code
        modules = modules_of(code.text, code.level) if code is not None else None
        if code is not None and modules is not None:
            side = modules.shape[0]
            image = QImage(modules.tobytes(), side, side, side, QImage.Format.Format_Grayscale8)
            place = QRectF(*(v * _PX_A_MM for v in (code.x_mm, code.y_mm, code.side_mm, code.side_mm)))
            painter.drawImage(place, image)
        painter.end()
