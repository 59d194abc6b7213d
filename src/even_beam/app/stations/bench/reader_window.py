"""A second window for whoever stands at the lamp: what to set, what was read, and whether it fits; never what was
expected."""

from PyQt6.QtCore import QRect, Qt
from PyQt6.QtGui import QFont, QFontMetrics, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from even_beam.answers.bench.reader import ReaderText
from even_beam.answers.bench.view import Part
from even_beam.app import theme
from even_beam.app.widgets.veil import Veil

_TOP = 0.16
_SETTING = 0.62
_MARGIN = 40


class ReaderWindow(QWidget):
    """As large as its screen allows: lamp, setting, figure, verdict. F11 fills the screen, Escape closes."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Window)
        self.setWindowTitle("Even Beam: reader")
        self.resize(1024, 640)
        self._text = ReaderText()
        self.veil = Veil(self)

    def show_text(self, text: ReaderText) -> None:
        """Show what the helper needs."""
        self._text = text
        setting = ", ".join(part.text for part in text.setting)
        self.setAccessibleName(f"{text.lamp}. Set {setting}. {text.figure} {text.verdict}")
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """F11 and Escape."""
        if event is None:
            return
        if event.key() == Qt.Key.Key_F11:
            self.setWindowState(self.windowState() ^ Qt.WindowState.WindowFullScreen)
        elif event.key() == Qt.Key.Key_Escape:
            self.close()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Four texts in three bands."""
        t, shown = theme.tokens(), self._text
        painter = QPainter(self)
        painter.fillRect(self.rect(), theme.color(t.ground))
        width, height = self.width() - 2 * _MARGIN, self.height()
        top, setting = int(height * _TOP), int(height * _SETTING)
        painter.setPen(theme.color(t.secondary))
        box = QRect(_MARGIN, 0, width, top)
        painter.setFont(_fitting(shown.lamp, width, top // 2))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, shown.lamp)
        self._paint_setting(painter, QRect(_MARGIN, top, width, setting - top))
        foot = QRect(_MARGIN, setting, width, height - setting - 16)
        if shown.in_doubt:
            painter.fillRect(0, setting, self.width(), height - setting, theme.color(t.accent_ground))
            painter.fillRect(0, setting, 8, height - setting, theme.color(t.accent))
        painter.setPen(theme.color(t.accent if shown.in_doubt else t.text))
        painter.setFont(_fitting(shown.figure, width // 2, foot.height() // 2))
        painter.drawText(foot, Qt.AlignmentFlag.AlignVCenter, shown.figure)
        painter.setFont(_fitting(shown.verdict, width // 2 - _MARGIN, foot.height() // 3))
        painter.drawText(foot, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, shown.verdict)
        painter.end()

    def _paint_setting(self, painter: QPainter, box: QRect) -> None:
        """One line a part, what changes lit."""
        parts: tuple[Part, ...] = self._text.setting
        if not parts:
            return
        t = theme.tokens()
        line = box.height() // len(parts)
        font = min((_fitting(p.text, box.width(), int(line * 0.7)) for p in parts), key=lambda f: f.pixelSize())
        painter.setFont(font)
        for place, part in enumerate(parts):
            row = QRect(box.left(), box.top() + place * line, box.width(), line)
            painter.setPen(theme.color(t.text if part.changes else t.coming))
            painter.drawText(row, Qt.AlignmentFlag.AlignVCenter, part.text)
            if part.changes:
                painter.fillRect(0, row.top() + line // 6, 8, line * 2 // 3, theme.color(t.accent))


def _fitting(text: str, width: int, height: int) -> QFont:
    """The largest type in which a text fits a line."""
    font = theme.font("prompt")
    font.setPixelSize(max(12, height))
    wanted = QFontMetrics(font).horizontalAdvance(text)
    if wanted > width:
        font.setPixelSize(max(12, font.pixelSize() * width // wanted))
    return font
