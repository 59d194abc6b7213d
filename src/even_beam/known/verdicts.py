"""Verdicts that cannot be talked past: what the reading says against the limit, and whether this meter can tell.

281 K is not within 200 K. A figure on the right side of its limit by less than the meter can tell is not certain.
"""

from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from enum import StrEnum
from functools import cached_property

import numpy as np

from even_beam.bench import estimate, terms
from even_beam.bench.estimate import Estimate
from even_beam.bench.judging.gels import named_shift
from even_beam.bench.measured import Measured
from even_beam.bench.records import ToleranceSet
from even_beam.bench.tolerances import LIMITS
from even_beam.known.choice import Entrant, along, choose, coloured
from even_beam.known.evidence import Evidence, full_level, ids, relative
from even_beam.known.findings import beam, dimming
from even_beam.known.findings.claims import ClaimVerdict, Holds, claimed_whites
from even_beam.known.findings.colour import sample_scores
from even_beam.known.findings.finding import Finding
from even_beam.known.findings.tint import off_reference
from even_beam.known.findings.white import WhitePoint, white_points
from even_beam.words import notation
from even_beam.words.quantities import Use, score_names


class Answer(StrEnum):
    """What the reading says against the limit."""

    WITHIN = "within"
    OUTSIDE = "outside"
    NOT_MEASURED = "not measured"


@dataclass(frozen=True, slots=True)
class Judgement:
    """One limit: the figure as read, its half width, the answer as read, and whether the meter can tell it."""

    limit: str
    label: str
    bound: float
    value: float | None
    uncertainty: float
    answer: Answer
    certain: bool
    sentence: str
    readings: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Verdict:
    """A fixture judged for a purpose at some terms (`at`): every limit, and the whole."""

    purpose: str
    judgements: tuple[Judgement, ...]
    at: str = ""

    @property
    def answer(self) -> Answer:
        """Outside when any limit is passed; not measured when one could not be judged; else within."""
        answers = [j.answer for j in self.judgements]
        return next((a for a in (Answer.OUTSIDE, Answer.NOT_MEASURED) if a in answers), Answer.WITHIN)

    @property
    def limits(self) -> tuple[str, ...]:
        """The names of its limits."""
        return tuple(j.limit for j in self.judgements)

    @property
    def certain(self) -> bool:
        """Whether the meter can tell the answer."""
        if self.answer is Answer.OUTSIDE:
            return any(j.certain for j in self.judgements if j.answer is Answer.OUTSIDE)
        return all(j.certain for j in self.judgements)

    @property
    def sentence(self) -> str:
        """The verdict in a sentence."""
        told = "" if self.certain or self.answer is Answer.NOT_MEASURED else ", as read; the meter cannot tell for sure"
        against = dict.fromkeys(
            j.sentence for j in self.judgements if j.answer is self.answer and self.answer is not Answer.WITHIN
        )
        at = f", at {self.at}" if self.at and not self.at.startswith("over") else f" {self.at}" if self.at else ""
        return f"{self.purpose}{at}: {self.answer}{told}. {' '.join(against)}".strip()


