"""Presses every key of F1's table in a real window, by an X server's own key events, and prints what came of each.

A process of its own: `python -m tests.window.every_key LOGBOOK`. One line a key: station, key, and the trouble if any.
"""

import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, QTimer
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication, QDialog, QMenu

from even_beam.answers.compare.questions import Ask
from even_beam.answers.kit.shelf import ShelfName
from even_beam.answers.match.view import Ask as Wished
from even_beam.answers.plan import view as plan_view
from even_beam.app import keys
from even_beam.app.start import application
from even_beam.app.stations.bench.acts import ALT, HINTS, OF_A_LETTER
from even_beam.app.widgets.choice import Choice
from even_beam.app.window import BENCH, CAMERA, COMPARE, KIT, MATCH, PLAN, REPORT, SPECTRUM, Window
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.shell.settings import Settings

NAMES = {KIT: "Kit", PLAN: "Plan", BENCH: "Bench", COMPARE: "Compare", MATCH: "Match", REPORT: "Report",
         SPECTRUM: "Spectrum", CAMERA: "Camera"}  # fmt: skip

X_KEYS = {
    "Enter": "KP_Enter", "*": "KP_Multiply", "/": "KP_Divide", "-": "KP_Subtract", "+": "KP_Add", "Del": "Delete",
    "Space": "space", "→": "Right", "Alt ↑ ↓": "alt+Down",
}  # fmt: skip


class Clock:
    """A clock that goes on by itself."""

    def __init__(self) -> None:
        self.now = datetime(2026, 11, 19, 18, 30, tzinfo=UTC)

    def __call__(self) -> datetime:
        self.now += timedelta(seconds=2)
        return self.now


class _Seen(QObject):
    """Counts keys that were let go of in the application."""

    count = 0

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.KeyRelease:
            self.count += 1
        return False


class Driver:
    """A window, the keys sent to it, and what opened and was said meanwhile."""

    def __init__(self, logbook: Path) -> None:
        self.app: QApplication = application("studio")
        self.window = Window(Settings(fade=False), Clock(), lambda clock: Instruments(clock, seed=5))
        self.window.show()
        self.opened: list[str] = []
        self.said: list[str] = []
        say = self.window.say
        # type: ignore[method-assign]
        self.window._host.say = self.window.say = lambda words: (self.said.append(words), say(words))[1]
        self._watch = QTimer()
        self._watch.timeout.connect(self._close_what_opened)
        self._watch.start(40)
        self._seen = _Seen()
        self.app.installEventFilter(self._seen)
        self._hand = subprocess.Popen(
            ["xdotool", "-"], stdin=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, bufsize=1
        )
        assert self.window.open_logbook(logbook), self.opened
        self.window.go(BENCH)
        self.wait(1.0)

    def _close_what_opened(self) -> None:
        for widget in (QApplication.activePopupWidget(), QApplication.activeModalWidget()):
            if isinstance(widget, QMenu):
                self.opened.append("menu")
                widget.close()
            elif isinstance(widget, QDialog):
                self.opened.append(widget.windowTitle())
                widget.reject()

    def let_go(self) -> None:
        """No more keys."""
        self._hand.communicate()

    def wait(self, seconds: float, until: Callable[[], bool] = lambda: False) -> bool:
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            self.app.processEvents()
            if until():
                return True
            time.sleep(0.005)
        return until()

    def settle(self) -> None:
        self.wait(20.0, lambda: not self.window.busy)
        self.wait(0.02)

    def key(self, name: str) -> None:
        self.opened.clear()
        self.said.clear()
        before = self._seen.count
        assert self._hand.stdin is not None
        self._hand.stdin.write(f"windowfocus {int(self.window.winId())}\nkey {X_KEYS.get(name, name)}\n")
        self._hand.stdin.flush()
        self.wait(2.0, lambda: self._seen.count > before)
        self.wait(0.1)
        self.settle()

    def changes(self, name: str, state: Callable[[], object]) -> bool:
        """Whether a key changed something."""
        before = state()
        self.key(X_KEYS.get(name, name))
        return state() != before

    def at(self, station: int, *, after_a_choice: bool = False) -> None:
        if self.window._at != station:  # to go where one is shows it all anew
            self.window.go(station)
            self.settle()
        self.window.station.setFocus()
        if after_a_choice:
            found = [c for c in self.window.station.findChildren(Choice) if c.isVisible() and c.count() > 1]
            found[-1].setFocus()


