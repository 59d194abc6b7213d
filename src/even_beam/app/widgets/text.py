"""Labels in the type sizes of the house, and hairlines."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QLabel, QSizePolicy, QWidget

from even_beam.app import theme


def label(text: str = "", part: str = "", *, size: str = "body", wrap: bool = False, mono: bool = False) -> QLabel:
    """A label; `part` picks its colour from the style sheet (quiet, coming, line, title, fault)."""
    made = QLabel(text)
    if part:
        made.setProperty("part", part)
    if part not in {"title", "line", "coming"}:
        made.setFont(theme.font(size, mono=mono))
    made.setWordWrap(wrap)
    made.setTextFormat(Qt.TextFormat.PlainText)
    if wrap:
        made.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
    return made


class Hairline(QFrame):
    """A thin line that orders a page without boxing it."""

    def __init__(self, *, vertical: bool = False, strong: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._strong = strong
        if vertical:
            self.setFixedWidth(1)
        else:
            self.setFixedHeight(1)
        self.refresh_theme()

    def refresh_theme(self) -> None:
        """Take the colours of the theme in force."""
        t = theme.tokens()
        self.setStyleSheet(f"background: {t.line if self._strong else t.hairline};")
