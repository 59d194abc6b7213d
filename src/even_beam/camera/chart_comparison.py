"""A chart under a lamp against the same chart under a benchmark: as shot, balanced on grey, and the level."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.camera.chart import GREYS, ColourChart
from even_beam.camera.chart_finder import find_corners
from even_beam.camera.errors import CameraError
from even_beam.camera.evenness import Evenness, corrected, evenness
from even_beam.camera.photo import Capture, Photograph, lab_of_linear, luminance
from even_beam.camera.sampling import Corners, Sampled, sample
from even_beam.light import FloatArray
from even_beam.light.colour_difference import ciede2000

SAME_STOPS = 0.02
"""Settings that differ by no more let in the same light: shutters and stops are engraved in rounded figures."""


@dataclass(frozen=True, eq=False, slots=True)
class ChartReading:
    """A chart as a photograph shows it, its patches as if all had the light of the centre, where known."""

    name: str
    chart: ColourChart
    corners: tuple[tuple[float, float], ...]
    found: bool
    sampled: Sampled
    light: Evenness | None
    capture: Capture
    understood: str

    @property
    def greys(self) -> list[int]:
        """The middle greys, or where one of them is left out the nearest to them that are not. Raises `CameraError` for
        fewer than two."""
        good = [i for i in self.chart.greys if not self.sampled.skipped[i]]
        middle = self.chart.greys.index(self.chart.middle_greys[GREYS // 2])
        near = sorted(good, key=lambda i: abs(self.chart.greys.index(i) - middle))[:GREYS]
        if len(near) < 2:
            raise CameraError(f"{self.name}: fewer than two greys can be read; exposure and balance rest on them")
        return sorted(near)


def read_chart(photo: Photograph, chart: ColourChart, corners: Corners | None = None) -> ChartReading:
    """The patches of a chart, found where no corners are given. Raises `CameraError`."""
    placed = tuple((float(x), float(y)) for x, y in corners) if corners is not None else find_corners(photo, chart)
    plain = sample(photo, chart, placed)
    light = evenness(photo, chart, placed, plain)
    return ChartReading(
        name=photo.name,
        chart=chart,
        corners=placed,
        found=corners is None,
        sampled=corrected(plain, chart, light),
        light=light,
        capture=photo.capture,
        understood=photo.understood,
    )


@dataclass(frozen=True, eq=False, slots=True)
class ChartDifference:
    """One photograph against a benchmark, k patches of which those that are left out in either have NaN.

    `as_shot` and `balanced` are CIEDE2000, shape (k,). Both photographs are brought to the exposure at which the middle
    greys have their published luminance: as shot by one factor for all channels, balanced by one a channel. `colours`
    and `benchmark` are the linear sRGB after that, shape (2, k, 3), as shot first. `level_stops` is the light over the
    benchmark's; None where it cannot be told. `scatter` is the uncertainty of the two means (one standard deviation).
    """

    reading: ChartReading
    as_shot: FloatArray
    balanced: FloatArray
    colours: FloatArray
    benchmark: FloatArray
    level_stops: float | None
    scatter: tuple[float | None, float | None]
    warnings: tuple[str, ...]

    @property
    def mean_as_shot(self) -> float:
        """The mean over patches that count."""
        return float(np.nanmean(self.as_shot))

    @property
    def mean_balanced(self) -> float:
        """The mean over patches that count."""
        return float(np.nanmean(self.balanced))

    def of_skin(self) -> tuple[float, float] | None:
        """The means of the skins alone, as shot and balanced; None where no skin counts."""
        own = [i for i, p in enumerate(self.reading.chart.patches) if p.skin and np.isfinite(self.as_shot[i])]
        return (float(self.as_shot[own].mean()), float(self.balanced[own].mean())) if own else None

    @property
    def worst(self) -> tuple[str, float] | None:
        """The patch that stays furthest off once greys agree."""
        if not np.isfinite(self.balanced).any():
            return None
        place = int(np.nanargmax(self.balanced))
        return self.reading.chart.patches[place].name, float(self.balanced[place])

    @property
    def cast(self) -> FloatArray:
        """a*, b* of the middle greys as shot, less the benchmark's, shape (2,): towards red and towards yellow."""
        greys = [i for i in self.reading.greys if np.isfinite(self.as_shot[i])] or self.reading.greys
        lamp, known = (lab_of_linear(c[0, greys])[:, 1:].mean(axis=0) for c in (self.colours, self.benchmark))
        off: FloatArray = lamp - known
        return off