def dialog(driver: Driver, *titles: str) -> str:
    """Trouble unless a dialog or menu of one of these titles opened."""
    return (
        ""
        if any(t in opened for t in titles for opened in driver.opened)
        else f"opened {driver.opened}, said {driver.said}"
    )


Told = Callable[[int, str, str], None]


def _everywhere(driver: Driver, told: Told) -> None:
    """What every station has."""
    window = driver.window
    for own, station in enumerate(NAMES):
        for step in (1, 4):  # a near one and a far one from each, so that every key is pressed twice
            place = (own + step) % len(NAMES)
            name = list(NAMES.values())[place]
            driver.at(station)
            driver.key(f"ctrl+{place + 1}")
            told(
                station,
                "Ctrl 1–8",
                "" if NAMES[window._at] == name else f"Ctrl {place + 1} went to {NAMES[window._at]}",
            )
        for key, sent, titles in (
            ("F1", "F1", ("All keys",)),
            ("F10", "F10", ("menu",)),
            ("Ctrl I", "ctrl+i", ("Import",)),
            ("Ctrl N / O / S", "ctrl+n", ("New logbook",)),
            ("Ctrl N / O / S", "ctrl+o", ("Open a logbook",)),
            ("Ctrl N / O / S", "ctrl+s", ("Save a copy",)),
        ):
            driver.at(station)
            driver.key(sent)
            told(station, key, dialog(driver, *titles))
        driver.at(station)
        driver.key("ctrl+z")
        told(
            station,
            "Ctrl Z",
            "" if any("ndone" in s or "nothing to undo" in s for s in driver.said) else f"said {driver.said}",
        )


def _bench(driver: Driver, told: Told) -> None:
    """The Bench, in the demo's open run."""
    window = driver.window
    desk = window.bench.desk

    def line_opens(key: str) -> str:
        before = window.bench.board.entry.isVisible()
        driver.key(key)
        opened = window.bench.board.entry.isVisible()
        window.bench.close_line()
        return "" if opened and not before else f"the line did not open; said {driver.said}"

    def kinds() -> list[str]:
        return [str(e.kind) for e in desk.state.live_events]

    driver.at(BENCH)
    before = len(desk.measured)
    driver.key("Enter")
    told(BENCH, "Enter", "" if len(desk.measured) == before + 1 else "no reading was kept")
    driver.key("*")
    told(BENCH, "*", "" if len(desk.measured) == before + 2 else "no further reading")
    driver.key("/")
    told(BENCH, "/", "" if kinds()[-1] == "taken back" else f"last was {kinds()[-1]}")
    driver.key("-")
    told(BENCH, "-", dialog(driver, "Something moved: since when?"))

    def act(letter: str) -> None:
        """A letter alone opens the line and offers its act, and nothing is done; with Alt it is done."""
        was = kinds()
        driver.key(letter.lower())
        shown = window.bench.board.entry.isVisible() and OF_A_LETTER[letter].label in window.bench.board.entry.offer
        assert shown, f"{letter} is not offered"
        driver.key("Escape")
        assert kinds() == was, f"{letter} alone did something"
        driver.key(f"alt+{letter.lower()}")

    step = desk.step.step.id if desk.step is not None else ""
    driver.key("alt+Down")
    told(BENCH, "Alt ↑ ↓", "" if desk.step is not None and desk.step.step.id != step else "not at another step")
    driver.key("alt+Up")
    told(BENCH, "+", line_opens("+"))
    told(BENCH, "0–9 A–Z f . =", line_opens("7") or line_opens("x"))
    for letter in "NYKHCO":
        act(letter)
        told(BENCH, ALT + letter, "" if window.bench.board.entry.isVisible() else f"no line; said {driver.said}")
        window.bench.close_line()
    for letter, title in (
        ("L", "Which lamp"), ("T", "Terms"), ("R", "Plan a run"), ("J", ""), ("Q", "menu"), ("E", "Earlier readings"),
        ("U", "What was done"), ("A", "Read by itself"),
    ):  # fmt: skip
        driver.at(BENCH)
        act(letter)
        told(BENCH, ALT + letter, "" if driver.opened else f"nothing opened for {title}; said {driver.said}")
    driver.at(BENCH)
    act("G")
    told(BENCH, "Alt G", "" if driver.opened or window.bench.board.entry.isVisible() else "no target asked")
    window.bench.close_line()
    act("B")
    told(BENCH, "Alt B", "" if str(desk.aside) else "the room is not asked for")
    for _ in range(2):
        driver.key("alt+b")
    for key, name in (("Alt M", "alt+m"), ("PgDn PgUp", "Next")):
        driver.key(name)
        told(BENCH, key, "" if any("A run names" in s for s in driver.said) else f"said {driver.said}")
    act("S")
    told(BENCH, "Alt S", "" if kinds()[-1] == "step skipped" else f"last was {kinds()[-1]}")
    act("D")
    told(BENCH, "Alt D", "" if kinds()[-1] == "dark calibrated" else f"last was {kinds()[-1]}")
    act("W")
    open_now = window.bench.reader is not None and window.bench.reader.isVisible()
    told(BENCH, "Alt W", "" if open_now else "no reader window")
    driver.key("alt+w")
    driver.key("Enter")
    act("I")
    told(BENCH, "Alt I", "" if window._at == SPECTRUM else f"said {driver.said}")


