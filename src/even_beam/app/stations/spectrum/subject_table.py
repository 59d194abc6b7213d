"""Subjects in rows: how each looks under the reference and under the lamp, what becomes of it, and what says so."""

from PyQt6.QtCore import QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from even_beam.answers.spectrum.subjects import SubjectRow
from even_beam.app import theme
from even_beam.words import notation

_HEAD, _ROW, _DELTA = 26, 54, 52
_WIDE = 640
"""Narrower than that, patches and names take less room, and the scores stand with the samples of a subject alone."""


class SubjectTable(QWidget):
    """Shows rows of subjects; a cursor goes from one to the next. `opened` tells the place of one that is opened."""

    opened = pyqtSignal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._rows: tuple[SubjectRow, ...] = ()
        self._at = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    @property
    def at(self) -> int:
        """The place of the cursor."""
        return self._at

    def show_rows(self, rows: tuple[SubjectRow, ...], seen_by: str) -> None:
        """Show what becomes of subjects, as `seen_by` says."""
        self._rows, self._at = rows, min(self._at, max(len(rows) - 1, 0))
        self.setAccessibleName(f"Subjects, as {seen_by} sees them")
        said = (f"{row.name} {row.words}, difference {notation.number(row.delta_e, 1)}, {row.evidence}" for row in rows)
        self.setAccessibleDescription(". ".join(said))
        self.setFixedHeight(_HEAD + _ROW * len(rows) + 2)
        self.update()

    def sizeHint(self) -> QSize:
        """As many rows as there are subjects."""
        return QSize(700, _HEAD + _ROW * max(len(self._rows), 1))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The patch, the subject, the sentence, the difference and the scores."""
        t = theme.tokens()
        painter = QPainter(self)
        is_wide = self.width() >= _WIDE
        patch, room = (84, 150) if is_wide else (56, 112)
        evidence = self.width() - (150 if is_wide else 0)
        delta = evidence - _DELTA - (14 if is_wide else 4)
        words = patch + 16 + room
        painter.setFont(theme.font("small"))
        painter.setPen(theme.color(t.coming))
        heads = [(patch + 16, "subject"), (words, "under this lamp")]
        heads += [(0, "as it should be"), (evidence, "seen in")] if is_wide else []
        for left, text in heads:
            painter.drawText(QRect(left, 0, 160, _HEAD), Qt.AlignmentFlag.AlignVCenter, text)
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRect(delta, 0, _DELTA, _HEAD), right, "ΔE00")
        for place, row in enumerate(self._rows):
            top = _HEAD + place * _ROW
            if self.hasFocus() and place == self._at:
                painter.fillRect(QRect(0, top, self.width(), _ROW), theme.color(t.raised))
            painter.fillRect(QRect(0, top, self.width(), 1), theme.color(t.hairline))
            painter.fillRect(QRect(0, top + 7, patch, 20), QColor(*row.reference))
            painter.fillRect(QRect(0, top + 27, patch, 20), QColor(*row.lamp))
            middle = Qt.AlignmentFlag.AlignVCenter
            painter.setFont(theme.font("body"))
            painter.setPen(theme.color(t.text))
            painter.drawText(QRect(patch + 16, top, room - 8, _ROW), middle, row.name)
            painter.setPen(theme.color(t.accent if row.marked else t.text))
            box = QRect(words, top, delta - words - 8, _ROW)
            painter.drawText(box, middle | Qt.TextFlag.TextWordWrap, row.words)
            painter.setFont(theme.font("line"))
            painter.drawText(QRect(delta, top, _DELTA, _ROW), right, notation.number(row.delta_e, 1))
            painter.setFont(theme.font("small"))
            painter.setPen(theme.color(t.secondary))
            painter.drawText(QRect(evidence, top, 150, _ROW), middle | Qt.TextFlag.TextWordWrap, row.evidence)
        painter.end()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Up and down go from subject to subject; the rest is the station's."""
        steps = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
        if event is not None and event.key() in steps and self._rows:
            self._at = (self._at + steps[Qt.Key(event.key())]) % len(self._rows)
            self.update()
        elif event is not None:
            event.ignore()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A click opens a subject."""
        if event is not None and event.position().y() > _HEAD:
            self._at = min(int((event.position().y() - _HEAD) // _ROW), len(self._rows) - 1)
            self.setFocus()
            self.update()
            self.opened.emit(self._at)
