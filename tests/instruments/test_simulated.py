from datetime import timedelta

import numpy as np
import pytest

from even_beam.bench.records import Meter, Terms
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.instruments.protocols import InstrumentError
from even_beam.instruments.simulated_bench import SimulatedBench, SimulatedSpectrometer
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.light import WAVELENGTH_NM, evaluate
from even_beam.light.colorimetry import illuminance

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)


def level(name: str, terms: Terms, minutes: float = 90.0) -> float:
    return float(illuminance(LAMPS[name].irradiance(terms, minutes)))


def of(**changes) -> Terms:
    from dataclasses import replace

    return replace(FULL, **changes)


@pytest.mark.parametrize("name", list(LAMPS))
def test_every_lamp_sends_light_that_falls_with_distance_and_dial(name):
    assert level(name, of(distance_m=4.0)) == pytest.approx(level(name, FULL) / 4.0, rel=0.05)
    assert level(name, of(level_pct=0.0)) == 0.0
    assert level(name, of(level_pct=50.0)) < level(name, FULL)
    figures = evaluate(WAVELENGTH_NM, LAMPS[name].irradiance(FULL))
    assert np.isfinite(figures.cct_k)


def test_characters():
    tungsten = [
        float(evaluate(WAVELENGTH_NM, LAMPS["tungsten"].irradiance(of(level_pct=p))).cct_k) for p in (100.0, 50.0)
    ]
    assert tungsten[0] == pytest.approx(3200, abs=5)
    assert tungsten[1] < 2800  # redder as it is dimmed
    assert level("budget panel", of(level_pct=1.0)) / level("budget panel", FULL) == pytest.approx(0.11, abs=0.01)
    assert level("budget panel", FULL, 0.0) > level("budget panel", FULL, 60.0)  # droops as it warms
    assert level("discharge lamp", FULL, 0.0) < 0.7 * level("discharge lamp", FULL, 60.0)  # and this one warms up
    bare = evaluate(WAVELENGTH_NM, LAMPS["two-channel point source"].irradiance(FULL)).cct_k
    shifted = evaluate(
        WAVELENGTH_NM, LAMPS["two-channel point source"].irradiance(of(configuration=("reflector",)))
    ).cct_k
    assert 1e6 / bare - 1e6 / shifted == pytest.approx(13.0, abs=4.0)
    near = level("bicolour panel", of(distance_m=0.6)) * 0.36
    far = level("bicolour panel", of(distance_m=6.0)) * 36.0
    assert near < 0.9 * far  # a panel is no point: near to it the law fails


def test_the_meter_has_noise_dark_signal_and_a_ceiling(clock):
    bench = SimulatedBench(clock, ambient_lx=0.4)
    meter = SimulatedSpectrometer(bench, clock, seed=1, ceiling_lx=6000.0)
    bench.set([("six-emitter colour light", FULL)])
    first, second = meter.read(), meter.read()
    assert first.figures["illuminance"] == pytest.approx(second.figures["illuminance"], rel=0.02)
    assert not np.array_equal(first.spectrum.values, second.spectrum.values)
    assert not first.saturated
    bench.set([("six-emitter colour light", of(distance_m=0.5))])
    assert meter.read().saturated
    bench.set([])
    ambient = meter.read().figures["illuminance"]
    assert 0.2 < ambient < 1.0
    clock.now += timedelta(hours=6)
    drifted = meter.read().figures["illuminance"]
    assert drifted > ambient + 0.5  # the dark signal grew
    meter.zero()
    assert meter.read().figures["illuminance"] == pytest.approx(ambient, abs=0.3)


def test_the_same_seed_gives_the_same_reading(clock):
    def one() -> np.ndarray:
        bench = SimulatedBench(lambda: clock.now)
        bench.set([("tungsten", FULL)])
        return SimulatedSpectrometer(bench, lambda: clock.now, seed=9).read().spectrum.values

    np.testing.assert_array_equal(one(), one())


def test_a_meter_read_by_eye_says_so(clock):
    with pytest.raises(InstrumentError, match="type its figure"):
        Instruments(clock).meter(Meter("l", "Light meter 1", kind="light meter"))
