"""What the Plan station shows and does, worked out without an interface."""

import json
import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from even_beam.answers.bench.run_form import RunFormError, angles_of, configurations_of, distances, zooms_of
from even_beam.answers.bench.sheet_row import SheetRow
from even_beam.answers.plan.given_up import given_up_words
from even_beam.bench import terms_in_words
from even_beam.bench.planning.costs import Costs
from even_beam.bench.planning.edits import split_over_days
from even_beam.bench.planning.protocols import Protocol, ProtocolError, protocols_of, shipped
from even_beam.bench.planning.run_sheet import Bench, LampPlan, Plan, make_plan
from even_beam.bench.planning.shortening import shortened
from even_beam.bench.records import Meter, Source
from even_beam.desk.kit.lamp_form import LampCard
from even_beam.desk.kit.view import kind_text
from even_beam.errors import TellableError
from even_beam.files.reading import InputError, read_text
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES

GRID = "grid"
"""The protocol that crosses every axis that is asked."""


class PlanError(TellableError, ValueError):
    """A plan that cannot be made; the message says what is missing."""


@dataclass(frozen=True, slots=True)
class PlanForm:
    """What a person asks for. Texts left empty are what the protocols say; `kept` are the kinds of steps that shortage
    of time does not take (`planning.shortening`)."""

    source_ids: tuple[str, ...]
    protocols: tuple[str, ...]
    distance: str = "2 m"
    walk: str = ""
    whites: str = ""
    levels: str = ""
    configurations: str = ""
    zooms: str = ""
    angles: str = ""
    tints: str = ""
    hues: str = ""
    time: str = ""
    hours: str = ""
    kept: tuple[str, ...] = ()
    fixed_white: tuple[str, ...] = ()
    as_found: tuple[str, ...] = ()


def all_protocols(own: Path | None = None) -> tuple[Protocol, ...]:
    """The shipped protocols and, from a JSON file, the user's own, which replace those of the same name. Raises
    `PlanError`."""
    found = {protocol.name: protocol for protocol in shipped()}
    if own is not None and own.exists():
        try:
            found.update({p.name: p for p in protocols_of(json.loads(read_text(own, 2**20)))})
        except (InputError, ValueError, RecursionError) as error:
            raise PlanError(f"{own.name} is not used: {error}") from error
    return tuple(found.values())


def bench_of(meters: Sequence[Meter], costs: Costs) -> Bench:
    """The bench that a plan is made for. Raises `PlanError` without a meter."""
    if not meters:
        raise PlanError("There is no meter in the kit.")
    by_key = next((m for m in meters if m.is_spectrometer), meters[0])
    return Bench(by_key, next((m for m in meters if not m.is_spectrometer), by_key), costs)


def faults_of(form: PlanForm) -> dict[str, str]:
    """What is wrong with each field of a form, all at once, by the field's name."""
    readers: dict[str, Callable[[], object]] = {
        "distance": lambda: distances(form.distance),
        "walk": lambda: distances(form.walk),
        "whites": lambda: _whites(form.whites),
        "levels": lambda: _numbers(form.levels, 0.0, 100.0, "level"),
        "angles": lambda: angles_of(form.angles),
        "hues": lambda: _numbers(form.hues, 0.0, 360.0, "hue"),
        "time": lambda: time_of(form.time),
        "hours": lambda: _hours(form.hours),
    }
    found = {}
    for field, read in readers.items():
        if getattr(form, field).strip():
            try:
                read()
            except (PlanError, RunFormError) as error:
                found[field] = str(error)
    return found


