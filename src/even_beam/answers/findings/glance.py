"""A lamp at a glance: the figures of it as it usually stands, white by white and along its dimmer, for a page, a card
and a label."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from even_beam.answers.findings.witness import Witness
from even_beam.bench import terms, terms_in_words
from even_beam.bench.dial_steps import dial_of
from even_beam.bench.estimate import Estimate
from even_beam.bench.fields import UNSTATED, Key
from even_beam.bench.judging.gels import named_shift
from even_beam.bench.measured import Measured
from even_beam.known import evenings, trust
from even_beam.known.choice import Entrant, coloured, white_liking
from even_beam.known.evidence import Evidence, full_level, ids, lux_of, mean_of, usual
from even_beam.known.findings.colour import sample_scores
from even_beam.known.findings.finding import Finding
from even_beam.known.findings.tint import off_reference
from even_beam.known.findings.white import WhitePoint, dial_for, white_points
from even_beam.words.quantities import Use, score_names

IN_LINES = ("cct", "level", "distance")
"""The terms that are an axis of what is told at a glance; all others are the same for all of it."""

IN_PROPORTION = 1.25
"""A lowest level that gives no more and no less than its figure by this is said to dim to it (no source)."""


@dataclass(frozen=True, eq=False, slots=True)
class AtWhite:
    """What it gives at one white at full level; `dialled_k` is None of a lamp without a dial.

    `level` is log2 lx, `white` in mired, `off` the tint beyond the curves that nobody calls tinted (Duv, positive is
    green) with `half_duv`. `dial` says what to dial instead, `leave` where it is right, nothing where nobody can tell.
    """

    dialled_k: float | None
    repeats: tuple[Measured, ...]
    colour: tuple[Measured, ...]
    level: Estimate | None
    white: Estimate | None
    off: float | None
    half_duv: float
    scores: Mapping[str, float]
    dial: str

    @property
    def lux(self) -> float | None:
        """The level in lx."""
        return None if self.level is None or self.level.value is None else lux_of(self.level)

    @property
    def cct_k(self) -> float | None:
        """The white in kelvin."""
        return None if self.white is None or not self.white.value else 1e6 / self.white.value

    @property
    def error_mired(self) -> float | None:
        """How far its white lies from what was dialled; positive is warmer."""
        if self.white is None or self.white.value is None or self.dialled_k is None:
            return None
        return self.white.value - 1e6 / self.dialled_k

    @property
    def is_off(self) -> bool:
        """Whether the meter can tell that its white is not what was dialled."""
        error = self.error_mired
        return error is not None and self.white is not None and abs(error) > self.white.half_width

    @property
    def is_tinted(self) -> bool:
        """Whether the meter can tell its tint from none."""
        return self.off is not None and abs(self.off) > self.half_duv

    @property
    def samples(self) -> Mapping[int, float]:
        """Its scores of R1 to R15 by their numbers, as far as they were read."""
        return next((own for m in self.colour if (own := sample_scores(m))), {})

    @property
    def readings(self) -> tuple[str, ...]:
        """The readings all of it rests on."""
        return tuple(dict.fromkeys((*ids(self.repeats), *ids(self.colour))))


@dataclass(frozen=True, eq=False, slots=True)
class Dimmed:
    """What its dimmer does, from full to the lowest level that was read.

    `drift` is the white's span over it in mired with its half width, None where no white was read.
    """

    lowest_pct: float
    gives_pct: float
    drift: tuple[float, float] | None
    readings: tuple[str, ...]

    @property
    def is_in_proportion(self) -> bool:
        """Whether the lowest level gives about what its figure says."""
        return 1.0 / IN_PROPORTION <= self.gives_pct / self.lowest_pct <= IN_PROPORTION


@dataclass(frozen=True, eq=False)
class Glance:
    """One lamp as it usually stands; `main` is a reading of it so, None where nothing could be found."""

    witness: Witness
    entrant: Entrant

    @cached_property
    def evidence(self) -> Evidence:
        """What is known of it."""
        return self.witness.evidence(self.entrant)

    @cached_property
    def own(self) -> dict[str, Measured]:
        """Its readings by their ids."""
        return {m.reading.id: m for m in self.entrant.readings}

    @cached_property
    def findings(self) -> list[Finding]:
        """Every finding of it that rests on readings."""
        return [f for f in self.witness.findings(self.entrant) if f.readings]

    @cached_property
    def foremost(self) -> Finding | None:
        """What all of it is of: the lamp as it usually stands before any other way of it, the most whites dialled, else
        its own white, else levels, else whatever was read; then the usual terms, the newest."""
        for names in ({"white error"}, {"own white"}, {"illuminance"}, {f.name for f in self.findings if f.says_terms}):
            found = [f for f in self.findings if f.name in names]
            if found:
                return max(found, key=lambda f: (self._is_plain(f), len(f.series.get("dialled_k", ())), *self.order(f)))
        return None

    @cached_property
    def main(self) -> Measured | None:
        """A reading of the lamp as it usually stands."""
        return self.own[self.foremost.readings[0]] if self.foremost is not None else None

    @cached_property
    def same(self) -> list[Finding]:
        """The findings of the lamp as it stands there: all terms but white, level and distance are equal."""
        if self.main is None:
            return []
        way = _way(self.main)
        return [f for f in self.findings if _way(self.own[f.readings[0]]) == way]

    def order(self, finding: Finding) -> tuple[int, int, int, float]:
        """How usual the terms of a finding are, on how many readings it rests, how many there are at its mark, and how
        new it is."""
        rests_on = [self.own[i] for i in finding.readings if i in self.own]
        at_mark = max(self._marks[m.terms.distance_m] for m in rests_on)
        return max(map(usual, rests_on)), len(rests_on), at_mark, max(m.reading.at.timestamp() for m in rests_on)

    @cached_property
    def _marks(self) -> Counter[float | None]:
        return Counter(m.terms.distance_m for m in self.entrant.readings)

    def _is_plain(self, finding: Finding) -> bool:
        """Whether it is of the lamp in no mode of its own, with an untouched tint dial, behind no gel."""
        first = self.own[finding.readings[0]]
        is_bare = named_shift(first.terms.configuration) == (0.0, 0.0)
        return is_bare and first.terms.mode in terms_in_words.PLAIN_MODES and terms.value(first, "tint") is UNSTATED

    @cached_property
    def whites(self) -> tuple[AtWhite, ...]:
        """A row a white at one distance, at the highest level that any was read at, the warmest first; one of a lamp
        without a dial."""
        main = self.main
        if main is None:
            return ()
        here = [m for m in full_level(self.evidence.readings) if _way(m) == _way(main)]
        here = [m for m in here if m.terms.distance_m == main.terms.distance_m]
        top = max((m.terms.level_pct or 0.0 for m in here), default=0.0)
        at_full = [m for m in here if (m.terms.level_pct or top) == top]
        by_white: dict[float | None, list[Measured]] = {}
        for group in terms.grouped(at_full).values():
            if any(m.value("illuminance") for m in group) or coloured(self.evidence.readings, group):
                by_white.setdefault(group[0].terms.cct_k, group)
        points = white_points(self.evidence, [m for group in by_white.values() for m in group])
        found = [self._at_white(white, group, points) for white, group in by_white.items()]
        return tuple(sorted(found, key=lambda row: row.dialled_k or 0.0))

    def _at_white(self, white: float | None, repeats: Sequence[Measured], points: Sequence[WhitePoint]) -> AtWhite:
        evidence = self.evidence
        colour = coloured(evidence.readings, repeats)
        ratios_only = evidence.meter_of(repeats[0]).for_ratios_only  # of such a meter no level is told
        lit = [m for m in repeats if m.value("illuminance") and not ratios_only]
        whites = [m for m in colour if m.value("cct")]
        tints = [m for m in whites if m.value("duv") is not None]
        tint = evidence.tint_of(tints) if tints else None
        measured = evidence.white_of(whites) if whites else None
        cct = mean_of(whites, "cct")
        off = off_reference(tint.value, cct) if tint is not None and tint.value is not None and cct else None
        scores = {n: v for n in score_names(Use.TABLED) if (v := mean_of(colour, n)) is not None}
        row = AtWhite(
            dialled_k=white,
            repeats=tuple(repeats),
            colour=colour,
            level=evidence.level_of(lit) if lit else None,
            white=measured,
            off=off,
            half_duv=tint.half_width if tint is not None else 0.0,
            scores=scores,
            dial="",
        )
        return replace(row, dial=self._dial(row, points))

    def _dial(self, row: AtWhite, points: Sequence[WhitePoint]) -> str:
        if row.dialled_k is None or row.error_mired is None:
            return ""
        found, steps = dial_for(points, row.dialled_k), dial_of(self.evidence.gear)
        turned = steps.nearest(found[0]) if found is not None else None
        if not row.is_off or turned == row.dialled_k:
            return "leave"
        return steps.words(turned) if turned is not None else ""

    @property
    def at(self) -> AtWhite | None:
        """The row that stands for the lamp: of the white that is usually asked for."""
        return min(self.whites, key=lambda row: white_liking(row.dialled_k), default=None)

    @cached_property
    def doubtful(self) -> str:
        """What is in doubt of the figures that stand for it, and which other evening or meter contradicts them."""
        row, evidence = self.at, self.evidence
        if row is None:
            return ""
        every = (*evidence.readings, *trust.trusted(self.entrant.beside))
        said = (
            trust.doubts_of(list(dict.fromkeys((*row.repeats, *row.colour)))),
            evenings.level_contradicted(every, row.repeats, evidence.level_of) if row.lux else "",
            evenings.white_contradicted(every, row.colour, evidence.white_of) if row.cct_k else "",
        )
        return "; ".join(part for part in said if part)

    @property
    def base(self) -> Measured | None:
        """A reading at the terms that all of it holds for where no sentence says otherwise."""
        return self.at.repeats[0] if self.at is not None else self.main

    @cached_property
    def candela(self) -> float | None:
        """Its intensity on the axis at the white that stands for it, where a distance lets it be told."""
        row = self.at
        behind = set(ids(row.repeats)) if row is not None else set()
        found = [f for f in self.same if f.name == "candela" and behind & set(f.readings) and f.value is not None]
        return max(found, key=lambda f: len(f.readings)).value if found else None

    @cached_property
    def f_stop(self) -> float | None:
        """The f-number that its level gives at the sensitivity and shutter of the settings."""
        row = self.at
        behind = ids(row.repeats) if row is not None else ()
        return next((f.value for f in self.same if f.name == "exposure" and set(f.readings) <= set(behind)), None)

    @cached_property
    def dimmed(self) -> Dimmed | None:
        """What the dimmer does at the white that stands for it, else at another."""
        curve = self._first_of("exponent of the dimmer")
        if curve is None or not curve.series:
            return None
        drift = self._first_of("white drift with level")
        dial, gives = (curve.series[name] for name in ("dial_pct", "output_pct"))
        place = min(range(len(dial)), key=lambda n: float(dial[n] or 0.0))
        span = (drift.spread or 0.0, drift.uncertainty or 0.0) if drift is not None else None
        readings = (*curve.readings, *(drift.readings if drift is not None else ()))
        return Dimmed(float(dial[place] or 0.0), float(gives[place] or 0.0), span, tuple(dict.fromkeys(readings)))

    def _first_of(self, name: str) -> Finding | None:
        found = [f for f in self.same if f.name == name]
        white = self.at.dialled_k if self.at is not None else None
        at_white = [f for f in found if self.own[f.readings[0]].terms.cct_k == white]
        return max(at_white or found, key=self.order, default=None)


def _way(measured: Measured) -> Key:
    return terms.key(measured, *IN_LINES)
