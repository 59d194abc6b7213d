"""How white: the error over the range by bands, what to dial, which curve it follows, where output peaks."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean
from typing import NamedTuple

import numpy as np

from even_beam.bench import estimate, fields, terms
from even_beam.bench.dial_steps import dial_of
from even_beam.bench.estimate import Estimate, Part, picked
from even_beam.bench.judging.gels import named_shift
from even_beam.bench.measured import Measured
from even_beam.known.evidence import Evidence, ids, most_usual, numbers, usual
from even_beam.known.findings.finding import Finding
from even_beam.known.in_words import white_side
from even_beam.light.colorimetry import uv_at
from even_beam.light.white import daylight_distance, share_between_curves
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, Use, score_names

BAND_EDGES_K = (3200.0, 4500.0, 6000.0)
"""Bands of dialled whites; each holds its lower end. Editable by whoever calls."""

USUAL_WHITES_K = (3200.0, 4300.0, 5600.0)
_ASKED_FIRST = {5600.0: 2, 3200.0: 1}
"""Where only some can be told, those of these whites come first."""

COUNTED_KELVIN = 200.0
"""Whites farther off than this are counted in words (common practice, no source)."""

GAP_MIRED = 40.0
"""Neighbouring whites farther apart than this leave a gap, and no dial is guessed farther beyond what was read."""

LEAST_SLOPE = 0.2
"""A white that moves by less than this in mired for a mired of its dial is no answer to what to dial."""


@dataclass(frozen=True, eq=False, slots=True)
class WhitePoint:
    """One dialled white: what was measured, its error with all that it is uncertain by, and the readings."""

    dialled_k: float
    measured_k: float
    error: Estimate
    duv: float | None
    repeats: tuple[Measured, ...]

    @property
    def mired(self) -> float:
        """The error in mired, positive warmer than dialled."""
        return self.error.value or 0.0

    @property
    def kelvin(self) -> float:
        """The error in kelvin."""
        return self.measured_k - self.dialled_k

    @property
    def readings(self) -> tuple[str, ...]:
        """The readings it came from."""
        return ids(self.repeats)


def white_points(evidence: Evidence, readings: Sequence[Measured]) -> tuple[WhitePoint, ...]:
    """Each dialled white once, the lowest first; means are taken in mired, in which the eye and the errors are even.

    The readings must be at the same terms but for their white.
    """
    dialled = [m for m in readings if m.terms.cct_k is not None and m.value("cct")]
    found = []
    for white, repeats in numbers(terms.by_value(dialled, "cct")):
        measured = evidence.white_of(repeats)
        tints = [tint for m in repeats if (tint := m.value("duv")) is not None]
        found.append(
            WhitePoint(
                white,
                1e6 / (measured.value or 1.0),
                measured.adding(shift=-1e6 / white),
                fmean(tints) if tints else None,
                tuple(repeats),
            )
        )
    return tuple(found)


class Whites(NamedTuple):
    """Readings that differ in their white alone, and each of these whites once."""

    group: list[Measured]
    points: tuple[WhitePoint, ...]


def whites_of(evidence: Evidence) -> list[Whites]:
    """Readings with a dialled white and a colour temperature that differ in their white alone, at the highest level
    that has them."""
    return evidence.once("whites", lambda: _whites(evidence))


def _whites(evidence: Evidence) -> list[Whites]:
    usable = evidence.full_level_of(lambda m: m.terms.cct_k is not None and bool(m.value("cct")))
    return [Whites(group, white_points(evidence, group)) for group in terms.grouped(usable, "cct").values()]


def white_errors(evidence: Evidence, edges_k: Sequence[float] = BAND_EDGES_K) -> tuple[Finding, ...]:
    """Signed mean and mean absolute error of all whites and of each band, with worst case and changes of sign.

    `edges_k` lie between the bands; a white at an edge belongs to the band above it. Tint and scores by band beside.
    """
    bands = list(itertools.pairwise((0.0, *edges_k, np.inf)))
    found: list[Finding] = []
    for group, points in whites_of(evidence):
        said = evidence.at(group[0], "cct")
        if len(points) < 2:
            found += [_one_white(evidence, point) for point in points]
            continue
        found.append(_errors("white error", points, said, _gaps(points), 54 + most_usual(group)))
        for low, high in bands:
            inside = [p for p in points if low <= p.dialled_k < high]
            if len(inside) > 1:
                span = (
                    f"{notation.dialled(max(low, inside[0].dialled_k))} to {notation.dialled(inside[-1].dialled_k)} K"
                )
                found.append(_errors(f"white error {span}", inside, said, (), 24))
                found += _of_band(inside, span, said)
    return tuple(found)


def _errors(name: str, points: Sequence[WhitePoint], said: str, gaps: tuple[str, ...], weight: int) -> Finding:
    error = [p.mired for p in points]
    worst = max(points, key=lambda p: abs(p.mired))
    mean = estimate.mean_of([p.error for p in points])
    absolute = fmean(map(abs, error))
    turns = sign_changes(points)
    span = f"From {notation.dialled(points[0].dialled_k)} to {notation.dialled(points[-1].dialled_k)} K"
    beside: list[str] = []
    if all(abs(p.mired) <= p.error.half_width for p in points):
        half = max(p.error.half_width for p in points)
        told = f"as far as can be told (±{half:.0f} mired)"
        words = f"{span} it gives the white that is dialled, {told}: {len(points)} whites"
    else:
        gives = f"{notation.dialled(worst.dialled_k)} K gives {notation.white(worst.measured_k)} K"
        words = (
            f"{span} it is up to {abs(worst.mired):.0f} mired {white_side(worst.mired)} ({gives});"
            f" {notation.number(mean.value, 0, signed=True)} on the mean of {len(points)}"
        )
        off = beyond(points, COUNTED_KELVIN)
        beside += (
            [f"{off} of {len(points)} whites {'is' if off == 1 else 'are'} beyond {COUNTED_KELVIN:.0f} K."]
            if off
            else []
        )
        turned = f"It changes sign {_times(turns)}, which a mean hides: {absolute:.0f} mired either way."
        beside += [turned] if turns else []
    series = {
        "dialled_k": tuple(p.dialled_k for p in points),
        "measured_k": tuple(p.measured_k for p in points),
        "mired": tuple(p.mired for p in points),
        "kelvin": tuple(p.kelvin for p in points),
        "duv": tuple(p.duv for p in points),
        "mired_half_width": tuple(p.error.half_width for p in points),
    }
    return Finding(
        question="white",
        name=name,
        value=mean.value,
        unit="mired",
        words=words,
        aside=" ".join(beside),
        terms=said,
        readings=_ids(points),
        axis=("cct",),
        spread=max(error) - min(error),
        uncertainty=mean.half_width,
        not_covered=gaps,
        series=series,
        rests_on=mean,
        weight=weight,
    )


def _times(count: int) -> str:
    return "once" if count == 1 else f"{count} times"


def _ids(points: Sequence[WhitePoint]) -> tuple[str, ...]:
    return tuple(itertools.chain.from_iterable(p.readings for p in points))


_BY_BAND = ("duv", *score_names(Use.FOUND))


def _of_band(points: Sequence[WhitePoint], span: str, said: str) -> list[Finding]:
    """Tint and every score over the whites of a band: mean, and the worst with where it was read."""
    found = []
    for name in _BY_BAND:
        values = [[v for m in p.repeats if (v := m.value(name)) is not None] for p in points]
        means = {p.dialled_k: fmean(own) for p, own in zip(points, values, strict=True) if own}
        if len(means) < 2:
            continue
        worst = max(means, key=lambda w: abs(means[w])) if name == "duv" else min(means, key=lambda w: means[w])
        write = notation.duv if name == "duv" else notation.score
        label = "Duv" if name == "duv" else QUANTITIES[name].label
        missing = len(points) - len(means)
        open_ = (f"{missing} of {len(points)} whites: no {label} there",) if missing else ()
        mean = fmean(list(means.values()))
        found.append(
            Finding(
                question="white" if name == "duv" else "colour",
                name=f"{label} {span}",
                value=mean,
                unit="",
                words=(
                    f"{label} {write(mean)} on the mean of {len(means)} whites from {span}, worst {write(means[worst])}"
                    f" at {notation.dialled(worst)} K"
                ),
                terms=said,
                readings=ids([m for p in points for m in p.repeats if m.value(name) is not None]),
                axis=("cct",),
                spread=max(means.values()) - min(means.values()),
                not_covered=open_,
            )
        )
    return found


def _one_white(evidence: Evidence, point: WhitePoint) -> Finding:
    said = evidence.at(point.repeats[0])
    half = point.error.half_width
    gives = f"Dialled {notation.dialled(point.dialled_k)} K, it gives {notation.white(point.measured_k)} K"
    if abs(point.mired) <= half:
        sentence = f"{gives}: right, as far as can be told (±{half:.0f} mired)"
    else:
        sentence = f"{gives}: {abs(point.mired):.0f} mired {white_side(point.mired)} (±{half:.0f})"
    return Finding(
        question="white",
        name="white error",
        value=point.mired,
        unit="mired",
        words=sentence,
        terms=said,
        readings=point.readings,
        uncertainty=point.error.half_width,
        not_covered=("any other white",),
        rests_on=point.error,
        weight=52 + usual(point.repeats[0]),
    )


def sign_changes(points: Sequence[WhitePoint]) -> int:
    """How often the error changes its sign along the range; one that the meter cannot tell from zero has none."""
    signs = [np.sign(p.mired) for p in points if abs(p.mired) > p.error.half_width]
    return sum(bool(a != b) for a, b in itertools.pairwise(signs))


def _gaps(points: Sequence[WhitePoint]) -> tuple[str, ...]:
    """Where the range was not measured."""
    return tuple(
        f"between {notation.dialled(a.dialled_k)} and {notation.dialled(b.dialled_k)} K"
        for a, b in itertools.pairwise(points)
        if 1e6 / a.dialled_k - 1e6 / b.dialled_k > GAP_MIRED
    )


def beyond(points: Sequence[WhitePoint], kelvin: float) -> int:
    """How many whites lie farther from what was dialled than a limit in kelvin."""
    return sum(abs(p.kelvin) > kelvin for p in points)


def fixed_whites(evidence: Evidence) -> tuple[Finding, ...]:
    """What a lamp without a dial for its white gives, each set of terms by itself."""
    found = []
    own = evidence.full_level_of(lambda m: m.terms.cct_k is None and m.terms.hue_deg is None and bool(m.value("cct")))
    for repeats in terms.grouped(own).values():
        white, said = evidence.white_of(repeats), evidence.at(repeats[0])
        kelvin = 1e6 / (white.value or 1.0)
        half = white.half_width * kelvin**2 / 1e6
        duv = [d for m in repeats if (d := m.value("duv")) is not None]
        tint = f", Duv {notation.duv(fmean(duv))}" if duv else ""
        found.append(
            Finding(
                question="white",
                name="own white",
                value=kelvin,
                unit="K",
                words=f"It gives {notation.white(kelvin)} K (±{notation.number(round(half, -1))} K{tint})",
                terms=said,
                readings=ids(repeats),
                uncertainty=half,
                rests_on=white,
                weight=52 + usual(repeats[0]),
            )
        )
    return tuple(found)


def curve(evidence: Evidence) -> tuple[Finding, ...]:
    """Which curve the whites follow: 0 is the Planckian, 1 the daylight curve, half-way between is what some aim
    for."""
    found = []
    cool = [[p for p in every if p.duv is not None and p.measured_k >= 4000.0] for _, every in whites_of(evidence)]
    every_one = [p for points in cool for p in points]
    shares = share_between_curves(
        *uv_at(np.array([p.measured_k for p in every_one]), np.array([p.duv for p in every_one], dtype=np.float64))
    )
    ends = itertools.accumulate(map(len, cool))
    for (group, _), points, end in zip(whites_of(evidence), cool, ends, strict=True):
        share = shares[end - len(points) : end]
        if len(points) < 2 or not np.isfinite(share).any():
            continue
        middle, said = float(np.nanmedian(share)), evidence.at(group[0], "cct")
        half = _half_of_a_share(evidence, points)
        sentence = f"From 4000 K on it {_followed(middle, half)}"
        series = {"measured_k": tuple(p.measured_k for p in points), "share": tuple(map(float, share))}
        found.append(
            Finding(
                question="white",
                name="share of the way to daylight",
                value=middle,
                unit="",
                words=sentence,
                terms=said,
                readings=_ids(points),
                axis=("cct",),
                spread=float(np.nanmax(share) - np.nanmin(share)),
                uncertainty=half,
                not_covered=("below 4000 K, where there is no daylight",),
                series=series,
            )
        )
    return tuple(found)


def _half_of_a_share(evidence: Evidence, points: Sequence[WhitePoint]) -> float:
    """The half width of the share of the way, by the tints: the two curves lie some 0.003 in Duv apart."""
    duv = np.array([p.duv for p in points], dtype=np.float64)
    apart = np.abs(duv - daylight_distance(*uv_at(np.array([p.measured_k for p in points]), duv))[0])
    tints = [evidence.tint_of([m for m in p.repeats if m.value("duv") is not None]).half_width for p in points]
    return float(np.median([half / max(float(way), 1e-4) for half, way in zip(tints, apart, strict=True)]))


def _followed(share: float, half: float) -> str:
    """Which curve is followed, where the tints tell it: a quarter of the way off either counts as on it."""
    if share + half < -0.25:
        return "lies on the magenta side of both the Planckian and the daylight curve"
    if share - half > 1.25:
        return "lies on the green side of both the Planckian and the daylight curve"
    if share + half < 0.5:
        return "follows the Planckian rather than the daylight curve"
    if share - half > 0.5:
        return "follows the daylight curve rather than the Planckian"
    return "lies about the Planckian and the daylight curve; which of the two it follows, its tint cannot tell"


# --- what to dial


def what_to_dial(evidence: Evidence) -> tuple[Finding, ...]:
    """What gives the usual whites, from the nearest readings of one configuration; refined as readings come. The value
    is exact, the sentence says what the lamp's dial can do."""
    found, steps = [], dial_of(evidence.gear)
    for group, points in whites_of(evidence):
        said = evidence.at(group[0], "cct")
        for wanted in (white for white in USUAL_WHITES_K if _is_wanted(white, points)):
            answer = dial_for(points, wanted)
            if answer is None:
                found += _to_try(evidence, points, wanted, group[0], said)
                continue
            dial, used, half = answer
            if abs(1e6 / dial - 1e6 / wanted) <= max(half, 1.0):
                continue  # it gives what it says, as far as can be told
            turned, hundreds = steps.nearest(dial), round(dial, -2)
            if turned == wanted:
                continue  # the dial has nothing that is nearer
            is_told = not steps.is_known and abs(hundreds - dial) > 5.0
            coarse = f" ({notation.dialled(hundreds)} on a dial in hundreds)" if is_told else ""
            verb = "Dial" if steps.numbered else "Turn it to"
            sentence = f"{verb} {steps.words(turned)}{coarse} for {notation.dialled(wanted)} K"
            found.append(
                Finding(
                    question="white",
                    name=f"what to dial for {notation.dialled(wanted)} K",
                    value=dial,
                    unit="K",
                    words=sentence,
                    terms=said,
                    readings=_ids(used),
                    axis=("cct",),
                    uncertainty=half * dial**2 / 1e6,
                    weight=56 + _ASKED_FIRST.get(wanted, 0) if _is_asked(evidence, group[0]) else 0,
                )
            )
    return tuple(found)


