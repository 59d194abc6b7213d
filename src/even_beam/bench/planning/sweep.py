"""A sweep of lamps, whites and levels as a run sheet, steps put in by hand, and what changes from step to step."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import product

from even_beam.bench.fields import FIELDS
from even_beam.bench.records import Meter, Step, Terms, new_id


@dataclass(frozen=True, slots=True)
class Sweep:
    """What a run reads: every lamp at every crossing of its axes; `configurations` are what sits on it, in turn."""

    source_ids: tuple[str, ...]
    whites_k: tuple[float, ...]
    levels_pct: tuple[float, ...]
    distances_m: tuple[float, ...]
    configurations: tuple[tuple[str, ...], ...] = ((),)
    zooms: tuple[str, ...] = ("",)
    angles_deg: tuple[float, ...] = (0.0,)
    repeats: int = 2
    return_to_first: bool = True


def run_sheet(sweep: Sweep, session_id: str, meter: Meter) -> tuple[Step, ...]:
    """The steps of a sweep, what costs most changed least: lamp, what sits on it, distance, angle, zoom, white, levels
    downwards.

    A lamp is moved once a distance and warms under full light before it is dimmed. No whites means the lamp's
    white is fixed. With `return_to_first` each lamp ends on a repeat of its first step, which shows drift.
    """
    steps: list[Step] = []
    for source_id in sweep.source_ids:
        own = _terms(sweep)
        if sweep.return_to_first and len(own) > 2:
            own.append(own[0])
        steps.extend(
            Step(
                id=new_id(),
                session_id=session_id,
                position=0.0,
                source_ids=(source_id,),
                terms=terms,
                quantities=meter.quantities,
                meter_id=meter.id,
                repeats=sweep.repeats,
            )
            for terms in own
        )
    return tuple(replace(step, position=float(i + 1)) for i, step in enumerate(steps))


def _terms(sweep: Sweep) -> list[Terms]:
    return [
        Terms(
            mode="fixed" if white is None else "CCT",
            cct_k=white,
            level_pct=level,
            zoom=zoom,
            configuration=configuration,
            distance_m=distance,
            placement="on axis" if distance is not None else "equal",
            angle_deg=angle,
        )
        for configuration, distance, angle, zoom, white, level in product(
            sweep.configurations,
            sweep.distances_m or (None,),
            sweep.angles_deg,
            sweep.zooms,
            sweep.whites_k or (None,),
            sorted(sweep.levels_pct or (100.0,), reverse=True),
        )
    ]


def inserted_before(steps: Sequence[Step], index: int | None, terms: Terms, template: Step) -> Step:
    """A new step at `terms` right before the step at `index` (at the end when None), else like `template`."""
    positions = sorted(step.position for step in steps)
    if index is None or index >= len(positions):
        position = (positions[-1] if positions else 0.0) + 1.0
    else:
        below = positions[index - 1] if index > 0 else positions[0] - 1.0
        position = (below + positions[index]) / 2.0
    return replace(template, id=new_id(), position=position, terms=terms, repeats=1, inserted=True)


def changed_parts(before: Terms | None, now: Terms) -> frozenset[str]:
    """The names of the terms that the hands must change; everything when there was no step before."""
    names = [one.stored for one in FIELDS if one.cost]
    if before is None:
        return frozenset(names)
    return frozenset(name for name in names if getattr(before, name) != getattr(now, name))
