"""The room's own light: paired by placement, taken off level and spectrum, never off typed colour figures."""

from dataclasses import replace
from datetime import UTC, datetime

import numpy as np
import pytest

from even_beam.bench.ambient import ambient_of, bounce_share, is_ambient, lamp_off, shaded
from even_beam.bench.judging.second_look import Context, Subject, second_look
from even_beam.bench.measured import Ambient, Measured
from even_beam.bench.records import Computed, Meter, Origin, Reading, Spectrum, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.collection.evaluation import computed_figures
from even_beam.collection.net_figures import NetFigures
from even_beam.light import WAVELENGTH_NM, evaluate, planckian

AT_2_M = Terms(cct_k=5600.0, level_pct=50.0, distance_m=2.0)


def read(
    terms: Terms, sequence: int, lux: float, meter: str = "m", computed: Computed | None = None, **typed: float
) -> Measured:
    values = (Value("illuminance", lux, Origin.TYPED), *(Value(n, v, Origin.TYPED) for n, v in typed.items()))
    sources = () if terms.mode == "off" else ("lamp",)
    record = Reading(
        f"r{sequence}", "s", datetime(2026, 1, 1, tzinfo=UTC), sequence, terms, sources, meter_id=meter, values=values
    )
    return Measured(ReadingState(record, terms), computed)


def test_the_room_is_paired_by_placement_and_meter():
    room, elsewhere = read(lamp_off(AT_2_M), 1, 4.0), read(lamp_off(replace(AT_2_M, distance_m=3.0)), 2, 9.0)
    other_meter = read(lamp_off(AT_2_M), 3, 7.0, meter="n")
    lit = read(AT_2_M, 4, 104.0)
    later = read(lamp_off(AT_2_M), 5, 5.0)
    assert ambient_of(lit, [room, elsewhere, other_meter, lit, later]) is room
    assert ambient_of(lit, [elsewhere, other_meter, lit, later]) is later  # better afterwards than never
    assert ambient_of(lit, [elsewhere, other_meter, lit]) is None
    assert ambient_of(room, [room, lit]) is None
    assert is_ambient(room)
    assert not is_ambient(lit)


def test_it_is_taken_off_illuminance_and_nothing_else_that_was_typed():
    """NEEDS: subtract only illuminance and spectrum; never typed CCT, Duv, Ra or f-stops (common practice, no
    source)."""
    room, lit = read(lamp_off(AT_2_M), 1, 4.0), read(AT_2_M, 2, 104.0, cct=5400.0, duv=0.002, f_stop=5.6)
    net = NetFigures(lambda ids: {}).applied([room, lit])[1]
    assert net.value("illuminance") == pytest.approx(100.0)
    assert net.ambient_share == pytest.approx(4.0 / 104.0)
    assert [net.value(name) for name in ("cct", "duv", "f_stop")] == [5400.0, 0.002, 5.6]
    assert net.reading.values[0].value == 104.0  # what was read is always kept


def test_it_is_taken_off_the_spectrum():
    """A 3200 K lamp in a room of 6500 K reads cooler than it is; without the room it is what it is."""
    lamp, glow = planckian(3200.0), 0.4 * planckian(6500.0)
    spectra = {"r1": Spectrum(WAVELENGTH_NM, glow), "r2": Spectrum(WAVELENGTH_NM, lamp + glow)}
    room = read(lamp_off(AT_2_M), 1, 0.0, computed=computed_figures("r1", spectra["r1"]))
    lit = read(AT_2_M, 2, 0.0, computed=computed_figures("r2", spectra["r2"]))
    mixed = lit.value("cct")
    assert mixed is not None
    assert mixed > 3300.0
    net = NetFigures(lambda ids: {i: spectra[i] for i in ids}).applied([room, lit])[1]
    assert net.value("cct") == pytest.approx(3200.0, abs=1.0)
    alone = evaluate(WAVELENGTH_NM, lamp, absolute=True)
    assert net.value("illuminance") == pytest.approx(float(alone.illuminance_lx), rel=1e-6)
    assert net.vectors["R"] == pytest.approx(alone.cri.R, abs=1e-6)
    assert np.all(spectra["r2"].values == lamp + glow)


def test_a_shaded_reading_measures_the_lamps_own_bounce():
    room, open_, flagged = read(lamp_off(AT_2_M), 1, 4.0), read(AT_2_M, 2, 104.0), read(shaded(AT_2_M), 3, 9.0)
    readings = NetFigures(lambda ids: {}).applied([room, open_, flagged])
    assert readings[2].value("illuminance") == pytest.approx(5.0)  # the room is behind the flag too
    assert bounce_share(readings[2], readings) == pytest.approx(0.05)
    assert bounce_share(readings[1], readings) is None


METER = Meter("m", "Meter", floor_lx=1.0)


def look(lux: float, ambient: float, typed: bool = True, others: tuple[Measured, ...] = ()):
    return second_look(Subject({"illuminance": lux}, AT_2_M, "lamp", METER, typed, ambient_lx=ambient), Context(others))


def test_its_share_is_said_and_a_reading_that_is_mostly_room_is_doubted():
    assert "3.85 %" in look(100.0, 4.0).text
    assert "steady" not in look(100.0, 4.0).text
    assert "steady" in look(20.0, 4.0).text
    drowned = look(3.0, 4.0)
    assert drowned.in_doubt
    assert drowned.cause == "ambient"
    assert not look(0.6, 0.5).in_doubt  # 1.1 lx fell on the meter: above its floor
    assert look(0.2, 0.1).cause == "too_dim"


def test_a_slip_is_looked_for_in_the_figure_as_it_was_read():
    """1040 lx read of 1000 lx and 40 of the room: 104 is a factor of ten away from what was read, not from the net."""
    others = tuple(read(AT_2_M, i, 1000.0) for i in (1, 2))
    found = look(104.0 - 40.0, 40.0, others=others)
    assert found.in_doubt
    assert found.candidates[0].value == 1040.0


def test_the_room_itself_is_never_too_dim():
    found = second_look(Subject({"illuminance": 0.4}, lamp_off(AT_2_M), None, METER), Context())
    assert not found.in_doubt
    assert "room alone" in found.text


@pytest.mark.parametrize("ambient", [5.0, 12.0])
def test_never_below_zero(ambient):
    lit = Measured(read(AT_2_M, 1, 4.0).state, None, Ambient("r0", ambient))
    assert lit.value("illuminance") == 0.0