def difference(reading: ChartReading, benchmark: ChartReading, repeats: Sequence[ChartReading] = ()) -> ChartDifference:
    """A photograph against the benchmark; `repeats` are further frames of the same lamp, which say how much a frame
    scatters. Raises `CameraError`."""
    if reading.chart.name != benchmark.chart.name:
        raise CameraError(f"{reading.name} and {benchmark.name} are of different charts")
    lamp, known = _exposed(reading), _exposed(benchmark)
    off = _off(lamp, known, reading, benchmark)
    level, said = _level(reading, benchmark)
    return ChartDifference(
        reading=reading,
        as_shot=off[0],
        balanced=off[1],
        colours=lamp,
        benchmark=known,
        level_stops=level,
        scatter=_scatter([reading, *repeats], benchmark, known),
        warnings=(
            *said,
            *_left_out(reading),
            *_left_out(benchmark, " in the benchmark"),
            *_uneven(reading),
        ),
    )


def _exposed(reading: ChartReading) -> FloatArray:
    """Linear sRGB as shot and balanced, the middle greys at their published luminance, shape (2, k, 3)."""
    greys = reading.greys
    wanted = float(luminance(reading.chart.linear[greys]).mean())
    linear = reading.sampled.linear
    own = linear[greys].mean(axis=0)
    return np.stack([linear * (wanted / float(luminance(own))), linear * (wanted / own)])


def _off(lamp: FloatArray, known: FloatArray, reading: ChartReading, benchmark: ChartReading) -> FloatArray:
    good = reading.sampled.good & benchmark.sampled.good
    off: FloatArray = np.full(lamp.shape[:2], np.nan)
    off[:, good] = ciede2000(lab_of_linear(lamp[:, good]), lab_of_linear(known[:, good]))
    return off


def _scatter(
    frames: Sequence[ChartReading], benchmark: ChartReading, known: FloatArray
) -> tuple[float | None, float | None]:
    if len(frames) < 2:
        return None, None
    means = np.array([np.nanmean(_off(_exposed(one), known, one, benchmark), axis=1) for one in frames])
    shot, balanced = means.std(axis=0, ddof=1)
    return float(shot), float(balanced)


def _level(reading: ChartReading, benchmark: ChartReading) -> tuple[float | None, tuple[str, ...]]:
    """The light of the lamp over the benchmark's, and what is said of it."""
    own, other = reading.capture, benchmark.capture
    said = []
    if own.auto_balance or other.auto_balance:
        said.append("white balance was automatic: as shot says nothing of the lamp's white")
    greys = [i for i in reading.greys if i in benchmark.greys]
    if not greys:
        return None, (*said, "no grey counts in both photographs: level is not compared")
    seen = float(
        np.log2(luminance(reading.sampled.linear[greys]).mean() / luminance(benchmark.sampled.linear[greys]).mean())
    )
    if own.stops is None or other.stops is None:
        if own.auto_exposure or other.auto_exposure:
            return None, (*said, "exposure was automatic and the files do not say it: level is not compared")
        return seen, (*said, "the files do not say their exposure: the level holds only if both were shot alike")
    apart = own.stops - other.stops
    if own.auto_exposure or other.auto_exposure:
        if abs(apart) > SAME_STOPS:
            return None, (*said, "exposure was automatic and differs between the photographs: level is not compared")
        said.append("exposure was automatic: lock it, so that the next frame is comparable too")
    elif abs(apart) > SAME_STOPS:
        said.append(
            f"exposed {abs(apart):.2f} stop {'more' if apart > 0.0 else 'less'} than the benchmark: reckoned with"
        )
    return seen - apart, tuple(said)


def _left_out(reading: ChartReading, of: str = "") -> tuple[str, ...]:
    by_why: dict[str, list[str]] = {}
    for patch, why in zip(reading.chart.patches, reading.sampled.skipped, strict=True):
        if why:
            by_why.setdefault(why, []).append(patch.name)
    return tuple(f"left out{of}, {why}: {', '.join(names)}" for why, names in by_why.items())


def _uneven(reading: ChartReading) -> tuple[str, ...]:
    light = reading.light
    if light is None:
        return ("how evenly the chart was lit cannot be told: neither its frame nor its greys say it",)
    if not light.from_frame:
        return ("how evenly the chart was lit is told by its greys alone, in one direction, and is not corrected",)
    return ()
