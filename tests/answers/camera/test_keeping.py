"""What a camera saw, kept: beside a run, or as the step of a run that asks for it."""

import numpy as np
import pytest

from even_beam.answers.bench.enter import EnterError, lamp_at_terms, said_of
from even_beam.answers.camera.flickering import flickering
from even_beam.answers.camera.keeping import keep_flicker, keep_seen, keep_white
from even_beam.bench.records import Step, Terms
from even_beam.camera.errors import CameraError
from even_beam.camera.waveform import Waveform

T = np.arange(8000) / 4000.0
WAVE = Waveform(1.0 + 0.4 * np.sin(2.0 * np.pi * 100.0 * T), 4000.0, name="w")


def planned(desk, *quantities: tuple[str, ...]) -> None:
    terms = Terms(cct_k=5600.0, level_pct=50.0, distance_m=2.0)
    for place, own in enumerate(quantities):
        desk.logbook.save(Step(f"s{place}", desk.session.id, float(place), ("lamp",), terms, own))


def opened(desk):
    """The desk again, with the steps of the logbook."""
    return type(desk)(desk.logbook, desk.session, desk.now)


def test_a_step_that_asks_for_it_is_done_by_it(desk):
    planned(desk, ("flicker_hz",), ("illuminance",))
    desk = opened(desk)
    taken = keep_flicker(desk, flickering(WAVE))
    assert taken.measured.reading.step_id == "s0"
    assert taken.measured.value("percent_flicker") == pytest.approx(40.0, abs=0.1)
    beside = keep_flicker(desk, flickering(WAVE))
    assert beside.measured.reading.step_id is None
    assert desk.step is not None and desk.step.step.id == "s1"


def test_a_lamp_that_is_named_has_its_reading_beside_the_run(desk):
    planned(desk, ("flicker_hz",))
    desk = opened(desk)
    of = lamp_at_terms(desk, "Sorrel@cct=3200;level=25")
    taken = keep_flicker(desk, flickering(WAVE), of)
    assert taken.measured.reading.step_id is None
    assert (taken.measured.source_id, taken.measured.terms.cct_k) == ("other", 3200.0)
    same = keep_flicker(desk, flickering(WAVE), (desk.next_sources, desk.next_terms))
    assert same.measured.reading.step_id == "s0"


@pytest.mark.parametrize(
    "terms",
    [
        Terms(cct_k=5600.0, level_pct=30.0, distance_m=2.0),
        Terms(mode="fixed", distance_m=3.048, zoom="spot", configuration=("reflector", "full CTO")),
        Terms(cct_k=3200.0, tint="+2", angle_deg=15.0),
        Terms(),
    ],
)
def test_what_is_offered_is_understood(desk, terms):
    sources, found = lamp_at_terms(desk, said_of("Tansy", terms))
    assert sources == ("lamp",)
    assert found.distance_m == (pytest.approx(terms.distance_m, abs=0.01) if terms.distance_m else None)
    assert (found.mode, found.cct_k, found.zoom, found.configuration, found.tint, found.angle_deg) == (
        terms.mode, terms.cct_k, terms.zoom, terms.configuration, terms.tint, terms.angle_deg,
    )  # fmt: skip


def test_a_lamp_that_there_is_not_is_said(desk):
    with pytest.raises(EnterError, match="there is no lamp"):
        lamp_at_terms(desk, "Nobody@cct=5600")
    assert lamp_at_terms(desk, "@level=50")[0] == ()


def test_nothing_is_said_of_no_lamp(desk):
    desk.free_source = None
    for keep, text in ((keep_seen, "24 fps, 1/48: none seen"), (keep_white, "5400 K")):
        with pytest.raises(CameraError, match="no lamp is at work"):
            keep(desk, text)


def test_a_waveform_without_any_figure_is_not_kept(desk):
    lost = Waveform(np.zeros(4000), 4000.0, steady_part=False)
    with pytest.raises(CameraError, match="nothing to keep"):
        keep_flicker(desk, flickering(lost))
    assert not desk.measured


@pytest.mark.parametrize("text", ["none seen", "24 fps, 1/48:", ": none seen", "by eye: none seen"])
def test_what_was_seen_needs_how_and_what(desk, text):
    with pytest.raises(CameraError, match="lacks a part"):
        keep_seen(desk, text)
    assert not desk.observations()
