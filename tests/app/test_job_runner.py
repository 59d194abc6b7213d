"""Jobs come back to the interface's thread once, or never when they were cancelled."""

import threading

import pytest
from PyQt6.QtCore import QTimer

from even_beam.app.job_runner import JobRunner


@pytest.fixture
def runner(qapp):
    return JobRunner()


def test_a_result_comes_back_in_the_interfaces_thread(runner, qtbot):
    seen = []
    runner.run(
        "add",
        lambda job: (threading.get_ident(), 1 + 1),
        lambda r: seen.append((threading.get_ident(), *r)),
        seen.append,
    )
    assert runner.busy
    qtbot.waitUntil(lambda: bool(seen), timeout=5000)
    here, there, result = seen[0]
    assert result == 2 and here == threading.get_ident() != there
    assert not runner.busy


def test_a_failure_is_told_as_it_is(runner, qtbot):
    failures = []

    def work(job):
        raise ValueError("no lamp")

    runner.run("fail", work, lambda _: failures.append(None), failures.append)
    qtbot.waitUntil(lambda: bool(failures), timeout=5000)
    assert str(failures[0]) == "no lamp" and not runner.busy


def test_what_is_cancelled_says_nothing_more(runner, qtbot):
    begun, go, seen = threading.Event(), threading.Event(), []

    def work(job):
        begun.set()
        go.wait(5)
        job.stop_if_cancelled()
        return "late"

    job = runner.run("slow", work, seen.append, seen.append)
    qtbot.waitUntil(begun.is_set, timeout=5000)
    job.cancel()
    assert not runner.busy
    go.set()
    job.wait(5)
    qtbot.wait(50)
    assert seen == [] and not job.alive


def test_a_result_that_was_on_its_way_when_it_was_cancelled_is_dropped(runner, qtbot):
    begun, go, seen = threading.Event(), threading.Event(), []

    def work(job):
        begun.set()
        return go.wait(5)

    job = runner.run("quick", work, seen.append, seen.append)
    qtbot.waitUntil(begun.is_set, timeout=5000)
    go.set()
    job.wait(5)  # it has ended, and its result waits for the event loop
    job.cancel()
    qtbot.wait(50)
    assert seen == []


def test_it_begins_when_what_the_key_asked_for_is_painted_and_not_at_all_when_cancelled_before(runner, qtbot):
    begun, order = [], []
    QTimer.singleShot(0, lambda: order.append("painted"))
    runner.run("first", lambda job: order.append("begun"), begun.append, begun.append)
    left = runner.run("second", lambda job: order.append("never"), begun.append, begun.append)
    assert runner.busy and left.alive and order == []
    left.cancel()
    assert not left.alive
    left.wait(5)  # what has not begun is not waited for
    qtbot.waitUntil(lambda: bool(begun), timeout=5000)
    assert order == ["painted", "begun"]


def test_progress_is_told_until_it_is_cancelled(runner, qtbot):
    told, seen = [], []

    def work(job):
        for share in (0.25, 0.5, 1.0):
            job.progress(share, "spectra")

    runner.run("steps", work, seen.append, seen.append, lambda share, words: told.append((share, words)))
    qtbot.waitUntil(lambda: bool(seen), timeout=5000)
    assert told == [(0.25, "spectra"), (0.5, "spectra"), (1.0, "spectra")]
    runner.stop_all()
    assert not runner.busy


def test_nothing_begins_once_the_window_is_about_to_be_gone(qtbot):
    """What a timer or a late event asks for after the end would be delivered to what is no longer there."""
    runner = JobRunner()
    runner.shut()
    begun: list[str] = []
    job = runner.run("late", lambda job: begun.append("work"), lambda result: begun.append("done"), raise_)
    qtbot.wait(60)
    assert job.cancelled and not runner.busy
    assert begun == []


def raise_(error: Exception) -> None:
    raise error
