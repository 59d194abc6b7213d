"""A comparison of lamps as a value: the terms, an entry a lamp, and what may be published."""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cached_property

import numpy as np

from even_beam.bench import terms
from even_beam.bench.estimate import Estimate
from even_beam.bench.measured import Measured
from even_beam.bench.walks import Brought
from even_beam.known import in_words as words
from even_beam.known.choice import JOINABLE
from even_beam.words.wording import LEVEL_STOPS


class Evenness(StrEnum):
    """How a term stands between the lamps compared."""

    SAME = "same"
    BROUGHT = "brought to common terms"
    DIFFERS = "differs"
    UNKNOWN = "not known"


@dataclass(frozen=True, slots=True)
class TermNote:
    """One term of the even-terms line; `fields` are those it speaks of."""

    evenness: Evenness
    text: str
    fields: tuple[str, ...] = ()


@dataclass(frozen=True, eq=False, slots=True)
class Entry:
    """What one lamp gave at the terms, and the readings it rests on.

    `level` is log2 lx at `at_m`, the common distance or its own where that was asked of it alone, `how` says by which
    law it was had (None: read there) and `why_not` why
    it cannot be compared. `ratio` is against the reference, with its parts. White and scores come from `colour`, which
    are the readings themselves, or others that differ in the meter and its place alone. `doubtful` says what is in
    doubt of what it rests on. `ratios_only`: its meter is not good for absolutes; its level is not to be shown.
    `joined` says what it is the mean of, where sessions or meters were joined by choice. `estimates` are white (mired,
    as `cct`), tint and scores with what they are uncertain by, `beyond` how far each lies beyond the reference's.
    """

    key: str
    name: str
    readings: tuple[Measured, ...]
    is_fixture: bool = True
    level: Estimate | None = None
    as_read: float | None = None
    read_at_m: float | None = None
    at_m: float | None = None
    rests_on: tuple[Measured, ...] = ()
    how: Brought | None = None
    why_not: str = ""
    ratio_estimate: Estimate | None = None
    comparable: bool = False
    white: words.WhiteError | None = None
    cct_k: float | None = None
    colour: tuple[Measured, ...] = ()
    figures: Mapping[str, float] = field(default_factory=dict)
    texts: Mapping[str, str] = field(default_factory=dict)
    half_widths: Mapping[str, float] = field(default_factory=dict)
    estimates: Mapping[str, Estimate] = field(default_factory=dict)
    beyond: Mapping[str, Estimate] = field(default_factory=dict)
    ratios_only: bool = False
    doubtful: str = ""
    unstated: tuple[str, ...] = ()
    joined: str = ""
    also: tuple[Sequence[Measured], ...] = ()

    @property
    def joined_fields(self) -> frozenset[str]:
        """The fields of which its readings have several values, by the choice to join them."""
        return terms.varying(self.readings) & set(JOINABLE) if self.joined else frozenset()

    @property
    def first(self) -> Measured | None:
        """A reading that tells its terms."""
        return self.readings[0] if self.readings else None

    @property
    def illuminance(self) -> float | None:
        """The level at the common distance in lx; None for a bound, for one that cannot be had there, and for one that
        is for ratios alone: of such a meter, or f-stops whose exposure nobody stated."""
        if self.level is None or self.level.value is None or self.ratios_only or self.in_f_stops:
            return None
        return float(np.exp2(self.level.value))

    @property
    def in_f_stops(self) -> bool:
        """Whether its level is of f-numbers alone, which stand for no lux."""
        return bool(self.rests_on) and all(m.figure("illuminance") is None for m in self.rests_on)

    @property
    def ratio_stops(self) -> float | None:
        """How many stops brighter than the reference it is."""
        return None if self.ratio_estimate is None else self.ratio_estimate.value

    @property
    def ratio(self) -> float | None:
        """How many times as bright as the reference it is."""
        return None if self.ratio_stops is None else float(np.exp2(self.ratio_stops))

    @property
    def ratio_tolerance_stops(self) -> float | None:
        """What these readings can tell of the ratio, in stops: a little more than its 95 % half width."""
        return None if self.ratio_estimate is None else self.ratio_estimate.tells

    @property
    def tie(self) -> bool:
        """Whether the difference in level is below what these readings can tell."""
        found, half = self.ratio_stops, self.ratio_tolerance_stops
        return found is not None and half is not None and abs(found) <= half

    @property
    def level_with(self) -> bool:
        """Whether a tie may be called level: half a stop could have been told."""
        return self.tie and (self.ratio_tolerance_stops or 0.0) <= LEVEL_STOPS


@dataclass(frozen=True, slots=True)
class Sentence:
    """What may be published: its words, the entries it speaks of, and every reading it rests on."""

    text: str
    keys: tuple[str, ...]
    readings: tuple[str, ...]


@dataclass(frozen=True, eq=False)
class Comparison:
    """The result: what is common, the even-terms line, an entry a lamp (the reference first named), what may be
    published.

    `at` holds the value of every field that all lamps share; `distance_m` is where their levels are compared.
    """

    at: Mapping[str, Hashable]
    distance_m: float | None
    reference: str
    notes: tuple[TermNote, ...]
    entries: tuple[Entry, ...]
    said: tuple[Sentence, ...]

    @property
    def sentences(self) -> tuple[str, ...]:
        """What may be published, in words."""
        return tuple(one.text for one in self.said)

    def entry(self, key: str) -> Entry | None:
        """The entry of a key."""
        return self._by_key.get(key)

    @cached_property
    def _by_key(self) -> dict[str, Entry]:
        return {entry.key: entry for entry in reversed(self.entries)}
