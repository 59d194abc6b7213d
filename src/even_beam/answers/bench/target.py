"""Target mode as the Bench shows it: the target understood, the sources about it, and looks kept before."""

from typing import TYPE_CHECKING

from even_beam.answers.bench.sheet_row import SheetRow
from even_beam.bench import target
from even_beam.bench.measured import Measured
from even_beam.bench.target import Distance, Look, Target
from even_beam.errors import TellableError
from even_beam.figures.chart import Chart
from even_beam.figures.target import target_chart
from even_beam.light.white import reference_duv
from even_beam.said.white import white_said
from even_beam.words import notation
from even_beam.words.entry import EntryError

if TYPE_CHECKING:
    from even_beam.desk.session.marks import SessionMarks


class TargetError(TellableError, ValueError):
    """A target that could not be understood; the message says what would be."""


def target_of(text: str, desk: "SessionMarks") -> Target:
    """The target of a typed line: a white (`said.white`), a look by its name, or the last reading's.

    Raises `TargetError`.
    """
    words = text.strip().lower()
    if words == "=":
        last = next((m for m in reversed(desk.counted) if m.value("cct") is not None), None)
        if last is None:
            raise TargetError("nothing was read yet that could be the target")
        white, tint = last.value("cct") or 0.0, last.value("duv")
        usual = float(reference_duv(white)) if tint is None else tint  # unread is not zero
        return Target(white, usual, desk.name_of(last.reading.source_ids))
    look = next((look for look in desk.looks() if look.name.casefold() == words), None)
    if look is not None:
        return look.target
    try:
        return white_said(text)
    except EntryError as error:
        raise TargetError(str(error)) from error


def target_words(text: str, desk: "SessionMarks") -> str:
    """What is understood as the target so far."""
    return target_of(text, desk).words


def chart(desk: "SessionMarks", aim: Target, current: Measured | None) -> Chart:
    """The sources about the target; the newest lit."""
    found = target.distances(desk.counted, aim)
    return target_chart(found, [_name(desk, d) for d in found], aim, current)


def rows(desk: "SessionMarks", aim: Target) -> list[SheetRow]:
    """The sources with their distance and direction, the farthest first; below, a look of before beside now."""
    found = [SheetRow("target", f"target {aim.words}", heading=True)]
    for one in target.distances(desk.counted, aim):
        standing = "done" if one.matches else "kept"
        found.append(SheetRow(one.measured.reading.id, _name(desk, one), figure=one.words, standing=standing))
    look = next((look for look in desk.looks() if look.name == aim.name), None)
    if look is not None:
        found += _then_rows(desk, look)
    return found


def _name(desk: "SessionMarks", one: Distance) -> str:
    return desk.name_of(one.measured.reading.source_ids)


def _then_rows(desk: "SessionMarks", look: Look) -> list[SheetRow]:
    """How far each source of a look of another session has moved since; nothing in the session it was kept in."""
    then = desk.readings_of_look(look)
    if all(m.reading.session_id == desk.session.id for m in then):
        return []
    found = [SheetRow("kept white", f"since {look.at:%-d %B %Y}", heading=True)]
    for one in target.rematch(then, desk.counted, look.target):
        moved = one.moved_mired
        said = "not read again yet" if moved is None else f"{notation.number(moved, 0, signed=True)} mired"
        standing = "coming" if moved is None else "done"
        found.append(SheetRow(one.then.measured.reading.id, _name(desk, one.then), figure=said, standing=standing))
    return found
