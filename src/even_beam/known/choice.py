"""Which of each lamp's readings are compared: those at the terms asked, and in every other field one value, chosen
openly.

What is asked is a value for any field of terms, for all lamps or for one. What is not asked is chosen field by field,
in the order of `fields.FIELDS`: the value that most lamps share, and among those the one nearest to what a comparison
is usually made at. A lamp that was never read there keeps its own value, and is said to differ.
"""

import operator
from collections import Counter
from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import chain

from even_beam.bench import fields, terms
from even_beam.bench.beam_angle import BeamAngles
from even_beam.bench.fields import UNSTATED, Key
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF, SOURCE_KINDS, Claim, Meter
from even_beam.known.evidence import Evidence
from even_beam.words.quantities import Kind, of_kinds

WORKING_WHITES_K = (5600.0, 3200.0)
"""What a comparison is made at when nobody says otherwise, in this order."""


JOINED = "joined"
"""Asked of a field in `JOINABLE`: all of its values as one figure, instead of one of them."""

JOINABLE = ("meter", "session")
"""Fields over which a lamp is the same lamp: what was read may be joined where somebody chooses to."""


@dataclass(frozen=True, eq=False, slots=True)
class Repeats:
    """Readings of one lamp at the same terms, and whether they say something of the light.

    The key stands beside them: a choice looks through thousands of them field by field.
    """

    key: Key
    readings: Sequence[Measured]
    are_lit: bool


@dataclass(frozen=True, eq=False)
class Entrant:
    """One lamp in a comparison with the readings that count; a `part` of them when it stands there more than once.

    `own` are the terms that are asked of it alone. `beside` are its readings of other evenings, where one is compared:
    nothing is taken of them, but they may contradict.
    """

    source_id: str
    name: str
    kind: str
    readings: tuple[Measured, ...]
    part: str = ""
    own: Mapping[str, Hashable] = field(default_factory=dict)
    claims: tuple[Claim, ...] = ()
    beside: tuple[Measured, ...] = ()

    @property
    def key(self) -> str:
        """What tells it from the others in a comparison."""
        return key_of(self.source_id, self.part)

    @cached_property
    def repeats(self) -> list[Repeats]:
        """Its readings by their terms, those of the room apart."""
        found = terms.grouped([m for m in self.readings if m.terms.mode != OFF])
        return [Repeats(key, group, any(map(has_light, group))) for key, group in found.items()]

    @cached_property
    def lit(self) -> list[Repeats]:
        """Those that say something of the light."""
        return [one for one in self.repeats if one.are_lit]

    @cached_property
    def beam_angles(self) -> BeamAngles:
        """The half-peak angles of its beams, where they are known."""
        return BeamAngles(self.readings, self.claims)

    def evidence(self, meters: Mapping[str, Meter]) -> Evidence:
        """What its readings tell, those of other evenings apart."""
        return Evidence(self.source_id, self.name, self.kind, self.readings, meters, self.claims)

    @property
    def is_fixture(self) -> bool:
        """Whether it has something to dial; sun, window and flash are read as they are found."""
        return self.kind not in SOURCE_KINDS[1:]


def key_of(source_id: str, part: str) -> str:
    """The key of a part of a source's readings."""
    return f"{source_id} {part}" if part else source_id


@dataclass(frozen=True, eq=False, slots=True)
class Chosen:
    """The readings of one lamp at one set of terms, and the other sets that answer what was asked as well.

    `unstated` names the fields that were asked and that its readings do not state, `joined` those of which its readings
    have several values by choice.
    """

    entrant: Entrant
    readings: tuple[Measured, ...]
    also: tuple[Repeats, ...] = ()
    unstated: tuple[str, ...] = ()
    joined: tuple[str, ...] = ()

    @property
    def nearest(self) -> tuple[Sequence[Measured], ...]:
        """The other sets, those first that differ in the fewest fields from the chosen one."""
        if self.first is None:
            return tuple(one.readings for one in self.also)
        own = self.first.key
        ordered = sorted(self.also, key=lambda one: sum(map(operator.ne, own, one.key)))
        return tuple(one.readings for one in ordered)

    @property
    def first(self) -> Measured | None:
        """A reading that tells the terms; None for a lamp that was not read at what is asked."""
        return self.readings[0] if self.readings else None


COLOUR = of_kinds(Kind.WHITE, Kind.TINT, Kind.COLOUR, Kind.SCORE, Kind.SAMPLE)
"""The quantities that say something of a light's white or colours."""

_LIGHT = COLOUR | of_kinds(Kind.LEVEL, Kind.EXPOSURE)


def has_light(measured: Measured) -> bool:
    """Whether a reading says something of the light; one whose figures were not loaded may."""
    if measured.computed is not None or not measured.is_loaded:
        return True
    return any(value.quantity in _LIGHT for value in measured.reading.values)


