"""Changes made to a plan by hand: another order, a step twice, a step left out, several days."""

from collections.abc import Sequence
from dataclasses import replace

from even_beam.bench.planning.run_sheet import Bench, Plan
from even_beam.bench.records import Step, new_id


def moved(plan: Plan, step_id: str, places: int, bench: Bench) -> Plan:
    """A step `places` further down (up when negative), as far as the sheet goes."""
    steps = list(plan.steps)
    place = _place(plan, step_id)
    step = steps.pop(place)
    steps.insert(min(max(place + places, 0), len(steps)), step)
    return _with(plan, _waits_first(steps), bench)


def doubled(plan: Plan, step_id: str, bench: Bench) -> Plan:
    """A step read a second time, right after itself."""
    steps = list(plan.steps)
    place = _place(plan, step_id)
    steps.insert(place + 1, replace(steps[place], id=new_id(), wait_s=0.0))
    return _with(plan, steps, bench)


def without(plan: Plan, step_id: str, bench: Bench) -> Plan:
    """The plan with a step left out; what it would have waited for, the lamp's next one waits for."""
    steps = list(plan.steps)
    gone = steps.pop(_place(plan, step_id))
    after = next((i for i, step in enumerate(steps) if step.source_ids == gone.source_ids), None)
    if gone.wait_s and after is not None and not any(s.wait_s for s in steps if s.source_ids == gone.source_ids):
        steps[after] = replace(steps[after], wait_s=gone.wait_s)
    return _with(plan, steps, bench)


def split_over_days(plan: Plan, seconds_a_day: float, bench: Bench) -> Plan:
    """Days of about `seconds_a_day`, broken where the next change is dear.

    A lamp that is read on both sides of a night is closed and opened on the same step, which tells what the night did;
    each day begins with a warm-up. A day holds at least one step, however long it takes.
    """
    warm_up = max((step.wait_s for step in plan.steps), default=0.0)
    left = list(plan.steps)
    steps: list[Step] = []
    breaks = set()
    opening: list[Step] = []
    while left:
        left[0] = replace(left[0], wait_s=max(left[0].wait_s, 0.0 if opening else warm_up))
        count = _fitting(left, seconds_a_day - bench.seconds(opening), bench)
        day, left = [*opening, *left[:count]], left[count:]
        if steps:
            breaks.add(day[0].id)
        control = _control(day, left)
        steps += [*day, *control]
        opening = [replace(step, id=new_id(), wait_s=warm_up) for step in control]
    return replace(_with(plan, steps, bench), breaks=frozenset(breaks))


def _fitting(steps: Sequence[Step], seconds: float, bench: Bench) -> int:
    """How many steps fit into a day; preferably up to where lamp, modifier or distance changes anyway."""
    count = 1
    while count < len(steps) and bench.seconds(steps[: count + 1]) <= seconds:
        count += 1
    if count == len(steps):
        return count
    dear = [
        i
        for i in range(1, count + 1)
        if bench.costs.change(steps[i - 1].terms, steps[i].terms, steps[i - 1].source_ids == steps[i].source_ids)
        >= min(bench.costs.lamp_s, bench.costs.distance_s)
    ]
    return dear[-1] if dear and dear[-1] > count // 2 else count


def _control(day: Sequence[Step], following: Sequence[Step]) -> list[Step]:
    """The first step of a lamp that goes on after the night, once more; nothing when another lamp follows."""
    if not following or day[-1].source_ids != following[0].source_ids:
        return []
    first = next(step for step in day if step.source_ids == following[0].source_ids)
    return [replace(first, id=new_id(), repeats=1, wait_s=0.0)]


def _waits_first(steps: Sequence[Step]) -> list[Step]:
    """A lamp's only wait is its warm-up, and stands before its first step whatever the order."""
    found = list(steps)
    for sources in dict.fromkeys(step.source_ids for step in steps):
        places = [i for i, step in enumerate(found) if step.source_ids == sources]
        waiting = [i for i in places if found[i].wait_s]
        if len(waiting) == 1 and waiting != places[:1]:
            found[places[0]] = replace(found[places[0]], wait_s=found[waiting[0]].wait_s)
            found[waiting[0]] = replace(found[waiting[0]], wait_s=0.0)
    return found


def _place(plan: Plan, step_id: str) -> int:
    return next(i for i, step in enumerate(plan.steps) if step.id == step_id)


def _with(plan: Plan, steps: Sequence[Step], bench: Bench) -> Plan:
    numbered = tuple(replace(step, position=float(i + 1)) for i, step in enumerate(steps))
    return replace(plan, steps=numbered, seconds=bench.seconds(numbered))