def judge(limit: str, bound: float, found: Estimate | None, readings: Sequence[str] = (), where: str = "") -> Judgement:
    """One figure against one limit, by its size as read; certain when the limit lies outside its half width.

    Of a figure that is only bounded the bound answers where it can.

    >>> judge("white_kelvin", 200.0, Estimate(281.0)).answer
    <Answer.OUTSIDE: 'outside'>
    """
    described = LIMITS[limit]
    label = notation.sentence(described.label)
    if found is None or (found.value is None and found.low is None and found.high is None):
        return Judgement(
            limit=limit,
            label=described.label,
            bound=bound,
            value=None,
            uncertainty=0.0,
            answer=Answer.NOT_MEASURED,
            certain=False,
            sentence=f"{label}: not measured.",
        )
    if found.value is None or np.isnan(found.value):
        return _bounded(limit, bound, found, readings, where)
    half = found.half_width
    unit = f" {described.unit}" if described.unit else ""
    size = abs(found.value) if described.most else found.value
    within = size <= bound if described.most else size >= bound
    certain = abs(size - bound) > half
    relation = ("within" if within else "beyond") if described.most else ("at least" if within else "below")
    decimals = 4 if limit == "duv" else 2 if described.unit == "stops" else 1 if described.unit == "mired" else 0
    is_whole = described.unit == "" and round(size, decimals) == 100.0 and size != 100.0
    if is_whole or (round(size, decimals) == round(bound, decimals) and size != bound):
        decimals += 1  # 91.6 is below 92, and 92 would not be; 99.6 is not called 100
    signed = described.unit in {"mired", "K", "Duv", "stops"} and limit not in {"evenness_pct"}
    shown = notation.number(found.value, decimals, signed=signed)
    against = notation.plain(bound, 4)
    if described.unit == "lx":
        shown, against = notation.level_alone(found.value), notation.illuminance(bound)
        unit = f" {notation.light_unit()}"
    told = "" if certain else f"; ±{notation.half(half)}{unit} cannot tell"
    at = f" at {where}" if where else ""
    sentence = f"{label} {shown}{unit}{at} is {relation} {against}{unit}{told}."
    answer = Answer.WITHIN if within else Answer.OUTSIDE
    return Judgement(
        limit=limit,
        label=described.label,
        bound=bound,
        value=found.value,
        uncertainty=half,
        answer=answer,
        certain=certain,
        sentence=sentence,
        readings=tuple(readings),
    )


def _bounded(limit: str, bound: float, found: Estimate, readings: Sequence[str], where: str) -> Judgement:
    """A figure that was typed as a bound or a range: `99+` is at least 99."""
    described = LIMITS[limit]
    low, high = _sizes(found) if described.most else (found.low, found.high)
    best, worst = (low, high) if described.most else (high, low)
    sign = -1.0 if described.most else 1.0
    within = worst is not None and sign * (worst - bound) >= 0.0
    outside = best is not None and sign * (best - bound) < 0.0
    answer = Answer.WITHIN if within else Answer.OUTSIDE if outside else Answer.NOT_MEASURED
    decides = worst if within else best if outside else None
    half, unit = found.half_width, f" {described.unit}" if described.unit else ""
    certain = decides is not None and abs(decides - bound) > half
    decimals = 4 if limit == "duv" else 1
    ends = [notation.plain(end, decimals) for end in (found.low, found.high) if end is not None]
    text = " to ".join(ends) if len(ends) == 2 else f"{'at least' if found.low is not None else 'at most'} {ends[0]}"
    at = f" at {where}" if where else ""
    outside_words = "is beyond" if described.most else "is below"
    relation = {Answer.WITHIN: "keeps", Answer.OUTSIDE: outside_words}.get(answer, "does not decide")
    told = "" if certain or answer is Answer.NOT_MEASURED else f"; ±{notation.half(half)}{unit} cannot tell"
    sentence = (
        f"{notation.sentence(described.label)} {text}{unit}{at}, as typed, {relation} the limit of"
        f" {notation.plain(bound, 4)}{unit}{told}."
    )
    return Judgement(
        limit=limit,
        label=described.label,
        bound=bound,
        value=None,
        uncertainty=half,
        answer=answer,
        certain=certain,
        sentence=sentence,
        readings=tuple(readings),
    )


def _sizes(found: Estimate) -> tuple[float | None, float | None]:
    """The least and the greatest size of a figure of either sign that is only bounded; one end alone bounds no size,
    but for the least where it lies on the far side of zero."""
    low, high = found.low, found.high
    if low is not None and high is not None:
        return (0.0 if low <= 0.0 <= high else min(abs(low), abs(high))), max(abs(low), abs(high))
    if low is not None:
        return max(low, 0.0), None
    return (max(-high, 0.0) if high is not None else None), None


