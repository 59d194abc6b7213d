"""Each claim beside its measurement: whether the terms are those of the claim, and whether it holds.

A claim is made of the bare lamp at full level unless it says otherwise; what it does not say and was read in several
ways (a zoom, a white) it must hold in all of, or it cannot be told.
"""

import re
from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from even_beam.bench import estimate, terms
from even_beam.bench.beam_angle import CLAIM
from even_beam.bench.estimate import Estimate
from even_beam.bench.fields import UNSTATED
from even_beam.bench.measured import Measured
from even_beam.bench.records import Claim
from even_beam.bench.terms_in_words import PLAIN_MODES
from even_beam.bench.walks import NotBroughtError, Walk
from even_beam.known.evenings import NOT_OF_THE_LEVEL
from even_beam.known.evidence import Evidence, full_level, ids, relative
from even_beam.known.findings.beam import beam_sections
from even_beam.known.findings.electrical import POWER_TOLERANCE, drawing, watts_of
from even_beam.known.findings.white import white_points
from even_beam.words import notation
from even_beam.words.entry import EntryError, parse
from even_beam.words.quantities import QUANTITIES, Use, score_names

BEAM_CLAIM_SHARE = 0.1
"""A beam is as wide as it is claimed to be within this (common practice, no source)."""

WHITE_CLAIM_MIRED = 10.0
"""A white is what it is claimed to be within this where the claim says no tolerance of its own (common practice, no
source)."""

_TOLERANCE = re.compile(r"(?:±|\+/-|within)\s*(\d+(?:\.\d+)?)\s*(k|kelvin|mired)?", re.IGNORECASE)


def white_bound(claim: Claim, white_k: float) -> float:
    """How far a white may lie from what is claimed, in mired: as the claim says (`±200 K`, `within 50 K`), or as usual.

    A tolerance in kelvin is taken on its wider side, so that nothing within it is refuted.
    """
    said = _TOLERANCE.search(f"{claim.text} {claim.condition}")
    if said is None:
        return WHITE_CLAIM_MIRED
    size = float(said[1])
    if (said[2] or "k").casefold() == "mired":
        return size
    return 1e6 / max(white_k - size, 1000.0) - 1e6 / white_k


def claimed_whites(claim: Claim) -> list[float]:
    """The whites of a claim: the ends of a range, or the one about which a tolerance is stated."""
    ends = [k for k in dict.fromkeys((claim.low, claim.high)) if k is not None]
    return [sum(ends) / 2.0] if len(ends) == 2 and _TOLERANCE.search(claim.text) else ends


class Even(StrEnum):
    """Whether the terms of a measurement are those of the claim."""

    EQUAL = "terms equal"
    BROUGHT = "terms equal, brought by the distance law"
    NOT_EQUAL = "terms not equal"
    NOT_MEASURED = "not measurable from these readings"


class Holds(StrEnum):
    """The verdict on a claim."""

    YES = "holds"
    NO = "does not hold"
    CANNOT_TELL = "cannot tell"


@dataclass(frozen=True, slots=True)
class ClaimVerdict:
    """A claim with what was measured (`value` with its 95 % half width), and what follows."""

    claim: Claim
    value: float | None
    uncertainty: float | None
    even: Even
    holds: Holds
    sentence: str
    readings: tuple[str, ...] = ()


def claims(evidence: Evidence) -> tuple[ClaimVerdict, ...]:
    """Every claim of the model, judged."""
    judges = {
        "illuminance": _level,
        "cct": _white,
        "power_w": _power,
        CLAIM: _beam,
        **dict.fromkeys(score_names(Use.CLAIMED), _score),
    }
    return tuple(judges.get(claim.quantity, _unknown)(evidence, claim) for claim in evidence.claims)


def figure_claimed(claim: Claim) -> str:
    """What is claimed, without the condition it is claimed for: `colour temperature 2000 to 10000 K`."""
    unit = f" {claim.unit}" if claim.unit and claim.unit.casefold() not in claim.text.casefold() else ""
    label = QUANTITIES[claim.quantity].label if claim.quantity in QUANTITIES else claim.quantity
    return f"{label} {claim.text}{unit}"