def _is_wanted(white_k: float, points: Sequence[WhitePoint]) -> bool:
    """Whether anybody asks for a white: 5600 and 3200 K always, another where it was dialled."""
    near = min(abs(1e6 / p.dialled_k - 1e6 / white_k) for p in points)
    return white_k in _ASKED_FIRST or near <= NOMINAL_MIRED


NOMINAL_MIRED = 2.0
"""Dials go by tens and hundreds of kelvin: so near to each other they say the same white."""


def _is_asked(evidence: Evidence, first: Measured) -> bool:
    """Whether a dial is asked of a lamp as it usually stands: not behind a gel, which is asked for the white instead,
    nor at the edge of its beam, with its tint turned, or dimmed where it was read brighter."""
    terms_, top = first.terms, max((m.terms.level_pct or 0.0 for m in evidence.readings), default=0.0)
    bare = named_shift(terms_.configuration) == (0.0, 0.0) and terms_.angle_deg == 0.0
    return bare and terms.value(first, "tint") is fields.UNSTATED and (terms_.level_pct or top) == top


def _to_try(
    evidence: Evidence, points: Sequence[WhitePoint], wanted: float, first: Measured, said: str
) -> list[Finding]:
    """Where a white lies beyond what was read, the setting that is worth reading next; nothing that was read bears it
    out."""
    steps, guess = dial_of(evidence.gear), dial_to_try(points, wanted)
    if guess is None:
        return []
    dial, nearest = guess
    turned = steps.nearest(dial if steps.is_known else round(dial, -2))
    if turned == nearest.dialled_k or not steps.numbered or _is_past_the_ends(evidence, turned):
        return []
    return [
        Finding(
            question="white",
            name=f"what to try for {notation.dialled(wanted)} K",
            value=None,
            unit="K",
            words=(
                f"For {notation.dialled(wanted)} K try {steps.words(turned)} and read it: of what was read"
                f" {notation.dialled(nearest.dialled_k)} comes nearest and gives {notation.white(nearest.measured_k)}"
                f" K"
            ),
            terms=said,
            readings=nearest.readings,
            axis=("cct",),
            not_covered=(f"{notation.dialled(wanted)} K itself: it lies beyond the whites that were read",),
            weight=53 if _is_asked(evidence, first) else 0,
        )
    ]