@dataclass(eq=False)
class _Case:
    """What is judged: the fixture, the readings at one set of terms, and the findings of all. What is found of it once
    stands for every purpose."""

    evidence: Evidence
    here: tuple[Measured, ...]
    findings: Sequence[Finding]
    asked: Mapping[str, Hashable]

    @cached_property
    def where(self) -> str:
        """The terms in a line."""
        return self.evidence.at(self.here[0]) if self.here else ""

    @cached_property
    def coloured(self) -> tuple[Measured, ...]:
        """The readings that white, tint and scores are judged by: these, else those of the same light elsewhere."""
        return coloured(self.evidence.readings, self.here)

    @cached_property
    def white_points(self) -> tuple[WhitePoint, ...]:
        """Each white that was dialled in the same light, at full level."""
        colour = self.coloured
        return white_points(
            self.evidence, full_level(along(self.evidence.readings, colour[0], "cct")) if colour else []
        )

    @cached_property
    def drift(self) -> Finding | None:
        """How far the white goes over the levels of these terms."""
        return next(iter(dimming.drift(self.along(self.coloured, "level"))), None)

    @cached_property
    def evenness(self) -> Finding | None:
        """How even the light is across the beam."""
        found = beam.beam_sections(self.along(self.here, "angle"))
        return next((f for f in found if f.name == "evenness"), None)

    @cached_property
    def other_sessions(self) -> frozenset[str]:
        """The readings at these terms in every session and by every meter."""
        return frozenset(m.reading.id for m in self.along(self.here, "session", "meter").readings)

    def at(self, readings: Sequence[Measured]) -> str:
        """The terms of readings, where they are not those that are judged."""
        where = self.evidence.at(readings[0])
        return "" if where == self.where else where

    def along(self, these: Sequence[Measured], *axes: str) -> Evidence:
        """The fixture with the readings alone that differ from these in the axes named."""
        own = along(self.evidence.readings, these[0], *axes) if these else []
        evidence = self.evidence
        return Evidence(
            source_id=evidence.source_id,
            name=evidence.name,
            kind=evidence.kind,
            readings=tuple(own),
            meters=evidence.meters,
            claims=evidence.claims,
            costs=evidence.costs,
            session_names=evidence.session_names,
        )


def verdict(
    evidence: Evidence,
    findings: Sequence[Finding],
    tolerances: ToleranceSet,
    asked: Mapping[str, Hashable] | None = None,
    *,
    whole: bool = False,
) -> Verdict:
    """Judge a fixture by a tolerance set at the terms asked; those that a comparison takes by itself when none are.

    `whole` judges every white of the configuration, zoom, place and session of those terms, and the surest failure
    decides: of what surely passes a limit what passes it by most, else what comes nearest to passing.
    """
    return _judged(_cases(evidence, findings, asked or {}, whole=whole), tolerances, whole=whole)


def verdicts(evidence: Evidence, findings: Sequence[Finding], sets: Sequence[ToleranceSet]) -> tuple[Verdict, ...]:
    """Judge a fixture by several tolerance sets, at the terms that a comparison takes by itself."""
    cases = _cases(evidence, findings, {}, whole=False)
    return tuple(_judged(cases, one, whole=False) for one in sets)


def _cases(
    evidence: Evidence, findings: Sequence[Finding], asked: Mapping[str, Hashable], *, whole: bool
) -> list[_Case]:
    entrant = Entrant(evidence.source_id, evidence.name, evidence.kind, evidence.readings, claims=evidence.claims)
    (chosen,) = choose([entrant], asked)
    groups = [chosen.readings]
    if whole and chosen.readings:
        every = full_level(along(evidence.readings, chosen.readings[0], "cct"))
        groups = [tuple(group) for group in terms.grouped(every).values()]
    return [_Case(evidence, group, findings, asked) for group in groups]


def _judged(cases: Sequence[_Case], tolerances: ToleranceSet, *, whole: bool) -> Verdict:
    limits = tolerances.limits
    judgements = []
    for limit, bound in limits.items():
        if limit in _JUDGES:
            judgements.append(_surest([_JUDGES[limit](case, limit, limits) for case in cases], bound))
    at = "over the whole range" if whole else (cases[0].where if cases and cases[0].here else "")
    return Verdict(tolerances.name, tuple(judgements), at)


