import numpy as np
import pytest

from even_beam.bench.traces import Trace, settled_after_s


def test_a_lamp_that_warms_settles_when_it_stays_within_one_per_cent():
    """An exponential of time constant T stays within 1 % of its end after T ln(a / 0.01): closed form."""
    seconds = np.arange(0.0, 3600.0, 5.0)
    trace = Trace("illuminance", seconds, 1000.0 * (1.0 + 0.08 * np.exp(-seconds / 240.0)))
    assert settled_after_s(trace) == pytest.approx(240.0 * np.log(8.0), abs=6.0)
    assert trace.end == pytest.approx(1000.0, rel=1e-3)


def test_what_never_settles_or_was_not_watched_long_enough():
    seconds = np.arange(0.0, 100.0, 1.0)
    assert settled_after_s(Trace("power_w", seconds, 100.0 + seconds)) is None
    assert settled_after_s(Trace("power_w", seconds, np.full(100, 90.0))) == 0.0
    assert settled_after_s(Trace("power_w", seconds[:2], seconds[:2] + 1.0)) is None
    assert settled_after_s(Trace("power_w", seconds, np.zeros(100))) is None