def _said(claim: Claim) -> str:
    """The claim as it was made: `Illuminance 9800 lx claimed at 1 m, full level`."""
    where = f" {claim.condition}" if claim.condition else ""
    return f"{notation.sentence(figure_claimed(claim))} claimed{where}"


# --- at the claim's own terms


def at_claim(readings: Sequence[Measured], claim: Claim) -> list[Measured]:
    """The readings at the terms of a claim: what it names as it names it, else bare, in no mode of the lamp's own and
    with its tint untouched; at full level.

    A lamp that was never read so is told by the barest that was: `is_at` then says that the terms are not equal.
    """
    text = claim.condition.casefold()
    fitted = {m.terms.configuration for m in readings if m.terms.configuration}
    named = [c for c in fitted if all(part.casefold() in text for part in c)]
    wanted = max(named, key=len, default=())
    if not any(m.terms.configuration == wanted for m in readings):
        wanted = min(fitted, key=len, default=())
    found = [m for m in readings if m.terms.configuration == wanted and m.terms.angle_deg == 0.0]
    found = [m for m in found if terms.value(m, "tint") is UNSTATED or m.terms.hue_deg is not None]
    modes = {m.terms.mode for m in found if m.terms.mode not in PLAIN_MODES and m.terms.mode.casefold() in text}
    found = [m for m in found if m.terms.mode in (modes or PLAIN_MODES) or m.terms.hue_deg is not None]
    zooms = [z for z in {m.terms.zoom for m in found} if z and z.casefold() in text]
    if zooms:
        found = [m for m in found if m.terms.zoom == max(zooms, key=len)]
    white = re.search(r"(\d{4,5})\s*k\b", text)
    if white is not None:
        found = [m for m in found if m.terms.cct_k in (float(white[1]), None)]
    return full_level(found)


def is_at(measured: Measured, claim: Claim) -> bool:
    """Whether a reading of `at_claim` is at full level and has on it what the claim says, nothing where it says
    nothing."""
    text, level = claim.condition.casefold(), measured.terms.level_pct
    full = level in {None, 100.0} or f"{level:g} %" in text or f"{level:g}%" in text
    return full and all(part.casefold() in text for part in measured.terms.configuration)


def claimed_distance(condition: str) -> float | None:
    """The distance in a claim's condition: `at 1 m, full level` is 1.0."""
    found = re.search(r"(\d+(?:[.,]\d+)?\s*(?:m|ft|cm))\b", condition)
    if found is None:
        return None
    try:
        return parse(found[1], "distance").value
    except EntryError:
        return None