def _surest(judged: Sequence[Judgement], bound: float) -> Judgement:
    """The judgement that decides among those of several sets of terms."""

    def rank(one: Judgement) -> tuple[int, float]:
        order = {Answer.OUTSIDE: 0, Answer.NOT_MEASURED: 2, Answer.WITHIN: 1}[one.answer]
        if one.answer is Answer.OUTSIDE and not one.certain:
            order = 1
        margin = 0.0 if one.value is None else abs(abs(one.value) - bound) - one.uncertainty
        return order, -margin if one.answer is Answer.OUTSIDE else margin

    measured = [one for one in judged if one.answer is not Answer.NOT_MEASURED]
    return min(measured or judged, key=rank)


def _white(case: _Case, limit: str, limits: Mapping[str, float]) -> Judgement:
    """What the light is against what is wanted; a dial that was chosen to correct counts for what it gives."""
    bound = limits[limit]
    colour = case.coloured
    points = case.white_points
    asked = limits.get("white_k") or case.asked.get("cct")
    wanted = asked or (None if points else _claimed_white(case.evidence, colour))
    own = {m.reading.id for m in colour}
    if wanted is None:
        here = [p for p in points if own & set(p.readings)]
        fixed = [m for m in colour if m.value("cct") and m.terms.cct_k is None]
        if not here and fixed:
            unasked = judge(limit, bound, None)
            words = f"{notation.sentence(unasked.label)}: nobody asks a white of it."
            return replace(unasked, sentence=words, readings=ids(fixed))
        if not here:
            return _typed_white(limit, bound, case, colour[0].terms.cct_k if colour else None)
        return _point_judged(limit, bound, here[0], here[0].error, case)
    target = 1e6 / float(str(wanted))
    if not points:  # a white of its own is held against what is wanted
        fixed = [m for m in colour if m.value("cct")]
        if not fixed:
            return _typed_white(limit, bound, case, float(str(wanted)))
        white = case.evidence.white_of(fixed).adding(shift=-target)
        elsewhere = f" ({at})" if (at := case.at(fixed)) else ""
        whose = "" if asked else "its claim of "
        where = f"its own white{elsewhere}, held against {whose}{notation.dialled(float(str(wanted)))} K,"
        return _off(
            limit=limit,
            bound=bound,
            error=white,
            reads_k=1e6 / ((white.value or 0.0) + target),
            readings=ids(fixed),
            where=where,
        )
    best = min(points, key=lambda p: abs(1e6 / p.measured_k - target))
    return _point_judged(limit, bound, best, best.error.adding(shift=1e6 / best.dialled_k - target), case)


def _claimed_white(evidence: Evidence, colour: Sequence[Measured]) -> float | None:
    """The one white that is claimed of a lamp: what it is held against where nobody asks for one; not behind a gel."""
    if any(named_shift(m.terms.configuration) != (0.0, 0.0) for m in colour):
        return None
    claimed = [claimed_whites(claim) for claim in evidence.claims if claim.quantity == "cct"]
    return claimed[0][0] if claimed and len(claimed[0]) == 1 else None


def _typed_white(limit: str, bound: float, case: _Case, wanted_k: float | None) -> Judgement:
    """A white that was typed as a bound or a range: 5500 to 5700 K is within 100 K of 5600."""
    own = [m for m in case.coloured if m.figure("cct") is not None]
    if not own or wanted_k is None:
        return judge(limit, bound, None)
    white = case.evidence.white_of(own)
    off = white.adding(shift=-1e6 / wanted_k)
    if limit == "white_kelvin":
        low, high = (None if end is None else 1e6 / end - wanted_k for end in (white.high, white.low))
        off = Estimate(None, (estimate.Part("white", "white", white.half_width * wanted_k**2 / 1e6),), low, high)
    return judge(limit, bound, off, ids(own), case.at(own))