def _is_past_the_ends(evidence: Evidence, dial_k: float) -> bool:
    """Whether a setting lies outside the whites that the maker claims."""
    claimed = [(c.low, c.high) for c in evidence.claims if c.quantity == "cct" and c.low and c.high and c.low < c.high]
    return any(not low <= dial_k <= high for low, high in claimed)


def dial_for(points: Sequence[WhitePoint], wanted_k: float) -> tuple[float, tuple[WhitePoint, ...], float] | None:
    """The dial in kelvin that gives a white, between the two readings about it, in mired: with them and a half width in
    mired.

    None where the white was not reached, or where the lamp hardly follows its dial. Never beyond what was read.
    """
    target = 1e6 / wanted_k
    ordered = sorted(points, key=lambda p: p.measured_k)
    for a, b in itertools.pairwise(ordered):
        low, high = 1e6 / b.measured_k, 1e6 / a.measured_k
        if not low <= target <= high or high - low < 1e-6:
            continue
        dial_low, dial_high = 1e6 / b.dialled_k, 1e6 / a.dialled_k
        if dial_high <= dial_low or (high - low) / (dial_high - dial_low) < LEAST_SLOPE:
            continue
        slope = (dial_high - dial_low) / (high - low)
        dial = 1e6 / (dial_low + slope * (target - low))
        return dial, (a, b), slope * max(a.error.half_width, b.error.half_width)
    exact = [p for p in ordered if abs(1e6 / p.measured_k - target) < 0.5 and len(ordered) == 1]
    return (exact[0].dialled_k, (exact[0],), exact[0].error.half_width) if exact else None


