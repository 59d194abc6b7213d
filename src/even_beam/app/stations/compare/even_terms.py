"""The even-terms strip: what was brought to common terms and what differs, and how much is alike; each term opens its
values, and what is alike is one word until it is opened."""

from collections.abc import Sequence

from PyQt6.QtCore import QPoint, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygon
from PyQt6.QtWidgets import QMenu, QSizePolicy, QWidget

from even_beam.answers.compare.chips import CHOICES, Chip, Option
from even_beam.app import theme
from even_beam.known.comparison import Evenness

_PREFIX = {Evenness.SAME: "same: ", Evenness.BROUGHT: "", Evenness.DIFFERS: "differs: ", Evenness.UNKNOWN: ""}
_GAP, _PAD, _LINE, _OPENS = 8, 10, 26, 14

ALIKE = "alike"
"""The field of the chip that stands for all that is alike."""


class EvenTerms(QWidget):
    """Terms in frames, flowing over as many lines as they need. `asked` tells a field, a value and one lamp's key or
    "".

    `taken` tells a field that shall be chosen by itself again, of one lamp or of all.
    """

    asked = pyqtSignal(str, object, str)
    taken = pyqtSignal(str, str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._every: tuple[Chip, ...] = ()
        self._chips: tuple[Chip, ...] = ()
        self._unfolded = False
        self._cursor = 0
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Even terms")

    def show_chips(self, chips: Sequence[Chip]) -> None:
        """Show the terms."""
        self._every = tuple(chips)
        self._flow()
        words = [f"{chip.evenness}: {chip.text}" for chip in chips]
        self.setAccessibleName("Even terms. " + ". ".join(words))
        self.setToolTip("\n".join(words))

    def _flow(self) -> None:
        """Lay out what is shown: what is alike as one chip, or all of it where that was opened."""
        alike = [chip for chip in self._every if _is_alike(chip)]
        if len(alike) < 2 and not (alike and "," in alike[0].text):
            self._chips = self._every
        else:
            count = sum(len(chip.text.split(", ")) for chip in alike)
            fold = Chip(ALIKE, ALIKE, Evenness.SAME, f"{count} alike")
            others = [chip for chip in self._every if not _is_alike(chip)]
            self._chips = (*others, fold, *(alike if self._unfolded else ()))
        self._cursor = min(self._cursor, max(len(self._chips) - 1, 0))
        self.setFixedHeight(self.heightForWidth(max(self.width(), 400)))
        self.update()

    def heightForWidth(self, width: int) -> int:
        """As many lines as the terms need."""
        places = self._places(width)
        return (places[-1][0].bottom() + 2) if places else _LINE

    def sizeHint(self) -> QSize:
        """For the present width."""
        return QSize(600, self.heightForWidth(max(self.width(), 400)))

    def _text(self, chip: Chip) -> str:
        return f"{_PREFIX[chip.evenness] if not chip.options and chip.field != ALIKE else ''}{chip.text}"

    def _places(self, width: int) -> list[tuple[QRect, Chip]]:
        metrics = QFontMetrics(theme.font("body"), self)
        x, y = -_PAD, 0
        places = []
        for chip in self._chips:
            wide = min(metrics.horizontalAdvance(self._text(chip)) + 2 * _PAD + 2 + self._arrow(chip), width)
            if x + wide > width and x > 0:
                x, y = -_PAD, y + _LINE + _GAP // 2
            places.append((QRect(x, y, wide, _LINE), chip))
            x += wide + _GAP
        return places

    @staticmethod
    def _arrow(chip: Chip) -> int:
        """Room for the mark that says that it opens."""
        return _OPENS if len(chip.options) > 1 or chip.own or chip.field == ALIKE else 0

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """A click opens the values of a term."""
        if event is None:
            return
        for number, (box, chip) in enumerate(self._places(self.width())):
            if box.contains(event.position().toPoint()):
                self._cursor = number
                self._open(chip, box)
                return

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows go from term to term; Space and the down arrow open one."""
        if event is None or not self._chips:
            return
        if event.key() in {Qt.Key.Key_Left, Qt.Key.Key_Right}:
            step = 1 if event.key() == Qt.Key.Key_Right else -1
            self._cursor = (self._cursor + step) % len(self._chips)
            self.update()
        elif event.key() in {Qt.Key.Key_Space, Qt.Key.Key_Down}:
            self.open_field(self._chips[self._cursor].field)
        else:
            event.ignore()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """Show where the cursor is."""
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """Hide it."""
        self.update()

    def open_field(self, field: str) -> None:
        """Open the values of a term, also of one that is folded away."""
        if not any(chip.field == field for chip in self._chips):
            self._unfolded = True
            self._flow()
        for box, chip in self._places(self.width()):
            if chip.field == field:
                self._open(chip, box)
                return

    def _open(self, chip: Chip, box: QRect) -> None:
        if chip.field == ALIKE:
            self._unfolded = not self._unfolded
            self._flow()
        elif len(chip.options) > 1 or chip.own:
            self.menu_of(chip).exec(self.mapToGlobal(box.bottomLeft() + QPoint(0, 2)))

    def menu_of(self, chip: Chip) -> QMenu:
        """The values that were read: for all lamps, and for one alone."""
        menu = QMenu(self)
        self._fill(menu, chip, chip.options, "")
        if chip.own:
            menu.addSeparator()
            for key, name, options in chip.own:
                inner = menu.addMenu(f"only {name}")
                if inner is not None:
                    self._fill(inner, chip, options, key)
        return menu

    def _fill(self, menu: QMenu, chip: Chip, options: Sequence[Option], key: str) -> None:
        for option in options:
            lamps = "" if key or option.lamps < 2 else f"   {option.lamps} lamps"
            action = menu.addAction(f"{option.words}{lamps}")
            if action is not None:
                action.triggered.connect(lambda _=False, o=option: self.asked.emit(chip.field, o.value, key))
        back = menu.addAction("as the lamps share it")
        if back is not None:
            back.triggered.connect(lambda _=False: self.taken.emit(chip.field, key))

    def resizeEvent(self, event: object) -> None:
        """Flow anew."""
        self.setFixedHeight(self.heightForWidth(self.width()))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the terms: a plain line under what is the same, dashed under what was brought, warm where they
        differ."""
        t = theme.tokens()
        painter = QPainter(self)
        painter.setFont(theme.font("body"))
        for number, (box, chip) in enumerate(self._places(self.width())):
            outstanding = chip.evenness in (Evenness.DIFFERS, Evenness.UNKNOWN)
            colour = t.secondary if chip.evenness is Evenness.SAME else t.accent
            style = Qt.PenStyle.DashLine if chip.evenness is Evenness.BROUGHT else Qt.PenStyle.SolidLine
            painter.setPen(QPen(theme.color(colour), 2.0 if chip.asked else 1.0, style))
            painter.drawLine(box.left() + _PAD, box.bottom() - 2, box.right() - _PAD, box.bottom() - 2)
            if self.hasFocus() and number == self._cursor:
                painter.setPen(QPen(theme.color(t.text), 1.0))
                painter.drawRect(box.adjusted(0, 0, -1, -1))
            painter.setPen(theme.color(t.accent if outstanding else t.text))
            if arrow := self._arrow(chip):
                x, y = box.right() - _PAD - 8, box.center().y() - 1
                painter.drawPolyline(QPolygon([QPoint(x, y), QPoint(x + 4, y + 4), QPoint(x + 8, y)]))
            text = painter.fontMetrics().elidedText(
                self._text(chip), Qt.TextElideMode.ElideRight, box.width() - 2 * _PAD - arrow
            )
            painter.drawText(box.adjusted(_PAD, 0, -_PAD, 0), Qt.AlignmentFlag.AlignVCenter, text)
        painter.end()


def _is_alike(chip: Chip) -> bool:
    """Whether a term is the same for all, and nobody asked for it: it says nothing special."""
    return chip.evenness is Evenness.SAME and chip.field not in CHOICES and not chip.asked
