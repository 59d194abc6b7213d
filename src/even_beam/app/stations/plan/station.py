"""Plan: lamps and protocols on the left, the run sheet they make on the right, with its time and what may be
dropped."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from even_beam.answers.plan import view as plan_view
from even_beam.answers.plan.room import room_content
from even_beam.answers.plan.view import PlanError, PlanForm
from even_beam.app import dialogs, keys
from even_beam.app.station import Host, Station
from even_beam.app.stations.plan.costs_dialog import CostsDialog
from even_beam.app.widgets.check_list import CheckList
from even_beam.app.widgets.run_sheet import RunSheet
from even_beam.app.widgets.text import Column, Hairline, clear, label, scrolled
from even_beam.bench.planning import edits as plan_edits
from even_beam.bench.planning.protocols import Protocol
from even_beam.bench.planning.run_sheet import Bench, Plan
from even_beam.desk.kit.view import kind_text
from even_beam.desk.session.document import Document
from even_beam.paper.errors import ReportError
from even_beam.paper.room_sheet import write_room_sheet
from even_beam.shell import places
from even_beam.words import notation

_FIELDS = (
    ("name", "Session", "", "what this evening is called"),
    ("question", "Question", "", "what shall be decided?"),
    ("distance", "Meter at", "2 m", "2 m; several such as 2 m 10 ft; or equal"),
    ("walk", "A walk goes to", "", "10 15 20 25 ft, as the protocol says when empty"),
    ("whites", "Whites, K", "", "as the protocol says, or 2700 to 6500 by 100"),
    ("levels", "Levels, %", "", "as the protocol says, or 100 50 25 10 1"),
    ("configurations", "On the lamp", "", "bare; reflector; reflector + full CTO"),
    ("zooms", "Zooms", "", "flood, spot; as it stands when empty"),
    ("angles", "Off the axis", "", "centre, left 15, right 15; on axis when empty"),
    ("tints", "Tints", "", "-2 0 +2; untouched when empty"),
    ("hues", "Hues, degrees", "", "0 120 240; of a coloured light"),
    ("time", "Time for it", "", "45 min, or 1 h 30; as long as it takes when empty"),
    ("hours", "Hours a day", "", "all in one go when empty"),
)


class PlanStation(Station):
    """Makes a session out of lamps and protocols."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._protocols: tuple[Protocol, ...] = ()
        self._plan: Plan | None = None
        self._bench: Bench | None = None
        self._before: list[Plan] = []  # the plan before each change made by hand
        self._undone: list[Plan] = []
        self._asked: object = None  # what the plan was made for
        self._kept: tuple[str, ...] = ()  # kinds of steps that shortage of time does not take
        self._filling = False
        self._lamps, self._tests = CheckList("Lamps"), CheckList("Protocols")
        for box in (self._lamps, self._tests):
            box.itemChanged.connect(lambda _: self._update())
        self._edits: dict[str, QLineEdit] = {}
        self._faults: dict[str, QLabel] = {}
        self._summary = QVBoxLayout()
        self._summary.setSpacing(6)
        self._sheet = RunSheet(editable=True)
        frame = QHBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.setSpacing(0)
        left = QWidget()
        left.setLayout(self._lamp_column())
        frame.addWidget(scrolled(left), 1)
        frame.addLayout(self._protocol_column(), 1)
        frame.addWidget(Hairline(vertical=True))
        frame.addWidget(self._sheet_column(), 1)
        self.setFocusProxy(self._lamps)

    def _lamp_column(self) -> QVBoxLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(14)
        for row, (name, caption, text, example) in enumerate(_FIELDS):
            edit = QLineEdit(text)
            edit.setPlaceholderText(example)
            edit.setAccessibleName(caption)
            edit.textChanged.connect(self._update if name != "time" else self._take_time)
            grid.addWidget(label(caption, "quiet"), 2 * row, 0)
            grid.addWidget(edit, 2 * row, 1)
            self._edits[name] = edit
            fault = self._faults[name] = label("", "fault", wrap=True)
            fault.hide()
            grid.addWidget(fault, 2 * row + 1, 0, 1, 2)
        left = QVBoxLayout()
        left.setContentsMargins(24, 16, 12, 12)
        left.setSpacing(4)
        left.addWidget(label("lamps, in the order to read them", "coming"))
        self._lamps.setMinimumHeight(140)
        left.addWidget(self._lamps, 2)
        left.addSpacing(8)
        left.addLayout(grid)
        return left

    def _protocol_column(self) -> QVBoxLayout:
        middle = QVBoxLayout()
        middle.setContentsMargins(12, 16, 20, 12)
        middle.setSpacing(4)
        middle.addWidget(label("what shall be answered", "coming"))
        middle.addWidget(self._tests, 1)
        return middle

    def _sheet_column(self) -> QWidget:
        right = QVBoxLayout()
        right.setContentsMargins(16, 16, 20, 12)
        right.setSpacing(8)
        words = Column()
        words.setLayout(self._summary)
        self._words = scrolled(words)
        self._words.setMinimumHeight(90)
        right.addWidget(self._words, 2)
        right.addWidget(Hairline())
        right.addWidget(self._sheet, 3)
        side = QWidget()
        side.setLayout(right)
        side.setMinimumWidth(300)
        side.setMaximumWidth(420)
        return side

    def show_document(self, document: Document) -> None:
        """Plan with the kit of another logbook."""
        self.document = document
        document.kit.changed.connect(self._fill)
        self._fill()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        if self._plan is not None:
            self._show_plan(self._plan)
        else:
            self._update()

    def _fill(self) -> None:
        if self.document is None:
            return
        try:
            self._protocols = plan_view.all_protocols(places.config_file().with_name("protocols.json"))
        except PlanError as error:
            self._protocols = plan_view.all_protocols()
            self.host.say(str(error))
        self._filling = True
        lamps = self.document.kit.lamps()
        self._lamps.fill([(c.source.id, f"{c.source.nickname}   {kind_text(c)}", "") for c in lamps])
        self._tests.fill([(p.name, p.name, p.answers) for p in self._protocols])
        self._filling = False
        self._update()

    def choose(self, source_ids: list[str], protocols: list[str]) -> None:
        """Take lamps and protocols into the plan."""
        self._lamps.choose(source_ids)
        self._tests.choose(protocols)

    def _take_units(self) -> None:
        """Take all units of the model under the cursor."""
        lamps = self.document.kit.lamps() if self.document is not None else []
        units = plan_view.equal_units(lamps, self._lamps.current)
        if len(units) < 2:
            self.host.say(
                "The kit has no other unit of that model; give lamps the same model in Kit, and they are units of it"
            )
            return
        self._lamps.choose([*self._lamps.chosen, *units])

    def _form(self) -> PlanForm:
        texts = {name: edit.text() for name, edit in self._edits.items() if name not in {"name", "question"}}
        fixed = plan_view.fixed_whites(self.document.kit.lamps()) if self.document is not None else ()
        found = plan_view.as_found(self.document.kit.lamps()) if self.document is not None else ()
        return PlanForm(
            self._lamps.chosen, self._tests.chosen, kept=self._kept, fixed_white=fixed, as_found=found, **texts
        )

    def _take_time(self) -> None:
        """Another time is another question: all may go again."""
        self._kept = ()
        self._update()

    def _update(self) -> None:
        """Make the plan anew where something else is asked than it was made for. A sheet that was changed by hand is
        kept: undo brings it back."""
        if self._filling or self.document is None:
            return
        lamps, form = self.document.kit.lamps(), self._form()
        asked = (form, plan_view.kinds_of(lamps), self.document.costs, tuple(self._protocols))
        if asked == self._asked:
            return
        self._asked = asked
        by_hand = self._plan if self._before and self._plan is not None else None
        self._before, self._undone = [by_hand] if by_hand is not None else [], []
        faults = plan_view.faults_of(form)
        beside = {**plan_view.unread_of(form, self._protocols), **faults}
        for name, words in self._faults.items():
            words.setText(beside.get(name, ""))
            words.setVisible(name in beside)
        if by_hand is not None:
            self.host.say("The sheet is made anew for what is asked now; Ctrl Z brings the one changed by hand back")
        try:
            self._bench = plan_view.bench_of(self.document.kit.meters(), self.document.costs)
            self._plan = plan_view.plan_of(form, self._protocols, self._bench, plan_view.kinds_of(lamps))
            self._show_plan(self._plan)
        except PlanError as error:
            self._plan = None
            self._sheet.show_rows([])
            self._show_words(() if faults else (str(error),))

    def _show_plan(self, plan: Plan) -> None:
        lamps = self.document.kit.lamps() if self.document is not None else []
        sources = {card.source.id: card.source for card in lamps}
        unit = self.host.settings().distance_unit
        if self._bench is not None:
            self._sheet.show_rows(plan_view.sheet_rows(plan, sources, self._bench, unit))
        units = plan_view.units_words(lamps, self._lamps.chosen)
        self._show_words((*plan_view.plan_words(plan, self._edits["time"].text(), unit), *units))

    def _show_words(self, words: tuple[str, ...]) -> None:
        clear(self._summary)
        for index, text in enumerate(words):
            self._summary.addWidget(label(text, "line" if index == 0 else "coming", wrap=True))
        self.head_changed.emit()
        self.hints_changed.emit()

    # --- changes by hand

    def _change(self, change: Callable[[Plan, str, Bench], Plan]) -> None:
        """Change the step under the cursor of the sheet."""
        step_id = self._sheet.chosen_step
        if self._plan is None or self._bench is None or step_id is None:
            self.host.say("Put the cursor on a step of the run sheet: Tab goes there, arrows move")
            return
        row = self._sheet.currentIndex().row()
        self._before.append(self._plan)
        self._undone = []
        self._plan = change(self._plan, step_id, self._bench)
        self._show_plan(self._plan)
        self._sheet.choose_step(step_id)
        if self._sheet.chosen_step != step_id:
            self._sheet.choose_row(row)

    def undo(self) -> str | None:
        """Undo the last change made by hand."""
        return self._back(self._before, self._undone)

    def redo(self) -> str | None:
        """Make it again."""
        return self._back(self._undone, self._before)

    def _back(self, source: list[Plan], target: list[Plan]) -> str | None:
        if not source:
            return None
        if self._plan is not None:
            target.append(self._plan)
        self._plan = source.pop()
        self._show_plan(self._plan)
        return "the change of the run sheet"

    def _give_back(self) -> None:
        """Keep the kind of steps that went last, whatever else goes for it."""
        if self._plan is None or not self._plan.given_up:
            self.host.say("Nothing was given up: write the time that there is at “Time for it”")
            return
        self._kept = (*self._kept, self._plan.given_up[-1].kind)
        self._update()

    def ask_costs(self) -> None:
        """What changes cost, edited or learned."""
        if self.document is None:
            return
        dialog = CostsDialog(self.window(), self.document.costs, self.document.learned_costs())
        if dialog.exec():
            self.host.use_settings(replace(self.host.settings(), costs=dialog.own))
            self._update()

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys of Plan."""
        return keys.PLAN

    def head(self) -> tuple[tuple[str, ...], str]:
        """How much is chosen."""
        lamps, tests = len(self._lamps.chosen), len(self._tests.chosen)
        return ("Plan", f"{notation.count(lamps, 'lamp')}, {notation.count(tests, 'protocol')}"), ""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Enter begins the session, P writes the room sheet; on the sheet Alt with an arrow moves, + doubles, S
        skips."""
        if event is None:
            return
        places = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.press("Enter")
        elif event.modifiers() & Qt.KeyboardModifier.AltModifier and event.key() in places:
            self._change(lambda plan, step, bench: plan_edits.moved(plan, step, places[Qt.Key(event.key())], bench))
        elif event.text().upper() in {"P", "+", "S", "T", "U", "G"} and event.text():
            self.press(event.text().upper())
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        if key == "T":
            self.ask_costs()
            return
        if key == "U":
            self._take_units()
            return
        if key == "G":
            self._give_back()
            return
        if self._plan is None or self.document is None:
            self.host.say("There is no plan yet: take a lamp and a protocol")
            return
        if key in {"+", "S"}:
            self._change(plan_edits.doubled if key == "+" else plan_edits.without)
            return
        name = self._edits["name"].text().strip() or f"Plan of {self.document.clock():%-d %B}"
        if key == "Enter":
            self.document.begin_plan(self._plan, name, self._edits["question"].text().strip())
            self.host.go_to_bench()
        elif key == "P":
            proposed, patterns = f"{name} room sheet.pdf", "PDF (*.pdf);;HTML (*.html)"
            target = dialogs.save_as(self.window(), "Room sheet", proposed, patterns, ".pdf", ".html")
            if target is not None:
                self.write_room_sheet(target, name)

    def write_room_sheet(self, path: Path, name: str) -> None:
        """Write the room sheet in a worker."""
        if self._plan is None or self._bench is None or self.document is None:
            return
        question = self._edits["question"].text().strip()
        content = room_content(self.document, self._plan, self._bench, name, question, self.host.settings())
        self.host.jobs.run(
            "room sheet",
            lambda job: write_room_sheet(content, path, over_others=True),
            lambda _: self.host.saved(path, f"Written to {path.name}"),
            self._not_written,
        )

    def _not_written(self, error: Exception) -> None:
        words = str(error) if isinstance(error, ReportError) else f"The room sheet could not be made: {error}."
        dialogs.tell(self.window(), "Not written", words)
