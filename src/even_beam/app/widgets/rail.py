"""The rail with the stations in working order, and the file menu at its foot."""

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractButton, QButtonGroup, QVBoxLayout, QWidget

from even_beam.app import theme

WIDE, NARROW = QSize(88, 66), QSize(50, 52)
"""A button with its name, and without; tall enough for a finger."""


class RailButton(QAbstractButton):
    """One station: icon, name and shortcut; the present one marked by a bar."""

    def __init__(self, name: str, icon: str, shortcut: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._icon = icon
        self._shortcut = shortcut
        self._size = WIDE
        self.setText(name)
        self.setCheckable(True)
        self.setAccessibleName(name)
        self.setToolTip(f"{name} ({shortcut})")
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def sizeHint(self) -> QSize:
        """A constant size, by whether the name is shown."""
        return self._size

    def fold(self, *, folded: bool) -> None:
        """Leave the name to the tooltip, or show it again."""
        self._size = NARROW if folded else WIDE
        self.updateGeometry()
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint icon, name and shortcut."""
        t = theme.tokens()
        painter = QPainter(self)
        painter.fillRect(self.rect(), theme.color(t.raised if self.isChecked() or self.underMouse() else t.panel))
        if self.isChecked():
            painter.fillRect(0, 0, 3, self.height(), theme.color(t.accent))
        if self.hasFocus():
            painter.setPen(theme.color(t.accent))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
        colour = t.text if self.isChecked() else t.secondary
        small = theme.font("small")
        small.setPixelSize(11)
        if self._size == NARROW:
            theme.icon(self._icon, colour, 18).paint(painter, (self.width() - 18) // 2, 8, 18, 18)
            below, sideways = QRectF(3, 29, self.width() - 3, 16), Qt.AlignmentFlag.AlignCenter
        else:
            theme.icon(self._icon, colour, 18).paint(painter, 17, 8, 18, 18)
            painter.setPen(theme.color(colour))
            painter.setFont(theme.font("body"))
            painter.drawText(QRectF(17, 28, self.width() - 18, 18), Qt.AlignmentFlag.AlignVCenter, self.text())
            below, sideways = QRectF(17, 44, self.width() - 18, 16), Qt.AlignmentFlag.AlignVCenter
        painter.setPen(theme.color(t.coming))
        painter.setFont(small)
        painter.drawText(below, sideways, self._shortcut)
        painter.end()


class Rail(QWidget):
    """Stations from top to bottom. `chosen` tells the index."""

    chosen = pyqtSignal(int)
    menu_wanted = pyqtSignal()

    def __init__(self, stations: list[tuple[str, str]], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedWidth(WIDE.width())
        self._group = QButtonGroup(self)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 12, 0, 8)
        layout.setSpacing(0)
        for index, (name, icon) in enumerate(stations):
            button = RailButton(name, icon, f"Ctrl {index + 1}")
            self._group.addButton(button, index)
            layout.addWidget(button)
        layout.addStretch()
        self.menu_button = RailButton("File", "menu", "F10")
        self.menu_button.setCheckable(False)
        self.menu_button.clicked.connect(self.menu_wanted)
        layout.addWidget(self.menu_button)
        self._group.idClicked.connect(self.chosen)

    def fold(self, *, folded: bool) -> None:
        """Icons and shortcuts alone, where the window has no width to spare; names are in the tooltips."""
        self.setFixedWidth((NARROW if folded else WIDE).width())
        for button in (*self._group.buttons(), self.menu_button):
            if isinstance(button, RailButton):
                button.fold(folded=folded)

    def show_station(self, index: int) -> None:
        """Mark a station as the present one."""
        button = self._group.button(index)
        if button is not None:
            button.setChecked(True)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The panel's ground."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), theme.color(theme.tokens().panel))
        painter.end()
