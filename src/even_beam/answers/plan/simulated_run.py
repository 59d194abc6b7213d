"""A run without a window: an attentive simulated operator sets the lamps as the steps ask, and reads them."""

import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

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
from even_beam.bench.records import Session, Source
from even_beam.bench.terms import terms_line
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.lamp_form import LampForm
from even_beam.desk.session.desk import SessionDesk
from even_beam.desk.session.document import Document
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.files.reading import InputError, read_text
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.shell.settings import Settings
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

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


class SimulatedRun:
    """Runs a plan in a logbook; one that was broken off is taken up again, unless it shall begin `anew`.

    Raises `PlanError` for what cannot be planned or simulated.
    """

    def __init__(
        self, plan: RunPlan, logbook: "Logbook", clock: Callable[[], datetime], seed: int = 1, *, anew: bool = False
    ) -> None:
        self._stopped = False
        self._taken_up = ""
        self._document = Document(logbook, Settings(), clock, Instruments(clock, seed=seed))
        sources = [self._source(*lamp) for lamp in plan.lamps]
        cards = [card for card in self._document.kit.lamps() if card.source.id in {s.id for s in sources}]
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
            raise PlanError(
                f"there is no protocol “{sorted(unknown)[0]}”; there are {', '.join(p.name for p in protocols)}"
            )
        bench = bench_of(self._document.kit.meters(), self._document.costs)
        made = plan_of(form, protocols, bench, kinds_of(cards))
        left = None if anew else self._broken_off(plan.name)
        if left is None:
            self._desk = self._document.begin_plan(made, plan.name, plan.question)
        else:
            self._desk = self._document.work_on(left)
            read, steps = len(self._desk.counted), len(self._desk.state.steps)
            done = sum(state.done for state in self._desk.state.steps)
            so_far = f"{notation.count(read, 'reading')}, {done} of {notation.count(steps, 'step')} done"
            on = f"It goes on at {_step_words(self._desk)}; --anew begins another."
            self._taken_up = f"“{left.name}” was broken off: {so_far}. {on}"

    def _broken_off(self, name: str) -> Session | None:
        """The newest session of this plan that has steps left."""
        for session in reversed(self._document.logbook.sessions()):
            if session.name == name or session.name.startswith(f"{name}, day "):
                desk = self._document.desk_of(session.id)
                if desk.step is not None:
                    return session
        return None

    def stop(self) -> None:
        """End after the step that is being read."""
        self._stopped = True

    def _source(self, nickname: str, simulated: str) -> Source:
        kit = self._document.kit
        found = next((c.source for c in kit.lamps() if c.source.nickname.casefold() == nickname.casefold()), None)
        if found is None and simulated in LAMPS:
            try:
                found = kit.add_lamp(LampForm(nickname, LAMPS[simulated].kind, simulated=simulated))
            except FormError as error:
                raise PlanError(str(error)) from error
        if found is None or found.simulated not in LAMPS:
            raise PlanError(f"“{nickname}” is no simulated lamp; simulated are {', '.join(LAMPS)}")
        return found

    def lines(self) -> Iterator[str]:
        """Read every step; a line after each committed reading."""
        desk, document = self._desk, self._document
        if self._taken_up:
            yield self._taken_up
        while desk.step is not None:
            if self._stopped:
                yield f"stopped before {_step_words(desk)}; the same command goes on from there"
                return
            meter = desk.meter
            if meter is None or not meter.simulated or set(desk.asked) - set(meter.quantities) - {"illuminance"}:
                yield f"left out, read by hand: {_step_words(desk)}"
                desk.skip()
                continue
            again = desk.pending_doubt is not None
            document.set_simulated_lamps()
            words = _step_words(desk)
            taken = desk.take(document.instruments.meter(meter).read())
            level = notation.light(taken.measured.value("illuminance"))
            verdict = taken.look.title if not taken.look.in_doubt else f"in doubt: {taken.look.text}"
            if taken.look.in_doubt and again:
                desk.keep_in_doubt(taken.measured.reading.id)  # read twice and the same answer: kept, and marked
                verdict = f"kept, {verdict}"
            yield f"{taken.measured.reading.sequence:4d}  {words}  {level}  {verdict}"


def _step_words(desk: SessionDesk) -> str:
    return f"{desk.name_of(desk.next_sources)} · {terms_line(desk.next_terms)}"
