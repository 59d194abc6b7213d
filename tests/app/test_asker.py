"""A station asks one question at a time, shows no answer of another, and reads anew what has become stale."""

import threading

import pytest
from PyQt6.QtWidgets import QWidget

from even_beam.app import asker as module
from even_beam.app.asker import Asker
from even_beam.app.job_runner import JobRunner
from even_beam.app.widgets.said_line import SaidLine


@pytest.fixture
def said():
    return []


@pytest.fixture
def asker(qapp, said):
    return Asker(JobRunner(), said.append, said.remove)


def test_the_answer_of_the_last_question_alone_is_shown(asker, qtbot):
    held, shown = threading.Event(), []

    def slow(job, anew):
        held.wait(5.0)
        return "the one before"

    asker.ask("first", slow, shown.append, shown.append)
    asker.ask("second", lambda job, anew: "the last", shown.append, shown.append)
    held.set()
    qtbot.waitUntil(lambda: not asker.is_asking, timeout=5000)
    qtbot.wait(50)
    assert shown == ["the last"]


def test_what_is_stale_is_read_anew_also_where_the_question_that_was_to_was_left(asker, qtbot):
    held, anew = threading.Event(), []

    def work(job, read_anew):
        anew.append(read_anew)
        held.wait(5.0)

    asker.ask("first", work, anew.append, anew.append)
    qtbot.waitUntil(lambda: anew == [True], timeout=5000)
    asker.ask("left half way", work, lambda _: None, lambda _: None)
    held.set()
    qtbot.waitUntil(lambda: not asker.is_asking, timeout=5000)
    asker.ask("after that", work, lambda _: None, lambda _: None)
    qtbot.waitUntil(lambda: not asker.is_asking, timeout=5000)
    assert anew == [True, True, False]
    asker.stale = True
    asker.ask("after a change", work, lambda _: None, lambda _: None)
    qtbot.waitUntil(lambda: not asker.is_asking, timeout=5000)
    assert anew[-1] is True


def test_after_a_failure_everything_is_read_anew(asker, qtbot):
    failures = []

    def fails(job, anew):
        raise ValueError("no lamp")

    asker.ask("fails", fails, failures.append, failures.append)
    qtbot.waitUntil(lambda: bool(failures), timeout=5000)
    assert str(failures[0]) == "no lamp" and asker.stale and not asker.is_asking


def test_what_lasts_says_what_it_is_and_what_is_left_says_nothing(asker, said, qtbot, monkeypatch):
    monkeypatch.setattr(module, "PATIENCE_MS", 20)
    held = threading.Event()
    asker.ask("comparing the lamps", lambda job, anew: held.wait(5.0), lambda _: None, lambda _: None)
    qtbot.waitUntil(lambda: bool(said), timeout=5000)
    assert said == ["Comparing the lamps …"]
    asker.ask("matching the lamps", lambda job, anew: held.wait(5.0), lambda _: None, lambda _: None)
    assert said == [], "what was left is no longer under way"
    assert asker.leave() and not asker.is_asking and not asker.leave()
    qtbot.wait(80)
    assert said == []
    asker.ask("matching the lamps", lambda job, anew: held.wait(5.0), lambda _: None, lambda _: None)
    qtbot.waitUntil(lambda: said == ["Matching the lamps …"], timeout=5000)
    held.set()
    qtbot.waitUntil(lambda: said == [], timeout=5000)


def test_what_was_said_is_there_again_when_the_work_is_done(qapp, qtbot):
    """A note that a station gave just before must not be lost to the word that it works."""
    over = QWidget()
    qtbot.addWidget(over)
    line = SaidLine(over)
    line.say("mauve 12: only known once a lamp was read with it", 5_000)
    line.say("Matching the lamps \N{HORIZONTAL ELLIPSIS}", 5_000)
    line.unsay("Matching the lamps \N{HORIZONTAL ELLIPSIS}")
    assert line.text.text().startswith("mauve 12") and not line.isHidden()
    line.unsay(line.text.text())
    assert line.isHidden()