def _level(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    """A level at a distance: read there, or brought there where a walk bears the law out, for each zoom it leaves open.

    Of several whites the brightest answers: a claim that names none is made of that.
    """
    distance = claimed_distance(claim.condition)
    own = at_claim([m for m in evidence.lit if not evidence.meter_of(m).for_ratios_only], claim)
    usable = [m for m in own if m.terms.distance_m]
    if not usable or distance is None:
        return _nothing(claim, "" if distance is not None else "the claim says no distance")
    answers: list[tuple[ClaimVerdict, float]] = []
    reasons = []
    for group in terms.grouped(usable, "distance").values():
        walk = Walk.of(group, evidence.meter_of(group[0]), evidence.beam_angles.of(group[0]))
        try:
            level, rests_on, how = walk.at(distance)
        except NotBroughtError as error:
            reasons.append(str(error))
            continue
        lux = float(2.0 ** (level.value or 0.0))
        half = lux * relative(level.half_width)
        even = Even.BROUGHT if how is not None else Even.EQUAL
        where = evidence.at(rests_on[0], "distance")
        answers.append(
            (_judged(claim, Estimate(lux, (estimate.Part("all", "all", half),)), even, rests_on, where), lux)
        )
    if not answers:
        sentence = f"{_said(claim)}: {Even.NOT_EQUAL}, {reasons[0]}."
        return ClaimVerdict(
            claim=claim,
            value=None,
            uncertainty=None,
            even=Even.NOT_EQUAL,
            holds=Holds.CANNOT_TELL,
            sentence=sentence,
            readings=ids(usable),
        )
    by_zoom: dict[str, tuple[ClaimVerdict, float]] = {}
    by_id = {m.reading.id: m for m in evidence.readings}
    first_of = [(judged.holds, [by_id[judged.readings[0]]]) for judged, _ in answers]
    if apart := _evenings_that_differ(evidence, first_of, "distance"):
        return _in_halves(claim, apart, answers[0][0])
    for judged, lux in answers:
        zoom = by_id[judged.readings[0]].terms.zoom
        if zoom not in by_zoom or lux > by_zoom[zoom][1]:
            by_zoom[zoom] = (judged, lux)
    best = [judged for judged, _ in by_zoom.values()]
    if len({judged.holds for judged in best}) == 1:
        return best[0]
    zooms = ", ".join(f"{zoom or 'no zoom stated'} {judged.holds}" for zoom, (judged, _) in by_zoom.items())
    first = best[0]
    return ClaimVerdict(
        claim=claim,
        value=first.value,
        uncertainty=first.uncertainty,
        even=Even.NOT_EQUAL,
        holds=Holds.CANNOT_TELL,
        sentence=f"{_said(claim)}; it does not say in which zoom ({zooms}): {Holds.CANNOT_TELL}.",
        readings=tuple(i for judged in best for i in judged.readings),
    )


def _white(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    """A white or a range: of a lamp without a dial what it gives; else both ends as they were dialled and read.

    One reading of a lamp with a dial, taken as it stood, bears no range out.
    """
    usable = [m for m in at_claim(evidence.readings, claim) if m.value("cct") and m.terms.hue_deg is None]
    dialled = [m for m in usable if m.terms.cct_k is not None]
    if all(m.terms.cct_k is None for m in evidence.readings):
        return _fixed_white(evidence, claim, usable)
    ends = claimed_whites(claim)
    read: dict[float, list[tuple[Estimate, Sequence[Measured]]]] = {}
    for group in terms.grouped(dialled, "cct").values():
        for point in white_points(evidence, group):
            if point.dialled_k in ends:
                read.setdefault(point.dialled_k, []).append((point.error, point.repeats))
    bounds = {k: white_bound(claim, k) for k in ends}
    each = [(_within(error, bounds[k]), ms) for k, errors in read.items() for error, ms in errors]
    found = {k: _deciding(errors, bounds[k]) for k, errors in read.items()}
    missing = [k for k in ends if k not in found]
    if missing or not ends:
        were = "was" if len(missing) == 1 else "were"
        return _nothing(claim, f"{' and '.join(notation.dialled(k) for k in missing)} K {were} not read")
    worst = max(found, key=lambda k: _surely_beyond(found[k][0], bounds[k]))
    error, _ = found[worst]
    reads = 1e6 / ((error.value or 0.0) + 1e6 / worst)
    even = Even.EQUAL if all(is_at(m, claim) for _, ms in found.values() for m in ms) else Even.NOT_EQUAL
    holds = _every_end(found, bounds) if even is Even.EQUAL else Holds.CANNOT_TELL
    sentence = (
        f"{_said(claim)}; at {notation.dialled(worst)} K it reads {notation.white(reads)} K"
        f" ({notation.number(error.value, 1, signed=True)} ±{error.half_width:.1f} mired;"
        f" {notation.plain(bounds[worst], 1)} are allowed), {even}: {holds}."
    )
    verdict = ClaimVerdict(
        claim=claim,
        value=reads,
        uncertainty=error.half_width * reads**2 / 1e6,
        even=even,
        holds=holds,
        sentence=sentence,
        readings=ids([m for _, ms in found.values() for m in ms]),
    )
    apart = _evenings_that_differ(evidence, each)
    return _in_halves(claim, apart, verdict) if apart else verdict


def _every_end(found: Mapping[float, tuple[Estimate, Sequence[Measured]]], bounds: Mapping[float, float]) -> Holds:
    """A claim of a range holds at both ends, fails where one surely does, and cannot be told where one cannot."""
    each = [_within(error, bounds[white]) for white, (error, _) in found.items()]
    if Holds.NO in each:
        return Holds.NO
    return Holds.YES if set(each) == {Holds.YES} else Holds.CANNOT_TELL


def _deciding(
    errors: Sequence[tuple[Estimate, Sequence[Measured]]], bound: float
) -> tuple[Estimate, Sequence[Measured]]:
    """Of what was read in several evenings or with several meters what decides: the surest failure, else what surely
    keeps the bound, else what rests on the most readings; what cannot tell takes nothing back."""
    worst = max(errors, key=lambda pair: _surely_beyond(pair[0], bound))
    if _surely_beyond(worst[0], bound) > 0.0:
        return worst
    sure = [pair for pair in errors if _within(pair[0], bound) is Holds.YES]
    return max(sure or errors, key=lambda pair: len(pair[1]))


def _surely_beyond(error: Estimate, bound: float) -> float:
    return abs(error.value or 0.0) - bound - error.half_width


def _within(error: Estimate, bound: float) -> Holds:
    size = abs(error.value or 0.0)
    if size + error.half_width <= bound:
        return Holds.YES
    return Holds.NO if size - error.half_width > bound else Holds.CANNOT_TELL


def _fixed_white(evidence: Evidence, claim: Claim, own: Sequence[Measured]) -> ClaimVerdict:
    """A lamp of one white: that white within ten mired, or inside the range that is claimed."""
    groups = list(terms.grouped(own).values())
    ends = claimed_whites(claim)
    if not groups or not ends:
        return _nothing(claim)
    warm, cool = 1e6 / min(ends), 1e6 / max(ends)
    slack = white_bound(claim, ends[0]) if min(ends) == max(ends) else 0.0
    middle, bound = (warm + cool) / 2.0, (warm - cool) / 2.0 + slack
    whites = [(evidence.white_of(repeats), repeats) for repeats in groups]
    errors = [(Estimate((w.value or 0.0) - middle, w.parts), ms) for w, ms in whites]
    error, repeats = _deciding(errors, bound)
    even = Even.EQUAL if is_at(repeats[0], claim) else Even.NOT_EQUAL
    holds = _within(error, bound) if even is Even.EQUAL else Holds.CANNOT_TELL
    reads = 1e6 / (middle + (error.value or 0.0))
    allowed = f"; {notation.plain(slack, 1)} are allowed" if slack else ""
    sentence = (
        f"{_said(claim)}; it reads {notation.white(reads)} K ({notation.number(error.value, 1, signed=True)}"
        f" ±{error.half_width:.1f} mired from {'it' if slack else 'its middle'}{allowed}), at"
        f" {evidence.at(repeats[0])}, {even}: {holds}."
    )
    verdict = ClaimVerdict(
        claim=claim,
        value=reads,
        uncertainty=error.half_width * reads**2 / 1e6,
        even=even,
        holds=holds,
        sentence=sentence,
        readings=ids(repeats),
    )
    apart = _evenings_that_differ(evidence, [(_within(error, bound), ms) for error, ms in errors])
    return _in_halves(claim, apart, verdict) if apart else verdict


def _score(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    """A score holds at its lowest white; by the bound where only a bound was typed."""
    own = [m for m in at_claim(evidence.readings, claim) if estimate.figure_of(m, claim.quantity) is not None]
    found = [(evidence.score_of(ms, claim.quantity), ms) for ms in terms.grouped(own).values()]
    if not found:
        return _nothing(claim)
    least = claim.low if claim.low is not None else claim.high or 0.0
    one, repeats = min(found, key=lambda pair: _sure_least(pair[0], least))
    verdict = _judged(claim, one, Even.EQUAL, repeats, evidence.at(repeats[0]))
    each = [(_judged(claim, score, Even.EQUAL, ms, "").holds, ms) for score, ms in found]
    apart = _evenings_that_differ(evidence, each)
    return _in_halves(claim, apart, verdict) if apart else verdict


def _sure_least(one: Estimate, least: float) -> float:
    """How surely it reaches a bound from below: what surely fails comes first."""
    if one.value is not None:
        return one.value + one.half_width - least
    return (one.most if one.most is not None else one.least or 0.0) - least


def _power(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    """The most that was drawn must not pass what is claimed."""
    drawn = [m for m in drawing(evidence) if watts_of(m) is not None]
    if not drawn or claim.high is None:
        return _nothing(claim)
    most = max(drawn, key=lambda m: watts_of(m) or 0.0)
    value = watts_of(most) or 0.0
    half = POWER_TOLERANCE * value
    over = value - claim.high
    at_full = most.terms.level_pct in {None, 100.0}  # dimmed it draws less, and bears nothing out
    within = Holds.YES if over + half <= 0.0 and at_full else Holds.CANNOT_TELL
    holds = Holds.NO if over > half else within
    sentence = (
        f"{_said(claim)}; {value:.0f} ±{half:.0f} W drawn at most, at"
        f" {evidence.at(most, 'configuration', 'zoom', *terms.PLACE)}: {holds}."
    )
    return ClaimVerdict(
        claim=claim,
        value=value,
        uncertainty=half,
        even=Even.EQUAL,
        holds=holds,
        sentence=sentence,
        readings=(most.reading.id,),
    )


def _beam(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    """A beam angle, or both ends of a range of them, within a tenth of what was measured across the beam."""
    own = at_claim([m for m in evidence.readings if m.terms.angle_deg == 0.0], claim)
    usable = {m.reading.id for m in own}
    found = [f for f in beam_sections(evidence) if f.name == "beam angle" and usable & set(f.readings)]
    widths = [(f.value, f) for f in found if f.value is not None]
    ends = [angle for angle in dict.fromkeys((claim.low, claim.high)) if angle is not None]
    if not widths or not ends:
        return _nothing(claim, "" if not found else "its section ends before half its peak")
    nearest = [min(widths, key=lambda pair: abs(pair[0] - end)) for end in ends]
    off = [
        Estimate(width - end, (estimate.Part("section", "section", finding.uncertainty or 0.0),))
        for end, (width, finding) in zip(ends, nearest, strict=True)
    ]
    verdicts = [_within(one, BEAM_CLAIM_SHARE * end) for one, end in zip(off, ends, strict=True)]
    read = {finding.sentence for _, finding in nearest}
    if len(read) < len(ends):
        return _nothing(claim, "one beam was read across, not both ends")
    worst = max(range(len(ends)), key=lambda i: _surely_beyond(off[i], BEAM_CLAIM_SHARE * ends[i]))
    width, finding = nearest[worst]
    first = next(m for m in own if m.reading.id in finding.readings)
    even = Even.EQUAL if is_at(first, claim) else Even.NOT_EQUAL
    holds = verdicts[worst] if even is Even.EQUAL else Holds.CANNOT_TELL
    sentence = (
        f"{_said(claim)}; {width:.0f} ±{finding.uncertainty or 0.0:.0f}° measured across it"
        f" ({100.0 * BEAM_CLAIM_SHARE:.0f} % are allowed), at {finding.terms}, {even}: {holds}."
    )
    return ClaimVerdict(
        claim=claim,
        value=width,
        uncertainty=finding.uncertainty,
        even=even,
        holds=holds,
        sentence=sentence,
        readings=tuple(i for _, one in nearest for i in one.readings),
    )


def _evenings_that_differ(
    evidence: Evidence, judged: Sequence[tuple[Holds, Sequence[Measured]]], *axes: str
) -> tuple[str, tuple[str, ...]] | None:
    """Both halves in words where a claim fails on one evening and holds on another at one setting (`axes` and the
    meter's place apart), with their readings; None where evenings agree. One evening that fails among several refutes
    nothing: one of them is wrong."""
    settings: dict[Hashable, list[tuple[Holds, Sequence[Measured]]]] = {}
    for holds, readings in judged:
        key = terms.key(readings[0], *NOT_OF_THE_LEVEL, *axes)
        settings.setdefault(key, []).append((holds, readings))
    for each in settings.values():
        fails, held = ([m for holds, ms in each if holds is one for m in ms] for one in (Holds.NO, Holds.YES))
        if fails and held:
            several_days = len({m.reading.session_id for m in (*fails, *held)}) > 1
            where = [_evenings(evidence, ms) if several_days else _meters(evidence, ms) for ms in (fails, held)]
            said = f"it fails {where[0]} and holds {where[1]}, at {evidence.at(fails[0], 'session', 'meter', *axes)}"
            return said, ids([*fails, *held])
    return None


def _evenings(evidence: Evidence, readings: Sequence[Measured]) -> str:
    days = dict.fromkeys(
        evidence.session_names.get(m.reading.session_id) or f"{m.reading.at:%-d %b %Y}" for m in readings
    )
    return f"on {notation.listed(list(days))}"


def _meters(evidence: Evidence, readings: Sequence[Measured]) -> str:
    names = dict.fromkeys(evidence.meter_of(m).nickname for m in readings)
    return f"by {notation.listed(list(names))}"


def _in_halves(claim: Claim, apart: tuple[str, tuple[str, ...]], one: ClaimVerdict) -> ClaimVerdict:
    """A claim that holds here and fails there, as one statement."""
    said, readings = apart
    sentence = f"{_said(claim)}; {said}: {Holds.CANNOT_TELL}; read it once more."
    return replace(one, holds=Holds.CANNOT_TELL, sentence=sentence, readings=readings)


def _unknown(evidence: Evidence, claim: Claim) -> ClaimVerdict:
    return _nothing(claim)


def _nothing(claim: Claim, why: str = "") -> ClaimVerdict:
    reason = f": {why}" if why else ""
    sentence = f"{_said(claim)}: {Even.NOT_MEASURED}{reason}."
    return ClaimVerdict(
        claim=claim, value=None, uncertainty=None, even=Even.NOT_MEASURED, holds=Holds.CANNOT_TELL, sentence=sentence
    )


def _judged(claim: Claim, found: Estimate, even: Even, readings: Sequence[Measured], where: str) -> ClaimVerdict:
    """A claim of at least so much: it holds beyond the uncertainty, fails beyond it, and between the meter cannot
    tell."""
    least = claim.low if claim.low is not None else claim.high or 0.0
    bottom, top = found.least, found.most
    even = even if is_at(readings[0], claim) else Even.NOT_EQUAL
    holds = Holds.CANNOT_TELL
    if even is not Even.NOT_EQUAL and bottom is not None and bottom >= least:
        holds = Holds.YES
    elif even is not Even.NOT_EQUAL and top is not None and top < least:
        holds = Holds.NO
    is_level = claim.quantity == "illuminance"
    unit = notation.light_unit() if is_level else claim.unit
    write = notation.illuminance if is_level else notation.half
    figure = estimate.figure_of(readings[0], claim.quantity) if found.value is None else None
    shown = notation.level_alone(found.value) if is_level else notation.plain(found.value or 0.0, 1)
    read = figure.text if figure is not None else f"{shown} ±{write(found.half_width)} {unit}".rstrip()
    sentence = f"{_said(claim)}; {read} read at {where}, {even}: {holds}."
    return ClaimVerdict(
        claim=claim,
        value=found.value,
        uncertainty=found.half_width,
        even=even,
        holds=holds,
        sentence=sentence,
        readings=ids(readings),
    )