def dial_to_try(points: Sequence[WhitePoint], wanted_k: float) -> tuple[float, WhitePoint] | None:
    """A dial in kelvin for a white a little beyond those that were read, a mired of dial for a mired of white, and the
    reading it starts from.

    None for a white within them, one that the meter cannot tell from the nearest, and one farther off than
    `GAP_MIRED`.
    """
    target = 1e6 / wanted_k
    errors = {point: target - 1e6 / point.measured_k for point in points}
    nearest = min(points, key=lambda point: abs(errors[point]))
    off = errors[nearest]
    is_beyond = all(error * off > 0.0 for error in errors.values())
    if not is_beyond or not max(nearest.error.half_width, 1.0) < abs(off) <= GAP_MIRED:
        return None
    return 1e6 / (1e6 / nearest.dialled_k + off), nearest


def dial_slope(evidence: Evidence) -> tuple[Finding, ...]:
    """How far the white moves for a move of the dial, in mired per mired."""
    found = []
    for group, points in whites_of(evidence):
        if len(points) < 2:
            continue
        dialled = np.array([1e6 / p.dialled_k for p in points])
        measured = np.array([1e6 / p.measured_k for p in points])
        slope, zero = (float(v) for v in np.polyfit(dialled, measured, 1))
        said = evidence.at(group[0], "cct")
        off = np.abs(measured - np.polyval((slope, zero), dialled))
        found.append(
            Finding(
                question="white",
                name="dial slope",
                value=slope,
                unit="",
                words=f"The dial moves the white by {slope:.2f} mired a mired on the whole",
                terms=said,
                readings=_ids(points),
                axis=("cct",),
                not_covered=(
                    f"whites between the marks: they stray up to {float(off.max()):.1f} mired from a straight line",
                ),
            )
        )
    return tuple(found)


