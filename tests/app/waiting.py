"""Waiting for what a station asks in a worker."""

from time import monotonic

from PyQt6.QtTest import QTest

from even_beam.app.widgets.turns import turns


def compare_of(window):
    """The Compare station of a window, once it has its answer."""
    until = monotonic() + 20.0
    while window.busy:
        QTest.qWait(5)
        assert monotonic() < until
    QTest.qWait(15)  # what stands further down is drawn after what is seen first
    while turns().pending:
        QTest.qWait(5)
        assert monotonic() < until
    return window.compare
