"""What Match shows: a wish asked of a logbook, answered with plain values. May take a moment: ask in a worker."""

import re
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import dataclass, field, replace
from enum import StrEnum
from pathlib import Path

from even_beam.answers.findings.witness import Witness
from even_beam.answers.match import together
from even_beam.answers.match.agree import MOST_PAIRS, agree_lines, agree_notes, agree_sheet, pair_sheet
from even_beam.answers.match.desk import Matching
from even_beam.answers.match.target_text import LEAST, TargetTextError, target_of, usual_target
from even_beam.bench import fields, terms
from even_beam.bench.exposure import Exposure, shutter_of
from even_beam.bench.planning.cautions import MAINS
from even_beam.bench.target import Target, off_words
from even_beam.collection.collection import Collection, Lamp
from even_beam.collection.read_once import ReadOnce
from even_beam.figures.chart import Chart
from even_beam.figures.matching import matching_chart
from even_beam.known.choice import Entrant
from even_beam.known.matching.enough import Enough, dial_words, needed_lux, place_words
from even_beam.known.matching.gels import SCORES
from even_beam.known.matching.mixing import Levels, levels_for, mixture
from even_beam.known.matching.power import Supply, load_of, supply_of
from even_beam.known.matching.sums import sum_of
from even_beam.said.white import white_said
from even_beam.shell.line import Line
from even_beam.shell.sheet import NOTHING, Cell, Sheet, figure_cell
from even_beam.words import notation
from even_beam.words.entry import EntryError

AT_FIRST = 8
"""So many lamps are matched at first, those with most readings."""


MIXED_AT_FIRST = 2


class Ask(StrEnum):
    """What is asked, in the order of its key."""

    AGREE = "Make them agree"
    MIX = "Mix on one subject"
    ENOUGH = "Enough light?"
    MAINS = "Mains and batteries"


@dataclass(frozen=True, slots=True)
class Wish:
    """What is asked: of which lamps (None: the first few), for which target, stop and supply, each as it is typed."""

    ask: Ask = Ask.AGREE
    chosen: tuple[str, ...] | None = None
    target: str = ""
    lux: float | None = None
    stop: str = "f/4; ISO 800; 1/50"
    supply: str = "16 A 230 V"
    constant: float = 340.0


@dataclass(frozen=True, eq=False, slots=True)
class Shown:
    """The answer. `wish` is what was asked, with the target that was taken where none was named."""

    wish: Wish
    lamps: tuple[Lamp, ...] = ()
    chosen: tuple[str, ...] = ()
    numbers: Mapping[str, int] = field(default_factory=dict)
    head: str = ""
    lines: tuple[Line, ...] = ()
    sheet: Sheet = field(default_factory=Sheet)
    chart: Chart | None = None
    pairs: Sheet = field(default_factory=Sheet)
    notes: tuple[str, ...] = ()
    gels: tuple[str, ...] = ()

    @property
    def plain(self) -> str:
        """The answer as it is copied."""
        return "\n".join([*(line.plain for line in self.lines), *self.notes, "", self.sheet.plain])


class Matches:
    """Answers wishes about one logbook file, from any thread, one after the other."""

    def __init__(self, path: Path) -> None:
        self._file = ReadOnce(path)

    def forget(self) -> None:
        """Read the logbook anew for the next wish."""
        self._file.forget()

    def ask(self, wish: Wish, stop_if_cancelled: Callable[[], None] = lambda: None) -> Shown:
        """Answer. Raises what a target, a stop or a supply that is not understood raises, a `ValueError`."""
        with self._file.collection() as collection:
            stop_if_cancelled()
            return _Asked(collection, wish).shown()

    def line_for(self, reading_id: str, target: Target) -> str:
        """The one line for a light that was read just now: what to dial by all that was read of it there, what to clip
        on. Empty where it has no white."""
        with self._file.collection() as collection:
            return _line(collection, reading_id, target)


def _line(collection: Collection, reading_id: str, target: Target) -> str:
    measured = collection.readings([reading_id]).get(reading_id)
    if measured is None or not measured.value("cct"):
        return ""
    if measured.source_id is None:
        alone = Entrant("", "This light", "", (measured,))
        return "".join(one.line for one in Matching(collection, [alone]).matched(target).answers)
    here = {name: terms.value(measured, name) for name in fields.NAMES if name not in {"cct", "tint"}}
    entrants = [replace(one, own=here) for one in collection.entrants([measured.source_id])]
    return "".join(one.line for one in Matching(collection, entrants).matched(target).answers)


