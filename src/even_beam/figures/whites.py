"""Pictures of whites: the miss plot, and a quantity against the white that was dialled."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.figures import axes
from even_beam.figures.chart import (
    Axis,
    Band,
    Chart,
    Line,
    Mark,
    Places,
    Points,
    Ring,
    Rule,
    Text,
    Tone,
    behind_first,
    series_of,
)
from even_beam.light.white import daylight_white
from even_beam.words import notation

RING_MIRED, RING_DUV = 10.0, 0.003


@dataclass(frozen=True, slots=True)
class Misses:
    """One lamp's readings: the white dialled, its error in mired and its Duv, with the reading behind each."""

    name: str
    dialled_k: tuple[float, ...]
    mired: tuple[float, ...]
    duv: tuple[float, ...]
    reading_ids: tuple[str, ...]


def miss_plot(lamps: Sequence[Misses], places: Places | None = None) -> Chart:
    """How far from what was dialled: mired error across, Duv up, one mark a reading; the ring is 10 mired and 0.003."""
    mired = [m for lamp in lamps for m in lamp.mired]
    duv = [d for lamp in lamps for d in lamp.duv]
    x = axes.nice(
        "mired from what was dialled", mired, least=6.0 * RING_MIRED, signed=True, around=(-RING_MIRED, RING_MIRED)
    )
    y = axes.nice("Duv", duv, least=4.0 * RING_DUV, decimals=3, signed=True, around=(-RING_DUV, RING_DUV))
    marks: list[Mark] = [
        Rule("x", 0.0, dashed=True),
        Rule("y", 0.0, dashed=True),
        Ring(0.0, 0.0, 2.0 * RING_MIRED, 2.0 * RING_DUV),
        Line([x.low, x.high], [_daylight_duv(), _daylight_duv()], tone=Tone.QUIET, label="daylight at 5600 K"),
        Text(x.high, _daylight_duv(), "daylight ", anchor="right"),
        Text(x.high, y.high, "green ", Tone.GREEN, anchor="right", above=False),
        Text(x.high, y.low, "magenta ", Tone.MAGENTA, anchor="right"),
        Text(x.low, 0.0, " cooler", above=False),
        Text(x.high, 0.0, "warmer ", anchor="right", above=False),
    ]
    numbers = series_of([lamp.name for lamp in lamps], places)
    for number, lamp in behind_first(numbers, lamps):
        hints = tuple(
            f"{lamp.name} at {notation.dialled(k)} K: {notation.number(m, 1, signed=True)} mired, Duv {notation.duv(d)}"
            for k, m, d in zip(lamp.dialled_k, lamp.mired, lamp.duv, strict=True)
        )
        marks.append(
            Points(lamp.mired, lamp.duv, number, Tone.QUIET, keys=lamp.reading_ids, hints=hints, label=lamp.name)
        )
        if number is not None:
            marks += _whites_said(lamp)
    inside = sum(abs(m / RING_MIRED) ** 2 + abs(d / RING_DUV) ** 2 <= 1.0 for m, d in zip(mired, duv, strict=True))
    return Chart(
        title="miss plot: how far from what was dialled (ring: 10 mired, 0.003)",
        x=x,
        y=y,
        marks=tuple(marks),
        summary=f"{inside} of {len(mired)} readings lie within the ring.",
        legend=tuple((i, lamp.name) for i, lamp in zip(numbers, lamps, strict=True) if i is not None),
    )


_SAID_APART = 4
"""Of more whites than that the ends alone are written at their marks."""


def _whites_said(lamp: Misses) -> list[Mark]:
    """The white of each mark; of a sweep those of its ends."""
    first = {k: place for place, k in reversed(list(enumerate(lamp.dialled_k)))}
    said = sorted(first)
    said = said if len(said) <= _SAID_APART else [said[0], said[-1]]
    return [Text(lamp.mired[first[k]], lamp.duv[first[k]], f"  {notation.dialled(k)}", above=False) for k in said]


def _daylight_duv() -> float:
    return float(daylight_white(5600.0)[1])


BAR_PT = 2.4
"""The width of a bar."""


