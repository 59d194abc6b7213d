"""Verdicts that cannot be talked past: what the reading says against the limit, and whether this meter can tell.

281 K is not within 200 K. A figure on the right side of its limit by less than the meter can tell is not certain.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

import numpy as np

from even_beam.bench import notation, words
from even_beam.bench.findings.claims import SCORE_TOLERANCE, ClaimVerdict, Holds
from even_beam.bench.findings.colour import sample_scores
from even_beam.bench.findings.finding import Evidence, Finding, full_level, value_of
from even_beam.bench.findings.white import white_points
from even_beam.bench.measured import Measured
from even_beam.bench.records import ToleranceSet
from even_beam.bench.tolerances import LIMITS


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
    """A fixture judged for a purpose: every limit, and the whole."""

    purpose: str
    judgements: tuple[Judgement, ...]

    @property
    def answer(self) -> Answer:
        """Outside when any limit is passed; not measured when one could not be judged; else within."""
        answers = [j.answer for j in self.judgements]
        return next((a for a in (Answer.OUTSIDE, Answer.NOT_MEASURED) if a in answers), Answer.WITHIN)

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
        against = [j.sentence for j in self.judgements if j.answer is self.answer and self.answer is not Answer.WITHIN]
        return f"{self.purpose}: {self.answer}{told}. {' '.join(against)}".strip()


def judge(limit: str, bound: float, value: float | None, uncertainty: float, readings: Sequence[str] = (), where: str = "") -> Judgement:  # fmt: skip
    """One figure against one limit, by its size as read; certain when the limit lies outside its half width.

    >>> judge("white_kelvin", 200.0, 281.0, 60.0).answer
    <Answer.OUTSIDE: 'outside'>
    """
    described = LIMITS[limit]
    unit = f" {described.unit}" if described.unit else ""
    if value is None or np.isnan(value):
        return Judgement(
            limit,
            described.label,
            bound,
            None,
            uncertainty,
            Answer.NOT_MEASURED,
            False,
            f"{notation.sentence(described.label)}: not measured.",
        )
    size = abs(value) if described.most else value
    within = size <= bound if described.most else size >= bound
    certain = abs(size - bound) > uncertainty
    relation = ("within" if within else "beyond") if described.most else ("at least" if within else "below")
    decimals = 4 if limit == "duv" else 2 if described.unit == "stops" else 1 if described.unit == "mired" else 0
    if round(size, decimals) == round(bound, decimals) and size != bound:
        decimals += 1  # 91.6 is below 92, and 92 would not be
    shown = notation.number(value, decimals, signed=described.unit in {"mired", "K", "Duv", "stops"})
    told = "" if certain else f"; the meter's own ±{notation.number(uncertainty, decimals)}{unit} cannot tell"
    at = f" at {where}" if where else ""
    sentence = (
        f"{notation.sentence(described.label)} {shown}{unit}{at} is {relation} {notation.plain(bound, 4)}{unit}{told}."
    )
    return Judgement(limit, described.label, bound, value, uncertainty, Answer.WITHIN if within else Answer.OUTSIDE, certain, sentence, tuple(readings))  # fmt: skip


def verdict(evidence: Evidence, findings: Sequence[Finding], tolerances: ToleranceSet) -> Verdict:
    """Judge a fixture by a tolerance set: the worst figure of its full level against every limit."""
    limits = tolerances.limits
    judgements = [
        _JUDGES[limit](evidence, findings, limit, bound, limits) for limit, bound in limits.items() if limit in _JUDGES
    ]
    return Verdict(tolerances.name, tuple(judgements))


def _white(evidence: Evidence, findings: Sequence[Finding], limit: str, bound: float, limits: Mapping[str, float]) -> Judgement:  # fmt: skip
    points = white_points(full_level(evidence.readings))
    asked = limits.get("white_k")
    if asked is not None:
        points = tuple(p for p in points if abs(1e6 / p.dialled_k - 1e6 / asked) <= 5.0)
    if not points:
        return judge(limit, bound, None, 0.0)
    off = {p: (1e6 / p.measured_k - 1e6 / asked if asked is not None else p.mired) for p in points}
    in_kelvin = limit == "white_kelvin"
    worst = max(points, key=lambda p: abs(p.kelvin) if in_kelvin else abs(off[p]))
    measured = next(m for m in evidence.readings if m.reading.id == worst.readings[0])
    tolerance = words.white_tolerance_mired(worst.measured_k, evidence.meter_of(measured))
    value = worst.kelvin if in_kelvin else off[worst]
    half = tolerance * worst.measured_k**2 / 1e6 if in_kelvin else tolerance
    return judge(limit, bound, value, half, worst.readings, f"{notation.dialled(worst.dialled_k)} K")


def _tint(evidence: Evidence, findings: Sequence[Finding], limit: str, bound: float, limits: Mapping[str, float]) -> Judgement:  # fmt: skip
    points = [p for p in white_points(full_level(evidence.readings)) if p.duv is not None]
    if not points:
        return judge(limit, bound, None, 0.0)
    worst = max(points, key=lambda p: abs(p.duv or 0.0))
    measured = next(m for m in evidence.readings if m.reading.id == worst.readings[0])
    half = words.tint_tolerance(worst.measured_k, evidence.meter_of(measured))
    return judge(limit, bound, worst.duv, half, worst.readings, f"{notation.dialled(worst.dialled_k)} K")


def _score(evidence: Evidence, findings: Sequence[Finding], limit: str, bound: float, limits: Mapping[str, float]) -> Judgement:  # fmt: skip
    def of(m: Measured) -> float | None:
        if limit == "r1_to_r8":
            own = [v for i, v in sample_scores(m).items() if i <= 8]
            return min(own) if len(own) == 8 else None
        if limit in {"r13", "r15"}:
            return sample_scores(m).get(int(limit[1:]))
        return m.value(limit)

    own = [(value, m) for m in full_level(evidence.readings) if (value := of(m)) is not None]
    if not own:
        return judge(limit, bound, None, SCORE_TOLERANCE)
    value, lowest = min(own, key=lambda pair: pair[0])
    return judge(limit, bound, value, SCORE_TOLERANCE, (lowest.reading.id,), notation.white(lowest.terms))


def _from_findings(name: str) -> Callable[..., Judgement]:
    """A judge of a finding: the worst one of a name that begins so."""

    def of(evidence: Evidence, findings: Sequence[Finding], limit: str, bound: float, limits: Mapping[str, float]) -> Judgement:  # fmt: skip
        own = [f for f in findings if f.name.startswith(name) and f.value is not None]
        if not own:
            return judge(limit, bound, None, 0.0)
        most = LIMITS[limit].most
        worst = (max if most else min)(own, key=lambda f: abs(f.value or 0.0))
        return judge(limit, bound, worst.value, worst.uncertainty or 0.0, worst.readings)

    return of


def _level(evidence: Evidence, findings: Sequence[Finding], limit: str, bound: float, limits: Mapping[str, float]) -> Judgement:  # fmt: skip
    own = full_level(evidence.lit)
    if not own:
        return judge(limit, bound, None, 0.0)
    levels = [value_of(m, "illuminance") for m in own]
    value = max(levels) if LIMITS[limit].most else min(levels)
    return judge(limit, bound, value, 0.05 * value)


_JUDGES: Mapping[str, Callable[..., Judgement]] = {
    "white_mired": _white, "white_kelvin": _white, "duv": _tint,
    **dict.fromkeys(("ra", "r9", "r13", "r15", "r1_to_r8", "rf", "ssi", "tlci"), _score),
    "drift_mired": _from_findings("white drift"), "evenness_pct": _from_findings("evenness"),
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

    @property
    def sentence(self) -> str:
        """The decision in a sentence."""
        what = "Keep it" if self.keep else "Send it back" if self.keep is not None else "Not decided"
        until = f" by {self.by:%-d %B %Y}" if self.by is not None and self.keep is not True else ""
        still = f" Still open: {' '.join(self.open)}" if self.keep is None else ""
        return f"{what}{until}: {' '.join(self.reasons) or 'nothing speaks against it.'}{still}"


def keep_or_send_back(judged: Verdict, claims: Sequence[ClaimVerdict], by: date | None = None) -> Decision:
    """Send back for a limit that is surely passed or a claim that surely does not hold; keep when all is within as read.

    What is not measured, and what lies outside by less than the meter can tell, leaves it open: then it says what to
    read before the date. What is within by less than that is kept, and said.
    """
    against = [j.sentence for j in judged.judgements if j.answer is Answer.OUTSIDE and j.certain]
    against += [c.sentence for c in claims if c.holds is Holds.NO]
    unsure = [j.sentence for j in judged.judgements if j.answer is not Answer.WITHIN and not j.certain]
    if against:
        return Decision(False, by, tuple(against), tuple(unsure))
    if unsure:
        return Decision(None, by, ("No limit is surely passed, but not all can be told.",), tuple(unsure))
    close = tuple(j.sentence for j in judged.judgements if not j.certain)
    return Decision(True, by, (f"Every limit of “{judged.purpose}” holds as read.",), close)


def strengths_and_weaknesses(judged: Sequence[Verdict], claims: Sequence[ClaimVerdict]) -> tuple[tuple[str, ...], tuple[str, ...]]:  # fmt: skip
    """What speaks for a fixture and what against it, in plain sentences, each with its number and each once."""
    strong = dict.fromkeys(j.sentence for v in judged for j in v.judgements if j.answer is Answer.WITHIN and j.certain)
    weak = dict.fromkeys(j.sentence for v in judged for j in v.judgements if j.answer is Answer.OUTSIDE)
    strong |= dict.fromkeys(c.sentence for c in claims if c.holds is Holds.YES)
    weak |= dict.fromkeys(c.sentence for c in claims if c.holds is Holds.NO)
    return tuple(strong), tuple(weak)
