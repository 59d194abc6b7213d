"""Fades as the station shows them, as plain values. May take a moment: ask in a worker."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path

from even_beam.figures.chart import Chart
from even_beam.figures.waves import fade_chart
from even_beam.workspace.camera import fading
from even_beam.workspace.camera.fading import Fading
from even_beam.workspace.shell.line import Line
from even_beam.workspace.shell.sheet import NOTHING, Cell, Sheet, figure_cell


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


def fade_page(paths: Sequence[Path], asked_s: float | None = None) -> FadePage:
    """The fades of files. Raises `FormatError` and `CameraError`."""
    if not paths:
        return FadePage(
            (Line("Open a fade: level against time, as a table, a meter's log or a waveform."),),
            notes=("A fade up and one down together are compared with each other. X says how long was asked for.",),
        )
    return page_of_fades(tuple(fading.fade_file(path, asked_s) for path in paths))


def page_of_fades(found: tuple[Fading, ...]) -> FadePage:
    """The page of fades."""
    last = found[-1]
    first, *rest = fading.sentences_of(last)
    pair = fading.pair_sentence(found)
    return FadePage(
        lines=(Line(first), Line(rest[0], " ".join(rest[1:])), *((Line(pair),) if pair else ())),
        chart=fade_chart(last.name, last.fade, last.seconds, last.level, last.asked_s),
        sheet=_fade_sheet(found),
        notes=(),
        fadings=found,
    )


def _fade_sheet(found: Sequence[Fading]) -> Sheet:
    rows = []
    for one in found:
        fade, largest = one.fade, one.fade.largest_step
        rows.append(
            (
                one.name,
                None,
                (
                    Cell(one.name, by=one.name),
                    Cell("up" if fade.rising else "down", by="up" if fade.rising else "down"),
                    figure_cell(f"{fade.real_s:.2f} s", fade.real_s),
                    figure_cell(f"{one.asked_s:.2f} s" if one.asked_s is not None else "", one.asked_s),
                    figure_cell(f"{fade.lag_s:.2f} s", fade.lag_s),
                    Cell(str(len(fade.steps)) if fade.stepped else "none", by=float(len(fade.steps))),
                    figure_cell(f"{largest.stops:.2f} stop", largest.stops)
                    if largest is not None and fade.stepped
                    else NOTHING,
                    figure_cell(f"{100.0 * fade.falls_from:.1f} %", fade.falls_from)
                    if fade.falls_from is not None
                    else NOTHING,
                ),
            )
        )
    columns = ("fade", "way", "real", "asked", "begins at", "steps", "largest step", "out at once from")
    return Sheet(columns, tuple(rows))