def _point_judged(limit: str, bound: float, point: WhitePoint, error: Estimate, case: _Case) -> Judgement:
    return _off(
        limit=limit,
        bound=bound,
        error=error,
        reads_k=point.measured_k,
        readings=point.readings,
        where=case.at(point.repeats),  # said where another dial than the one asked gives what is wanted
    )


def _off(limit: str, bound: float, error: Estimate, reads_k: float, readings: Sequence[str], where: str) -> Judgement:
    if limit != "white_kelvin":
        return judge(limit, bound, error, readings, where)
    wanted = 1e6 / (1e6 / reads_k - (error.value or 0.0))
    half = error.half_width * reads_k**2 / 1e6
    return judge(limit, bound, Estimate(reads_k - wanted, (estimate.Part("white", "white", half),)), readings, where)


def _tint(case: _Case, limit: str, limits: Mapping[str, float]) -> Judgement:
    """Off the Planckian or the daylight curve, as the white is."""
    bound = limits[limit]
    own = _plain_first(case.coloured, "duv")
    if not own:
        return judge(limit, bound, None)
    white = [cct for m in own if (cct := m.value("cct"))]
    cct = float(np.mean(white)) if white else own[0].terms.cct_k or 3200.0
    read = case.evidence.tint_of(own)
    value, low, high = (None if v is None else off_reference(v, cct) for v in (read.value, read.low, read.high))
    return judge(limit, bound, Estimate(value, read.parts, low, high), ids(own), case.at(own))


def _plain_first(readings: Sequence[Measured], quantity: str) -> list[Measured]:
    """The readings with a plain figure; where there are none, those of which bounds were typed."""
    plain = [m for m in readings if m.value(quantity) is not None]
    return plain or [m for m in readings if m.figure(quantity) is not None]


def _score(case: _Case, limit: str, limits: Mapping[str, float]) -> Judgement:
    bound = limits[limit]
    name = limit
    if limit == "r1_to_r8":
        eight = [sample_scores(m) for m in case.coloured]
        whole = [s for s in eight if all(i in s for i in range(1, 9))]
        if not whole:
            return judge(limit, bound, None)
        name = f"r{min(range(1, 9), key=lambda i: min(s[i] for s in whole))}"
    own = [m for m in case.coloured if estimate.figure_of(m, name) is not None]
    if not own:
        return judge(limit, bound, None)
    score = case.evidence.score_of(own, name)
    return judge(limit, bound, score, ids(own), case.at(own))


def _drift(case: _Case, limit: str, limits: Mapping[str, float]) -> Judgement:
    """The whole span of the white over the levels of these terms."""
    bound = limits[limit]
    one = case.drift
    if one is None:
        return judge(limit, bound, None)
    part = estimate.Part("white", "white", one.uncertainty or 0.0)
    return judge(limit, bound, Estimate(one.spread, (part,)), one.readings, one.terms)


def _evenness(case: _Case, limit: str, limits: Mapping[str, float]) -> Judgement:
    bound = limits[limit]
    found = case.evenness
    if found is None:
        return judge(limit, bound, None)
    part = estimate.Part("level", "level", found.uncertainty or 0.0)
    return judge(limit, bound, Estimate(found.value, (part,)), found.readings, found.terms)


def _from_findings(name: str) -> Callable[[_Case, str, Mapping[str, float]], Judgement]:
    """A judge of a finding whose name begins so and that rests on readings of these terms, sessions apart."""

    def of(case: _Case, limit: str, limits: Mapping[str, float]) -> Judgement:
        own, bound = case.other_sessions, limits[limit]
        found = [f for f in case.findings if f.name.startswith(name) and f.value is not None and own & set(f.readings)]
        judged = [
            judge(
                limit,
                bound,
                Estimate(f.value, (estimate.Part("level", f.name, f.uncertainty or 0.0),)),
                f.readings,
                f.terms,
            )
            for f in found
        ]
        return _surest(judged, bound) if judged else judge(limit, bound, None)

    return of


