"""The window: the rail, the station at work, the keys at the foot, and the file menu."""

from collections.abc import Callable
from datetime import UTC, datetime
from functools import partial
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING, cast

from PyQt6.QtCore import QByteArray, QMargins, QPoint, QSize, QTimer, QUrl, pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QDesktopServices, QIcon, QKeySequence, QResizeEvent
from PyQt6.QtWidgets import (
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QMainWindow,
    QMenu,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from even_beam.app import dialogs, keys, theme
from even_beam.app.backing_up import BackingUp
from even_beam.app.head_line import HeadLine
from even_beam.app.job_runner import JobRunner
from even_beam.app.loading_ahead import LoadingAhead
from even_beam.app.sharing.several_benches import SeveralBenches
from even_beam.app.station import Host, Station
from even_beam.app.widgets.announcer import Announcer
from even_beam.app.widgets.foot import KeyRow
from even_beam.app.widgets.rail import Rail
from even_beam.app.widgets.said_line import SaidLine
from even_beam.app.widgets.text import Hairline
from even_beam.collection import files as documents
from even_beam.demo.place import DemoPlace
from even_beam.logbook import LogbookError
from even_beam.logbook.errors import DestroyedError
from even_beam.logbook.notices import LISTENERS
from even_beam.shell import memory, places
from even_beam.shell.settings import Settings, SettingsError, save

if TYPE_CHECKING:
    from even_beam.app.demo_building import DemoBuilding
    from even_beam.app.stations.bench.station import BenchStation
    from even_beam.app.stations.camera.station import CameraStation
    from even_beam.app.stations.compare.station import CompareStation
    from even_beam.app.stations.kit.station import KitStation
    from even_beam.app.stations.match.station import MatchStation
    from even_beam.app.stations.plan.station import PlanStation
    from even_beam.app.stations.report.station import ReportStation
    from even_beam.app.stations.spectrum.station import SpectrumStation
    from even_beam.bench.records import Computed, Spectrum
    from even_beam.desk.session.document import Document
    from even_beam.desk.session.instruments_at_hand import Instruments
    from even_beam.logbook.store import Logbook

SAY_MS, SAVED_MS = 6000, 15_000
KIT, PLAN, BENCH, COMPARE, MATCH, REPORT, SPECTRUM, CAMERA = range(8)
_STATIONS = (
    ("Kit", "boxes"),
    ("Plan", "list-checks"),
    ("Bench", "gauge"),
    ("Compare", "columns-2"),
    ("Match", "blend"),
    ("Report", "file-text"),
    ("Spectrum", "audio-waveform"),
    ("Camera", "camera"),
)
"""The name of each and the icon that stands for it."""

_FRAME = QMargins(4, 32, 4, 4)
"""What a desktop lays around a window, at most: its size is known only once it is shown."""

NAMES_FROM = 1100
"""From so many pixels of width on the rail has room for the names of the stations."""


def _make_station(index: int, host: Host) -> Station:
    """One of them, loaded with what it needs."""
    name = _STATIONS[index][0]
    station: Station = getattr(import_module(_module_of(name)), f"{name}Station")(host)
    return station


def _module_of(name: str) -> str:
    return f"even_beam.app.stations.{name.lower()}.station"


_BY_A_FIRST_KEY = tuple(
    f"even_beam.app.stations.bench.{name}"
    for name in ("line_acts", "questions", "earlier", "file_intake", "reader_window")
)
"""What the Bench loads when one of its keys is first pressed."""

_FOR_SETTINGS = "tomlkit"


def utc_now() -> datetime:
    """The present moment."""
    return datetime.now(UTC)


class Window(QMainWindow):
    """One logbook in one window."""

    _told = pyqtSignal(object, str, object)

    def __init__(
        self,
        settings: Settings,
        clock: Callable[[], datetime] = utc_now,
        make_instruments: "Callable[[Callable[[], datetime]], Instruments] | None" = None,
        demo: DemoPlace | None = None,
    ) -> None:
        super().__init__()
        self._settings, self._clock, self._make_instruments, self._demo = settings, clock, make_instruments, demo
        self.document: Document | None = None
        self._building: DemoBuilding | None = None
        self._jobs = JobRunner(self)
        self.announcer = Announcer(self)
        self.setStatusBar(self.announcer)
        self._host = Host(
            jobs=self._jobs,
            settings=lambda: self._settings,
            say=self.say,
            unsay=self.unsay,
            announce=self.announcer.announce,
            show_spectrum=self.show_spectrum,
            go_to_bench=lambda: self.go(BENCH),
            use_settings=self.use_settings,
            plan_for=self.plan_for,
            compare_in=self.compare_in,
            saved=self.saved,
            show_limits=self.show_limits,
            merge=self.merge,
        )
        self._benches = SeveralBenches(self, self._host, lambda: self.document)
        self._benches.state_changed.connect(self._show_head)
        self._backups = BackingUp(self, self._host, lambda: self.document)
        self._stations: dict[int, Station] = {}
        self._at = BENCH
        later = [_module_of(name) for name, _ in _STATIONS]
        self._ahead = LoadingAhead([*later, *_BY_A_FIRST_KEY, _FOR_SETTINGS], self._jobs, self)
        theme.dress(self)
        self._build()
        self._build_menu()
        self.setWindowTitle("Even Beam")
        self._restore_geometry()
        self._told.connect(self._tell_of_file)
        self._listener = self._told.emit  # from whatever thread: the signal brings it to this one
        LISTENERS.append(self._listener)

    def _build(self) -> None:
        self._rail = Rail(list(_STATIONS))
        self._rail.chosen.connect(self.go)
        self._rail.menu_wanted.connect(self._open_menu)
        self._head = HeadLine()
        self._stack = QStackedWidget()
        self._said = SaidLine(self._stack)
        self._foot = KeyRow(right=keys.KeyHint("F1", "all keys"))
        self._foot.pressed.connect(self._foot_pressed)
        foot = QHBoxLayout()
        foot.setContentsMargins(24, 0, 24, 0)
        foot.addWidget(self._foot)
        self._lines = [Hairline(), Hairline(), Hairline(vertical=True)]
        column = QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._head)
        column.addWidget(self._lines[0])
        column.addWidget(self._stack, 1)
        column.addWidget(self._lines[1])
        column.addLayout(foot)
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._rail)
        row.addWidget(self._lines[2])
        row.addLayout(column, 1)
        centre = QWidget()
        centre.setLayout(row)
        self.setCentralWidget(centre)

    def _action(self, text: str, shortcut: str, act: Callable[[], object]) -> QAction:
        action = QAction(text, self)
        if shortcut:
            action.setShortcut(QKeySequence(shortcut))
        action.triggered.connect(lambda _checked=False: act())  # Qt hands over whether it is checked
        self.addAction(action)
        return action

    def _build_menu(self) -> None:
        self._menu = QMenu(self)
        self._recent = QMenu("Open recent", self)
        self._recent.aboutToShow.connect(self._fill_recent)
        groups: tuple[tuple[tuple[str, str, Callable[[], object]], ...], ...] = (
            (("New logbook …", "Ctrl+N", self.ask_new), ("Open …", "Ctrl+O", self.ask_open)),
            (
                ("Import readings, spectra, traces …", "Ctrl+I", self.ask_import),
                ("Take in another logbook …", "", self._benches.ask_merge),
                ("Share with …", "", self._benches.ask_share),
                ("Save a copy …", "Ctrl+S", self.ask_copy),
                ("Copies by day …", "", self._backups.ask),
                ("Show in folder", "", self._show_in_folder),
            ),
            (("Settings …", "Ctrl+,", self._ask_settings), ("Change theme", "Ctrl+T", self._change_theme)),
            (("All keys", "F1", self._show_keys), ("About Even Beam", "", self._show_about)),
            (("Quit", "Ctrl+Q", self.close),),
        )
        for index, group in enumerate(groups):
            for text, shortcut, act in group:
                self._menu.addAction(self._action(text, shortcut, act))
            if index == 0:
                self._menu.addMenu(self._recent)
                if self._demo is not None:
                    self._menu.addAction(self._action("Reset the demo …", "", self._ask_reset))
            self._menu.addSeparator()
        self._action("File", "F10", self._open_menu)
        self._action("Undo", "Ctrl+Z", self._undo)
        self._action("Redo", "Ctrl+Shift+Z", self._redo)
        for index in range(len(_STATIONS)):
            self._action(_STATIONS[index][0], f"Ctrl+{index + 1}", partial(self.go, index))

    # --- stations

    def _station(self, index: int) -> Station:
        """A station, made when it is first needed: the window is shown before all of them are there."""
        if index not in self._stations:
            station = _make_station(index, self._host)
            self._stations[index] = station
            self._stack.addWidget(station)
            station.hints_changed.connect(self._show_hints)
            station.head_changed.connect(self._show_head)
            if self.document is not None:
                station.show_document(self.document)
        return self._stations[index]

    @property
    def kit(self) -> "KitStation":
        """The Kit."""
        return cast("KitStation", self._station(KIT))

    @property
    def bench(self) -> "BenchStation":
        """The Bench."""
        return cast("BenchStation", self._station(BENCH))

    @property
    def plan(self) -> "PlanStation":
        """Plan."""
        return cast("PlanStation", self._station(PLAN))

    @property
    def compare(self) -> "CompareStation":
        """Compare."""
        return cast("CompareStation", self._station(COMPARE))

    @property
    def match(self) -> "MatchStation":
        """Match."""
        return cast("MatchStation", self._station(MATCH))

    @property
    def report(self) -> "ReportStation":
        """Report."""
        return cast("ReportStation", self._station(REPORT))

    @property
    def spectrum(self) -> "SpectrumStation":
        """The Spectrum panel."""
        return cast("SpectrumStation", self._station(SPECTRUM))

    @property
    def camera(self) -> "CameraStation":
        """Camera."""
        return cast("CameraStation", self._station(CAMERA))

    def show_spectrum(self, name: str, spectrum: "Spectrum") -> None:
        """Bring the spectrum of a reading to the panel."""
        self.spectrum.show_reading(name, spectrum)
        self.go(SPECTRUM)

    def plan_for(self, source_ids: list[str], protocols: list[str]) -> None:
        """Go to Plan with lamps and protocols taken."""
        self.go(PLAN)
        self.plan.choose(source_ids, protocols)

    def compare_in(self, session_id: str) -> None:
        """Go to Compare with the readings of a session."""
        self.go(COMPARE)
        self.compare.ask_term("session_id", session_id)

    @property
    def station(self) -> Station:
        """The station at work."""
        return self._station(self._at)

    @property
    def busy(self) -> bool:
        """Whether a job is under way."""
        return self._jobs.busy

    def go(self, index: int) -> None:
        """Go to a station, or to where all waits for something, until that is there."""
        if index != self._at:
            self._said.hide()
        self._at = index
        if self._building is not None:
            return
        self._stack.setCurrentWidget(self._station(index))
        self._rail.show_station(index)
        self.station.refresh()
        self.station.setFocus()
        self._show_head()
        self._show_hints()

    def _show_hints(self) -> None:
        self._foot.show_hints(self.station.hints())

    def _show_head(self) -> None:
        parts, right = self.station.head()
        self._head.show_head(parts, "   ".join(filter(None, (self._benches.state, right))))

    def say(self, words: str) -> None:
        """Say something in passing, over the foot."""
        self._said.say(words, SAY_MS)
        self.announcer.announce(words)

    def unsay(self, words: str) -> None:
        """What was said in passing holds no more."""
        self._said.unsay(words)

    def show_limits(self, purpose: str) -> None:
        """Go to the limits of a purpose in the Kit."""
        from even_beam.answers.kit.shelf import ShelfName

        self.go(KIT)
        self.kit.show_shelf(ShelfName.LIMITS, purpose)

    def merge(self, paths: list[Path]) -> None:
        """Take other logbooks into the one that is open."""
        self._benches.merge(paths)

    def saved(self, path: Path, words: str) -> None:
        """Say that a file was saved, with ways to open it and its folder."""
        self._said.say(words, SAVED_MS, path)
        self.announcer.announce(words)

    @property
    def said(self) -> str:
        """What was said last."""
        return self._said.text.text()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """What is said stays at its place; a narrow window gives the room of the rail's names to the station."""
        super().resizeEvent(event)
        self._rail.fold(folded=self.width() < NAMES_FROM)
        self._said.place()

    def _foot_pressed(self, key: str) -> None:
        if key == "F1":
            self._show_keys()
        else:
            self.station.press(key)

    def _undo(self) -> None:
        self._tell_undone(self.station.undo(), "Undone")

    def _redo(self) -> None:
        self._tell_undone(self.station.redo(), "Done again")

    def _tell_undone(self, label: str | None, words: str) -> None:
        self.station.refresh()
        self.say(
            f"{words}: {label}"
            if label
            else "There is nothing to undo here"
            if words == "Undone"
            else "There is nothing to do again"
        )

    # --- logbooks

    def open_logbook(self, path: Path) -> bool:
        """Open a logbook in place of the present one, which stays open when that fails."""
        from even_beam.desk.session.document import Document

        if self.document is not None and self._is_open(path):
            self.say(f"{path.name} is open already")
            return True
        try:
            document = Document.open(path, self._settings, self._clock, self._instruments())
        except LogbookError as error:
            dialogs.tell(self, "The logbook could not be opened", str(error))
            return False
        former = self.document is not None
        self._jobs.stop_all()
        self._let_go()
        self.document = document
        for station in self._stations.values():
            station.show_document(document)
        self.setWindowTitle(f"{path.stem} · Even Beam")
        self._after_opening(document)
        memory.settle(former=former)
        return True

    def _is_open(self, path: Path) -> bool:
        try:
            return self.document is not None and path.samefile(self.document.logbook.path)
        except OSError:
            return False

    def what_is_kept(self) -> str:
        """What is sure of what was confirmed, where that is sure."""
        if self.document is None or not self.document.logbook.is_as_left:
            return ""
        return f"Every reading that was confirmed is kept in {self.document.logbook.path.name}."

    def _tell_of_file(self, path: Path, words: str, rescued: Path | None) -> None:
        """What was found of a logbook's file; where it was destroyed, the work goes on with what was rescued."""
        of_this = self.document is not None and path == self.document.logbook.path
        dialogs.tell(self, f"About {path.name}", words)
        if rescued is not None and of_this and self.open_logbook(rescued):
            self.go(self._at)

    def _instruments(self) -> "Instruments":
        from even_beam.desk.session.instruments_at_hand import Instruments

        return (
            self._make_instruments(self._clock)
            if self._make_instruments is not None
            else Instruments(self._clock, delay_s=0.7)
        )

    def _after_opening(self, document: "Document") -> None:
        """A thorough check after an unclean end; figures of an older method computed anew."""
        from even_beam.logbook.integrity import check

        if document.logbook.was_left_open:
            path = document.logbook.path
            self._jobs.run(
                "check the logbook",
                lambda job: check(path),
                lambda report: self.say(
                    "Closed unexpectedly last time: checked, nothing is missing"
                    if report.sound
                    else f"The check found: {report.problems[0]}"
                ),
                lambda error: dialogs.tell(self, "The logbook needs attention", str(error)),
            )
        self._jobs.run(
            "read ahead",
            lambda job: document.logbook.read_ahead(job.stop_if_cancelled),
            lambda _: None,
            lambda _: None,
        )
        self._ahead.begin(self.windowHandle())
        self._renew_figures(document)
        self._benches.begin()
        self._backups.begin()

    def _renew_figures(self, document: "Document", renewed: int = 0) -> None:
        """Batch by batch: computed in a worker, kept here, until none is left."""
        from even_beam.collection.evaluation import renewed_batch

        def keep(computed: "list[Computed]") -> None:
            try:
                document.logbook.save_computed(computed)
            except LogbookError as error:
                self.say(str(error))
                return
            if computed:
                self.say(f"Figures are computed anew by the present method: {renewed + len(computed)} readings")
                self._renew_figures(document, renewed + len(computed))
            elif renewed and document.desk is not None:
                document.work_on(document.desk.session)

        path = document.logbook.path
        self._jobs.run(
            "compute figures anew",
            lambda job: renewed_batch(path),
            keep,
            lambda error: self.say(f"Figures could not be computed anew: {error}"),
        )

    def ask_new(self) -> None:
        """Begin another logbook."""
        name, _ = QFileDialog.getSaveFileName(self, "New logbook", "", f"Logbook (*{documents.SUFFIX})")
        if not name:
            return
        path = Path(name if name.endswith(documents.SUFFIX) else name + documents.SUFFIX)
        if path.exists():
            dialogs.tell(
                self,
                "There is one already",
                f"{path.name} exists and was left as it is. Choose another name, or open it.",
            )
            return
        self.open_logbook(path)
        self.go(BENCH)

    def ask_open(self) -> None:
        """Open another logbook."""
        name, _ = QFileDialog.getOpenFileName(
            self, "Open a logbook", "", f"Logbook (*{documents.SUFFIX});;All files (*)"
        )
        if name and self.open_logbook(Path(name)):
            self.go(BENCH)

    def _fill_recent(self) -> None:
        self._recent.clear()
        for path in documents.recent():
            action = self._recent.addAction(f"{path.stem}   {path.parent}")
            if action is not None:
                action.triggered.connect(lambda _, chosen=path: self._open_recent(chosen))
        if self._recent.isEmpty():
            nothing = self._recent.addAction("none yet")
            if nothing is not None:
                nothing.setEnabled(False)

    def _open_recent(self, path: Path) -> None:
        if self.open_logbook(path):
            self.go(BENCH)

    def ask_import(self) -> None:
        """Ask for files of old tests, spectra or traces, and take them on the Bench."""
        from even_beam.formats.kinds import READINGS, SPECTRA, TRACES, file_filter  # not at start-up

        found, _ = QFileDialog.getOpenFileNames(
            self,
            "Import",
            "",
            file_filter(READINGS, SPECTRA, TRACES),
        )
        if found:
            self.go(BENCH)
            self.bench.take_files([Path(name) for name in found])

    def ask_copy(self) -> None:
        """Save a copy."""
        if self.document is None:
            return
        stem = self.document.logbook.path.stem
        name, _ = QFileDialog.getSaveFileName(
            self, "Save a copy", f"{stem} copy{documents.SUFFIX}", f"Logbook (*{documents.SUFFIX})"
        )
        if name:
            self.save_copy(Path(name))

    def save_copy(self, target: Path) -> None:
        """Write a copy in a worker."""
        if self.document is None:
            return
        logbook: Logbook = self.document.logbook
        self._jobs.run(
            "save a copy",
            lambda job: logbook.save_copy(target),
            lambda _: self.saved(target, f"Saved {target.name}"),
            lambda error: dialogs.tell(self, "Not saved", str(error)),
        )

    def _show_in_folder(self) -> None:
        if self.document is not None:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(self.document.logbook.path.parent)))

    def _ask_reset(self) -> None:
        if self._demo is not None and dialogs.ask(
            self,
            "Reset the demo?",
            "The demo is built anew. What you did in it is lost; your own logbooks are not touched.",
            "Build it anew",
            careful=True,
        ):
            self.build_demo()

    def build_demo(self) -> None:
        """Build the demo and open it; the window says how far it is."""
        if self._demo is None or self._building is not None:
            return
        from even_beam.app.demo_building import DemoBuilding  # not at start-up

        self._let_go()  # what is open may be the demo itself
        self._building = DemoBuilding(self._demo, self._jobs, self._demo_built, self._demo_left)
        self._stack.addWidget(self._building.page)
        self._stack.setCurrentWidget(self._building.page)
        self._building.page.setFocus()

    def _end_building(self) -> None:
        building, self._building = self._building, None
        if building is not None:
            self._stack.removeWidget(building.page)
            building.page.deleteLater()

    def _demo_built(self, path: Path) -> None:
        self._end_building()
        if not self.open_logbook(path):
            self._demo_left("")
            return
        self.go(BENCH)
        if self._demo is not None and self._demo.is_passing:
            self.say(f"{places.cache_folder()} cannot be written: this demo goes when the window is closed.")

    def _demo_left(self, why: str) -> None:
        """Without the demo the window has the person's own logbook."""
        self._end_building()
        if self.document is None and not self.open_logbook(documents.default_path()):
            QTimer.singleShot(0, self.ask_open)
        self.go(BENCH)
        if why:
            self.say(why)

    # --- the rest of the menu

    def _open_menu(self) -> None:
        button = self._rail.menu_button
        height = self._menu.sizeHint().height()
        self._menu.exec(button.mapToGlobal(QPoint(button.width(), button.height() - height)))

    def _ask_settings(self) -> None:
        from even_beam.app.settings_dialog import SettingsDialog

        dialog = SettingsDialog(self, self._settings)
        if dialog.exec():
            self.use_settings(dialog.settings)

    def _change_theme(self) -> None:
        from dataclasses import replace

        self.use_settings(replace(self._settings, theme="paper" if self._settings.theme == "studio" else "studio"))

    def use_settings(self, settings: Settings) -> None:
        """Put settings in force and keep them."""
        other_theme = settings.theme != self._settings.theme
        self._settings = settings
        if self.document is not None:
            self.document.settings = settings
        try:
            save(settings)
        except SettingsError as error:
            self.say(str(error))
        if other_theme:
            self.setUpdatesEnabled(False)
            self._in_turn([lambda: self.setStyleSheet(""), self._take_theme, self._dress, self._refresh_station])
        else:
            self._refresh_station()

    def _in_turn(self, steps: list[Callable[[], object]]) -> None:
        """Each in a pass of its own: all of them together would let a key wait for a sixth of a second."""

        def next_one() -> None:
            steps[0]()
            self._in_turn(steps[1:])

        if steps:
            QTimer.singleShot(0, next_one)

    def _take_theme(self) -> None:
        application = QApplication.instance()
        if isinstance(application, QApplication):
            theme.apply(application, self._settings.theme)

    def _dress(self) -> None:
        theme.dress(self)
        for line in self.findChildren(Hairline):
            line.refresh_theme()
        self.setUpdatesEnabled(True)

    def _refresh_station(self) -> None:
        self.station.refresh()
        self.update()

    def _show_keys(self) -> None:
        from even_beam.app.keys_dialog import KeysDialog

        KeysDialog(self, _STATIONS[self._at][0]).exec()

    def _show_about(self) -> None:
        from even_beam.app.about_dialog import AboutDialog

        AboutDialog(self).exec()

    # --- coming and going

    def _restore_geometry(self) -> None:
        """As it was last, or of the usual size; within the screen it is on, its foot with the keys included."""
        self.resize(1280, 800)
        if text := documents.remembered_geometry():
            self.restoreGeometry(QByteArray.fromBase64(text.encode()))
        self.setMinimumSize(960, 540)
        screen = self.screen()
        if screen is None or QApplication.platformName() == "offscreen":  # a screen that nobody looks at
            return
        room = screen.availableGeometry().marginsRemoved(_FRAME)
        self.setMinimumSize(QSize(960, 540).boundedTo(room.size()))
        size = self.size().boundedTo(room.size())
        if size != self.size():
            self.resize(size)
            self.move(room.topLeft() - QPoint(_FRAME.left(), _FRAME.top()))

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Keep the geometry, stop what runs, close the logbook."""
        documents.remember_geometry(bytes(self.saveGeometry().toBase64().data()).decode())
        for timer in self.findChildren(QTimer):
            timer.stop()  # nothing asks the logbook once it is closed
        for station in self._stations.values():
            station.rest()
        self._jobs.shut()
        if self._listener in LISTENERS:
            LISTENERS.remove(self._listener)
        self._let_go()
        super().closeEvent(event)

    def _let_go(self) -> None:
        """Close the present logbook, whose file then stands alone."""
        if self.document is not None:
            for station in self._stations.values():
                station.let_go()
            document, self.document = self.document, None
            try:
                document.close()
            except DestroyedError as error:
                dialogs.tell(self, f"About {document.logbook.path.name}", str(error))


def window_icon() -> QIcon:
    """The program's own icon."""
    from importlib.resources import as_file, files

    with as_file(files("even_beam.app.icons") / "even-beam.svg") as path:
        return QIcon(str(path))
