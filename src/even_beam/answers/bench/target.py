"""Target mode as the Bench shows it: the target understood, the sources about it, and looks kept before."""

import re
from typing import TYPE_CHECKING

from even_beam.answers.bench.sheet_row import SheetRow
from even_beam.bench import target
from even_beam.bench.measured import Measured
from even_beam.bench.target import Distance, Look, Target
from even_beam.errors import TellableError
from even_beam.figures.chart import Chart
from even_beam.figures.target import target_chart
from even_beam.light.white import daylight_white
from even_beam.words import notation
from even_beam.words.entry import EntryError, parse

if TYPE_CHECKING:
    from even_beam.desk.session.marks import SessionMarks


class TargetError(TellableError, ValueError):
    """A target that could not be understood; the message says what would be."""


def target_of(text: str, desk: "SessionMarks") -> Target:
    """The target of a typed line: a white on the Planckian or daylight locus, with a tint, or the last reading's white.

    Raises `TargetError`.
    """
    words = text.strip().lower()
    if words == "=":
        last = next((m for m in reversed(desk.counted) if m.value("cct") is not None), None)
        if last is None:
            raise TargetError("nothing was read yet that could be the target")
        return Target(last.value("cct") or 0.0, last.value("duv") or 0.0, desk.name_of(last.reading.source_ids))
    daylight = re.fullmatch(r"(?:daylight\s*|d)(\d+)\s*k?\s*(.*)", words)
    white, tint = (daylight.group(1), daylight.group(2)) if daylight is not None else _parted(words)
    try:
        cct = parse(white, "cct").value
        duv = parse(tint.replace(notation.MINUS, "-"), "duv").value if tint else None
    except EntryError as error:
        raise TargetError(str(error)) from error
    if daylight is not None and cct is not None and cct < 100.0:
        cct *= 100.0  # D55 is said for daylight of 5500 K
    if cct is None or not 1000.0 <= cct <= 25_000.0:
        raise TargetError(
            f"“{text.strip()}” is not a white from 1000 to 25 000 K; write 5600, 3200 K +0.002 or daylight 5600"
        )
    if daylight is None:
        return Target(cct, duv or 0.0)
    if cct < 4000.0:
        raise TargetError("the daylight locus begins at 4000 K")
    white_k, locus = daylight_white(cct)
    return Target(float(white_k), float(locus) + (duv or 0.0), f"daylight {notation.dialled(cct)} K")


def _parted(words: str) -> tuple[str, str]:
    """White and tint of `3200 K +0.002`."""
    found = re.match(rf"(.*?)\s*([+\-{notation.MINUS}].*)?$", words)
    return (found.group(1), found.group(2) or "") if found is not None else (words, "")


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
    found = [SheetRow("look", f"since {look.at:%-d %B %Y}", heading=True)]
    for one in target.rematch(then, desk.counted, look.target):
        moved = one.moved_mired
        said = "not read again yet" if moved is None else f"{notation.number(moved, 0, signed=True)} mired"
        standing = "coming" if moved is None else "done"
        found.append(SheetRow(one.then.measured.reading.id, _name(desk, one.then), figure=said, standing=standing))
    return found