def _kit(driver: Driver, told: Told) -> None:
    """The Kit."""
    window = driver.window
    driver.at(KIT)
    for number, name in enumerate(ShelfName, start=1):
        driver.key(str(number))
        told(KIT, "1–5", "" if window.kit._at is name else f"not at {name}")
    driver.key("x")
    told(KIT, "X", "" if driver.opened else "no file asked")
    driver.key("3")
    driver.key("i")
    told(KIT, "I", "" if driver.opened else "no file asked")
    driver.key("1")
    for key in ("A", "Enter"):
        driver.key(key.lower() if key == "A" else key)
        told(KIT, key, "" if window.kit._line.isVisible() else "no line opened")
        driver.key("Escape")
    for shown in (True, False):
        driver.key("r")
        told(KIT, "R", "" if window.kit._shelf.with_retired is shown else "retired lamps neither shown nor hidden")
    window.kit._lamp_page.setFixedHeight(120)
    driver.settle()
    driver.key("Next")
    told(KIT, "PgDn PgUp", "" if window.kit._lamp_page.verticalScrollBar().value() > 0 else "the page did not move")
    lamps = len(window.document.kit.lamps()) if window.document else 0
    driver.key("Del")
    told(KIT, "Del", "" if window.document and len(window.document.kit.lamps()) == lamps - 1 else "no lamp fewer")
    driver.key("ctrl+z")
    told(KIT, "Ctrl Z", "" if window.document and len(window.document.kit.lamps()) == lamps else "not brought back")


def _plan(driver: Driver, told: Told) -> None:
    """Plan."""
    window = driver.window
    driver.at(PLAN)
    chosen = len(window.plan._lamps.chosen)
    driver.key("Space")
    told(PLAN, "Space", "" if len(window.plan._lamps.chosen) != chosen else "no lamp taken or left")
    units = plan_view.equal_units(window.document.kit.lamps(), window.plan._lamps.current) if window.document else ()
    driver.key("u")
    taken = (
        set(units) <= set(window.plan._lamps.chosen)
        if len(units) > 1
        else any("no other unit" in said for said in driver.said)
    )
    told(PLAN, "U", "" if taken else f"said {driver.said}")
    card = window.document.kit.lamps()[0] if window.document else None
    window.plan.choose([card.source.id] if card else [], [window.plan._protocols[0].name])
    driver.key("t")
    told(PLAN, "T", "" if driver.opened else "no costs asked")
    driver.key("g")
    told(PLAN, "G", "" if any("Nothing was given up" in said for said in driver.said) else f"said {driver.said}")
    driver.key("p")
    told(PLAN, "P", dialog(driver, "Room sheet"))
    for key in ("Alt ↑ ↓", "+", "S"):
        window.plan._sheet.setFocus()
        window.plan._sheet.choose_row(1)
        driver.key(key if key in X_KEYS else key.lower())
        told(PLAN, key, "" if window.plan._before else f"the sheet did not change; said {driver.said}")
    driver.at(PLAN)
    driver.key("Enter")
    told(PLAN, "Enter", "" if window._at == BENCH else f"said {driver.said}")


