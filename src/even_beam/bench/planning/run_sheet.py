"""From a question to a run sheet: lamps and protocols become steps in the order that costs the hands least.

The plan also says what can be dropped when time is short, and which answers are then lost.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from even_beam.bench.fields import FIELDS
from even_beam.bench.planning import cautions
from even_beam.bench.planning.costs import Costs, seconds_needed
from even_beam.bench.planning.protocols import Protocol, expand
from even_beam.bench.records import Meter, Step, Terms, new_id

REFERENCE_EVERY = 24
"""After so many steps a lamp's first step is read again, to catch drift (common practice, no source)."""

TUNGSTEN_WARM_UP_S = 120.0
"""A tungsten lamp is given this long before its first reading (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class LampPlan:
    """One lamp as it will be read: where the meter stands, what can sit on it, and whether its white is fixed.

    A source that is no fixture is read `as_found`: nothing can be dialled, not even a level.
    """

    source_id: str
    distance_m: float | None = 2.0
    configuration: tuple[str, ...] = ()
    configurations: tuple[tuple[str, ...], ...] = ()
    fixed_white: bool = False
    as_found: bool = False


@dataclass(frozen=True, slots=True)
class Drop:
    """What leaving a protocol out saves, and what is then not answered."""

    protocol: str
    seconds_saved: float
    lost: str


@dataclass(frozen=True, slots=True)
class GivenUp:
    """What is not read because time is short (`shortening`): of which kind and value, how many steps, and the time that
    they would have taken."""

    kind: str
    value: float | str
    steps: int
    seconds: float


@dataclass(frozen=True, slots=True)
class Plan:
    """A run sheet with its time, what may be dropped (the dearest first), and the cautions it calls for.

    `breaks` are the ids of the steps with which another day begins, `given_up` is what shortage of time cost.
    """

    steps: tuple[Step, ...]
    seconds: float
    drops: tuple[Drop, ...]
    cautions: tuple[str, ...]
    breaks: frozenset[str] = frozenset()
    given_up: tuple[GivenUp, ...] = ()

    @property
    def days(self) -> tuple[tuple[Step, ...], ...]:
        """The steps day by day."""
        found: list[list[Step]] = [[]]
        for step in self.steps:
            if step.id in self.breaks and found[-1]:
                found.append([])
            found[-1].append(step)
        return tuple(tuple(day) for day in found)


@dataclass(frozen=True, slots=True)
class Bench:
    """What a plan is made for: a meter that a key reads, one read by eye, and what changes cost."""

    key_meter: Meter
    hand_meter: Meter
    costs: Costs = field(default_factory=Costs)

    @property
    def meters(self) -> dict[str, Meter]:
        """Both meters by id."""
        return {meter.id: meter for meter in (self.key_meter, self.hand_meter)}

    def seconds(self, steps: Sequence[Step]) -> float:
        """The time that steps take here."""
        return seconds_needed(steps, self.meters, self.costs)

    def reading_seconds(self, step: Step) -> float:
        """The time that one reading of a step takes here."""
        return self.costs.reading(step.meter_id in {m.id for m in self.meters.values() if m.is_spectrometer})


def make_plan(
    lamps: Sequence[LampPlan], protocols: Sequence[Protocol], bench: Bench, kinds: Mapping[str, str] | None = None
) -> Plan:
    """The run sheet of lamps and protocols. Terms that several protocols need are read once, as often as the most
    asks."""
    kinds = kinds or {}
    steps = _steps(lamps, protocols, bench, kinds)
    seconds = bench.seconds(steps)
    drops = []
    for protocol in protocols if len(protocols) > 1 else ():
        rest = [p for p in protocols if p is not protocol]
        saved = seconds - bench.seconds(_steps(lamps, rest, bench, kinds))
        drops.append(Drop(protocol.name, saved, protocol.answers))
    drops.sort(key=lambda drop: -drop.seconds_saved)
    return Plan(tuple(steps), seconds, tuple(drops), _cautions(steps, protocols, kinds))


def _steps(
    lamps: Sequence[LampPlan], protocols: Sequence[Protocol], bench: Bench, kinds: Mapping[str, str]
) -> list[Step]:
    ordered: list[Step] = []
    for lamp in lamps:
        own = _steps_of(lamp, [p for p in protocols if not p.together], bench)
        cold = _from_cold(lamp, protocols, bench)
        if own and not cold:
            own[0] = replace(
                own[0], wait_s=0.0 if lamp.as_found else _warm_up(kinds.get(lamp.source_id, ""), bench, ordered)
            )
        ordered += [*cold, *_with_references(own)]
    if len(lamps) > 1:
        ordered += _lit_together(lamps, [p for p in protocols if p.together], bench)
    return [replace(step, position=float(i + 1)) for i, step in enumerate(ordered)]


def _warm_up(kind: str, bench: Bench, before: Sequence[Step]) -> float:
    """What is left to wait for a lamp that was lit, turned away, while the lamp before it was read.

    Tungsten needs a minute or two; discharge and LED lamps take the whole time (common practice, no source).
    """
    needed = min(TUNGSTEN_WARM_UP_S, bench.costs.warm_up_s) if "tungsten" in kind else bench.costs.warm_up_s
    same_lamp_before = [s for s in before if before and s.source_ids == before[-1].source_ids]
    return max(0.0, needed - bench.seconds(same_lamp_before)) if before else needed


def _base(lamp: LampPlan) -> Terms:
    return Terms(
        mode="fixed" if lamp.fixed_white or lamp.as_found else "CCT",
        level_pct=None if lamp.as_found else 100.0,
        configuration=lamp.configuration,
        distance_m=lamp.distance_m,
        placement="on axis" if lamp.distance_m is not None else "equal",
    )


def _steps_of(lamp: LampPlan, protocols: Sequence[Protocol], bench: Bench) -> list[Step]:
    wanted: dict[tuple[Terms, str, tuple[str, ...]], tuple[int, float | None]] = {}
    for protocol in protocols:
        if protocol.again_after_min:
            continue
        meter = bench.hand_meter if protocol.by_hand else bench.key_meter
        quantities = protocol.quantities or meter.quantities
        found = expand(protocol, _base(lamp), lamp.configurations)
        if lamp.as_found:
            found = tuple(
                dict.fromkeys(
                    replace(t, level_pct=None, tint="", hue_deg=None, saturation_pct=None, mode="fixed", cct_k=None)
                    for t in found
                )
            )
        for terms in found:
            key = (terms, meter.id, quantities)
            repeats, limit = wanted.get(key, (0, None))
            limits = [x for x in (limit, protocol.spread_stops) if x is not None]
            wanted[key] = max(repeats, protocol.repeats), min(limits, default=None)
    own = [
        Step(
            id=new_id(),
            session_id="",
            position=0.0,
            source_ids=(lamp.source_id,),
            terms=terms,
            quantities=quantities,
            meter_id=meter_id,
            repeats=repeats,
            spread_stops=limit,
        )
        for (terms, meter_id, quantities), (repeats, limit) in wanted.items()
    ]
    order = _outermost_first(bench.costs)
    return sorted(own, key=lambda step: _cost_order(step, order, bench.key_meter.id))


def _from_cold(lamp: LampPlan, protocols: Sequence[Protocol], bench: Bench) -> list[Step]:
    """The steps of a warm-up: the same terms again and again, from the moment the lamp is lit."""
    found = []
    for protocol in protocols:
        before = 0.0
        for minutes in protocol.again_after_min:
            (terms, *_) = expand(protocol, _base(lamp), lamp.configurations)
            quantities = protocol.quantities or bench.key_meter.quantities
            wait = 60.0 * (minutes - before)
            found.append(
                Step(
                    id=new_id(),
                    session_id="",
                    position=0.0,
                    source_ids=(lamp.source_id,),
                    terms=terms,
                    quantities=quantities,
                    meter_id=bench.key_meter.id,
                    repeats=protocol.repeats,
                    wait_s=wait,
                )
            )
            before = minutes
    return found


def _lit_together(lamps: Sequence[LampPlan], protocols: Sequence[Protocol], bench: Bench) -> list[Step]:
    """All lamps lit at once, as they stand: whether they add up, and what they give together."""
    sources = tuple(lamp.source_id for lamp in lamps)
    found = []
    for protocol in protocols:
        meter = bench.hand_meter if protocol.by_hand else bench.key_meter
        for terms in expand(protocol, replace(_base(lamps[0]), configuration=())):
            quantities = protocol.quantities or meter.quantities
            found.append(
                Step(
                    id=new_id(),
                    session_id="",
                    position=0.0,
                    source_ids=sources,
                    terms=terms,
                    quantities=quantities,
                    meter_id=meter.id,
                    repeats=protocol.repeats,
                )
            )
    return found


_WAYS: Mapping[str, Callable[[Terms], object]] = {
    "configuration": lambda terms: (len(terms.configuration), terms.configuration),
    "distance_m": lambda terms: -(terms.distance_m or 0.0),
    "turn_deg": lambda terms: terms.turn_deg,
    "angle_deg": lambda terms: (abs(terms.angle_deg), terms.angle_deg),
    "hue_deg": lambda terms: terms.hue_deg or 0.0,
    "cct_k": lambda terms: -(terms.cct_k or 0.0),
    "level_pct": lambda terms: -(terms.level_pct if terms.level_pct is not None else 101.0),
}
"""In which direction a field is gone through; bare first, outwards, from cold to warm whites, downwards."""

_BEFORE = ("configuration", "distance_m", "turn_deg", "angle_deg", "zoom", "mode", "hue_deg", "cct_k", "tint")
"""Of fields that cost the same those stand farther out that settle slower; the dimmer stands innermost."""


def _outermost_first(costs: Costs) -> list[str]:
    """The fields that hands change, the dearest first: of fields that are crossed it is changed least often there,
    whatever they cost."""
    changed = [one for one in FIELDS if one.cost]
    places = {stored: place for place, stored in enumerate(_BEFORE)}
    changed.sort(key=lambda one: (-getattr(costs, one.cost), one.stored == "level_pct", places.get(one.stored, 99)))
    return [one.stored for one in changed]


def _cost_order(step: Step, order: Sequence[str], key_meter_id: str) -> tuple[object, ...]:
    """Where a step stands. Another meter is taken in hand where the beam is changed: what that costs nobody knows."""
    keys = [_along(stored, step.terms) for stored in order]
    zoom = order.index("zoom")
    return (*keys[:zoom], step.meter_id != key_meter_id, *keys[zoom:])


def _along(stored: str, terms: Terms) -> object:
    """Where terms stand on the way through a field."""
    way = _WAYS.get(stored)
    return way(terms) if way is not None else str(getattr(terms, stored))


def _with_references(own: list[Step]) -> list[Step]:
    """The first step once more at intervals and at the end, where it costs no move of the meter and no modifier."""
    if len(own) < 4:
        return own
    found: list[Step] = []
    since = 0
    for place, step in enumerate(own):
        found.append(step)
        since += 1
        last = place == len(own) - 1
        if last or (since >= REFERENCE_EVERY and _stands_alike(step.terms, own[0].terms)):
            found.append(replace(own[0], id=new_id(), repeats=1, wait_s=0.0))
            since = 0
    return found


def _stands_alike(here: Terms, there: Terms) -> bool:
    """Whether nothing is moved between them: not the meter, nor what sits on the lamp."""
    return (here.distance_m, here.angle_deg, here.turn_deg, here.configuration) == (
        there.distance_m,
        there.angle_deg,
        there.turn_deg,
        there.configuration,
    )


def _cautions(steps: Sequence[Step], protocols: Sequence[Protocol], kinds: Mapping[str, str]) -> tuple[str, ...]:
    distances = tuple({s.terms.distance_m for s in steps if s.terms.distance_m is not None})
    lamp_kinds = tuple({kinds.get(i, "") for s in steps for i in s.source_ids})
    named = {name for protocol in protocols for name in protocol.cautions}
    found = list(cautions.for_run(lamp_kinds, distances))
    if "mains" in named:
        found.append(cautions.MAINS)
    if "flashing" in named:
        found.append(cautions.FLASHING)
    return tuple(found)