def _level(case: _Case, limit: str, limits: Mapping[str, float]) -> Judgement:
    bound = limits[limit]
    own = [m for m in _plain_first(case.here, "illuminance") if m.value("illuminance") != 0.0]
    if not own:
        return judge(limit, bound, None)
    level = case.evidence.level_of(own)
    value, low, high = (None if end is None else 2.0**end for end in (level.value, level.low, level.high))
    known = [end for end in (value, low, high) if end is not None]
    part = estimate.Part("level", "level", max(known, default=0.0) * relative(level.half_width))
    return judge(limit, bound, Estimate(value, (part,), low, high), ids(own))


_JUDGES: Mapping[str, Callable[[_Case, str, Mapping[str, float]], Judgement]] = {
    "white_mired": _white, "white_kelvin": _white, "duv": _tint,
    **dict.fromkeys((*score_names(Use.LIMITED), "r1_to_r8"), _score),
    "drift_mired": _drift, "evenness_pct": _evenness,
    "unit_stops": _from_findings("level against"), "ageing_stops": _from_findings("level since"),
    "level_lx_low": _level, "level_lx_high": _level,
}  # fmt: skip


# --- keep or send back


@dataclass(frozen=True, slots=True)
class Decision:
    """Keep or send back, by a date, with the reasons; `open` is what still has to be read to decide."""

    keep: bool | None
    by: date | None
    reasons: tuple[str, ...]
    open: tuple[str, ...]
    at: str = ""

    @property
    def sentence(self) -> str:
        """The decision in a sentence."""
        if self.keep is False:
            what = "Send it back" if self.by is not None else "Not for this purpose"
        else:
            what = "Keep it" if self.keep else "Not decided"
        if self.keep and self.by is None:
            what = "Good for this purpose"
        until = f" by {self.by:%-d %B %Y}" if self.by is not None and self.keep is not True else ""
        still = f" Still open: {' '.join(self.open)}" if self.keep is None else ""
        at = f" Judged {self.at if self.at.startswith('over') else f'at {self.at}'}." if self.at else ""
        return f"{what}{until}: {' '.join(self.reasons) or 'nothing speaks against it.'}{still}{at}"


def keep_or_send_back(judged: Verdict, claims: Sequence[ClaimVerdict], by: date | None = None) -> Decision:
    """Send back for a limit that is surely passed or a claim that surely does not hold; keep when all is within as
    read.

    Only what has a day to go back (`by`) is sent back; of anything else it says whether it is good for the purpose.
    What is not measured, and what lies outside by less than the meter can tell, leaves it open: then it says what to
    read before the date. What is within by less than that is kept, and said.
    """
    against = [j.sentence for j in judged.judgements if j.answer is Answer.OUTSIDE and j.certain]
    against += [c.sentence for c in claims if c.holds is Holds.NO]
    unsure = [j.sentence for j in judged.judgements if j.answer is not Answer.WITHIN and not j.certain]
    if against:
        return Decision(False, by, tuple(against), tuple(unsure), judged.at)
    if unsure:
        return Decision(None, by, ("No limit is surely passed, but not all can be told.",), tuple(unsure), judged.at)
    close = tuple(j.sentence for j in judged.judgements if not j.certain)
    return Decision(True, by, (f"Every limit of “{judged.purpose}” holds as read.",), close, judged.at)


def strengths_and_weaknesses(
    judged: Sequence[Verdict], claims: Sequence[ClaimVerdict]
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """What speaks for a fixture and what against it, in plain sentences, each with its number and each once."""
    strong = dict.fromkeys(j.sentence for v in judged for j in v.judgements if j.answer is Answer.WITHIN and j.certain)
    weak = dict.fromkeys(j.sentence for v in judged for j in v.judgements if j.answer is Answer.OUTSIDE)
    strong |= dict.fromkeys(c.sentence for c in claims if c.holds is Holds.YES)
    weak |= dict.fromkeys(c.sentence for c in claims if c.holds is Holds.NO)
    return tuple(strong), tuple(weak)
