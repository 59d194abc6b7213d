"""What a camera saw, kept with the lamp: as a reading of the session at work, or as an observation by eye."""

import re
from pathlib import Path

import numpy as np

from even_beam.answers.camera.chart_page import Shot
from even_beam.answers.camera.fading import Fading
from even_beam.answers.camera.flickering import Flickering
from even_beam.answers.camera.surface_page import SurfacePage
from even_beam.bench.observations import FLICKER, Observation
from even_beam.bench.records import Origin, Terms, Value
from even_beam.bench.seen import note_of
from even_beam.bench.traces import Trace
from even_beam.camera.chart_comparison import ChartDifference
from even_beam.camera.errors import CameraError
from even_beam.desk.session.desk import SessionDesk, Taken
from even_beam.desk.session.photos import picture_of
from even_beam.words.quantities import QUANTITIES

LampAtTerms = tuple[tuple[str, ...], Terms]
"""The lamps by their ids and the terms at which they were seen; where none are named those next on the Bench."""

MOST_SAMPLES = 100_000
"""So many samples of a waveform are kept with a reading: a second at 100 kHz."""

WHITE_BY_CAMERA = "white by the camera"


def keep_chart(
    desk: SessionDesk, one: ChartDifference, shot: Shot, benchmark: Shot, of: LampAtTerms | None = None
) -> Taken:
    """The differences of a photograph with its lamp, and a small one of it and of the benchmark."""
    skin = one.of_skin()
    figures = {"chart_as_shot": one.mean_as_shot, "chart_balanced": one.mean_balanced}
    if skin is not None:
        figures["chart_skin"] = skin[1]
    values = [_value(name, figure, f"{figure:.2f} from {benchmark.name}") for name, figure in figures.items()]
    taken = desk.take_figures(values, note_of(shot.name, benchmark.name), of=of)
    for one_of in (shot, benchmark):
        desk.add_picture(picture_of(one_of.name, one_of.preview), taken.measured.reading.id)
    return taken


def keep_flicker(desk: SessionDesk, found: Flickering, of: LampAtTerms | None = None) -> Taken:
    """The figures of a waveform with its lamp, and its first samples. Raises `CameraError` for one without any."""
    flicker = found.flicker
    figures = {
        "flicker_hz": found.hz,
        "percent_flicker": flicker.percent,
        "flicker_index": flicker.index,
        "svm": flicker.svm,
        "pst_lm": flicker.pst_lm,
    }
    values = [_value(name, figure) for name, figure in figures.items() if figure is not None]
    if not values:
        raise CameraError(f"{found.name}: no figure of it is known, so there is nothing to keep")
    few = found.waveform.light[:MOST_SAMPLES]
    trace = Trace("light", np.arange(few.size) / found.waveform.rate_hz, few)
    return desk.take_figures(values, note_of(found.name), [trace], of)


def keep_fade(desk: SessionDesk, one: Fading, of: LampAtTerms | None = None) -> Taken:
    """A fade with its lamp."""
    asked = f", asked {one.asked_s:g} s" if one.asked_s is not None else ""
    value = _value("fade_s", one.fade.real_s, f"{one.fade.real_s:.2f} s {'up' if one.fade.rising else 'down'}{asked}")
    few = max(1, one.level.size // MOST_SAMPLES + 1)
    trace = Trace("light", one.seconds[::few] - one.seconds[0], one.level[::few])
    return desk.take_figures([value], note_of(one.name), [trace], of)


def keep_seen(desk: SessionDesk, text: str) -> Observation:
    """What was seen on a camera, as `24 fps, 1/48: none seen`. Raises `CameraError`."""
    how, _, finding = (part.strip() for part in text.partition(":"))
    if not finding or not re.search(r"\d", how):
        raise CameraError(
            f"“{text.strip()}” lacks a part; write frame rate and shutter, then what was seen: 24 fps, 1/48: none seen"
        )
    return _observed(desk, FLICKER, finding, how)


def keep_white(desk: SessionDesk, text: str) -> Observation:
    """The white that a camera found by itself, as `5400 K, tint +3`: that camera's, never a meter's. Raises
    `CameraError`."""
    if not re.search(r"\d{4,5}\s*k?\b", text.lower()):
        raise CameraError(f"“{text.strip()}” is no white; write what the camera shows: 5400 K, tint +3")
    return _observed(desk, WHITE_BY_CAMERA, text.strip(), "its own estimate")


def keep_surface(desk: SessionDesk, page: SurfacePage, path: Path, of: LampAtTerms) -> Observation:
    """What a photograph shows of a wall or an edge, as an observation with the photograph. Raises `CameraError`."""
    sources, terms = of
    if not sources:
        raise CameraError("no lamp is at work that this could be said of: L on the Bench names one, or K here")
    subject, said = ("shadow edge", page.of_edge) if page.of_edge else ("evenness", page.of_wall)
    return desk.observe(subject, "", " ".join(said), sources, terms, [path])


def _observed(desk: SessionDesk, subject: str, finding: str, note: str) -> Observation:
    if not desk.next_sources:
        raise CameraError("no lamp is at work that this could be said of: L on the Bench names one, or K here")
    return desk.observe(subject, finding, note, desk.next_sources, desk.next_terms)


def _value(quantity: str, figure: float, text: str = "") -> Value:
    return Value(quantity, figure, Origin.DEVICE, text=text, unit=QUANTITIES[quantity].unit)