def _compare(driver: Driver, told: Told) -> None:
    """Compare, also with the focus on its strip of terms."""
    window = driver.window
    for after in (False, True):

        def at(strip: bool = after) -> None:
            driver.at(COMPARE)
            if strip:
                window.compare._answer.terms.setFocus()

        at()
        for number, ask in enumerate(Ask, start=1):
            driver.key(str(number))
            told(COMPARE, "1–5", "" if window.compare._question.ask is ask else f"{number} did not ask {ask}")
        for key in ("L", "E", "A"):
            window.compare.ask_term("session_id", "")
            driver.settle()
            at()
            question = window.compare._question
            driver.key(key.lower())
            told(COMPARE, key, "" if window.compare._question != question or key == "L" else "nothing was asked anew")
        for key in ("I", "T", "M", "S"):
            at()
            driver.key(key.lower())
            told(COMPARE, key, "" if driver.opened or driver.said else "nothing happened")
        at()
        window.compare.ask(Ask.ENOUGH)
        driver.settle()
        at()
        driver.key("p")
        told(COMPARE, "P", "" if driver.opened else "no purposes offered")
        at()
        driver.key("o")
        told(COMPARE, "O", "" if driver.said else "nothing was said")
        for key, name in (("Ctrl C", "ctrl+c"), ("Ctrl Shift C", "ctrl+shift+c")):
            window.compare.ask(Ask.BRIGHT)
            driver.settle()
            at()
            driver.key(name)
            told(COMPARE, key, "" if any("clipboard" in s for s in driver.said) else f"said {driver.said}")
        at()
        window.compare.ask(Ask.WHITE)
        driver.settle()
        window.compare._answer.setFixedHeight(300)
        driver.settle()
        driver.key("Next")
        bar = window.compare._answer.verticalScrollBar()
        told(COMPARE, "PgDn PgUp", "" if bar is not None and bar.value() > 0 else "the page did not move")
    driver.at(COMPARE)
    taken = window.compare._question.chosen
    driver.key("Space")
    told(COMPARE, "Space", "" if window.compare._question.chosen != taken else "no lamp in or out")


def _match(driver: Driver, told: Told) -> None:
    """Match."""
    window = driver.window
    driver.at(MATCH)
    for number, wish in enumerate(Wished, start=1):
        driver.key(str(number))
        told(MATCH, "1–4", "" if window.match._wish.ask is wish else f"{number} did not ask {wish}")
    for number, key in ((1, "T"), (3, "X"), (4, "X"), (2, "X"), (1, "G")):
        driver.key(str(number))
        driver.key(key.lower())
        told(MATCH, key, "" if window.match.line.isVisible() else "no line opened")
        driver.key("Escape")
        told(MATCH, key, "" if not window.match.line.isVisible() else "Escape did not lead out")
    driver.key("1")
    for key in ("L", "O"):
        before = window.match._wish.target
        driver.key(key.lower())
        told(MATCH, key, "" if window.match._wish.target != before else "the target stayed")
    for key, sent in (("Space", "space"), ("A", "a")):
        chosen = window.match._shown.chosen
        driver.key(sent if len(sent) == 1 else key)
        told(MATCH, key, "" if window.match._shown.chosen != chosen else "the lamps stayed")
    driver.key("ctrl+c")
    told(MATCH, "Ctrl C", "" if any("clipboard" in s for s in driver.said) else f"said {driver.said}")
    window.match._page.setFixedHeight(300)
    driver.settle()
    driver.key("Next")
    bar = window.match._page.verticalScrollBar()
    told(MATCH, "PgDn PgUp", "" if bar is not None and bar.value() > 0 else "the page did not move")


def _report(driver: Driver, told: Told) -> None:
    """Report, also after a drop-down was used."""
    for after in (False, True):
        driver.at(REPORT, after_a_choice=after)
        for key, title in (
            ("Enter", "Save the report"), ("x", "Save the table"), ("d", "A new folder"), ("l", "Labels"),
            ("p", "Pictures"),
        ):  # fmt: skip
            driver.at(REPORT, after_a_choice=after)
            driver.key(key)
            told(REPORT, key if key == "Enter" else key.upper(), dialog(driver, title))
    report = driver.window.report
    driver.at(REPORT)
    report.show_session("Tansy, second evening")
    driver.settle()
    driver.key("s")
    told(REPORT, "S", "" if any("clipboard" in words for words in driver.said) else f"said {driver.said}")
    before = report._sections.arrangement
    report._sections.list.setFocus()
    driver.key("Alt ↑ ↓")
    told(REPORT, "Alt ↑ ↓", "" if report._sections.arrangement != before else "no section moved")
    report.setFocus()
    driver.key("Next")
    bar = report._pages.verticalScrollBar()
    told(REPORT, "PgDn PgUp", "" if bar is not None and bar.value() > 0 else "the page did not move")
    report.show_session("Store check, spring")
    driver.key("Escape")
    told(REPORT, "Esc", "" if "Left off" in report._state.text() or not driver.window.busy else "it went on")