def choose(
    entrants: Sequence[Entrant], asked: Mapping[str, Hashable], skip: frozenset[Key] = frozenset()
) -> tuple[Chosen, ...]:
    """One set of terms for each lamp. `skip` are sets of terms that turned out to say nothing of the light."""
    each = [{**asked, **entrant.own} for entrant in entrants]
    joins = [tuple(name for name in JOINABLE if own.get(name) == JOINED) for own in each]
    each = [{name: value for name, value in own.items() if value != JOINED} for own in each]
    left = [
        _stated_first(_joined(_answering(entrant, own, skip), joined), own)
        for entrant, own, joined in zip(entrants, each, joins, strict=True)
    ]
    answering = list(left)
    # what all can share first: one evening and one meter before a field that all have their own of
    for by_all in (True, False):
        for name in fields.NAMES:
            votes = [_has_vote(name, e, groups) for e, groups in zip(entrants, left, strict=True)]
            left = _settled(name, entrants, left, votes, by_all=by_all)
    return tuple(
        Chosen(
            entrant,
            tuple(groups[0].readings) if groups else (),
            tuple(g for g in others if not groups or g is not groups[0]),
            _unstated(groups[0].readings[0], own) if groups else (),
            joined,
        )
        for entrant, groups, others, own, joined in zip(entrants, left, answering, each, joins, strict=True)
    )


def _has_vote(name: str, entrant: Entrant, groups: Sequence[Repeats]) -> bool:
    """Whether a lamp says what the others are compared at: not where it alone is asked, nor how they are dialled if it
    is not."""
    undialled = name == "mode" and all(one.readings[0].terms.mode == "fixed" for one in groups)
    return name not in entrant.own and not undialled


def _answering(entrant: Entrant, asked: Mapping[str, Hashable], skip: frozenset[Key]) -> list[Repeats]:
    """The sets of terms that answer what is asked; those that say nothing of the light only where no other does."""
    left = [one for one in entrant.repeats if one.key not in skip] if skip else entrant.repeats
    exactly = _placed(asked)
    exact = [one for one in left if all(one.key[place] == wanted for place, wanted in exactly)] if exactly else left
    if exact and not any(one.are_lit for one in exact):
        return exact
    lit = [one for one in left if one.are_lit] if skip else entrant.lit
    return [one for one in lit if _answers(one.readings[0], asked, entrant)] if asked else lit


def _joined(groups: list[Repeats], joined: tuple[str, ...]) -> list[Repeats]:
    """Sets of terms that differ in what is joined alone, as one."""
    if not joined:
        return groups
    together = terms.grouped(chain.from_iterable(one.readings for one in groups), *joined)
    return [Repeats(own[0].key, own, any(map(has_light, own))) for own in together.values()]


def _placed(asked: Mapping[str, Hashable], *but: str) -> list[tuple[int, Hashable]]:
    """What is asked, by the places of its fields in a key."""
    return [(fields.PLACE_OF[name], wanted) for name, wanted in asked.items() if name not in but]


def _answers(first: Measured, asked: Mapping[str, Hashable], entrant: Entrant) -> bool:
    """Whether readings are at what is asked: the same, or not stated where that says nothing. Distances may be
    brought."""
    for name, wanted in asked.items():
        found = terms.value(first, name)
        if found == wanted or name == "distance":
            continue
        if name == "cct" and (first.terms.mode == "fixed" or not entrant.is_fixture) and wanted is not UNSTATED:
            continue  # each at its own white
        if name == "mode" and found == "fixed":
            continue
        silent = found is UNSTATED and name in {"level", "cct", "zoom", "tint", "plane", "placement", "meter"}
        if not (silent and wanted is not UNSTATED):
            return False
    return True


def _stated_first(groups: list[Repeats], asked: Mapping[str, Hashable]) -> list[Repeats]:
    """Those that state what is asked stand before those that are silent on it."""
    wanted = _placed(asked, "distance")
    stated = [one for one in groups if all(one.key[place] == v for place, v in wanted)] if wanted else groups
    stated = stated or groups
    if "distance" not in asked:
        return stated
    place, distance = fields.PLACE_OF["distance"], asked["distance"]
    return [one for one in stated if one.key[place] == distance] or stated


def _unstated(first: Measured, asked: Mapping[str, Hashable]) -> tuple[str, ...]:
    return tuple(
        n for n, v in asked.items() if v is not UNSTATED and terms.value(first, n) is UNSTATED and n != "distance"
    )