class _Asked:
    """One wish on its way to its answer."""

    def __init__(self, collection: Collection, wish: Wish) -> None:
        self._collection, self._wish = collection, wish
        self._lamps = collection.lamps()
        keys = [lamp.key for lamp in self._lamps]
        first = keys[: MIXED_AT_FIRST if wish.ask is Ask.MIX else AT_FIRST]
        self._chosen = tuple(k for k in (first if wish.chosen is None else wish.chosen) if k in keys)
        self._numbers = {key: collection.arrival[lamp.source_id] for lamp in self._lamps for key in [lamp.key]}
        self._by_name = {lamp.name: self._numbers[lamp.key] for lamp in self._lamps}
        self._witness = Witness(collection)

    def shown(self) -> Shown:
        """The answer to what is asked."""
        if not self._chosen:
            return self._with(
                lines=(Line("Nothing to match yet.", "Read a lamp on the Bench, or take one in with Space."),)
            )
        return {Ask.AGREE: self._agree, Ask.MIX: self._mix, Ask.ENOUGH: self._enough, Ask.MAINS: self._mains}[
            self._wish.ask
        ]()

    def _with(self, **answer: object) -> Shown:
        return Shown(self._wish, tuple(self._lamps), self._chosen, self._numbers, **answer)  # type: ignore[arg-type]

    def _entrants(self) -> list[Entrant]:
        return self._collection.entrants(self._chosen)

    def _target(self, desk: Matching | None = None) -> Target:
        """The target of the wish, else the usual one."""
        text = self._wish.target.strip()
        usual = None if text else usual_target(self._collection, self._lamps, self._witness)
        if usual is not None:
            return usual
        if text.casefold() in {"", LEAST}:
            return (desk or Matching(self._collection, self._entrants())).cheapest()
        return target_of(spoken(text, [lamp.name for lamp in self._lamps]), self._collection, self._witness)

    # --- make them agree

    def _agree(self) -> Shown:
        desk = Matching(self._collection, self._entrants())
        if not desk.lamps:
            return self._with(
                lines=(Line("No white was read of these lamps.", "It takes a colour meter or a spectrometer."),)
            )
        found = desk.matched(self._target(desk), MOST_PAIRS)
        return self._with(
            head=f"target: {found.target.words}",
            lines=agree_lines(found),
            sheet=agree_sheet(found, self._by_name),
            chart=matching_chart(found.answers, found.target, self._by_name),
            pairs=pair_sheet(found.pairs),
            notes=agree_notes(found),
            gels=found.gels,
        )

    def _row(self, name: str, cells: list[Cell]) -> tuple[str, int | None, tuple[Cell, ...]]:
        return name, self._by_name.get(name), (Cell(name, by=name), *cells)

    # --- mix on one subject

    def _mix(self) -> Shown:
        parts, lacking = together.parts_of(self._collection, self._entrants())
        missing = [f"{notation.sentence(together.lacking_words(lacking))}."] if lacking else []
        if not parts:
            return self._with(lines=(Line("Nothing to mix.", missing[0]),))
        aimed = bool(self._wish.target.strip()) or self._wish.lux is not None
        found = levels_for(parts, self._target(), self._wish.lux) if aimed else mixture(parts)
        whole = found.mixture if isinstance(found, Levels) else found
        lines = [Line(found.sentence)] if isinstance(found, Levels) else []
        said = whole.sentences
        rows = [
            self._row(
                part.name,
                [
                    Cell(part.terms, quiet=True),
                    figure_cell(notation.level(part.lux), part.lux),
                    figure_cell(f"{notation.percent(100.0 * float(factor))} %", float(factor)),
                    figure_cell(f"{notation.percent(100.0 * float(share))} %", float(share)),
                    Cell(off_words(float(off[0]), float(off[1]), short=True)),
                ],
            )
            for part, factor, share, off in zip(whole.parts, whole.factors, whole.shares, whole.off, strict=True)
        ]
        scores = {name: value for name, value in whole.scores.items() if value is not None}
        told = ", ".join(f"{SCORES[name]} {notation.score(value)}" for name, value in scores.items())
        return self._with(
            head=f"target: {found.target.words}" if isinstance(found, Levels) else "each as it was read",
            lines=(*lines, Line(said[0], told)),
            sheet=Sheet(("source", "read at", "gave", "set to", "share", "alone, after a balance on all"), tuple(rows)),
            notes=(*said[1:], *missing),
        )

    # --- enough light

    def _enough(self) -> Shown:
        if (said := sum_of(self._wish.stop)) is not None:
            return self._with(head=self._wish.stop, lines=(Line(said),))
        f_number, exposure = stop_of(self._wish.stop, self._wish.constant)
        answers, unread = together.enough_of(self._collection, self._entrants(), f_number, exposure)
        needed = needed_lux(f_number, exposure)
        asked = f"{notation.f_stop(f_number)} at {exposure.words} needs {notation.level(needed)}"
        do = [one.name for one in answers if one.is_enough]
        rest = [one for one in answers if not one.is_enough]
        said = (
            f"{notation.listed(do)} give{'s' * (len(do) == 1)} it." if do else "None of them gives it as it was read."
        )
        notes = [f"{one.name} rests on {one.doubtful}." for one in answers if one.doubtful]
        untold = {one.name: one.why_no_distance for one in answers if one.why_no_distance}
        notes += [f"{name}: a nearer mark is not told ({why})." for name, why in untold.items()]
        notes += [f"No level was read of {notation.listed(unread)}."] if unread else []
        notes += [MAINS] if any((one.lamps or 0) > 1 for one in rest) else []
        return self._with(
            head=asked,
            lines=(Line(said, f"{asked}."),),
            sheet=Sheet(
                ("source", "gives", "which is", "stops over", "dial", "move to", "lamps", "read at"),
                tuple(self._row(one.name, _enough_cells(one)) for one in answers),
            ).filled,
            notes=tuple(notes),
        )

    # --- mains and batteries

    def _mains(self) -> Shown:
        supply: Supply = supply_of(self._wish.supply)
        load = load_of([self._witness.evidence(one) for one in self._entrants() if one.is_fixture], supply)
        rows = [
            self._row(
                one.name,
                [
                    figure_cell(f"{notation.number(one.apparent_va)} VA", one.apparent_va),
                    figure_cell(f"{notation.number(one.watts)} W", one.watts),
                    figure_cell(f"{notation.number(one.volts)} V", one.volts),
                    Cell(one.terms, quiet=True),
                ],
            )
            for one in load.draws
        ]
        return self._with(
            head=supply.words,
            lines=(Line(load.answer),),
            sheet=Sheet(("lamp", "most VA read", "most W read", "volts then", "at"), tuple(rows)) if rows else Sheet(),
            notes=(*load.cautions, MAINS),
        )