def landing_chart(name: str, landed: Sequence[tuple[float, float, float]]) -> Chart:
    """Where one lamp's whites land: dialled and measured K and the error in mired of each, a row a white, the warmest
    on top; the band is as wide as the ring."""
    errors = [error for *_, error in landed]
    x = axes.nice("warmer, mired", errors, least=5.0 * RING_MIRED, signed=True, around=(-RING_MIRED, RING_MIRED))
    rows = sorted(landed, reverse=True)
    marks: list[Mark] = [Band(-RING_MIRED, RING_MIRED, axis="x"), Rule("x", 0.0)]
    for place, (dialled, measured, error) in enumerate(rows):
        marks += [
            Line([0.0, error], [place, place], 0, label=name, bar=BAR_PT),
            Points([error], [float(place)], 0, hints=(f"{notation.dialled(dialled)} K: {notation.white(measured)} K",)),
            Text(
                error,
                float(place),
                f" {notation.white(measured)} K ",
                Tone.PLAIN,
                anchor="left" if error >= 0.0 else "right",
                above=None,
            ),
        ]
    ticks = tuple((float(place), notation.dialled(row[0])) for place, row in enumerate(rows))
    most = max(landed, key=lambda row: abs(row[2]), default=(0.0, 0.0, 0.0))
    return Chart(
        title=f"where the white lands · grey: within {RING_MIRED:.0f} mired of the dial",
        x=x,
        y=Axis("", -0.7, len(rows) - 0.3, ticks),
        marks=tuple(marks),
        summary=f"Farthest at {notation.dialled(most[0])} K: {notation.number(most[2], 0, signed=True)} mired.",
        rows=len(rows),
    )


@dataclass(frozen=True, slots=True)
class AgainstWhite:
    """One lamp's figures against the white that was dialled, with the reading behind each."""

    name: str
    dialled_k: tuple[float, ...]
    values: tuple[float, ...]
    reading_ids: tuple[str, ...]


WHITE_TITLES = {
    "stops": "stops from its brightest white",
    "mired": "mired off (up: warmer)",
    "duv": "tint, Duv",
    "ra": "Ra",
}
_LEAST = {"stops": 1.0, "mired": 20.0, "duv": 0.008, "ra": 8.0}
_TICKS_K = (2000.0, 2700.0, 3200.0, 4400.0, 5600.0, 7500.0, 10_000.0)


def white_chart(lamps: Sequence[AgainstWhite], quantity: str, places: Places | None = None) -> Chart:
    """A quantity against the dialled white, evenly spaced in mired, from warm to cool."""
    whites = [k for lamp in lamps for k in lamp.dialled_k]
    values = [v for lamp in lamps for v in lamp.values]
    far, near = (max(whites, default=6500.0), min(whites, default=2700.0))
    x = Axis(
        "dialled white, K",
        -1e6 / (0.93 * near),
        -1e6 / (1.15 * far),
        tuple((-1e6 / k, notation.dialled(k)) for k in _TICKS_K if 0.95 * near <= k <= 1.05 * far),
    )
    around = (0.0,) if quantity in {"mired", "duv", "stops"} else ()
    y = axes.nice(
        axes.heading(quantity),
        values,
        least=_LEAST.get(quantity, 5.0),
        decimals=3 if quantity == "duv" else 0,
        signed=bool(around),
        around=around,
    )
    marks: list[Mark] = [Rule("y", 0.0)] if around else []
    numbers = series_of([lamp.name for lamp in lamps], places)
    for number, lamp in behind_first(numbers, lamps):
        across = [-1e6 / k for k in lamp.dialled_k]
        hints = tuple(
            f"{lamp.name} · {notation.dialled(k)} K · {notation.number(v, 4 if quantity == 'duv' else 2, signed=True)}"
            for k, v in zip(lamp.dialled_k, lamp.values, strict=True)
        )
        by_place: dict[float, list[float]] = {}
        for place, value in zip(across, lamp.values, strict=True):
            by_place.setdefault(place, []).append(value)
        line = sorted(by_place)
        marks += [
            Line(line, [float(np.median(by_place[p])) for p in line], number, Tone.QUIET, label=lamp.name),
            Points(across, list(lamp.values), number, Tone.QUIET, keys=lamp.reading_ids, hints=hints, label=lamp.name),
        ]
    summary = "; ".join(
        f"{lamp.name}: {notation.number(min(lamp.values), 2, signed=True)} to"
        f" {notation.number(max(lamp.values), 2, signed=True)}"
        for lamp in lamps
        if lamp.values
    )
    return Chart(
        title=WHITE_TITLES.get(quantity, quantity),
        x=x,
        y=y,
        marks=tuple(marks),
        summary=summary or "Nothing read.",
        legend=tuple((i, lamp.name) for i, lamp in zip(numbers, lamps, strict=True) if lamp.values and i is not None),
    )