def _spectrum(driver: Driver, told: Told) -> None:
    """Spectrum."""
    window = driver.window
    driver.at(SPECTRUM)
    for key, title in (("O", "Open spectra"), ("W", "Write"), ("M", ""), ("K", ""), ("→", "")):
        driver.key(key if key in X_KEYS else key.lower())
        quiet = key == "→" or (key == "K" and window.spectrum._line.isVisible())  # one spectrum alone has no next
        window.spectrum._line.close_line()
        told(
            SPECTRUM,
            key,
            "" if quiet or driver.said or any(title in o for o in driver.opened) else f"opened {driver.opened}",
        )
    spectrum = window.spectrum
    driver.key("s")
    told(SPECTRUM, "S", "" if driver.opened else "no subject opened")
    for key, state in (("C", lambda: spectrum._by_eye), ("F", spectrum._pages.currentIndex)):
        before = state()
        driver.key(key.lower())
        told(SPECTRUM, key, "" if state() != before else "nothing changed")
        driver.key(key.lower())
    driver.key("ctrl+c")
    told(SPECTRUM, "Ctrl C", "" if any("clipboard" in s for s in driver.said) else f"said {driver.said}")


def _wall(folder: Path) -> Path:
    """A photograph of a plain wall."""
    image = QImage(200, 100, QImage.Format.Format_RGB888)
    image.fill(0x909090)
    image.save(str(folder / "wall.png"))
    return folder / "wall.png"


def _camera(driver: Driver, told: Told) -> None:
    """Camera, on what the demo kept of its chart evening."""
    window = driver.window
    driver.at(CAMERA)
    camera = window.camera
    driver.wait(20.0, lambda: len(camera._shots) > 2)

    def page() -> str:
        return camera._pages[camera._ask].plain

    first = page()
    driver.key("Down")
    told(CAMERA, "Del", "" if driver.changes("Del", lambda: len(camera._shots)) else "nothing left out")
    told(CAMERA, "L", "" if driver.changes("l", lambda: camera._benchmark) else "the benchmark stayed")
    told(CAMERA, "B", "" if driver.changes("b", lambda: camera._balanced) else "nothing changed")
    told(CAMERA, "R", "" if driver.changes("r", lambda: camera._repeats) else "nothing changed")
    told(CAMERA, "C", "" if driver.changes("c", lambda: camera.charts.photo.placing) else "no handles")
    driver.key("Escape")
    told(CAMERA, "P", "" if driver.changes("p", lambda: camera.charts.photo.placing) else "no handles")
    driver.key("Escape")
    driver.key("k")
    kept = driver.changes("Return", lambda: len(window.document.bench().measured))
    told(CAMERA, "K", "" if kept else "not kept")
    driver.key("ctrl+c")
    told(CAMERA, "Ctrl C", "" if any("clipboard" in s for s in driver.said) else f"said {driver.said}")
    bar = camera._page.verticalScrollBar()
    told(CAMERA, "PgDn PgUp", "" if driver.changes("Next", bar.value) else "the page did not move")
    told(CAMERA, "1–4", "" if driver.changes("2", lambda: camera._ask) and page() != first else "no other page")
    for key, station in (("x", "2"), ("v", "2"), ("s", "1"), ("w", "1")):
        driver.key(station)
        driver.key(key)
        told(CAMERA, key.upper(), "" if camera.line.isVisible() else "no line opened")
        driver.key("Escape")
    driver.key("4")
    camera.open_paths([_wall(Path(tempfile.mkdtemp()))])
    driver.wait(10.0, lambda: camera._has(camera._ask))
    told(CAMERA, "E", "" if driver.changes("e", lambda: camera.surfaces.photo.placing) else "no handles")
    driver.key("Escape")
    driver.key("o")
    told(CAMERA, "O", "" if any("Open" in o for o in driver.opened) else f"opened {driver.opened}")


def main() -> None:
    """Every key, from where it is documented."""
    driver = Driver(Path(sys.argv[1]))

    def told(station: int, key: str, trouble: str) -> None:
        sys.stdout.write(f"{NAMES[station]}\t{key}\t{trouble or 'ok'}\n")

    for station in (_everywhere, _bench, _kit, _plan, _compare, _match, _report, _spectrum, _camera):
        station(driver, told)
    driver.window.close()
    driver.let_go()


TABLE = {
    "Everywhere": keys.EVERYWHERE, "Bench": HINTS, "Kit": keys.KIT, "Plan": keys.PLAN,
    "Compare": keys.COMPARE, "Match": keys.MATCH, "Report": keys.REPORT, "Spectrum": keys.SPECTRUM,
    "Camera": keys.CAMERA,
}  # fmt: skip
"""What F1 shows."""

if __name__ == "__main__":
    main()
