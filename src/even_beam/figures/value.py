"""Value for money: light at the stated terms, and colour, against the full price. Never a ranking by itself."""

import math
from collections.abc import Sequence

from even_beam.figures import axes
from even_beam.figures.chart import Axis, Chart, Mark, Points, Rule, Text, Tone
from even_beam.known.value import Priced, diminishing
from even_beam.words import notation


def value_chart(lamps: Sequence[Priced], currency: str) -> Chart:
    """Candela against the full price, both in doublings; where more money begins to buy little is marked."""
    known = [lamp for lamp in lamps if lamp.candela]
    title = f"candela against full price, {currency}"
    if not known:
        return Chart(title, Axis("", 0.0, 1.0), Axis("", 0.0, 1.0), (), "No lamp has both a price and a level.")
    x = _doublings(f"full price, {currency}", [lamp.price for lamp in known])
    y = _doublings("cd", [lamp.candela or 1.0 for lamp in known])
    marks = _lamps(
        known,
        [math.log2(lamp.candela or 1.0) for lamp in known],
        lambda p: (
            f"{notation.number(float(f'{p.candela or 0.0:.3g}'))} cd, {notation.number(p.candela_per_price, 1)} cd per"
            f" {currency}"
        ),
    )
    knee = diminishing(known)
    words = "; ".join(f"{p.name} {notation.number(p.candela_per_price, 1)} cd per {currency}" for p in known)
    if knee is not None:
        marks.append(Rule("x", math.log2(knee.price), dashed=True))
        title += f"; beyond {knee.name} more money buys little"
        words += f". Beyond {knee.name} more money buys little light"
    return Chart(
        title=title,
        x=x,
        y=y,
        marks=tuple(marks),
        summary=f"{words}.",
        legend=tuple((p.series, p.name) for p in known if p.series is not None),
    )


def quality_chart(lamps: Sequence[Priced], currency: str) -> Chart:
    """Ra against the full price, to stand beside the light."""
    known = [lamp for lamp in lamps if lamp.ra is not None]
    title = f"Ra against full price, {currency}"
    if not known:
        return Chart(title, Axis("", 0.0, 1.0), Axis("", 0.0, 1.0), (), "No lamp has both a price and a score.")
    x = _doublings(f"full price, {currency}", [lamp.price for lamp in known])
    y = axes.nice("Ra", [lamp.ra or 0.0 for lamp in known], least=10.0)
    marks = _lamps(known, [lamp.ra or 0.0 for lamp in known], lambda p: f"Ra {notation.score(p.ra)}")
    return Chart(
        title=title,
        x=x,
        y=y,
        marks=tuple(marks),
        summary="; ".join(f"{p.name} Ra {notation.score(p.ra)}" for p in known) + ".",
        legend=tuple((p.series, p.name) for p in known if p.series is not None),
    )


def _lamps(known: Sequence[Priced], heights: Sequence[float], words) -> list[Mark]:  # type: ignore[no-untyped-def]
    marks: list[Mark] = []
    for lamp, height in zip(known, heights, strict=True):
        place = math.log2(lamp.price)
        hint = f"{lamp.name}: {notation.number(lamp.price)} for {lamp.includes}; {words(lamp)}"
        marks.append(
            Points(
                [place], [height], lamp.series, Tone.QUIET, keys=lamp.reading_ids[:1], hints=(hint,), label=lamp.name
            )
        )
        marks.append(Text(place, height, f" {lamp.name}", Tone.PLAIN))
    return marks


def _doublings(label: str, values: Sequence[float]) -> Axis:
    """A log2 axis with ticks at 1, 2 and 5 and their tens."""
    low, high = math.log2(min(values)) - 0.5, math.log2(max(values)) + 0.9
    round_ones = [f * 10.0**power for power in range(-2, 8) for f in (1.0, 2.0, 5.0)]
    ticks = tuple((math.log2(t), notation.plain(t, 2)) for t in round_ones if low <= math.log2(t) <= high)
    return Axis(label, low, high, ticks)
