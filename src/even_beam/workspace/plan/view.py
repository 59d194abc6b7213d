"""What the Plan station shows and does, worked out without an interface."""

import json
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from even_beam.bench import notation
from even_beam.bench.planning.costs import Costs
from even_beam.bench.planning.edits import split_over_days
from even_beam.bench.planning.protocols import Protocol, protocols_of, shipped
from even_beam.bench.planning.run_sheet import Bench, LampPlan, Plan, make_plan
from even_beam.bench.records import Meter, Source
from even_beam.workspace.bench.run_form import RunFormError, distances
from even_beam.workspace.bench.sheet_row import SheetRow
from even_beam.workspace.kit.desk import LampCard
from even_beam.workspace.kit.view import kind_text


class PlanError(ValueError):
    """A plan that cannot be made; the message says what is missing."""


@dataclass(frozen=True, slots=True)
class PlanForm:
    """What a person asks for. Texts left empty are what the protocols say."""

    source_ids: tuple[str, ...]
    protocols: tuple[str, ...]
    distance: str = "2 m"
    walk: str = ""
    whites: str = ""
    levels: str = ""
    configurations: str = ""
    hours: str = ""
    fixed_white: tuple[str, ...] = ()
    as_found: tuple[str, ...] = ()


def all_protocols(own: Path | None = None) -> tuple[Protocol, ...]:
    """The shipped protocols and, from a JSON file, the user's own, which replace those of the same name. Raises
    `PlanError`."""
    found = {protocol.name: protocol for protocol in shipped()}
    if own is not None and own.exists():
        try:
            found.update({p.name: p for p in protocols_of(json.loads(own.read_text(encoding="utf-8")))})
        except (OSError, ValueError, RecursionError) as error:
            raise PlanError(f"{own.name} is not used: {error}") from error
    return tuple(found.values())


def bench_of(meters: Sequence[Meter], costs: Costs) -> Bench:
    """The bench that a plan is made for. Raises `PlanError` without a meter."""
    if not meters:
        raise PlanError("There is no meter in the kit.")
    by_key = next((m for m in meters if m.is_spectrometer), meters[0])
    return Bench(by_key, next((m for m in meters if not m.is_spectrometer), by_key), costs)


def plan_of(form: PlanForm, protocols: Sequence[Protocol], bench: Bench, kinds: dict[str, str]) -> Plan:
    """The plan of a form. Raises `PlanError`."""
    if not form.source_ids:
        raise PlanError("Take at least one lamp.")
    chosen = [_adapted(p, form) for p in protocols if p.name in form.protocols]
    if not chosen:
        raise PlanError("Take at least one protocol: what shall be answered?")
    try:
        placed = distances(form.distance)
    except RunFormError as error:
        raise PlanError(str(error)) from error
    configurations = _configurations(form.configurations)
    lamps = [
        LampPlan(
            i,
            placed[0] if placed else None,
            configurations[0] if configurations else (),
            configurations,
            i in form.fixed_white,
            i in form.as_found,
        )
        for i in form.source_ids
    ]
    plan = make_plan(lamps, chosen, bench, kinds)
    return split_over_days(plan, 3600.0 * _hours(form.hours), bench) if form.hours.strip() else plan


def _hours(text: str) -> float:
    (hours, *more) = _numbers(text.lower().removesuffix("h"), 0.25, 24.0, "number of hours a day") or (0.0,)
    if more or not hours:
        raise PlanError(f"“{text}” is not a number of hours a day.")
    return hours


def _adapted(protocol: Protocol, form: PlanForm) -> Protocol:
    """A protocol with the axes that the form overrides, where the protocol has them."""
    changes: dict[str, object] = {}
    if form.whites.strip() and protocol.whites:
        changes |= _whites(form.whites)
    if form.levels.strip() and len(protocol.levels_pct) > 1:
        changes["levels_pct"] = _numbers(form.levels, 0.0, 100.0, "level")
    if form.walk.strip() and len(protocol.distances) > 1:
        try:
            changes["distances"] = tuple(f"{d:.6f} m" for d in distances(form.walk))
        except RunFormError as error:
            raise PlanError(str(error)) from error
    return replace(protocol, **changes) if changes else protocol  # type: ignore[arg-type]


