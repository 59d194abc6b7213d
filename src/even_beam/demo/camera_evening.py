"""An evening with a camera: a chart under a flash and under three lamps, pulses in a photodiode, a fade in steps."""

from collections.abc import Callable, Mapping
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np

from even_beam.answers.camera import keeping
from even_beam.answers.camera.chart_page import Shot, read_shot
from even_beam.answers.camera.fading import fade_file
from even_beam.answers.camera.flickering import flickering
from even_beam.bench.records import Terms
from even_beam.camera.chart_comparison import difference
from even_beam.demo.kit import LAMPS as DEMO_LAMPS
from even_beam.desk.session.desk import SessionDesk
from even_beam.instruments import simulated_flicker
from even_beam.instruments.simulated_camera import Scene, photograph, white_signal, write_tiff
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.light import FloatArray, daylight

SCENE = Scene(600, 400, ((96.0, 88.0), (486.0, 104.0), (474.0, 338.0), (108.0, 330.0)), exposure=0.72)
AT = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
LEVELS = {"Tansy": 0.9, "Sorrel": 0.8, "Comfrey": 1.05}
"""How bright each lamp was set beside the flash."""


def camera_evening(desk: SessionDesk, lamps: Mapping[str, str], pass_seconds: Callable[[float], None]) -> None:
    """Keep what the camera saw; `lamps` are ids by nickname."""
    flash = daylight(5600.0)
    with TemporaryDirectory() as folder:
        benchmark = _shot(Path(folder) / "flash.tif", flash, flash, 71)
        for seed, (name, level) in enumerate(LEVELS.items(), start=72):
            light = _light_of(name)
            light = light * (level * float(white_signal(flash)[1] / white_signal(light)[1]))
            shot = _shot(Path(folder) / f"{name.lower()}.tif", light, flash, seed)
            pass_seconds(70.0)
            _next(desk, lamps[name], AT)
            if shot.reading is not None and benchmark.reading is not None:
                keeping.keep_chart(desk, difference(shot.reading, benchmark.reading), shot, benchmark)
        pass_seconds(180.0)
        _next(desk, lamps["Sorrel"], Terms(cct_k=5600.0, level_pct=30.0, distance_m=2.0))
        wave = simulated_flicker.waveform(simulated_flicker.DRIVERS["bicolour panel"], 0.3, 1.2, 40_000.0, 75)
        keeping.keep_flicker(desk, flickering(wave))
        pass_seconds(120.0)
        _next(desk, lamps["Comfrey"], Terms(cct_k=5600.0, distance_m=2.0))
        table = Path(folder) / "comfrey down, 5 s.csv"
        seconds, light = simulated_flicker.fade(5.0, 200.0, levels=36, exponent=2.0, floor=0.012, lag_s=0.3, seed=76)
        np.savetxt(table, np.stack([seconds, light], axis=1), "%.5g", ",", header="time s,light", comments="")
        keeping.keep_fade(desk, fade_file(table, 5.0))
        pass_seconds(60.0)
        _next(desk, lamps["Tansy"], Terms(cct_k=5600.0, level_pct=5.0, distance_m=2.0))
        keeping.keep_seen(desk, "24 and 120 fps, 180°: none seen")


def _light_of(name: str) -> FloatArray:
    simulated = next(lamp.simulated for lamp in DEMO_LAMPS if lamp.form.nickname == name)
    return LAMPS[simulated].irradiance(AT)


def _shot(path: Path, light: FloatArray, balance: FloatArray, seed: int) -> Shot:
    write_tiff(path, photograph(light, white_signal(balance), SCENE, seed))
    return read_shot(path)


def _next(desk: SessionDesk, source_id: str, terms: Terms) -> None:
    desk.free_source, desk.free_terms, desk.free_meter = source_id, terms, None
