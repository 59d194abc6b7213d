"""From a question to a run sheet: lamps and protocols become steps in the order that costs the hands least.

The plan also says what can be dropped when time is short, and which answers are then lost.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from even_beam.bench import cautions
from even_beam.bench.plan import seconds_needed
from even_beam.bench.protocols import Protocol, expand
from even_beam.bench.records import Meter, Step, Terms, new_id

REFERENCE_EVERY = 24
"""After so many steps a lamp's first step is read again, to catch drift (common practice, no source)."""

WARM_UP_MIN = 15.0
"""What an LED lamp is given to settle before its first reading (common practice, no source: 15-30 min)."""


@dataclass(frozen=True, slots=True)
class LampPlan:
    """One lamp as it will be read: where the meter stands, what can sit on it, and whether its white is fixed."""

    source_id: str
    distance_m: float | None = 2.0
    configuration: tuple[str, ...] = ()
    configurations: tuple[tuple[str, ...], ...] = ()
    fixed_white: bool = False


@dataclass(frozen=True, slots=True)
class Drop:
    """What leaving a protocol out saves, and what is then not answered."""

    protocol: str
    seconds_saved: float
    lost: str


@dataclass(frozen=True, slots=True)
class Plan:
    """A run sheet with its time, what may be dropped (the dearest first), and the cautions it calls for."""

    steps: tuple[Step, ...]
    seconds: float
    drops: tuple[Drop, ...]
    cautions: tuple[str, ...]


def make_plan(
    lamps: Sequence[LampPlan],
    protocols: Sequence[Protocol],
    key_meter: Meter,
    hand_meter: Meter,
    kinds: Mapping[str, str] | None = None,
    session_id: str = "",
) -> Plan:
    """The run sheet of lamps and protocols. Terms that several protocols need are read once, as often as the most asks."""
    meters = {meter.id: meter for meter in (key_meter, hand_meter)}
    steps = _steps(lamps, protocols, key_meter, hand_meter, session_id)
    seconds = seconds_needed(steps, meters)
    drops = []
    for protocol in protocols if len(protocols) > 1 else ():
        rest = [p for p in protocols if p is not protocol]
        saved = seconds - seconds_needed(_steps(lamps, rest, key_meter, hand_meter, session_id), meters)
        drops.append(Drop(protocol.name, saved, protocol.answers))
    drops.sort(key=lambda drop: -drop.seconds_saved)
    return Plan(tuple(steps), seconds, tuple(drops), _cautions(steps, protocols, kinds or {}))


def _steps(
    lamps: Sequence[LampPlan], protocols: Sequence[Protocol], key_meter: Meter, hand_meter: Meter, session_id: str
) -> list[Step]:
    ordered: list[Step] = []
    for lamp in lamps:
        base = Terms(
            mode="fixed" if lamp.fixed_white else "CCT",
            level_pct=100.0,
            configuration=lamp.configuration,
            distance_m=lamp.distance_m,
            placement="on axis" if lamp.distance_m is not None else "equal",
        )
        wanted: dict[tuple[Terms, str, tuple[str, ...]], int] = {}
        for protocol in protocols:
            meter = hand_meter if protocol.by_hand else key_meter
            quantities = protocol.quantities or meter.quantities
            again = max(1, len(protocol.again_after_min))
            for terms in expand(protocol, base, lamp.configurations):
                key = (terms, meter.id, quantities)
                wanted[key] = max(wanted.get(key, 0), protocol.repeats * again)
        own = [
            Step(new_id(), session_id, 0.0, (lamp.source_id,), terms, quantities, meter_id, repeats)
            for (terms, meter_id, quantities), repeats in wanted.items()
        ]
        own.sort(key=lambda step: _cost_order(step, key_meter.id))
        ordered += _with_references(own)
    return [replace(step, position=float(i + 1)) for i, step in enumerate(ordered)]


def _cost_order(step: Step, key_meter_id: str) -> tuple[object, ...]:
    """The dearest change outermost: modifier, distance, aim, meter, zoom; then white and, at last, the dimmer downwards."""
    terms = step.terms
    return (
        len(terms.configuration), terms.configuration, -(terms.distance_m or 0.0), abs(terms.angle_deg), terms.angle_deg,
        step.meter_id != key_meter_id, terms.zoom, terms.mode, terms.hue_deg or 0.0, -(terms.cct_k or 0.0), terms.tint,
        -(terms.level_pct if terms.level_pct is not None else 101.0),
    )  # fmt: skip


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
        same_place = step.terms.distance_m == own[0].terms.distance_m and step.terms.configuration == own[0].terms.configuration  # fmt: skip
        if last or (since >= REFERENCE_EVERY and same_place):
            found.append(replace(own[0], id=new_id(), repeats=1))
            since = 0
    return found


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
