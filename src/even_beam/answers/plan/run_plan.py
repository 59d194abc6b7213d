"""A plan for a run without a window: its file, and the session that it begins or goes on with."""

import json
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from even_beam.answers.plan.view import (
    PlanError,
    PlanForm,
    all_protocols,
    as_found,
    bench_of,
    fixed_whites,
    kinds_of,
    plan_of,
)
from even_beam.bench.records import Meter, Session, Source
from even_beam.bench.terms import terms_line
from even_beam.desk.session.desk import SessionDesk
from even_beam.desk.session.document import Document
from even_beam.files.reading import InputError, read_text
from even_beam.words import notation

MOST_BYTES, MOST_LAMPS = 2**20, 200
"""Nobody reads more lamps in one plan: it would take days."""

_TEXTS = ("distance", "walk", "whites", "levels", "configurations", "zooms", "angles", "tints", "hues", "time", "hours")


@dataclass(frozen=True, slots=True)
class RunPlan:
    """A plan file: what the session is called and asks, and the form it fills in."""

    name: str
    question: str
    lamps: tuple[tuple[str, str], ...]
    protocols: tuple[str, ...]
    texts: dict[str, str]


def read_plan(path: Path) -> RunPlan:
    """A plan from its JSON file (docs/file-format.md). Raises `PlanError`."""
    try:
        content = json.loads(read_text(path, MOST_BYTES))
    except InputError as error:
        raise PlanError(str(error)) from error
    except (ValueError, RecursionError) as error:
        raise PlanError(f"{path.name} is not a plan: {error}") from error
    if not isinstance(content, dict) or not content.get("lamps") or not content.get("protocols"):
        raise PlanError(f"{path.name} is not a plan: it needs “lamps” and “protocols”")
    if not isinstance(content["lamps"], list) or not isinstance(content["protocols"], list):
        raise PlanError(f"{path.name} is not a plan: “lamps” and “protocols” are lists")
    if len(content["lamps"]) > MOST_LAMPS:
        raise PlanError(
            f"{path.name}: {len(content['lamps'])} lamps are more than the {MOST_LAMPS} of a plan; split it"
        )
    strangers = set(content) - {"name", "question", "lamps", "protocols", *_TEXTS}
    if strangers:
        raise PlanError(f"{path.name}: unknown entry {', '.join(sorted(strangers))}")
    return RunPlan(
        str(content.get("name", path.stem)),
        str(content.get("question", "")),
        tuple(_lamp(entry) for entry in content["lamps"]),
        tuple(str(name) for name in content["protocols"]),
        {name: str(content[name]) for name in _TEXTS if name in content},
    )


def _lamp(entry: Any) -> tuple[str, str]:
    """A nickname, or an object with the simulated fixture that plays it."""
    if isinstance(entry, dict):
        return str(entry.get("nickname", "")), str(entry.get("simulated", ""))
    return str(entry), ""


def begin_or_go_on(
    document: Document, plan: RunPlan, sources: Sequence[Source], meters: Sequence[Meter], *, anew: bool = False
) -> str:
    """Put the session of a plan on the bench: the one that was broken off, unless it shall begin `anew`. What is to be
    said of that; empty for a new one. Raises `PlanError`."""
    cards = [card for card in document.kit.lamps() if card.source.id in {s.id for s in sources}]
    form = PlanForm(
        tuple(s.id for s in sources),
        plan.protocols,
        kept=(),
        fixed_white=fixed_whites(cards),
        as_found=as_found(cards),
        **plan.texts,
    )
    protocols = all_protocols()
    unknown = set(plan.protocols) - {p.name for p in protocols}
    if unknown:
        there = ", ".join(p.name for p in protocols)
        raise PlanError(f"there is no protocol “{sorted(unknown)[0]}”; there are {there}")
    made = plan_of(form, protocols, bench_of(meters, document.costs), kinds_of(cards))
    left = None if anew else _broken_off(document, plan.name)
    if left is None:
        document.begin_plan(made, plan.name, plan.question)
        return ""
    desk = document.work_on(left)
    read, steps = len(desk.counted), len(desk.state.steps)
    done = sum(state.done for state in desk.state.steps)
    so_far = f"{notation.count(read, 'reading')}, {done} of {notation.count(steps, 'step')} done"
    return f"“{left.name}” was broken off: {so_far}. It goes on at {step_words(desk)}; --anew begins another."


def _broken_off(document: Document, name: str) -> Session | None:
    """The newest session of this plan that has steps left."""
    for session in reversed(document.logbook.sessions()):
        if session.name == name or session.name.startswith(f"{name}, day "):
            desk = document.desk_of(session.id)
            if desk.step is not None:
                return session
    return None


def step_words(desk: SessionDesk) -> str:
    """The step that is next, in words."""
    return f"{desk.name_of(desk.next_sources)} · {terms_line(desk.next_terms)}"
