"""Fades as the station shows them, as plain values. May take a moment: ask in a worker."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path

from even_beam.answers.camera import fading
from even_beam.answers.camera.fading import Fading
from even_beam.figures.chart import Chart
from even_beam.figures.waves import fade_chart
from even_beam.shell.line import Line
from even_beam.shell.sheet import NOTHING, Cell, Sheet, figure_cell


@dataclass(frozen=True, eq=False, slots=True)
class FadePage:
    """What is said of fades, the last of them in the picture."""

    lines: tuple[Line, ...] = ()
    chart: Chart | None = None
    sheet: Sheet = field(default_factory=Sheet)
    notes: tuple[str, ...] = ()
    fadings: tuple[Fading, ...] = ()

    @property
    def plain(self) -> str:
        """The answer as it is copied."""
        return "\n".join([*(line.plain for line in self.lines), *self.notes, "", self.sheet.plain])


def fade_page(paths: Sequence[Path], asked_s: float | None = None, fps: float | None = None) -> FadePage:
    """The fades of files, `fps` of those that are films. Raises `FormatError` and `CameraError`."""
    if not paths:
        return FadePage(
            (Line("Open a fade: level, white or colour against time, as a table, a log, a waveform or a film."),),
            notes=(
                "A fade up and one down together are compared with each other. X says how long was asked for, and a"
                " film's frames a second.",
            ),
        )
    return page_of_fades(tuple(fading.fade_file(path, asked_s, fps) for path in paths))


def page_of_fades(found: tuple[Fading, ...]) -> FadePage:
    """The page of fades."""
    last = found[-1]
    first, *rest = fading.sentences_of(last)
    pair = fading.pair_sentence(found)
    return FadePage(
        lines=(Line(first), Line(rest[0], " ".join(rest[1:])), *((Line(pair),) if pair else ())),
        chart=_chart(last),
        sheet=_fade_sheet(found),
        notes=(),
        fadings=found,
    )


def _chart(one: Fading) -> Chart:
    turn = one.turn
    what = "level" if turn is None else "mired" if turn.of_white else "share of the way"
    return fade_chart(one.name, one.fade, one.seconds, one.level, one.asked_s, what)


def _fade_sheet(found: Sequence[Fading]) -> Sheet:
    rows = []
    for one in found:
        fade = one.fade
        rows.append(
            (
                one.name,
                None,
                (
                    Cell(one.name, by=one.name),
                    Cell(way := _way(one), by=way),
                    figure_cell(f"{fade.real_s:.2f} s", fade.real_s),
                    figure_cell(f"{one.asked_s:.2f} s" if one.asked_s is not None else "", one.asked_s),
                    figure_cell(f"{fade.lag_s:.2f} s", fade.lag_s),
                    Cell(str(len(fade.steps)) if fade.stepped else "none", by=float(len(fade.steps))),
                    _largest(one),
                    figure_cell(f"{100.0 * fade.falls_from:.1f} %", fade.falls_from)
                    if fade.falls_from is not None and one.turn is None
                    else NOTHING,
                ),
            )
        )
    columns = ("fade", "way", "real", "asked", "begins at", "steps", "largest step", "out at once from")
    return Sheet(columns, tuple(rows))


def _way(one: Fading) -> str:
    if one.turn is None:
        return "up" if one.fade.rising else "down"
    if not one.turn.of_white:
        return "to another colour"
    return "to a warmer white" if one.fade.rising else "to a cooler white"


def _largest(one: Fading) -> Cell:
    """The largest step, in the unit of what fades."""
    if not one.fade.stepped:
        return NOTHING
    if one.turn is None:
        largest = one.fade.largest_step
        return NOTHING if largest is None else figure_cell(f"{largest.stops:.2f} stop", largest.stops)
    size = one.turn.largest_step or 0.0
    return figure_cell(f"{size:.1f} mired" if one.turn.of_white else f"{size:.3f} u′v′", size)
