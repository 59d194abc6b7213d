"""What a room sheet needs, gathered from the plan, the kit and the settings."""

import itertools
from collections.abc import Mapping

import even_beam
from even_beam.answers.plan.view import sheet_rows
from even_beam.bench.planning.run_sheet import Bench, Plan
from even_beam.desk.kit.lamp_form import LampCard
from even_beam.desk.session.document import Document
from even_beam.paper.room_sheet import RoomContent, RoomLamp, RoomStep
from even_beam.shell.settings import Settings
from even_beam.words import notation


def room_content(
    document: Document, plan: Plan, bench: Bench, name: str, question: str, settings: Settings
) -> RoomContent:
    """The content of a plan's room sheet."""
    cards = {card.source.id: card for card in document.kit.lamps()}
    meters = {meter.id: meter for meter in document.kit.meters()}
    lamp_ids = list(dict.fromkeys(i for step in plan.steps for i in step.source_ids))
    marks = sorted({s.terms.distance_m for s in plan.steps if s.terms.distance_m is not None})
    things = list(dict.fromkeys(n for s in plan.steps for n in s.terms.configuration))
    used = list(dict.fromkeys(s.meter_id for s in plan.steps if s.meter_id is not None))
    return RoomContent(
        name=name,
        question=question,
        lamps=tuple(RoomLamp(cards[i].source.nickname, _kind(cards[i])) for i in lamp_ids if i in cards),
        marks=tuple(notation.distance(m, settings.distance_unit) for m in marks),
        configurations=tuple(things),
        meters=tuple(
            f"{meters[i].nickname}, {meters[i].receptor}, C {meters[i].constant:.0f}" for i in used if i in meters
        ),
        steps=len(plan.steps),
        readings=sum(s.repeats for s in plan.steps),
        minutes=max(1, round(plan.seconds / 60.0)),
        warm_up_minutes=round(sum(step.wait_s for step in plan.steps) / 60.0),
        cautions=plan.cautions,
        sheet=_sheet(plan, bench, cards, settings.distance_unit),
        blanks=(notation.light_unit(), "K", "Duv", "what happened"),
        paper=settings.paper,
        version=even_beam.__version__,
    )


def _sheet(plan: Plan, bench: Bench, cards: Mapping[str, LampCard], unit: str) -> tuple[RoomStep, ...]:
    """The steps as they stand on the screen, numbered."""
    sources = {card.source.id: card.source for card in cards.values()}
    numbers = itertools.count(1)
    return tuple(
        RoomStep("", row.first)
        if row.heading
        else RoomStep(str(next(numbers)), " · ".join(part for part in (row.first, row.second) if part), row.figure)
        for row in sheet_rows(plan, sources, bench, unit)
    )


def _kind(card: LampCard) -> str:
    return (card.model.kind if card.model is not None else "") or "kind not stated"
