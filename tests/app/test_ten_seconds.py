"""Twelve questions of practitioners: the answer stands on the screen after at most three keys, on the demo."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QWidget

CTRL = Qt.KeyboardModifier.ControlModifier

QUESTIONS = [
    ("What do I set next?", "", "Next: Tansy reflector on axis 5600 K 25 %"),
    ("What was read last, and at which terms?", "", "read last: Tansy · reflector · 5600 K · 25 %"),
    ("How long does it still take?", "", "min left"),
    ("Is that white as dialled?", "", "no difference you can be sure of"),
    ("What does this light do to skin?", "~I", "skin a touch more red"),
    ("Which lamp is brighter, and by how much?", "^4", "Burdock is 1.2 stops brighter than Tansy."),
    ("Whose white is off, and by how much?", "^4 2", "Burdock is 13 mired cool: 6 050 K for 5600 K."),
    ("Which colours suffer?", "^4 3", "Burdock is weakest in deep blues: R12 75."),
    ("Is it good enough for skin?", "^4 4", "Tansy: no (Rf, for sure)"),
    ("Which gives most for its money?", "^4 5", "Burdock gives most light for its price"),
    ("What must go back, and when?", "^1", "back by Fri 20 Nov"),
    ("Does what is claimed hold?", "^1", "does not hold: 94.2"),
]


def on_screen(window) -> str:
    """Everything that can be seen or heard."""
    parts = [*window.head()[0], window.head()[1]] if hasattr(window, "head") else []
    parts += [*window.station.head()[0], window.station.head()[1]]
    for widget in window.findChildren(QWidget):
        if widget.isVisible():
            parts += [widget.accessibleName(), widget.accessibleDescription()]
            if isinstance(widget, QLabel):
                parts.append(widget.text())
    if window.station is window.kit:
        items = [window.kit._list.item(row) for row in range(window.kit._list.count())]
        parts += [str(item.data(Qt.ItemDataRole.AccessibleTextRole)) for item in items]
    return "\n".join(parts).replace("\u202f", " ").replace("\N{NO-BREAK SPACE}", " ")


@pytest.mark.parametrize(("question", "pressed", "answer"), QUESTIONS, ids=[one[0] for one in QUESTIONS])
def test_the_answer_stands_there(open_window, demo, qtbot, question, pressed, answer):
    window = open_window(demo)
    keys = pressed.split()
    assert len(keys) <= 3
    for key in keys:
        target = window.focusWidget() or window
        if key.startswith("^"):
            window.go(int(key[1:]) - 1)  # the shortcut itself is pressed on the real screen, with all the others
        elif key.startswith("~"):
            QTest.keyClick(target, Qt.Key(ord(key[1:])), Qt.KeyboardModifier.AltModifier)
        else:
            QTest.keyClicks(target, key)
        qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
        qtbot.wait(30)
        qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    assert answer in on_screen(window)
