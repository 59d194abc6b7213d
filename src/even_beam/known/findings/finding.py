"""What a finding is, what it rests on, and the words that several kinds of it share."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from even_beam.bench import fields
from even_beam.bench.estimate import Estimate
from even_beam.words import notation


@dataclass(frozen=True, eq=False, slots=True, kw_only=True)
class Finding:
    """A figure computed from readings that are at the same terms but for its `axis`.

    `value` in `unit`; `spread` is the range of the readings it came from, `uncertainty` the 95 % half width of the
    figure itself and `ratio_uncertainty` that of its ratio to another read with the same meter (relative, for levels).
    `words` say it without its terms and without a full stop; `aside` is a sentence that follows.
    `series` are the figures behind it by name, all of one length. `not_covered` says what it does not speak of.
    `weight` orders what is told first: the greater, the sooner; 0 is told only when everything is asked.
    """

    question: str
    name: str
    value: float | None
    unit: str
    words: str
    terms: str
    readings: tuple[str, ...]
    axis: tuple[str, ...] = ()
    spread: float | None = None
    uncertainty: float | None = None
    ratio_uncertainty: float | None = None
    not_covered: tuple[str, ...] = ()
    series: Mapping[str, tuple[float | str | None, ...]] = field(default_factory=dict)
    rests_on: Estimate | None = None
    weight: int = 0
    aside: str = ""

    @property
    def sentence(self) -> str:
        """It as it stands alone: its words, its terms, and what else is to be known."""
        placed = f"{self.words}, at {self.terms}" if self.terms and self.says_terms else self.words
        return f"{placed}.{f' {self.aside}' if self.aside else ''}"

    @property
    def says_terms(self) -> bool:
        """Whether it holds at terms that have to be said: not of pairs from all of them, nor of a change of meter."""
        return self.axis != fields.NAMES

    @property
    def parts(self) -> Mapping[str, float]:
        """What the uncertainty is made of, by name; reckoned when it is asked for, which most never are."""
        return self.rests_on.shares if self.rests_on is not None else {}


def shift_words(white: Estimate | None, tint: Estimate | None) -> list[str]:
    """How far white and tint are moved, each with what it leaves open; what cannot be told from nothing is said to
    stay."""
    said, stays = [], []
    if white is not None:
        half = f"±{notation.half(white.half_width)}"
        moved = abs(white.value or 0.0) > white.half_width
        said += [f"white {notation.number(white.value, 1, signed=True)} {half} mired"] if moved else []
        stays += [] if moved else [("white", f"{half} mired")]
    if tint is not None:
        half = f"±{tint.half_width:.4f}"
        moved = abs(tint.value or 0.0) > tint.half_width
        said += [f"Duv {notation.duv(tint.value)} {half}"] if moved else []
        stays += [] if moved else [("tint", half)]
    if stays:
        what, within = " and ".join(name for name, _ in stays), ", ".join(half for _, half in stays)
        said.append(f"{what} as before, as far as can be told ({within})")
    return said


def percent_half(share: float) -> str:
    """A relative half width as it is said: ±5 %, and below 2 % with a decimal."""
    return f"±{notation.number(100.0 * share, 0 if share >= 0.02 else 1)} %"
