"""Nothing that was typed goes untold: every quantity, as a figure, a bound or a range."""

import pytest

from even_beam.bench.records import Origin, Terms, Value
from even_beam.known.findings.as_typed import as_typed
from even_beam.known.findings.everything import findings_of
from even_beam.words.quantities import QUANTITIES
from tests.known.findings.story import evidence, read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)

FIGURES = {
    "illuminance": 1234, "luminance": 345, "cct": 5432, "duv": 0.0123, "cc": 3.5, "x": 0.345, "y": 0.356, "ra": 91,
    "re": 89, "rf": 88, "rg": 103, "ssi": 76, "tlci": 93, "tlmf": 87, "f_stop": 11.3, "ev": 9.7, "hue": 123,
    "saturation": 67, "beam_deg": 43, "power_w": 217, "power_va": 231, "current_a": 1.9, "voltage_v": 229,
    "power_factor": 0.93, "sound_db": 31.5, "temperature_c": 47, "flicker_hz": 23456, "percent_flicker": 12.3,
    "flicker_index": 0.123, "svm": 0.34, "pst_lm": 0.56, **{f"r{i}": 60 + i for i in range(1, 16)},
}  # fmt: skip
"""A figure of each quantity that no other of them could be taken for."""

RECORDED = {"light", "fade_s", "chart_as_shot", "chart_balanced", "chart_skin"}
"""Quantities that come from a waveform, a log or a photograph, never from a hand."""


def told_of(*values: Value, terms: Terms = FULL) -> str:
    sentences = [f.sentence for f in findings_of(evidence(read(1, terms, values=values))) if "r1" in f.readings]
    return " ".join(sentences).replace("\u2009", "").replace("\u202f", "").replace(" ", "")


def test_every_quantity_has_its_figure_here():
    assert set(FIGURES) | RECORDED == set(QUANTITIES)


@pytest.mark.parametrize("quantity", FIGURES)
def test_a_figure_is_told(quantity):
    shown = {"f_stop": "f/11", "illuminance": "1230", "cct": "5430"}.get(quantity) or str(FIGURES[quantity])
    assert shown in told_of(Value(quantity, FIGURES[quantity], Origin.TYPED, text=str(FIGURES[quantity])))


@pytest.mark.parametrize("quantity", FIGURES)
@pytest.mark.parametrize(("low", "high"), [(0.97, 1.0), (1.0, None), (None, 1.0)])
def test_bounds_and_ranges_are_told_as_they_were_typed(quantity, low, high):
    ends = [None if share is None else FIGURES[quantity] * share for share in (low, high)]
    text = " to ".join(f"{end:g}" for end in ends if end is not None)
    value = Value(quantity, None, Origin.TYPED, low=ends[0], high=ends[1], text=text, unit=QUANTITIES[quantity].unit)
    assert text.replace(" ", "") in told_of(value)


def test_a_unit_that_was_not_typed_is_added_and_one_that_was_is_not_doubled():
    bare = Value("power_w", None, Origin.TYPED, low=240.0, high=260.0, text="240 to 260", unit="W")
    typed = Value("sound_db", None, Origin.TYPED, high=30.0, text="under 30 dB", unit="dB")
    angle = Value("hue", None, Origin.TYPED, low=100.0, high=110.0, text="100 to 110", unit="°")
    said = [f.sentence for f in as_typed(evidence(read(1, FULL, values=(bare, typed, angle))))]
    assert any("Power 240 to 260 W, as typed, at bare · 5600 K" in one for one in said)
    assert any("Sound level under 30 dB, as typed" in one for one in said)
    assert any("Hue 100 to 110°, as typed" in one for one in said)


def test_what_has_a_sentence_of_its_own_is_not_told_again():
    own = evidence(
        read(
            1, FULL, illuminance=1200.0, cct=5590.0, duv=0.001, x=0.33, y=0.34, ra=95.0, power_w=200.0, voltage_v=230.0
        )
    )
    assert as_typed(own) == ()


def test_each_set_of_terms_is_told_by_itself():
    half = Terms(cct_k=5600.0, level_pct=50.0, distance_m=2.0)
    bound = Value("power_w", None, Origin.TYPED, low=240.0, text="240+", unit="W")
    found = as_typed(
        evidence(read(1, FULL, values=(bound,)), read(2, half, values=(bound,)), read(3, half, values=(bound,)))
    )
    assert sorted(f.readings for f in found) == [("r1",), ("r2", "r3")]
    assert all(f.sentence.count("240+") == 1 for f in found)
