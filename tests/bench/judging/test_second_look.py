"""The second look, on the trade's check values 8-13, 18-20, 33, 58 (common practice, no source) and on slips."""

from datetime import UTC, datetime

import pytest

from even_beam.bench.judging.second_look import Context, Subject, second_look
from even_beam.bench.judging.slips import Slip, candidates
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter, Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.light.photometry import METRES_PER_FOOT

SPOT = Terms(mode="fixed", level_pct=100.0, zoom="spot")
METER = Meter("m", "Light meter 1", kind="light meter")


def reading(terms: Terms, sequence: int = 1, source: str = "lamp", **figures: float) -> Measured:
    values = tuple(Value(name, value, Origin.TYPED) for name, value in figures.items())
    record = Reading(f"r{sequence}", "s", datetime(2026, 1, 1, tzinfo=UTC), sequence, terms, (source,), values=values)
    return Measured(ReadingState(record, terms))


def at(feet: float, base: Terms = SPOT) -> Terms:
    from dataclasses import replace

    return replace(base, distance_m=feet * METRES_PER_FOOT)


def walk(**marks: float) -> list[Measured]:
    return [reading(at(float(name[1:])), i, illuminance=lux) for i, (name, lux) in enumerate(marks.items(), start=1)]


def look(terms: Terms, others=(), previous=None, typed=True, meter=METER, again=(), **figures):
    return second_look(Subject(figures, terms, "lamp", meter, typed), Context(others, previous, again))


def test_a_walk_that_follows_the_law_is_calm():
    """Check value 8."""
    marks = {"d25": 300, "d20": 450, "d15": 800, "d10": 1800}
    for name in marks:
        others = walk(**{k: v for k, v in marks.items() if k != name})
        assert not look(at(float(name[1:])), others, illuminance=marks[name]).in_doubt


def test_near_field_or_a_mis_aimed_meter():
    """Check value 9: 5500 lx at 5 ft, 7200 expected: 0.39 stop low."""
    found = look(at(5), walk(d25=300, d20=450, d15=800, d10=1800), illuminance=5500)
    assert found.in_doubt
    assert found.stops_off == pytest.approx(-0.39, abs=0.06)
    assert "low" in found.text


def test_swapped_digits_in_a_walk():
    """Check value 10: 1080 at 15 ft between 800, 1200 and 4200: 1800 first, 2080 possible."""
    found = look(at(15), walk(d25=800, d20=1200, d10=4200), illuminance=1080)
    assert found.in_doubt
    values = [c.value for c in found.candidates]
    assert values[0] == 1800.0
    assert 2080.0 in values
    assert found.title == "Does not fit: read again"


def test_a_factor_of_ten():
    """Check value 11: 160 for 1600."""
    found = look(at(10), walk(d25=260, d20=400, d15=740), illuminance=160)
    assert found.in_doubt
    assert found.candidates[0].value == 1600.0
    assert found.candidates[0].slip is Slip.FACTOR_OF_TEN
    assert found.cause == "factor_of_ten"


def test_repeats_that_disagree():
    """Check value 13: 440 among 640s asks for a reason."""
    others = [reading(at(10), i, illuminance=v) for i, v in enumerate((640, 640, 600), start=1)]
    found = look(at(10), others, illuminance=440)
    assert found.in_doubt
    assert any(cause.kind == "disagreeing_repeats" for cause in found.causes)
    assert not look(at(10), others, illuminance=636).in_doubt


def test_footcandles_typed_for_lux():
    found = look(at(15), walk(d25=300, d20=450, d10=1800), illuminance=74.3)
    assert found.in_doubt
    assert Slip.WRONG_UNIT in {c.slip for c in found.candidates}


DIM = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)


def curve() -> list[Measured]:
    from dataclasses import replace

    return [
        reading(replace(DIM, level_pct=p), i, illuminance=48.0 * p, cct=5590.0)
        for i, p in enumerate((100, 75, 50), start=1)
    ]


def test_the_lamp_was_not_changed():
    from dataclasses import replace

    others = curve()
    found = look(replace(DIM, level_pct=25.0), others, others[-1], typed=False, illuminance=2404.0, cct=5591.0)
    assert found.in_doubt
    assert found.cause == "lamp_not_changed"


def test_a_level_that_was_left_behind():
    from dataclasses import replace

    others = curve()
    found = look(replace(DIM, level_pct=10.0), others, others[0], typed=False, illuminance=3603.0)
    assert found.in_doubt
    assert "wrong_setting" in {cause.kind for cause in found.causes}
    assert "75 %" in " ".join(cause.text for cause in found.causes)


def test_read_again_and_the_same_is_the_lamp():
    from dataclasses import replace

    low = replace(DIM, level_pct=1.0)
    others = curve()
    first = look(low, others, typed=False, illuminance=7000.0)
    assert first.in_doubt
    again = look(low, others, typed=False, illuminance=6980.0, again=[reading(low, 9, illuminance=7000.0)])
    assert not again.in_doubt
    assert "the lamp that does this" in again.text


@pytest.mark.parametrize(
    ("keyed", "asked", "meant"), [(27006.0, 2700.0, 2700.0), (29.56, 2956.0, 2956.0), (424300.0, 4265.0, None)]
)
def test_slips_in_colour_temperatures(keyed, asked, meant):
    """Check value 58: where no single slip explains it, no suggestion."""
    terms = Terms(cct_k=asked, level_pct=100.0, distance_m=1.0)
    found = look(terms, cct=keyed)
    assert found.in_doubt
    values = [c.value for c in found.candidates]
    assert (values[0] == meant) if meant is not None else values == []


