"""What is said to whoever listens: readings with their verdicts, answers, and what is said in passing."""

from PyQt6.QtCore import Qt

from even_beam.app.window import COMPARE
from even_beam.words import notation


def test_a_reading_is_announced_without_what_was_expected_of_it(open_window, demo, hands):
    window = open_window(demo)
    hands.press(window, Qt.Key.Key_Return)
    words = window.announcer.currentMessage()
    taken = window.document.desk.counted[-1]
    assert words.startswith(f"Illuminance {notation.heard(notation.lux(taken.value('illuminance')))} lx, white ")
    assert "Fits. Next: set " in words
    assert "expected" not in words
    assert notation.THIN_SPACE not in words


def test_doubt_is_announced_with_the_keys_that_decide(open_window, demo, hands):
    window = open_window(demo)
    hands.type(window, "20 lx")
    words = window.announcer.currentMessage()
    assert words.startswith("Does not fit: read again.")
    assert "Enter: read again" in words
    assert "+: hold to keep it, in doubt" in words


def test_what_is_said_in_passing_is_announced_every_time(open_window, demo, qtbot):
    window = open_window(demo)
    heard = []
    window.announcer.messageChanged.connect(heard.append)
    window.say("Nothing was read yet")
    window.say("Nothing was read yet")
    assert heard == ["Nothing was read yet", "", "Nothing was read yet"]


def test_an_answer_is_announced_once(open_window, demo, qtbot):
    window = open_window(demo, COMPARE)
    qtbot.waitUntil(lambda: not window.busy, timeout=20_000)
    heard = []
    window.announcer.messageChanged.connect(heard.append)
    window.compare.press("2")
    qtbot.waitUntil(lambda: not window.busy and bool(heard), timeout=20_000)
    window.compare.refresh()
    qtbot.wait(100)
    assert len(heard) == 1
    assert "mired" in heard[0] or "K" in heard[0]


def test_words_for_the_ear():
    thin, minus = notation.THIN_SPACE, notation.MINUS
    assert notation.heard(f"5{thin}162 lx · {minus}0.4 stops") == "5162 lx, minus 0.4 stops"
