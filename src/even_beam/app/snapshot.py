"""Every main view of the demo as a picture, offscreen."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from time import monotonic

from PyQt6.QtCore import QCoreApplication, QEvent
from PyQt6.QtWidgets import QApplication, QDialog, QWidget

from even_beam.answers.camera.questions import Ask as Seen
from even_beam.answers.compare.questions import Ask
from even_beam.answers.match.view import Ask as Matched
from even_beam.app.start import application
from even_beam.app.stations.report.label_dialog import LabelDialog
from even_beam.app.window import BENCH, CAMERA, COMPARE, KIT, MATCH, PLAN, REPORT, SPECTRUM, Window
from even_beam.demo.scenario import build
from even_beam.desk.session.document import Document
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.handing_over.kinds import Kind
from even_beam.handing_over.orders import Order
from even_beam.shell.settings import Settings

SIZE = (1280, 800)
THEMES = ("studio", "paper")
EVENING = datetime(2026, 11, 19, 18, 26, tzinfo=UTC)


def snapshot(
    folder: Path, say: Callable[[str], None] = lambda line: None, only: frozenset[str] = frozenset()
) -> list[Path]:
    """Write the pictures and return their paths, all of them or `only` some by their names. Needs no screen: sets the
    offscreen platform when there is none. Raises `ValueError` for a name that there is not."""
    names = [name for theme in THEMES for name, _ in _views(theme)]
    if unknown := only - set(names):
        raise ValueError(f"no picture is called {', '.join(sorted(unknown))}; there are {', '.join(names)}")
    folder.mkdir(parents=True, exist_ok=True)
    demo = folder / ".snapshot.evenbeam"
    build(demo)
    written: list[Path] = []
    try:
        for theme in THEMES:
            app = application(theme)
            with _window(demo, theme) as window:
                for name, prepare in _views(theme):
                    if only and name not in only:
                        continue
                    shown = prepare(window) or window
                    _settle(app, window)
                    path = folder / f"{name}.png"
                    shown.grab().save(str(path))
                    written.append(path)
                    say(path.name)
    finally:
        for left in folder.glob(".snapshot.evenbeam*"):
            left.unlink()
    return written


@contextmanager
def _window(demo: Path, theme: str) -> Iterator[Window]:
    settings = Settings(theme=theme, publisher="Film unit of the garden")
    window = Window(settings, lambda: EVENING, lambda clock: Instruments(clock, seed=3))
    window.resize(*SIZE)
    window.show()
    window.open_logbook(demo)
    try:
        yield window
    finally:
        window.close()


def _settle(app: QApplication, window: Window) -> None:
    """Let jobs end and everything be painted."""
    until = monotonic() + 20.0
    while True:
        app.processEvents()
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        if not window.busy or monotonic() > until:
            break
    for _ in range(12):  # a chart is drawn in a turn of its own
        app.processEvents()


def _session(window: Window, name: str) -> None:
    document: Document | None = window.document
    if document is None:
        return
    document.work_on(next(s for s in document.logbook.sessions() if s.name == name))


Prepare = Callable[[Window], QWidget | None]
"""Brings a view up; what it returns is drawn, the window where that is nothing."""


def _views(theme: str) -> list[tuple[str, Prepare]]:
    if theme == "paper":
        return [
            ("paper-report", _lamp_report),
        ]
    return [
        ("kit", lambda w: w.go(KIT)),
        ("plan", _plan),
        ("bench", _bench),
        ("bench-line", _bench_line),
        ("bench-in-doubt", _bench_in_doubt),
        ("target", _target),
        ("compare-how-bright", _compare(Ask.BRIGHT)),
        ("compare-which-colours", _compare(Ask.COLOURS)),
        ("compare-good-enough", _compare(Ask.ENOUGH)),
        ("match", lambda w: w.go(MATCH)),
        ("match-mixing", _match(Matched.MIX)),
        ("match-enough", _match(Matched.ENOUGH)),
        ("report", _report),
        ("labels", _labels),
        ("spectrum", _spectrum),
        ("camera-charts", _camera(Seen.CHARTS)),
        ("camera-flicker", _camera(Seen.FLICKER)),
        ("camera-fade", _camera(Seen.FADES)),
    ]


def _bench(window: Window) -> None:
    _session(window, "Tansy, second evening")
    window.go(BENCH)
    window.bench.press("Enter")


def _bench_line(window: Window) -> None:
    """A line with a term or two, a name that is new, and a number that could be several things."""
    if window.document is not None:
        window.document.begin("Sorrel, Thursday")
    window.go(BENCH)
    desk = window.bench.desk
    desk.free_source = next(one.id for one in desk.sources.values() if one.nickname == "Sorrel")
    desk.free_meter = next(one.id for one in desk.meters_read_by_eye)
    window.bench.refresh()
    window.bench.typing.open("1480 lx 5483 K dial 4400 97 with wide lens at 3 m")


def _bench_in_doubt(window: Window) -> None:
    _session(window, "Walk with Bracken")
    window.go(BENCH)
    desk = window.bench.desk
    for _ in range(11):
        desk.take_back()
    window.bench.type_figure("1180")


def _target(window: Window) -> None:
    _session(window, "Glasshouse, north window")
    window.go(BENCH)


def _shown(dialog: QDialog) -> QDialog:
    dialog.resize(*SIZE)
    dialog.show()
    return dialog


def _plan(window: Window) -> None:
    window.go(PLAN)
    lamps = {card.source.nickname: card.source.id for card in window.document.kit.lamps()} if window.document else {}
    window.plan.choose([lamps["Tansy"], lamps["Burdock"]], ["distance walk", "dimming sweep", "modifier matrix"])


def _spectrum(window: Window) -> None:
    _session(window, "Specimen table: Tansy or tungsten?")
    desk = window.bench.desk
    tansy = next(m for m in desk.counted if desk.name_of(m.reading.source_ids) == "Tansy")
    window.show_spectrum("Tansy, 5600 K", desk.logbook.spectra([tansy.reading.id])[tansy.reading.id])
    window.go(SPECTRUM)


def _match(ask: Matched) -> Prepare:
    def prepare(window: Window) -> None:
        window.go(MATCH)
        window.match.ask(ask)

    return prepare


def _compare(ask: Ask) -> Prepare:
    def prepare(window: Window) -> None:
        window.go(COMPARE)
        window.compare.show_session("Specimen table: Tansy or tungsten?")
        window.compare.ask(ask)

    return prepare


def _camera(ask: Seen) -> Prepare:
    def prepare(window: Window) -> None:
        window.go(CAMERA)
        window.camera.ask(ask)

    return prepare


def _report(window: Window) -> None:
    window.go(REPORT)
    window.report.show_session("Specimen table: Tansy or tungsten?")


def _lamp_report(window: Window) -> None:
    """A lamp on one page."""
    window.go(REPORT)
    window.report.show_session("Specimen table: Tansy or tungsten?")
    window.report.show_kind(Kind.LAMP)


def _labels(window: Window) -> QWidget | None:
    """A sheet of labels before it is printed."""
    if window.document is None:
        return None
    dialog = LabelDialog(window, window._jobs, Order(window.document.logbook.path, settings=window._settings))
    dialog.choose("A4-3x8")
    return _shown(dialog)
