from dataclasses import replace

import numpy as np
import pytest

from even_beam.bench.records import Terms
from even_beam.bench.traces import Trace, ends_of, settled_after_s, settled_sentence
from even_beam.known.findings import electrical
from tests.known.findings.story import evidence, read

FULL = Terms(cct_k=5600.0, level_pct=100.0)


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


def test_a_power_log_keeps_peak_mean_and_least():
    """A square wave held unevenly: its mean over time is the closed form, not the mean of the samples."""
    seconds = np.array([0.0, 10.0, 10.001, 20.0, 20.001, 100.0])
    log = Trace("power_w", seconds, np.array([40.0, 40.0, 400.0, 400.0, 100.0, 100.0]))
    assert (log.peak, log.least) == (400.0, 40.0)
    assert log.mean == pytest.approx((10 * 40 + 10 * 400 + 80 * 100) / 100.0, rel=1e-4)
    (kept,) = ends_of([log])
    assert (kept.value, kept.low, kept.high) == (100.0, 40.0, 400.0)
    assert "peak 400 W, mean 124 W, least 40 W" in settled_sentence(log)


def test_the_peak_is_what_a_circuit_must_bear():
    log = Trace("power_w", np.arange(10.0), np.array([50.0, 460.0, *[300.0] * 8]))
    peaked = read(1, replace(FULL, level_pct=100.0), values=ends_of([log]))
    steady = read(2, replace(FULL, level_pct=10.0), power_w=40.0)
    found = {f.name: f for f in electrical.power(evidence(peaked, steady))}
    assert found["most power"].value == 460.0
    assert "at most 460 W" in found["most power"].sentence
    said = [f.sentence for f in electrical.power(evidence(peaked)) if f.name == "power"]
    assert said[0].startswith("It draws 300 W, with a peak of 460 W in its log")
