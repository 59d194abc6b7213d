"""Labels in the type sizes of the house, and hairlines."""

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtWidgets import QFrame, QLabel, QLayout, QScrollArea, QSizePolicy, QWidget

from even_beam.app import theme


def label(text: str = "", part: str = "", *, size: str = "body", wrap: bool = False, mono: bool = False) -> QLabel:
    """A label; `part` picks its colour from the style sheet (quiet, coming, line, title, fault)."""
    made = QLabel(text)
    if part:
        made.setProperty("part", part)
    if part not in {"title", "line", "coming", "countdown"}:
        made.setFont(theme.font(size, mono=mono))
    made.setWordWrap(wrap)
    made.setTextFormat(Qt.TextFormat.PlainText)
    if wrap:
        made.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
    return made


def clear(layout: QLayout) -> None:
    """Take everything out of a layout; it is gone at once, not when the event loop comes to it."""
    while (item := layout.takeAt(0)) is not None:
        if (widget := item.widget()) is not None:
            widget.hide()
            widget.deleteLater()


class Column(QWidget):
    """As high as its texts need at its width, which a scroll area does not ask for by itself."""

    def event(self, event: QEvent | None) -> bool:
        """Fit whenever a part changed its height, or the width is another."""
        done = bool(super().event(event))
        layout = self.layout()
        if event is not None and layout is not None and event.type() in {QEvent.Type.LayoutRequest, QEvent.Type.Resize}:
            self.setMinimumHeight(max(layout.minimumHeightForWidth(self.width()), 0))
        return done


def scrolled(inside: QWidget, width: int | None = None) -> QScrollArea:
    """A column that scrolls where a window is too low for it."""
    area = QScrollArea()
    area.setWidget(inside)
    area.setWidgetResizable(True)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    if width is not None:
        area.setFixedWidth(width)
    return area


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
