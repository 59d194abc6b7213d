"""The list at the side of a station, which gives its room to the page where a window is narrow."""

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMoveEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QAbstractButton, QApplication, QSizePolicy, QWidget

from even_beam.app import theme
from even_beam.app.widgets.text import Hairline

FOLDED_BELOW = 1000
"""A station narrower than this has its list in a drawer."""
HANDLE = 30
_BY_HAND = frozenset(
    {Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason, Qt.FocusReason.MouseFocusReason}
)
_OPENS = frozenset({Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Space, Qt.Key.Key_Home, Qt.Key.Key_End})


class Drawer(QAbstractButton):
    """Stands in the layout for `inside`: as wide as that, or as its handle, beside which `inside` lies out of view.

    `keeper`, the list itself, has the focus in either state: the first key that moves through it brings it over the
    page, and so does Tab to what stands beside it. Escape, a click beside it or another focus puts it back.
    """

    def __init__(self, station: QWidget, inside: QWidget, keeper: QWidget, *, width: int, name: str) -> None:
        super().__init__(station)
        self._inside, self._keeper, self._wide = inside, keeper, width
        self._folded, self._open = False, False
        inside.setParent(station)
        inside.setFixedWidth(width)
        self.setText(name)
        self.setAccessibleName(f"{name}: open the list")
        self.setToolTip(f"{name}: arrows open the list, Esc closes it")
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setFixedWidth(width)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        self.clicked.connect(self._pressed)
        self._edge = Hairline(vertical=True, strong=True, parent=inside)
        for watched in (station, inside, *inside.findChildren(QWidget)):
            watched.installEventFilter(self)
        application = QApplication.instance()
        if isinstance(application, QApplication):
            application.focusChanged.connect(self._focus_went)

    @property
    def is_folded(self) -> bool:
        """Whether only the handle has room."""
        return self._folded

    @property
    def is_open(self) -> bool:
        """Whether the list is seen."""
        return not self._folded or self._open

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Fold with the station's width; open and close by keys."""
        if event is None:
            return False
        if event.type() == QEvent.Type.Resize and watched is self.parentWidget() and isinstance(event, QResizeEvent):
            self._fold(event.size().width() < FOLDED_BELOW)
        if self._folded and event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            if not self._open and watched is self._keeper and event.key() in _OPENS:
                self._show(True)
            elif self._open and watched is self._inside and event.key() == Qt.Key.Key_Escape:
                self._show(False)
                return True
        if self._folded and isinstance(event, QFocusEvent) and event.reason() in _BY_HAND and event.gotFocus():
            self._show(watched is not self.parentWidget())
        return False

    def _fold(self, folded: bool) -> None:
        if folded != self._folded:
            self._folded, self._open = folded, False
            self.setFixedWidth(HANDLE if folded else self._wide)
        self._place()

    def _pressed(self) -> None:
        if self._folded:
            self._show(not self._open)
            self._keeper.setFocus()

    def _focus_went(self, _: QWidget | None, now: QWidget | None) -> None:
        if self._folded and not (now is not None and self._inside.isAncestorOf(now)):
            self._show(False)
        self.update()

    def _show(self, is_open: bool) -> None:
        self._open = is_open
        self._place()
        self.update()

    def _place(self) -> None:
        """Over its own room, over the page, or outside; never hidden, for what is hidden loses the focus."""
        x = self.x() if not self._folded else HANDLE if self._open else -self._wide - 1
        self._inside.setGeometry(x, self.y(), self._wide, self.height())
        self._edge.setGeometry(self._wide - 1, 0, 1, self.height())
        self._edge.setVisible(self._open)
        if self._open:
            self._inside.raise_()

    def moveEvent(self, event: QMoveEvent | None) -> None:
        """The list goes with its room."""
        super().moveEvent(event)
        self._place()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The same."""
        super().resizeEvent(event)
        self._place()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The handle: the name upright along it, and a bar while the list has the focus."""
        if not self._folded:
            return
        t = theme.tokens()
        painter = QPainter(self)
        painter.fillRect(self.rect(), theme.color(t.raised if self._open or self.underMouse() else t.panel))
        if self._keeper.hasFocus() or self._open:
            painter.fillRect(0, 0, 3, self.height(), theme.color(t.accent))
        painter.setPen(theme.color(t.text if self._open else t.secondary))
        painter.setFont(theme.font("body"))
        painter.translate(self.width() - 9, 16)
        painter.rotate(90.0)
        painter.drawText(0, 0, f"{self.text()}  {'◂' if self._open else '▸'}")
        painter.end()
