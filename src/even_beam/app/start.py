"""Starting the window."""

import os
import socket
import sys
from pathlib import Path

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication

from even_beam.app import theme
from even_beam.app.clearing_up import ClearingUp
from even_beam.app.crash import CrashGuard
from even_beam.app.log_out import LogOut
from even_beam.app.widgets.chart_view import configure
from even_beam.app.window import BENCH, Window, window_icon
from even_beam.collection import files as documents
from even_beam.demo.place import DemoPlace
from even_beam.shell.log import start_log
from even_beam.shell.settings import Settings, SettingsError, load


def display_problem() -> str:
    """Why no window can be shown, empty when it can: Qt itself would only abort."""
    platform, display = os.environ.get("QT_QPA_PLATFORM", ""), os.environ.get("DISPLAY", "")
    if platform not in {"", "xcb"} or os.environ.get("WAYLAND_DISPLAY"):
        return ""
    if display:
        return "" if _answers(display) else f"The screen {display} that DISPLAY names does not answer."
    return "There is no screen to show a window on (neither DISPLAY nor WAYLAND_DISPLAY is set)."


def _answers(display: str) -> bool:
    """Whether an X server takes a connection, by its socket here or over the network."""
    host, _, number = display.rpartition(":")
    place = number.partition(".")[0]
    if not place.isdigit():
        return False
    try:
        if host in {"", "unix"}:
            with socket.socket(socket.AF_UNIX) as here:
                here.settimeout(2.0)
                here.connect(f"/tmp/.X11-unix/X{place}")
        else:
            socket.create_connection((host, 6000 + int(place)), 2.0).close()
    except OSError:
        return False
    return True


ANSWERS_WITHIN_S = 0.0001
"""How long the interpreter lets a job go on once the window wants it back. A picture calls back twenty times while it
is painted: at the usual 5 ms a job that computes held up a key by a fifth of a second."""


def application(theme_name: str, text_size_pct: float = 100.0) -> QApplication:
    """The application object with fonts, theme and icon; one per process. The toolkit scales all there is by the text
    size, on top of what the desktop asks for; a scale that the environment sets is left alone."""
    existing = QApplication.instance()
    if existing is None and text_size_pct != 100.0:
        os.environ.setdefault("QT_SCALE_FACTOR", f"{text_size_pct / 100.0:.3f}")
    app = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    app.setApplicationName("Even Beam")
    app.setDesktopFileName("even-beam")
    if existing is None:
        sys.setswitchinterval(ANSWERS_WITHIN_S)
        theme.prepare(app)
        ClearingUp(app)
    theme.apply(app, theme_name)
    configure()
    app.setWindowIcon(window_icon())
    return app


def run(path: Path | None, *, demo: bool = False) -> int:
    """Show the window until it is closed; the exit status."""
    if not demo:
        return _run(path, None)
    with DemoPlace() as place:
        return _run(path, place)


def _run(path: Path | None, place: DemoPlace | None) -> int:
    start_log()
    troubles = []
    try:
        settings = load()
    except SettingsError as error:
        settings = Settings()
        troubles.append(str(error))
    app = application(settings.theme, settings.text_size_pct)
    window = Window(settings, demo=place)
    guard = CrashGuard(window.what_is_kept)
    guard.install()

    def end() -> None:
        window.close()
        app.exit()  # also out of a dialog that is open

    LogOut(end, window)
    window.show()
    if place is not None and not place.is_built:
        window.build_demo()
    else:
        opened = window.open_logbook(place.path() if place is not None else path or documents.default_path())
        window.go(BENCH)
        if not opened:
            QTimer.singleShot(0, window.ask_open)
    if troubles:
        window.say(" ".join(troubles))
    return app.exec()
