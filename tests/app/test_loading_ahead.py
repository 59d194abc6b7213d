"""What a later key needs is loaded while nobody works, and not while somebody does."""

import sys
from time import monotonic

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QWidget

from even_beam.app.job_runner import JobRunner
from even_beam.app.loading_ahead import IDLE_MS, LoadingAhead


@pytest.fixture
def modules(tmp_path, monkeypatch):
    names = ["seldom_needed_one", "seldom_needed_two"]
    for name in names:
        (tmp_path / f"{name}.py").write_text("")
    monkeypatch.syspath_prepend(tmp_path)
    yield names
    for name in names:
        sys.modules.pop(name, None)


@pytest.fixture
def widget(qtbot):
    made = QWidget()
    qtbot.addWidget(made)
    made.show()
    return made


def test_all_is_loaded_when_nobody_acts(modules, widget, qtbot):
    LoadingAhead(modules, JobRunner(widget), widget).begin(widget.windowHandle())
    assert not any(name in sys.modules for name in modules)
    qtbot.waitUntil(lambda: all(name in sys.modules for name in modules), timeout=10_000)


def test_whoever_presses_keys_comes_first(modules, widget, qtbot):
    LoadingAhead(modules, JobRunner(widget), widget).begin(widget.windowHandle())
    end = monotonic() + 3 * IDLE_MS / 1000.0
    while monotonic() < end:
        QTest.keyClick(widget.windowHandle(), Qt.Key.Key_A)
        qtbot.wait(IDLE_MS // 20)
        assert not any(name in sys.modules for name in modules)
    qtbot.waitUntil(lambda: all(name in sys.modules for name in modules), timeout=10_000)


def test_a_module_that_cannot_be_loaded_holds_up_none(modules, widget, qtbot):
    LoadingAhead(["no_such_module_here", *modules], JobRunner(widget), widget).begin(widget.windowHandle())
    qtbot.waitUntil(lambda: all(name in sys.modules for name in modules), timeout=10_000)


def test_it_goes_on_after_all_jobs_were_stopped(modules, widget, qtbot):
    """As another logbook is opened: what was left is loaded from the next beginning on."""
    jobs = JobRunner(widget)
    ahead = LoadingAhead(modules, jobs, widget)
    ahead.begin(widget.windowHandle())
    jobs.stop_all()
    ahead.begin(widget.windowHandle())
    qtbot.waitUntil(lambda: all(name in sys.modules for name in modules), timeout=10_000)
