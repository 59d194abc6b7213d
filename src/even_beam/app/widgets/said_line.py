"""What is said in passing: a line over the foot that goes by itself, with ways to a file that was saved."""

from pathlib import Path

from PyQt6.QtCore import Qt, QTimer, QUrl
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from even_beam.app import theme
from even_beam.app.widgets.text import label

_MARGIN, _SIDE, _SPACING = 12, 14, 18


class SaidLine(QWidget):
    """Lies over the bottom of what it belongs to; the head line stays as it is."""

    def __init__(self, over: QWidget) -> None:
        super().__init__(over)
        self.text = label("")
        self._path: Path | None = None
        self._before: tuple[str, int, Path | None] | None = None
        self._open, self._folder = QPushButton("open"), QPushButton("show in folder")
        for button, act in ((self._open, self._open_file), (self._folder, self._open_folder)):
            button.setProperty("part", "link")
            button.setAutoDefault(False)
            button.clicked.connect(act)
        row = QHBoxLayout(self)
        row.setContentsMargins(_SIDE, 8, _SIDE, 8)
        row.setSpacing(_SPACING)
        for widget in (self.text, self._open, self._folder):
            row.addWidget(widget)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self.hide)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground, on=True)
        self.hide()

    def say(self, words: str, milliseconds: int, path: Path | None = None) -> None:
        """Say something, for a while; with the file that it is about, ways to it."""
        standing = not self.isHidden() and self._timer.isActive() and self.text.text() != words
        self._before = (self.text.text(), self._timer.remainingTime(), self._path) if standing else None
        t = theme.tokens()
        self.setStyleSheet(f"SaidLine {{ background: {t.raised}; border-left: 3px solid {t.secondary}; }}")
        self._path = path
        self._open.setVisible(path is not None)
        self._folder.setVisible(path is not None)
        self.text.setText(words)
        self.text.setToolTip(words)
        self.setAccessibleName(words)
        self.place()
        self.show()
        self.raise_()
        self._timer.start(milliseconds)

    def unsay(self, words: str) -> None:
        """Say it no more, where nothing else was said since: what it stood over is said for the rest of its time."""
        if self.text.text() != words:
            return
        before = self._before
        self.hide()
        if before is not None:
            self.say(*before)

    def place(self) -> None:
        """At the bottom of what it lies over, no wider than that: what is longer goes on in further lines."""
        over = self.parentWidget()
        if over is None:
            return
        room = over.width() - 2 * _MARGIN
        text = self.text.fontMetrics().horizontalAdvance(self.text.text()) + 2
        beside = 2 * _SIDE
        if self._path is not None:
            beside += sum(b.sizeHint().width() + _SPACING for b in (self._open, self._folder))
        wide = min(text + beside, room)
        self.text.setWordWrap(wide == room)
        self.text.setFixedWidth(max(wide - beside, 100))
        high = max(self.text.heightForWidth(wide - beside) if wide == room else 0, self.text.sizeHint().height()) + 16
        self.setGeometry(_MARGIN, over.height() - high - _MARGIN, wide, high)

    def _open_file(self) -> None:
        if self._path is not None:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(self._path)))

    def _open_folder(self) -> None:
        if self._path is not None:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(self._path.parent)))
