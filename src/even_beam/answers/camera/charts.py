"""Photographs of a chart against a benchmark: what is said of them, and as plain values."""

from collections.abc import Sequence
from pathlib import Path
from typing import Any

import numpy as np

from even_beam.camera import chart as charts
from even_beam.camera.chart import ColourChart
from even_beam.camera.chart_comparison import ChartDifference, ChartReading, difference, read_chart
from even_beam.camera.photo import lab_of_linear
from even_beam.camera.sampling import Corners
from even_beam.formats.chart_file import read_chart_file
from even_beam.formats.errors import FormatError
from even_beam.formats.photo_file import read_photograph
from even_beam.words import notation

CAST_LEAST = 1.0
"""A cast of less in CIELAB is none that anybody sees (common practice, no source)."""


WORST_LEAST = 0.5
"""A patch that is off by less need not be named."""


def chart_named(name: str) -> ColourChart:
    """A chart that is shipped, by its name, or of a file. Raises `FormatError`."""
    shipped = charts.shipped()
    if not name:
        return charts.chart_24()
    if name in shipped:
        return shipped[name]
    if Path(name).suffix.lower() == ".json":
        return read_chart_file(Path(name))
    raise FormatError(f"no chart is called “{name}”; there are {', '.join(shipped)}, or a JSON file of one's own")


def corners_in(text: str) -> Corners | None:
    """Corners as `x,y;x,y;x,y;x,y`; None for an empty text. Raises `FormatError`."""
    if not text.strip():
        return None
    try:
        found = [tuple(float(part) for part in point.split(",")) for point in text.split(";")]
    except ValueError:
        found = []
    if len(found) != 4 or any(len(point) != 2 or not np.isfinite(point).all() for point in found):
        raise FormatError(f"“{text}” are no corners; write x,y;x,y;x,y;x,y in pixels, clockwise from the first patch")
    return [(point[0], point[1]) for point in found]


def read_chart_photo(path: Path, chart: ColourChart, corners: Corners | None = None) -> ChartReading:
    """A photograph of a chart, its corners as given, else found. Raises `FormatError` and `CameraError`."""
    return read_chart(read_photograph(path), chart, corners)


def against(
    readings: Sequence[ChartReading], benchmark: ChartReading, *, repeats: bool = False
) -> list[ChartDifference]:
    """Photographs against their benchmark; where they are `repeats` of one lamp, each tells what they scatter by.

    Raises `CameraError`.
    """
    return [
        difference(one, benchmark, [other for other in readings if repeats and other is not one]) for one in readings
    ]


def chart_json(one: ChartDifference) -> dict[str, Any]:
    """One photograph as plain values (docs/file-format.md)."""
    reading = one.reading
    linear = reading.sampled.linear
    labs = lab_of_linear(linear)
    return {
        "file": reading.name,
        "chart": reading.chart.name,
        "corners": [list(point) for point in reading.corners],
        "corners_found": reading.found,
        "patches": [
            {
                "name": patch.name,
                "srgb_linear": _three(linear[k]),
                "lab": _three(labs[k]),
                "delta_e_as_shot": _figure(one.as_shot[k]),
                "delta_e_balanced": _figure(one.balanced[k]),
                "skipped": reading.sampled.skipped[k] or None,
            }
            for k, patch in enumerate(reading.chart.patches)
        ],
        "mean_as_shot": _figure(one.mean_as_shot),
        "mean_balanced": _figure(one.mean_balanced),
        "skin": None if (skin := one.of_skin()) is None else {"as_shot": skin[0], "balanced": skin[1]},
        "worst": None if (worst := one.worst) is None else {"patch": worst[0], "delta_e_balanced": worst[1]},
        "level_stops": one.level_stops,
        "evenness_pct": None if reading.light is None else 100.0 * reading.light.share,
        "understood": reading.understood,
        "warnings": list(one.warnings),
    }


def _figure(value: float) -> float | None:
    return float(value) if np.isfinite(value) else None


def _three(values: Any) -> list[float] | None:
    return [float(v) for v in values] if np.isfinite(values).all() else None


def sentences_of(one: ChartDifference, benchmark: str) -> tuple[str, ...]:
    """What a photograph says, the most important first."""
    shot, balanced = one.mean_as_shot, one.mean_balanced
    count = int(np.isfinite(one.balanced).sum())
    if not count:
        return (f"{one.reading.name}: no patch counts in both photographs.",)
    spread = f" ± {one.scatter[1]:.1f}" if one.scatter[1] is not None else ""
    found = [
        f"{one.reading.name}: once greys agree, {count} patches are {balanced:.1f}{spread} from {benchmark} on the mean"
        f" (CIEDE2000); as shot {shot:.1f}."
    ]
    if (worst := one.worst) is not None and worst[1] >= WORST_LEAST:
        found.append(f"Furthest off stays {worst[0]}: {worst[1]:.1f}.")
    if (skin := one.of_skin()) is not None:
        found.append(f"Skin: {skin[1]:.1f} once greys agree, {skin[0]:.1f} as shot.")
    found.append(_cast(one))
    if one.level_stops is not None:
        found.append(_level(one.level_stops, benchmark))
    if one.reading.light is not None:
        share = 100.0 * one.reading.light.share
        done = "; corrected" if one.reading.light.from_frame else ""
        found.append(f"The darkest part of the chart had {share:.0f} % of the light of the brightest{done}.")
    return tuple(filter(None, found))


def _cast(one: ChartDifference) -> str:
    """What grey looks like as shot, in words."""
    if any("white balance was automatic" in said for said in one.warnings):
        return ""
    a, b = (float(v) for v in one.cast)
    if np.hypot(a, b) < CAST_LEAST:
        return "As shot greys agree with the benchmark's: no cast."
    words = []
    if abs(b) >= CAST_LEAST:
        words.append("yellower" if b > 0.0 else "bluer")
    if abs(a) >= CAST_LEAST:
        words.append("more magenta" if a > 0.0 else "greener")
    told = " and ".join(words) or "a little off"
    return (
        f"As shot greys are {told} (a* {notation.number(a, 1, signed=True)}, b* {notation.number(b, 1, signed=True)})."
    )


def _level(stops: float, benchmark: str) -> str:
    if abs(stops) < 0.05:
        return f"As bright as {benchmark}, within a twentieth of a stop."
    return f"{abs(stops):.2f} stop {'brighter' if stops > 0.0 else 'darker'} than {benchmark}."
