"""Beam sections of several lamps: each as a share of its own peak, with half and tenth of it marked."""

from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.figures.chart import Axis, Chart, Line, Mark, Places, Points, Rule, Text, Tone, behind_first, series_of
from even_beam.words import notation


@dataclass(frozen=True, slots=True)
class Section:
    """One lamp across its axis: angles, shares of the peak (0-1), and the reading behind each."""

    name: str
    angle_deg: tuple[float, ...]
    share: tuple[float, ...]
    reading_ids: tuple[str, ...]


def section_chart(sections: Sequence[Section], places: Places | None = None) -> Chart:
    """Share of the peak against the angle off the axis."""
    reach = max((abs(a) for s in sections for a in s.angle_deg), default=30.0)
    low = min((a for s in sections for a in s.angle_deg), default=0.0)
    step = 5 if reach <= 40 else 15
    ticks = tuple((float(a), f"{a}°") for a in range(int(low // step) * step, int(reach) + 1, step))
    y = Axis("share of the peak, %", 0.0, 112.0, tuple((float(p), str(p)) for p in (0, 10, 25, 50, 75, 100)))
    x = Axis("off the axis", low - 1.0, reach + 1.0, ticks)
    marks: list[Mark] = [
        Rule("y", 50.0, dashed=True),
        Rule("y", 10.0, dashed=True),
        Text(x.high, 50.0, "half ", anchor="right"),
        Text(x.high, 10.0, "tenth ", anchor="right"),
    ]
    numbers = series_of([section.name for section in sections], places)
    for number, section in behind_first(numbers, sections):
        shares = [100.0 * s for s in section.share]
        hints = tuple(
            f"{section.name}, {notation.plain(a)}°: {notation.percent(s)} %"
            for a, s in zip(section.angle_deg, shares, strict=True)
        )
        marks += [
            Line(section.angle_deg, shares, number, Tone.QUIET, label=section.name),
            Points(
                section.angle_deg, shares, number, Tone.QUIET, keys=section.reading_ids, hints=hints, label=section.name
            ),
        ]
    words = f"{notation.count(len(sections), 'section')}." if sections else "No lamp was read across its axis."
    return Chart(
        title="across the beam, share of the peak",
        x=x,
        y=y,
        marks=tuple(marks),
        summary=words,
        legend=tuple((i, s.name) for i, s in zip(numbers, sections, strict=True) if i is not None),
    )