def _settled(
    name: str, entrants: Sequence[Entrant], left: list[list[Repeats]], votes: list[bool], *, by_all: bool
) -> list[list[Repeats]]:
    """One value of a field for every lamp: the one most share; a lamp that lacks it keeps its own best.

    `by_all` settles only what all can share, and leaves the field open where they cannot.
    A lamp of which the field is asked by itself has no vote in what the others are compared at.
    """
    place = fields.PLACE_OF[name]
    if len({one.key[place] for groups in left for one in groups}) < 2:
        return left
    by_value: list[dict[Hashable, list[Repeats]]] = []
    for groups in left:
        own: dict[Hashable, list[Repeats]] = {}
        for one in groups:
            own.setdefault(one.key[place], []).append(one)
        by_value.append(own)
    lamps: Counter[Hashable] = Counter()
    for own, has_vote in zip(by_value, votes, strict=True):
        for value in own:
            lamps[value] += has_vote
    if by_all and max(lamps.values()) < sum(votes):
        return left
    ranks = {value: rank for rank, value in enumerate(_ordered(name, entrants, lamps, by_value))}
    return [own[min(own, key=ranks.__getitem__)] if own else [] for own in by_value]


def _ordered(
    name: str,
    entrants: Sequence[Entrant],
    lamps: Mapping[Hashable, int],
    by_value: Sequence[Mapping[Hashable, list[Repeats]]],
) -> list[Hashable]:
    """The values of a field, the best first: shared by most lamps, liked most, most read at these terms, and where the
    lamps were read most of all; of evenings, and where nothing else tells, what was read last."""
    liking = _LIKING.get(name, _indifferent)
    shared = {value: [one.readings for own in by_value for one in own.get(value, ())] for value in lamps}
    likings = {value: (-lamps[value], liking(value), -sum(map(len, shared[value]))) for value in lamps}
    order = sorted(sorted(lamps, key=str), key=likings.__getitem__)
    ties = Counter(likings.values())
    if max(ties.values()) > 1:  # seldom, and to look at every reading takes long
        everywhere = _count_of(name, entrants) if name != "session" else Counter()
        latest = {value: max(m.reading.at for group in shared[value] for m in group).timestamp() for value in lamps}
        order.sort(key=lambda value: (*likings[value], -everywhere[value], -latest[value]))
    return order


def _count_of(name: str, entrants: Sequence[Entrant]) -> Counter[Hashable]:
    """How often each value of a field was read."""
    place = fields.PLACE_OF[name]
    return Counter(m.key[place] for entrant in entrants for m in entrant.readings)


def _indifferent(value: Hashable) -> float:
    return 0.0


def white_liking(value: Hashable) -> float:
    """Nearer to a working white is better; 5600 K before 3200 K."""
    if value is UNSTATED:
        return 1e6
    mired = 1e6 / float(str(value))
    return min(abs(mired - 1e6 / white) + 3.0 * place for place, white in enumerate(WORKING_WHITES_K))


def _mode_liking(value: Hashable) -> float:
    return {"cct": 0.0, "fixed": 1.0}.get(str(value), 2.0)


def _level_liking(value: Hashable) -> float:
    return 1e6 if value is UNSTATED else -float(str(value))


def _plain_first(value: Hashable) -> float:
    """Nothing on the lamp, no tint, no zoom stated, on the axis: before anything else."""
    if value is UNSTATED or value == 0.0:
        return 0.0
    return float(len(value)) if isinstance(value, tuple) else 1.0


def _distance_liking(value: Hashable) -> float:
    return 1.0 if value is UNSTATED else 0.0


_LIKING: Mapping[str, Callable[[Hashable], float]] = {
    "mode": _mode_liking, "cct": white_liking, "level": _level_liking, "tint": _plain_first,
    "angle": _plain_first, "turn": _plain_first,
    "configuration": _plain_first, "placement": _plain_first, "distance": _distance_liking, "meter": _distance_liking,
}  # fmt: skip
"""How much a value of a field is liked where as many lamps share it as another; the smallest first."""


def along(readings: Sequence[Measured], first: Measured, *axes: str) -> list[Measured]:
    """The readings that differ from one in the axes named alone."""
    found = list(readings)
    for part in terms.parts_but(*axes):
        wanted = first.key[part]
        found = [m for m in found if m.key[part] == wanted]
    return found


ELSEWHERE = ("distance", "placement", "plane", "meter")
"""Where a meter stands, and which one it is, leave a white what it is on the axis of a beam."""


def coloured(readings: Sequence[Measured], chosen: Sequence[Measured]) -> tuple[Measured, ...]:
    """The readings with a white or a score: those chosen, else others of the same light, the meter and its place
    apart."""
    own = tuple(m for m in chosen if _has_colour(m))
    if own or not chosen:
        return own
    elsewhere = [m for m in along(readings, chosen[0], *ELSEWHERE) if _has_colour(m)]
    return tuple(next(iter(terms.grouped(elsewhere).values()), []))


def _has_colour(measured: Measured) -> bool:
    computed = measured.computed
    if computed is not None and any(name in computed.scalars for name in ("cct", "duv", "x")):
        return True
    return any(value.quantity in COLOUR for value in measured.reading.values)