def unread_of(form: PlanForm, protocols: Sequence[Protocol]) -> dict[str, str]:
    """What is asked in a field and no chosen protocol reads, by the field's name: nothing is dropped without a word."""
    chosen = [p for p in protocols if p.name in form.protocols]
    if not chosen:
        return {}
    crossed = [p for p in chosen if _is_crossed(p)]
    read_by: dict[str, list[Protocol]] = {
        "whites": [p for p in chosen if p.whites or p.crosses],
        "levels": [p for p in chosen if len(p.levels_pct) > 1 or p.crosses],
        "walk": [p for p in chosen if len(p.distances) > 1 or p.crosses],
        "tints": [p for p in chosen if p.tints or p.crosses],
        "hues": [p for p in chosen if p.hues_deg or p.crosses],
        "zooms": crossed,
        "angles": crossed,
    }
    if form.configurations.strip() and len(configurations_of(form.configurations)) > 1:
        read_by["configurations"] = [p for p in chosen if p.configurations or p.crosses]
    return {
        field: f"No chosen protocol reads this: “{GRID}” crosses all that is asked, or take one that does."
        for field, readers in read_by.items()
        if getattr(form, field).strip() and not readers
    }


def plan_of(form: PlanForm, protocols: Sequence[Protocol], bench: Bench, kinds: dict[str, str]) -> Plan:
    """The plan of a form. Raises `PlanError`."""
    if not form.source_ids:
        raise PlanError("Take at least one lamp.")
    try:
        placed = distances(form.distance)
        chosen = [_adapted(p, form, placed) for p in protocols if p.name in form.protocols]
    except (RunFormError, ProtocolError) as error:
        raise PlanError(str(error)) from error
    if not chosen:
        raise PlanError("Take at least one protocol: what shall be answered?")
    configurations = configurations_of(form.configurations) if form.configurations.strip() else ()
    lamps = [
        LampPlan(
            source_id=i,
            distance_m=placed[0] if placed else None,
            configuration=configurations[0] if configurations else (),
            configurations=configurations,
            fixed_white=i in form.fixed_white,
            as_found=i in form.as_found,
        )
        for i in form.source_ids
    ]
    plan = make_plan(lamps, chosen, bench, kinds)
    if form.time.strip():
        plan = shortened(plan, time_of(form.time), bench, form.kept)
    return split_over_days(plan, 3600.0 * _hours(form.hours), bench) if form.hours.strip() else plan


def time_of(text: str) -> float:
    """A time for a plan in seconds: `45 min`, `1 h 30`, `1:30`; a bare number is minutes. Raises `PlanError`."""
    said = re.fullmatch(
        r"\s*(?:(?P<hours>\d+(?:[.,]\d+)?)\s*(?:h|hours?|:)\s*)?(?:(?P<minutes>\d+)\s*(?:m|min|minutes?)?)?\s*",
        text.lower(),
    )
    minutes = 0.0
    if said is not None:
        minutes = 60.0 * float((said["hours"] or "0").replace(",", ".")) + float(said["minutes"] or 0.0)
    if not 5.0 <= minutes <= 24.0 * 60.0:
        raise PlanError(f"“{text.strip()}” is not a time for a plan, such as 45 min or 1 h 30.")
    return 60.0 * minutes


def _hours(text: str) -> float:
    (hours, *more) = _numbers(text.lower().removesuffix("h"), 0.25, 24.0, "number of hours a day") or (0.0,)
    if more or not hours:
        raise PlanError(f"“{text}” is not a number of hours a day.")
    return hours


def _adapted(protocol: Protocol, form: PlanForm, placed: Sequence[float]) -> Protocol:
    """A protocol with the axes that the form overrides, where the protocol has them.

    Several places of the meter, zooms and angles cross every protocol but those that watch a lamp warm, light all at
    once, or read what is the lamp's wherever the meter stands. Raises `PlanError`, `RunFormError` and `ProtocolError`.
    """
    changes: dict[str, object] = {}
    if form.whites.strip() and (protocol.whites or protocol.crosses):
        changes |= _whites(form.whites)
    if form.levels.strip() and (len(protocol.levels_pct) > 1 or protocol.crosses):
        changes["levels_pct"] = _numbers(form.levels, 0.0, 100.0, "level")
    if form.walk.strip() and (len(protocol.distances) > 1 or protocol.crosses):
        changes["distances"] = _as_texts(distances(form.walk))
    if form.tints.strip() and (protocol.tints or protocol.crosses):
        changes["tints"] = tuple(re.split(r"[\s;,]+", form.tints.strip()))
    if form.hues.strip() and (protocol.hues_deg or protocol.crosses):
        changes["hues_deg"] = _numbers(form.hues, 0.0, 360.0, "hue")
    if _is_crossed(protocol):
        if len(placed) > 1 and len(protocol.distances) < 2:
            changes["distances"] = _as_texts(placed)
        if form.zooms.strip():
            changes["zooms"] = zooms_of(form.zooms)
        if form.angles.strip():
            changes["angles_deg"] = angles_of(form.angles)
    if not changes:
        return protocol
    adapted = replace(protocol, **changes)  # type: ignore[arg-type]
    adapted.check_size()
    return adapted


