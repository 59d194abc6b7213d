"""Colour charts as data: where their patches lie, and what colours they have."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from even_beam.camera.errors import CameraError
from even_beam.camera.photo import linear_of_lab
from even_beam.light import FloatArray, daylight
from even_beam.light.adaptation import D65_WHITE, lab
from even_beam.light.rendering import adapted_to_display, subjects

PATCH_OF_PITCH = 0.87
"""The side of a patch as a share of the distance from patch to patch, where a chart has a frame between them (common
practice, no source)."""

GREYS = 3
"""So many middle greys set exposure and balance."""


@dataclass(frozen=True, slots=True)
class Patch:
    """One patch: its centre and its size as shares of the field of patches (x from the left, y from the top), its
    colour as CIELAB on D65, and whether it is a grey or a skin."""

    name: str
    x: float
    y: float
    width: float
    height: float
    lab: tuple[float, float, float]
    grey: bool = False
    skin: bool = False


@dataclass(frozen=True, slots=True)
class ColourChart:
    """A chart whose field of patches is `aspect` times as wide as it is high.

    `columns` and `rows` where the patches stand in a grid, which can be found in a photograph; 0 where they do not.
    Raises `CameraError` for fewer than three greys.
    """

    name: str
    aspect: float
    patches: tuple[Patch, ...]
    columns: int = 0
    rows: int = 0

    def __post_init__(self) -> None:
        if sum(patch.grey for patch in self.patches) < GREYS:
            raise CameraError(f"the chart “{self.name}” has fewer than {GREYS} greys: they set exposure and balance")

    @property
    def labs(self) -> FloatArray:
        """The colours, shape (k, 3)."""
        return np.array([patch.lab for patch in self.patches])

    @property
    def linear(self) -> FloatArray:
        """The colours as linear sRGB, shape (k, 3)."""
        return linear_of_lab(self.labs)

    @property
    def greys(self) -> tuple[int, ...]:
        """The places of the greys, from the darkest to the lightest."""
        return tuple(sorted((i for i, p in enumerate(self.patches) if p.grey), key=lambda i: self.patches[i].lab[0]))

    @property
    def middle_greys(self) -> tuple[int, ...]:
        """The three greys in the middle; of an even number the darker half keeps one more out of reach of clipping."""
        first = (len(self.greys) - GREYS) // 2
        return self.greys[first : first + GREYS]


def in_grid(
    name: str,
    names: Sequence[str],
    labs: FloatArray,
    columns: int,
    *,
    greys: frozenset[str],
    skins: frozenset[str] = frozenset(),
    patch_of_pitch: float = PATCH_OF_PITCH,
) -> ColourChart:
    """A chart of square patches row by row from the upper left, `labs` of shape (k, 3)."""
    rows = -(-len(names) // columns)
    across, down = columns - 1 + patch_of_pitch, rows - 1 + patch_of_pitch
    patches = tuple(
        Patch(
            own,
            (i % columns + patch_of_pitch / 2.0) / across,
            (i // columns + patch_of_pitch / 2.0) / down,
            patch_of_pitch / across,
            patch_of_pitch / down,
            (float(colour[0]), float(colour[1]), float(colour[2])),
            own in greys,
            own in skins,
        )
        for i, (own, colour) in enumerate(zip(names, labs, strict=True))
    )
    return ColourChart(name, across / down, patches, columns, rows)


def labs_of_reflectances(reflectances: FloatArray) -> FloatArray:
    """CIELAB on D65 of reflectances on the working grid under D50, seen by an eye used to it, shape (k, 401) to (k,
    3)."""
    return lab(adapted_to_display(daylight(5003.0), reflectances) / D65_WHITE)


@cache
def chart_24() -> ColourChart:
    """The chart of 24 patches, 6 by 4: the reflectances of EBU Tech 3355 under D50."""
    names, reflectances = subjects()
    own = names[:24]
    return in_grid(
        "24 patches",
        own,
        labs_of_reflectances(reflectances[:24]),
        6,
        greys=frozenset(own[18:]),
        skins=frozenset({"deep skin", "fair skin"}),
    )


WEDGE_STEPS, WEDGE_FIRST, WEDGE_DENSITY = 11, 0.9, 0.15


@cache
def grey_wedge() -> ColourChart:
    """Eleven greys in a row from the lightest on, half a stop apart (density 0.15), the first with a reflectance of
    0.9."""
    reflectance = WEDGE_FIRST * 10.0 ** (-WEDGE_DENSITY * np.arange(WEDGE_STEPS))
    labs = lab(np.repeat(reflectance[:, None], 3, axis=1))
    names = [f"step {i + 1}" for i in range(WEDGE_STEPS)]
    return in_grid("grey wedge", names, labs, WEDGE_STEPS, greys=frozenset(names))


def shipped() -> dict[str, ColourChart]:
    """The charts that come with the program, by their names."""
    return {chart.name: chart for chart in (chart_24(), grey_wedge())}