SPECTRAL_STOPS = 0.04
"""How far a handheld meter's levels of two whites may lie apart though the light is the same: its receptor follows
V(lambda) to a few per cent (95 %; f1' of class B by DIN 5032-7 up to 6 %; the share is common practice, no source)."""


MOST_NAMED = 5
"""Of more whites that give equally much the ends are named."""


def peak_output(evidence: Evidence) -> tuple[Finding, ...]:
    """The whites at which the lamp gives most, as far as that can be told, and how much less it gives at the others."""
    found = []
    for group in terms.grouped([m for m in evidence.full if m.terms.cct_k is not None], "cct").values():
        by_white = numbers(terms.by_value(group, "cct"))
        if len(by_white) < 3:
            continue
        levels = {white: evidence.level_of(repeats) for white, repeats in by_white}
        best = max(levels, key=lambda w: levels[w].value or 0.0)
        least = min(levels, key=lambda w: levels[w].value or 0.0)
        below = {w: _below(levels[w], levels[best]) for w in levels if w != best}
        told = picked(len(levels))
        ties = sorted([best, *(w for w, down in below.items() if abs(down.value or 0.0) <= told * down.half_width)])
        down, said = below.get(least, Estimate(0.0)), evidence.at(group[0], "cct")
        open_ = f"±{told * max(one.half_width for one in below.values()):.2f} stop"
        if len(ties) == len(levels):
            sentence = f"It gives as much light at every white read, as far as can be told ({open_})"
        else:
            most = f"{notation.listed([notation.dialled(w) for w in ties])} K"
            if len(ties) > MOST_NAMED:
                ends = f"{notation.dialled(ties[0])} to {notation.dialled(ties[-1])} K"
                most = f"{len(ties)} of {len(levels)} whites from {ends}"
            alike = ", which cannot be told apart," if len(ties) > 1 else ";"
            sentence = (
                f"It gives most light at {most}{alike} {notation.number(abs(down.value or 0.0), 2)}"
                f" {notation.stop_word(down.value or 0.0)} less at {notation.dialled(least)} K ({open_})"
            )
        found.append(
            Finding(
                question="white",
                name="white of most output",
                value=best if len(ties) == 1 else None,
                unit="K",
                words=sentence,
                terms=said,
                readings=ids(group),
                axis=("cct",),
                spread=abs(down.value or 0.0),
                series={
                    "dialled_k": tuple(levels),
                    "illuminance_lx": tuple(float(np.exp2(one.value or 0.0)) for one in levels.values()),
                },
                weight=42,
            )
        )
    return tuple(found)


def _below(one: Estimate, best: Estimate) -> Estimate:
    """A level against the greatest, with what the meter may see otherwise of another white."""
    return one.less(best).adding(Part("spectrum as the meter sees it", "between whites", SPECTRAL_STOPS))