def _is_crossed(protocol: Protocol) -> bool:
    """Whether it is read at every place of the meter, every zoom and angle that the form states."""
    return not (protocol.again_after_min or protocol.together or protocol.is_of_the_lamp_alone)


def _as_texts(metres: Sequence[float]) -> tuple[str, ...]:
    return tuple(f"{d:.6f} m" for d in metres)


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


def sheet_rows(plan: Plan, sources: dict[str, Source], bench: Bench, unit: str) -> list[SheetRow]:
    """The run sheet, a heading where the hands do something that takes a minute or more; what is read by eye and typed
    is said to be."""
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
        here = f"{names} · {terms_in_words.configuration(terms)} · {terms_in_words.placement(terms, unit)}"
        if here != heading:
            heading = here
            rows.append(SheetRow(f"heading {index}", here, heading=True))
        setting = terms_in_words.zoom(terms) or terms_in_words.level(terms)
        detail = terms_in_words.axis(terms) if terms.angle_deg else f"{step.repeats}×"
        if step.meter_id != bench.key_meter.id:
            detail = f"{QUANTITIES[step.quantities[0]].label} by hand, {detail}"
        if step.wait_s >= 30.0:
            detail = f"wait {notation.working_time(step.wait_s)}, {detail}"
        rows.append(SheetRow(step.id, terms_in_words.stated_white(terms), setting, detail))
    return rows


def plan_words(plan: Plan, time: str, unit: str) -> tuple[str, ...]:
    """The plan in a few lines: size and time, what a short `time` took and what may be dropped, what to mind."""
    readings = sum(step.repeats for step in plan.steps)
    waits = sum(step.wait_s for step in plan.steps)
    of_it = f", {notation.working_time(waits)} of it waiting for lamps to warm" if waits >= 60.0 else ""
    days = f" on {len(plan.days)} days" if len(plan.days) > 1 else ""
    size = f"{notation.count(len(plan.steps), 'step')}, {notation.count(readings, 'reading')}"
    lines = [f"{size}, about {notation.working_time(plan.seconds)}{days}{of_it}."]
    if len({step.source_ids for step in plan.steps}) > 1 and waits >= 60.0:
        lines.append("Light the next lamp, turned away, while one is read: its warm-up is then over when it comes.")
    if time.strip():
        lines += given_up_words(plan, time_of(time), unit)
    lines += [  # what a protocol takes is known of the whole sheet alone
        f"Without “{drop.protocol}” {notation.working_time(drop.seconds_saved)} less; lost: {drop.lost}."
        for drop in plan.drops[:3]
        if drop.seconds_saved > 30.0 and not plan.given_up
    ]
    return (*lines, *plan.cautions)


def equal_units(lamps: Sequence[LampCard], source_id: str) -> tuple[str, ...]:
    """The lamps of the same model as one, itself among them, in the order of the list; none where no model is named."""
    model_id = next((card.source.model_id for card in lamps if card.source.id == source_id), None)
    return tuple(card.source.id for card in lamps if model_id is not None and card.source.model_id == model_id)


def units_words(lamps: Sequence[LampCard], source_ids: Sequence[str]) -> tuple[str, ...]:
    """What a plan does for units of one model: they are read alike, and what differs is the units'."""
    units: dict[str, list[str]] = {}
    for card in lamps:
        if card.source.id in source_ids and card.source.model_id is not None:
            units.setdefault(card.source.model_id, []).append(card.source.nickname)
    return tuple(
        f"{', '.join(names)} are units of one model, read at the same terms and places: whether one unit stands for"
        " the others is then in the findings."
        for names in units.values()
        if len(names) > 1
    )


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