@pytest.mark.parametrize(("asked", "read"), [(5600, 4265), (5000, 4763), (3200, 2970)])
def test_a_lamp_that_is_merely_wrong_is_not_a_slip(asked, read):
    """Check values 18-20: these are the lamps, within what a lamp can be off."""
    assert not look(Terms(cct_k=float(asked), level_pct=100.0, distance_m=1.0), cct=float(read)).in_doubt


def test_the_meter_knows_its_range():
    meter = Meter("s", "Spectrometer", floor_lx=1.0, dim_lx=10.0)
    assert look(DIM, meter=meter, typed=False, illuminance=0.4).cause == "too_dim"
    calm = look(DIM, meter=meter, typed=False, illuminance=6.0)
    assert not calm.in_doubt
    assert "noise" in calm.text
    saturated = second_look(Subject({"illuminance": 2e5}, DIM, "lamp", meter, saturated=True), Context())
    assert saturated.cause == "saturated"


def test_tungsten_may_grow_warmer_as_it_dims():
    from dataclasses import replace

    full = Terms(mode="fixed", level_pct=100.0, distance_m=2.0)
    others = [reading(full, 1, illuminance=4000.0, cct=3200.0)]
    assert not look(replace(full, level_pct=50.0), others, typed=False, illuminance=1500.0, cct=2800.0).in_doubt


def test_nothing_is_ever_changed_by_a_look():
    found = look(at(15), walk(d25=800, d20=1200, d10=4200), illuminance=1080)
    assert found.expected is not None
    assert found.expected.low < found.expected.centre < found.expected.high


def test_candidates_are_ranked_by_kind_then_fit():
    found = candidates(1080.0, 1867 * 2**-0.1, 2222 * 2**0.1, centre=2037.0)
    assert [c.slip for c in found] == sorted((c.slip for c in found), key=list(Slip).index)
    assert len(found) <= 4
    assert candidates(1080.0, 1.0, 2.0, centre=1.5) == ()


def test_false_alarms_on_clean_simulated_runs():
    """Fewer than one in 200 readings of clean runs is doubted."""
    import numpy as np

    from even_beam.bench.planning.sweep import Sweep, run_sheet
    from even_beam.instruments.simulated_lamps import LAMPS
    from even_beam.light.colorimetry import cct_and_duv, illuminance, tristimulus, uv_1960, xy

    random = np.random.default_rng(20)
    meter = Meter("s", "Spectrometer")
    doubts = total = 0
    for name in ("six-emitter colour light", "five-emitter colour light", "bicolour panel", "two-channel point source"):
        sweep = Sweep(("lamp",), (5600.0, 4400.0, 3200.0), (100.0, 75.0, 50.0, 25.0, 10.0, 5.0, 1.0), (2.0,))
        taken: list[Measured] = []
        for number, step in enumerate(run_sheet(sweep, "s", meter)):
            for repeat in range(2):
                light = LAMPS[name].irradiance(step.terms) * (1.0 + 0.004 * random.standard_normal())
                figures = {
                    "illuminance": float(illuminance(light)),
                    "cct": float(cct_and_duv(*uv_1960(*xy(tristimulus(light))))[0]) + random.normal(0, 4),
                }
                context = Context(taken, taken[-1] if taken else None)
                found = second_look(Subject(figures, step.terms, "lamp", meter), context)
                doubts += found.in_doubt
                total += 1
                taken.append(reading(step.terms, 2 * number + repeat + 1, **figures))
    assert total > 150
    assert doubts / total < 1 / 200


@pytest.mark.parametrize("factor", [0.1, 10.0])
@pytest.mark.parametrize("level", [25.0, 10.0, 5.0, 1.0])
@pytest.mark.parametrize("other", [75.0, 50.0])
def test_ten_times_off_at_the_third_level_is_doubted_or_asked_about(factor, level, other):
    """Of a lamp in proportion to its dimmer; far from what was read most shapes of dimmers are possible."""
    others = [
        reading(Terms(level_pct=pct, distance_m=2.0), i, illuminance=8.2 * pct) for i, pct in enumerate((100.0, other))
    ]
    here, true = Terms(level_pct=level, distance_m=2.0), float(f"{8.2 * level:.3g}")
    found = look(here, others, illuminance=true * factor)
    assert found.in_doubt or found.asks, found.sentences
    assert not (found.in_doubt and found.asks)
    if found.asks and len(found.candidates) == 1:
        assert found.candidates[0].value == pytest.approx(true, rel=0.05)
        assert "is not ruled out" in found.asks and "two other levels of this dimmer tell." in found.asks
    right = look(here, others, illuminance=true)
    assert not right.in_doubt and not right.asks


def test_what_one_other_level_tells_is_not_asked_about():
    """A dimmer may give a tenth of the light at half: with one other level read, nothing tells."""
    others = [reading(Terms(level_pct=100.0, distance_m=2.0), illuminance=820.0)]
    found = look(Terms(level_pct=50.0, distance_m=2.0), others, illuminance=41.0)
    assert not found.asks
