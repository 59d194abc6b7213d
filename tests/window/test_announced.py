"""What reaches a screen reader: the real window, listened to over the accessibility bus (AT-SPI 2, as the desktop's own
services carry it)."""

import os
import shutil
import subprocess
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from jeepney import DBusAddress, MatchRule, Properties, message_bus, new_method_call
from jeepney.io.blocking import DBusConnection, open_dbus_connection

from even_beam.logbook.store import Logbook
from even_beam.words import notation
from tests.window.program import Program

pytestmark = [
    pytest.mark.window,
    pytest.mark.skipif(
        not all(shutil.which(name) for name in ("Xvfb", "xdotool", "dbus-daemon"))
        or not Path("/usr/libexec/at-spi-bus-launcher").exists(),
        reason="needs Xvfb, xdotool, dbus-daemon and at-spi2-core",
    ),
]

EVENTS = "org.a11y.atspi.Event.Object"


class Listener:
    """A screen reader that only takes down what it is told: who it came from, which property, and the words."""

    def __init__(self, session_bus: str) -> None:
        with open_dbus_connection(bus=session_bus) as session:
            bus = DBusAddress("/org/a11y/bus", bus_name="org.a11y.Bus", interface="org.a11y.Bus")
            self.address = session.send_and_get_reply(new_method_call(bus, "GetAddress")).body[0]
            status = DBusAddress("/org/a11y/bus", bus_name="org.a11y.Bus", interface="org.a11y.Status")
            for name in ("IsEnabled", "ScreenReaderEnabled"):
                session.send_and_get_reply(Properties(status).set(name, "b", True))
        self.bus: DBusConnection = open_dbus_connection(bus=self.address)
        registry = DBusAddress(
            "/org/a11y/atspi/registry", "org.a11y.atspi.Registry", interface="org.a11y.atspi.Registry"
        )
        self.bus.send_and_get_reply(new_method_call(registry, "RegisterEvent", "s", ("object:property-change",)))
        rule = MatchRule(type="signal", interface=EVENTS, member="PropertyChange")
        self.bus.send_and_get_reply(message_bus.AddMatch(rule))
        self._told = self.bus.filter(rule, bufsize=1000).queue  # kept also while a reply is waited for

    def hear(self, wanted: Callable[[str, str, str], bool], seconds: float = 30.0) -> str:
        """The words of the first change that is wanted, by role, property and words."""
        heard = []
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            try:
                message = self.bus.recv_until_filtered(self._told, timeout=1.0)
            except TimeoutError:
                continue
            fields = {key.name: value for key, value in message.header.fields.items()}
            if message.body[3][0] != "s":
                continue
            role, (what, words) = self._role(fields["sender"], fields["path"]), (message.body[0], message.body[3][1])
            heard.append((role, what, words))
            if wanted(role, what, words):
                return words
        pytest.fail(f"heard only {heard}")

    def _role(self, sender: str, path: str) -> str:
        one = DBusAddress(path, sender, interface="org.a11y.atspi.Accessible")
        return self.bus.send_and_get_reply(new_method_call(one, "GetRoleName"), timeout=20.0).body[0]


@pytest.fixture
def session_bus(tmp_path, monkeypatch) -> Iterator[str]:
    """A message bus of the test's own, on which the desktop's accessibility services are started when asked for."""
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    bus = subprocess.Popen(
        ["dbus-daemon", "--session", "--nofork", "--nopidfile", "--print-address=1"],
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        text=True,
        env={**os.environ, "XDG_RUNTIME_DIR": str(tmp_path)},
    )
    assert bus.stdout is not None
    yield bus.stdout.readline().strip()
    bus.terminate()
    bus.wait(10)
    bus.stdout.close()


@pytest.fixture
def listener(session_bus) -> Iterator[Listener]:
    one = Listener(session_bus)
    yield one
    one.bus.close()


@pytest.fixture
def program(display, session_bus, listener, demo) -> Iterator[Program]:
    """The demo in its window, started once somebody listens."""
    one = Program(display, str(demo), DBUS_SESSION_BUS_ADDRESS=session_bus)
    time.sleep(1.0)
    yield one
    if one.process.poll() is None:
        one.kill()


def announced(role: str, what: str, words: str) -> bool:
    return role == "status bar" and what == "accessible-name" and bool(words)


def test_a_reading_its_verdict_and_the_next_step_are_announced(program, listener, demo):
    program.keys("KP_Enter")
    words = listener.hear(announced)
    book = Logbook.open_to_read(demo)
    taken = max((r for s in book.sessions() for r in book.readings(s.id)), key=lambda r: r.at)
    level = next(v.value for v in taken.values if v.quantity == "illuminance")
    book.close()
    assert notation.heard(notation.lux(level)) in words
    assert "Fits." in words
    assert "Next:" in words
    program.keys("9", "9", "9", "9")
    understood = listener.hear(lambda role, what, words: what == "accessible-description" and "9999" in words)
    assert "lx" in understood
    program.keys("Return")
    assert "Which meter" in listener.hear(announced)
    program.keys("Return")
    doubt = listener.hear(announced)
    assert doubt.startswith("Does not fit")
    assert "Enter: read again" in doubt
    program.close()
