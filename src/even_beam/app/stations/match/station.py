"""Match: what to dial or clip on so that lamps agree; what several give together; light enough; mains and batteries."""

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication, QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from even_beam.answers.match.target_text import LEAST
from even_beam.answers.match.view import Ask, Matches, Shown, Wish
from even_beam.app import keys
from even_beam.app.asker import Asker
from even_beam.app.station import Host, Station, key_of
from even_beam.app.widgets.ask_line import AskLine
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.drawer import Drawer
from even_beam.app.widgets.figure_table import FigureTable
from even_beam.app.widgets.headline import Headline
from even_beam.app.widgets.lamp_list import LampList
from even_beam.app.widgets.question_bar import QuestionBar
from even_beam.app.widgets.text import Column, Hairline, label, scrolled
from even_beam.desk.session.document import Document
from even_beam.light.filters import correction_named
from even_beam.logbook import LogbookError
from even_beam.shell.job import Job

_PRESSED = frozenset("1234AGLOTX")
_WIDEST = 182


class MatchStation(Station):
    """Any lamps of the logbook. It asks in a worker, and shows the answer."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._matches: Matches | None = None
        self._wish, self._shown = Wish(), Shown(Wish())
        self._asker = Asker(host.jobs, host.say, host.unsay)
        self._build()

    def _build(self) -> None:
        self._lamps = LampList()
        self._lamps.toggled.connect(self._toggle)
        self._counted = label("", "coming")
        left = QVBoxLayout()
        left.setContentsMargins(16, 14, 16, 12)
        left.setSpacing(6)
        left.addWidget(self._counted)
        left.addWidget(self._lamps, 1)
        side = QWidget()
        side.setLayout(left)
        self.drawer = Drawer(self, side, self._lamps, width=212, name="Lamps")
        self._bar = QuestionBar(list(Ask))
        self._bar.asked.connect(self.ask)
        self.line = AskLine(self._back_to_lamps)
        self._headline, self._table, self._pairs = Headline(), FigureTable(widest=_WIDEST), FigureTable()
        self._headline.told.connect(self.host.announce)
        self._pairs.setAccessibleName("The sources in pairs")
        self._chart, self._title = ChartView(), label("", "coming", wrap=True)
        self._chart.setMinimumHeight(280)
        self._notes = label("", "quiet", size="body", wrap=True)
        self._notes.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        frame = QHBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(0)
        frame.addWidget(self.drawer)
        frame.addWidget(Hairline(vertical=True))
        frame.addWidget(self._scrolled(), 1)
        self.setFocusProxy(self._lamps)

    def _back_to_lamps(self) -> None:
        self._lamps.setFocus()

    def _scrolled(self) -> QScrollArea:
        column = QVBoxLayout()
        column.setContentsMargins(24, 0, 24, 12)
        column.setSpacing(10)
        for widget in (
            self._bar, Hairline(), self.line, self._headline, self._table, self._title, self._chart, self._pairs,
            self._notes,
        ):  # fmt: skip
            column.addWidget(widget)
        column.addStretch(1)
        content = Column()
        content.setLayout(column)
        self._page = scrolled(content)
        return self._page

    # --- asking

    def show_document(self, document: Document) -> None:
        """Match the lamps of another logbook."""
        self.document = document
        self._matches = Matches(document.logbook.path)
        self._wish, self._shown = Wish(), Shown(Wish())
        self._wanted = self._wish  # what was asked last; an answer to it is on its way
        for changed in (document.readings_changed, document.session_changed, document.kit.changed):
            changed.connect(self._mark_stale)
        self._asker.stale = True

    def let_go(self) -> None:
        """Close the connection by which wishes were answered: the file is to stand alone."""
        if self._matches is not None:
            self._matches.forget()

    def _mark_stale(self) -> None:
        self._asker.stale = True
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Ask again, of the logbook as it is now."""
        self._ask()

    def ask(self, ask: Ask) -> None:
        """Ask another question of the same lamps."""
        self._ask(ask=ask)

    def _ask(self, failed: Callable[[Exception], None] | None = None, **changes: object) -> None:
        matches = self._matches
        if matches is None:
            return
        wish = self._wanted = replace(self._wanted, **changes)  # type: ignore[arg-type]

        def work(job: Job, anew: bool) -> Shown:
            if anew:
                matches.forget()
            return matches.ask(wish, job.stop_if_cancelled)

        self._asker.ask("matching the lamps", work, self._answered, failed or self._failed)

    def _failed(self, error: Exception) -> None:
        self._wanted = self._wish
        self.host.say(f"The lamps could not be matched: {error}")

    def _typed(self, what: str, example: str, text: str, **field: Callable[[str], object]) -> None:
        """Open the line for a part of the wish; it closes once that is understood."""
        ((name, read),) = field.items()

        def failed(error: Exception) -> None:
            self._wanted = self._wish
            self.line.complain(str(error))

        def take(typed: str) -> None:
            try:
                value = read(typed)
            except ValueError as error:
                self.line.complain(str(error))
                return
            self._ask(failed, **{name: value})

        self.line.open(what, example, text, take)

    # --- showing

    def _answered(self, shown: Shown) -> None:
        self._shown = shown
        self._wish = self._wanted = shown.wish
        if self.line.isVisible():
            self.line.close_line()
        self._lamps.show_lamps(shown.lamps, shown.chosen, "", shown.numbers)
        self._counted.setText(f"{len(shown.chosen)} of {len(shown.lamps)} lamps")
        self._bar.show_question(shown.wish.ask, {})
        self._headline.show_lines(shown.lines)
        self._table.show_sheet(shown.sheet)
        self._pairs.show_sheet(shown.pairs)
        self._chart.setVisible(shown.chart is not None)
        self._title.setVisible(shown.chart is not None)
        if shown.chart is not None:
            self._chart.show_chart(shown.chart)
            self._title.setText(shown.chart.title)
        self._notes.setText("\n".join(shown.notes))
        self._notes.setVisible(bool(shown.notes))
        self.head_changed.emit()
        self.hints_changed.emit()

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of Match."""
        return keys.MATCH

    def head(self) -> tuple[tuple[str, ...], str]:
        """How many are matched, and to what."""
        shown = self._shown
        return ("Match", f"{len(shown.chosen)} of {len(shown.lamps)} lamps") if shown.lamps else ("Match",), shown.head

    # --- keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Digits ask, letters do what the foot says, PgDn goes down the page."""
        key = key_of(event, _PRESSED) if event is not None else ""
        if key:
            self.press(key)
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        if key.isdigit():
            self.ask(list(Ask)[int(key) - 1])
        elif key in self._acts:
            self._acts[key]()

    @property
    def _acts(self) -> dict[str, Callable[[], object]]:
        under = self._lamps.under_cursor or ""
        return {
            "Space": lambda: self._toggle(under) if under else None,
            "A": self._take_all,
            "T": self._ask_target,
            "L": lambda: self._follow(under) if under else None,
            "O": lambda: self._ask(target=LEAST),
            "G": self._ask_gels,
            "X": self._ask_figure,
            "PgDn": lambda: self._scroll(1),
            "PgUp": lambda: self._scroll(-1),
            "Ctrl C": self._copy,
        }

    def _scroll(self, pages: int) -> None:
        bar = self._page.verticalScrollBar()
        if bar is not None:
            bar.setValue(bar.value() + pages * bar.pageStep())

    def _toggle(self, key: str) -> None:
        wanted = self._wanted.chosen
        chosen = self._shown.chosen if wanted is None else wanted
        self._ask(chosen=tuple(i for i in chosen if i != key) if key in chosen else (*chosen, key))

    def _take_all(self) -> None:
        """All lamps, or the first few again when all are there."""
        every = tuple(lamp.key for lamp in self._shown.lamps)
        self._ask(chosen=None if len(self._shown.chosen) == len(every) else every)

    def _follow(self, key: str) -> None:
        """The white of the lamp under the cursor, as it was read last, is what the others shall agree with."""
        name = next((lamp.name for lamp in self._shown.lamps if lamp.key == key), "")
        if name:
            self._ask(target=f"fixture={name}")

    def _ask_target(self) -> None:
        self._typed("target", "5600, 3200 +0.002, D55, x 0.33 y 0.34, Tansy 3200, least", self._wish.target, target=str)

    def _ask_figure(self) -> None:
        """The other thing that a question needs: a stop, a supply, an illuminance."""
        match self._wish.ask:
            case Ask.ENOUGH:
                example = (
                    "f/4; ISO 800; 1/50, or 180° at 24 fps; a sum: ISO 640 1/30 to ISO 12800 1/250, 50 lx 8 h, 80 nits"
                )
                self._typed("stop", example, self._wish.stop, stop=str)
            case Ask.MAINS:
                self._typed("supply", "16 A 230 V, 98 Wh, 2 x 26 V 12 Ah", self._wish.supply, supply=str)
            case Ask.MIX:
                lux = "" if self._wish.lux is None else f"{self._wish.lux:g}"
                self._typed("illuminance in lx", "500, or nothing for as bright as they go", lux, lux=_lux)
            case _:
                self._ask_target()

    def _ask_gels(self) -> None:
        """Which gels are owned; kept in the Kit, and Ctrl Z takes it back."""
        if self.document is None:
            return
        kit = self.document.kit

        def take(typed: str) -> None:
            names = list(dict.fromkeys(name.strip() for name in typed.split(",") if name.strip()))
            try:
                kit.own_gels(names)
            except LogbookError as error:
                self.line.complain(f"{error.what} {error.kept} {error.do}")
                return
            strange = [name for name in names if correction_named(name) is None]
            if strange:
                self.host.say(f"{', '.join(strange)}: only known once a lamp was read with it and without it")
            self.line.close_line()

        example = "half CTB, quarter CTO, eighth minus green; nothing: every gel there is a model of"
        self.line.open("gels you own", example, ", ".join(kit.gels()), take)

    def undo(self) -> str | None:
        """Take back the last change of what is owned."""
        return self.document.kit.undo() if self.document is not None else None

    def _copy(self) -> None:
        clipboard = QGuiApplication.clipboard()
        if clipboard is None or not self._shown.lines:
            self.host.say("There is no answer to copy yet")
            return
        clipboard.setText(self._shown.plain)
        self.host.say("The answer is on the clipboard, with its figures")


def _lux(text: str) -> float | None:
    """An illuminance, none for nothing. Raises `ValueError`."""
    if not text.strip():
        return None
    try:
        value = float(text.lower().replace("lx", "").replace(" ", ""))
    except ValueError:
        value = 0.0
    if not 0.0 < value < 1e9:
        raise ValueError(f"“{text.strip()}” is no illuminance; write 500")
    return value