def _enough_cells(one: Enough) -> list[Cell]:
    return [
        figure_cell(notation.level(one.read_lux), one.read_lux),
        Cell(one.stop_words, by=one.f_number),
        Cell(notation.number(one.stops_over, 1, signed=True), marked=not one.is_enough, by=one.stops_over),
        figure_cell(f"{dial_words(one.dial_pct)} %", one.dial_pct) if one.dial_pct is not None else NOTHING,
        NOTHING if one.distance_m is None else Cell(place_words(one.distance_m), by=one.distance_m),
        NOTHING if one.lamps is None or one.is_enough else Cell(str(one.lamps), by=float(one.lamps)),
        Cell(one.terms, quiet=True),
    ]


# --- lines as they are typed


def spoken(text: str, names: list[str]) -> str:
    """A target as people say it, as it is written: 5600, 3200 K +0.002, D55, north window, Tansy 3200. What is written
    already stays."""
    words = text.strip()
    if "=" in words:
        return words
    with suppress(EntryError):
        white = white_said(words)
        return f"cct={white.cct_k:.10g};duv={white.duv:.10g}"
    if coordinates := re.fullmatch(r"x?\s*(0?\.\d+)\s*[,;]?\s*y?\s*(0?\.\d+)", words):
        return f"x={coordinates[1]};y={coordinates[2]}"
    for name in sorted(names, key=len, reverse=True):
        if words.casefold() == name.casefold():
            return f"fixture={name}"
        rest = words[len(name) :].strip()
        if words.casefold().startswith(f"{name.casefold()} ") and re.fullmatch(r"\d{4,5}\s*[kK]?", rest):
            return f"fixture={name};cct={rest}"
    return f"white={words}"


_STOP = re.compile(r"f\s*/?\s*(\d{1,2}(?:\.\d{1,2})?)", re.IGNORECASE)
_ISO = re.compile(r"iso\s*(\d{1,6})", re.IGNORECASE)


def stop_of(text: str, constant: float) -> tuple[float, Exposure]:
    """A stop as it is said: f/4; ISO 800; 1/50, or 180° at 24 fps. Raises `ValueError` that says how."""
    stop, iso = _STOP.search(text), _ISO.search(text)
    if stop is None or iso is None:
        raise TargetTextError(f"“{text}” is no stop; write f/4; ISO 800; 1/50 or f/2.8; ISO 400; 180° at 24 fps")
    rest = _ISO.sub("", _STOP.sub("", text, count=1), count=1).strip(" ;,at")
    exposure = Exposure(float(iso[1]), shutter_of(rest), constant)
    needed_lux(float(stop[1]), exposure)
    return float(stop[1]), exposure
