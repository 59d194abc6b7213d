"""What to clip on: the pack of gels that brings a light nearest to a white, and what it costs."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.bench.target import MATCH_DUV, MATCH_MIRED, Target, matches
from even_beam.known.findings.colour import SKIN
from even_beam.light.batch import evaluate
from even_beam.light.gel_packs import COOLS, GREENS, REDDENS, WARMS, Stock, packed
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray
from even_beam.words import notation

HEAT = "Gels scorch on hot lamps: leave clearance, follow the maker's limits, and never leave one alone."


SCORES = {"ra": "Ra", "r9": "R9", "skin": "skin R13", "rf": "Rf", "ssi": "SSI", "tlci": "TLCI"}
"""What is told of a light behind gels and of a mixture, by its label; SSI is against the matched reference."""


@dataclass(frozen=True, eq=False, slots=True)
class GelAnswer:
    """A pack and what it leaves: mired (positive warmer) and Duv (positive greener) off the target, None where the
    light's tint is not known; its loss in stops (positive), and scores behind it by name (ra, rf, ssi, tlci, skin).

    `half_mired`, `half_duv` and `half_score` (Ra, Rf) are what dyes of these names differ by, 0 where they were read;
    `moves_mired` is how far it moves the white.
    """

    pack: tuple[str, ...]
    mired_off: float
    duv_off: float | None
    loss_stops: float
    scores: Mapping[str, float | None]
    half_mired: float = 0.0
    half_duv: float = 0.0
    half_score: float = 0.0
    moves_mired: float = 0.0

    @property
    def words(self) -> str:
        """The pack as it is said."""
        return " + ".join(self.pack)

    @property
    def scores_words(self) -> str:
        """How the light shows colours behind it: Ra 95, R9 82, ...; empty where its spectrum was not read. Behind gels
        that were not read either, only means are told, with what dyes of a name differ by, and of weak gels."""
        known = {name: value for name, value in self.scores.items() if value is not None}
        if self.is_read:
            return ", ".join(f"{SCORES[name]} {notation.score(value)}" for name, value in known.items())
        if abs(self.moves_mired) > RECKONED_MIRED:
            return ""
        means = {name: value for name, value in known.items() if name in MEANS}
        return ", ".join(
            f"{SCORES[name]} {notation.score(value)} ±{self.half_score:.0f}" for name, value in means.items()
        )

    @property
    def is_read(self) -> bool:
        """Whether what its gels let through was read here."""
        return self.half_mired == 0.0 and self.half_duv == 0.0

    @property
    def strays_words(self) -> str:
        """How far sheets of these names stray, in words; empty where they were read."""
        if self.is_read:
            return ""
        tint = f", {self.half_duv:.4f}" if self.duv_off is not None else ""
        return f"±{notation.half(self.half_mired)} mired{tint} from sheet to sheet"

    @property
    def matches(self) -> bool:
        """Whether the light passes for the target behind it."""
        return matches(self.mired_off, self.duv_off)


DIAL_FOLLOWS_MIRED = 40.0
"""A gel that moves the white by this is as bad for a lamp whose dial must follow as one that misses the tint by a
match."""


def off_both(mired: FloatArray | float, duv: FloatArray | float) -> FloatArray:
    """How far off in both axes at once: 1 is the limit of a match in one of them."""
    return np.hypot(np.asarray(mired) / MATCH_MIRED, np.asarray(duv) / MATCH_DUV)


AS_NEAR = 0.3
"""Two packs whose distances differ by less than this share of a match (3 mired, 0.0006) are as near as a meter tells:
the one of fewer gels is taken, then the one that loses less."""


WORTH_IT = 0.3
"""A pack is named only where it surely mends so much of a match, whatever its sheets are."""

RECKONED_MIRED = 40.0
"""Behind gels that were not read and move the white farther, no score is told: from dye to dye it differs too much."""

MEANS = ("ra", "rf")
"""The scores that can be told behind gels that were not read: of single samples dyes of one name leave too little."""


@dataclass(frozen=True, eq=False, slots=True)
class Wanting:
    """A light that wants gels, shape (401,), and its target.

    Without `tint_known` only warm and cold gels are tried. `dials` is one whose own dial does the white, so that only
    green and magenta ones are, and the dial follows; without `tint_told`, where the meter cannot tell its tint from the
    target's, none of these are. Without `own_spectrum` the light is a reference one, whose scores are not those of the
    lamp.
    """

    light: FloatArray
    target: Target
    tint_known: bool = True
    tint_told: bool = True
    dials: bool = False
    own_spectrum: bool = True


def gel_answers(wanting: Sequence[Wanting], stock: Stock) -> list[tuple[GelAnswer, ...]]:
    """For each light the nearest pack of one to three gels, then the nearest of fewer; none where no gel helps.

    A light that passes for its target, or that no pack brings nearer, is left alone.
    """
    if not stock.names or not wanting:
        return [() for _ in wanting]
    batches = (wanting[start : start + BATCH] for start in range(0, len(wanting), BATCH))
    return [answer for batch in batches for answer in _answers(batch, stock)]


BATCH = 32
"""So many lights stand behind every pack at once: of thousands all would fill the memory."""


def _answers(wanting: Sequence[Wanting], stock: Stock) -> list[tuple[GelAnswer, ...]]:
    lights = np.array([one.light for one in wanting])
    cct, duv = (np.array([[getattr(one.target, name)] for one in wanting]) for name in ("cct_k", "duv"))
    bare_mired, bare_duv = packed(lights, Stock(("none",), np.ones((1, lights.shape[-1])))).off(cct, duv)
    bare = [(float(mired), float(tint)) for mired, tint in zip(bare_mired[:, 0], bare_duv[:, 0], strict=True)]
    off = [
        place
        for place, one in enumerate(wanting)
        if not matches(bare[place][0], bare[place][1] if one.tint_known else None)
    ]
    if not off:
        return [() for _ in wanting]
    found = packed(lights[off], stock)
    mired_off, duv_off = found.off(cct[off], duv[off])
    chosen: list[tuple[int, int]] = []
    for row, place in enumerate(off):
        one = wanting[place]
        distance = _distance(one, bare[place], mired_off[row], duv_off[row], stock)
        before = abs(bare[place][1]) / MATCH_DUV if one.dials else float(off_both(*bare[place]))
        chosen += [(row, pack) for pack in _chosen(distance, before, found.loss_stops[row], stock, one)]
    answers: list[tuple[GelAnswer, ...]] = [() for _ in wanting]
    for (row, pack), scores in zip(chosen, scores_of(_behind(lights[off], stock, chosen)), strict=True):
        place = off[row]
        answer = GelAnswer(
            pack=stock.of(stock.packs[pack]),
            mired_off=float(mired_off[row, pack]),
            duv_off=float(duv_off[row, pack]) if wanting[place].tint_known else None,
            loss_stops=float(found.loss_stops[row, pack]),
            scores=scores if wanting[place].own_spectrum else dict.fromkeys(scores),
            half_mired=float(stock.strays[pack, 0]),
            half_duv=float(stock.strays[pack, 1]),
            half_score=float(stock.score_strays[pack]),
            moves_mired=float(mired_off[row, pack]) - bare[place][0],
        )
        answers[place] = (*answers[place], answer)
    return answers


def _distance(
    one: Wanting, bare: tuple[float, float], mired_off: FloatArray, duv_off: FloatArray, stock: Stock
) -> FloatArray:
    """How far off each pack leaves a light, shape (p,); infinite for packs that are not for it."""
    white_alone = stock.without(GREENS, REDDENS)
    if one.dials:
        follows = (mired_off - bare[0]) / DIAL_FOLLOWS_MIRED
        usable = stock.without(WARMS, COOLS) & (one.tint_told | white_alone)
        return np.where(usable, np.hypot(duv_off / MATCH_DUV, follows), np.inf)
    distance = off_both(mired_off, duv_off)
    return distance if one.tint_known and one.tint_told else np.where(white_alone, distance, np.inf)


def _behind(lights: FloatArray, stock: Stock, chosen: Sequence[tuple[int, int]]) -> FloatArray:
    return np.array([lights[place] * stock.behind[pack] for place, pack in chosen]).reshape(-1, lights.shape[-1])


def _chosen(distance: FloatArray, before: float, loss_stops: FloatArray, stock: Stock, one: Wanting) -> list[int]:
    """The nearest pack, as far as a meter tells; then of each smaller number of gels its nearest, while it still
    helps."""
    known = np.where(np.isfinite(distance), distance, np.inf)
    if not np.isfinite(known).any():
        return []
    as_near = np.flatnonzero(known <= known.min() + AS_NEAR)
    first = int(as_near[np.lexsort((loss_stops[as_near], stock.depths[as_near]))[0]])
    found = [first]
    for fewer in range(int(stock.depths[first]) - 1, 0, -1):
        inside = np.flatnonzero(stock.depths == fewer)
        found.append(int(inside[np.argmin(known[inside])]))
    by_white = DIAL_FOLLOWS_MIRED if one.dials else MATCH_MIRED
    strays = stock.strays[found] / [by_white, MATCH_DUV] * [1.0, float(one.tint_known)]
    surely = {pack: np.hypot(known[pack], np.hypot(*off)) for pack, off in zip(found, strays, strict=True)}
    return [pack for pack in found if surely[pack] < before - WORTH_IT]


def scores_of(lights: FloatArray) -> list[dict[str, float | None]]:
    """The scores of lights, shape (n, 401), by name; None where one has none, as a coloured light."""
    if not len(lights):
        return []
    figures = evaluate(WAVELENGTH_NM, lights)
    columns = {
        "ra": figures.cri.Ra,
        "r9": figures.cri.R[..., 8],
        "skin": figures.cri.R[..., SKIN[0] - 1],
        "rf": figures.tm30.Rf,
        "ssi": figures.ssi.value,
        "tlci": figures.tlci.Qa,
    }
    return [
        {name: float(column[row]) if np.isfinite(column[row]) else None for name, column in columns.items()}
        for row in range(len(lights))
    ]