def _whites(text: str) -> dict[str, object]:
    """Whites one by one, or `2700 to 6500 by 100` and `2000 to 10000 by 4 mired`."""
    swept = re.fullmatch(
        r"\s*(\d+)\s*(?:to|-|–)\s*(\d+)\s*K?\s*by\s*(\d+(?:\.\d+)?)\s*(mired|K)?\s*", text, re.IGNORECASE
    )
    if swept is None:
        return {"whites_k": _numbers(text, 1000.0, 50_000.0, "white"), "white_range_k": ()}
    low, high = sorted(_numbers(f"{swept[1]} {swept[2]}", 1000.0, 50_000.0, "white"))
    step = float(swept[3])
    by_mired = (swept[4] or "").lower() == "mired"
    if step <= 0.0 or (high - low) / step > 500:
        raise PlanError(f"“{text.strip()}” would be more than 500 whites.")
    return {
        "whites_k": (),
        "white_range_k": (low, high),
        "white_step_mired": step if by_mired else 0.0,
        "white_step_k": 0.0 if by_mired else step,
    }


def _numbers(text: str, low: float, high: float, what: str) -> tuple[float, ...]:
    found = []
    for word in re.split(r"[\s;,%K]+", text.strip()):
        if not word:
            continue
        try:
            value = float(word)
        except ValueError:
            raise PlanError(f"“{word}” is not a {what}.") from None
        if not low <= value <= high:
            raise PlanError(f"“{word}” is not a {what} between {low:g} and {high:g}.")
        found.append(value)
    return tuple(found)


def _configurations(text: str) -> tuple[tuple[str, ...], ...]:
    """`bare; reflector; reflector + full CTO` as configurations, in that order."""
    parts = [part.strip() for part in text.split(";") if part.strip()]
    return tuple(() if p.lower() == "bare" else tuple(n.strip() for n in p.split("+") if n.strip()) for p in parts)


def sheet_rows(plan: Plan, sources: dict[str, Source], unit: str) -> list[SheetRow]:
    """The run sheet, a heading where the hands do something that takes a minute or more."""
    rows: list[SheetRow] = []
    heading = ""
    days = len(plan.days)
    day = 1
    for index, step in enumerate(plan.steps):
        terms = step.terms
        if days > 1 and (index == 0 or step.id in plan.breaks):
            day += index > 0
            rows.append(SheetRow(f"day {day}", f"day {day} of {days}", heading=True))
            heading = ""
        names = " + ".join(sources[i].nickname for i in step.source_ids if i in sources)
        here = f"{names} · {notation.configuration(terms)} · {notation.placement(terms, unit)}"
        if here != heading:
            heading = here
            rows.append(SheetRow(f"heading {index}", here, heading=True))
        setting = terms.zoom or notation.level(terms)
        detail = notation.axis(terms) if terms.angle_deg else f"{step.repeats}×"
        if step.wait_s >= 30.0:
            detail = f"wait {_duration(step.wait_s)}, {detail}"
        rows.append(SheetRow(step.id, notation.white(terms), setting, detail))
    return rows


def plan_words(plan: Plan) -> tuple[str, ...]:
    """The plan in a few lines: size and time, what may be dropped, what to mind."""
    readings = sum(step.repeats for step in plan.steps)
    waits = sum(step.wait_s for step in plan.steps)
    of_it = f", {_duration(waits)} of it waiting for lamps to warm" if waits >= 60.0 else ""
    days = f" on {len(plan.days)} days" if len(plan.days) > 1 else ""
    lines = [f"{len(plan.steps)} steps, {readings} readings, about {_duration(plan.seconds)}{days}{of_it}."]
    if len({step.source_ids for step in plan.steps}) > 1 and waits >= 60.0:
        lines.append("Light the next lamp, turned away, while one is read: its warm-up is then over when it comes.")
    lines += [
        f"Without “{drop.protocol}” {_duration(drop.seconds_saved)} less; lost: {drop.lost}."
        for drop in plan.drops[:3]
        if drop.seconds_saved > 30.0
    ]
    return (*lines, *plan.cautions)


def _duration(seconds: float) -> str:
    minutes = max(1, round(seconds / 60.0))
    return f"{minutes} min" if minutes < 90 else f"{minutes // 60} h {minutes % 60:02d} min"


def kinds_of(lamps: Sequence[LampCard]) -> dict[str, str]:
    """The kind of each lamp by its id."""
    return {card.source.id: kind_text(card) for card in lamps}


def as_found(lamps: Sequence[LampCard]) -> tuple[str, ...]:
    """The sources that are no fixtures: sun, window, room light, flash, display."""
    return tuple(card.source.id for card in lamps if not card.source.is_fixture)


def fixed_whites(lamps: Sequence[LampCard]) -> tuple[str, ...]:
    """The lamps whose white cannot be dialled, as far as their claim tells: a single white, not a range."""
    found = []
    for card in lamps:
        claim = card.claim("cct")
        if claim is not None and claim.low is not None and claim.low == claim.high:
            found.append(card.source.id)
    return tuple(found)
