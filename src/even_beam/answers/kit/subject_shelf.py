"""The shelf of subjects: what light falls on, by its measured reflectance, and under which lamps it looks right."""

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np

from even_beam.answers.kit.lamp_lights import LampLight, lights_of_lamps
from even_beam.answers.kit.shelf import Found, Part, Record, Thing, ThingPage
from even_beam.answers.spectrum.subjects import words_of
from even_beam.bench.records import Subject
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.own_subjects import grid_of
from even_beam.desk.kit.subject_file import subjects_in
from even_beam.figures.patches import PatchPair
from even_beam.figures.reflectance import share_chart
from even_beam.figures.scores import rgb_of
from even_beam.formats.kinds import SPECTRA, file_filter
from even_beam.light.rendering import display_of_lab
from even_beam.light.subjects import seen_by_eye
from even_beam.words import notation


class SubjectShelf:
    """The subjects of a Kit. They come out of files; what is typed changes their names and notes."""

    one = "subject"
    usual = "call it …; note …"
    files = file_filter(SPECTRA)
    from_files_alone = True
    empty = "No subject yet. A takes the reflectance of a petal, a cloth or a skin out of a file."

    def __init__(self, kit: KitDesk) -> None:
        self._kit = kit

    def _all(self) -> list[Subject]:
        return self._kit.logbook.all(Subject)

    def _subject(self, key: str | None) -> Subject:
        found = next((one for one in self._all() if one.id == key), None)
        if found is None:
            raise FormError("line", "A subject is read from a file of its reflectance: A asks for one")
        return found

    def things(self) -> list[Thing]:
        """Every subject."""
        return [Thing(one.id, one.nickname, one.notes or _reach(one)) for one in self._all()]

    def page(self, key: str) -> ThingPage | None:
        """What it gives back, and what was noted."""
        subject = next((one for one in self._all() if one.id == key), None)
        if subject is None:
            return None
        chart = share_chart(grid_of(subject), "what it gives back", "reflectance")
        facts = [("measured", _reach(subject)), ("notes", subject.notes)]
        return ThingPage(
            subject.nickname,
            "a subject by its reflectance",
            (Part("beside", tuple((name, text) for name, text in facts if text)),),
            chart,
        )

    def record(self, key: str) -> Record | None:
        """What each lamp that was read with its spectrum makes of it."""
        subject = self._subject(key)

        return lambda path: under_lamps(subject, lights_of_lamps(path))

    def understood(self, text: str, key: str | None) -> str:
        """What a line would change."""
        after = _changed(text, before := self._subject(key))
        said = [f"name: {after.nickname}"] if after.nickname != before.nickname else []
        said += [f"note: {after.notes or 'taken back'}"] if after.notes != before.notes else []
        return "; ".join(said) or "nothing new"

    def say(self, text: str, key: str | None) -> tuple[str, str]:
        """Change its name or note."""
        before = self._subject(key)
        after = _changed(text, before)
        taken = {one.nickname.casefold() for one in self._all() if one.id != before.id}
        if after.nickname.casefold() in taken:
            raise FormError("line", f"There is a {after.nickname} already; choose another name")
        self._kit.put(f"subject {after.nickname}", after, before)
        return after.id, f"{after.nickname} is changed"

    def remove(self, key: str) -> str:
        """Take it out of the Kit."""
        subject = self._subject(key)
        self._kit.put(f"subject {subject.nickname} taken out", None, subject)
        return f"{subject.nickname} is out of the Kit"

    def take(self, path: Path) -> tuple[str, str]:
        """Read the reflectances of a file."""
        found = subjects_in(path, [one.nickname for one in self._all()])
        self._kit.put_pairs(f"subjects of {path.name}", [(one, None) for one in found])
        names = notation.listed([one.nickname for one in found][:3])
        more = f" and {len(found) - 3} more" if len(found) > 3 else ""
        return found[0].id, f"{names}{more} {'is' if len(found) == 1 else 'are'} in the Kit"

    def write(self, path: Path) -> str:
        """Refused: subjects go with the sessions as open data."""
        raise FormError("line", "Subjects go with the sessions: D in the Report writes them as open data")


def _changed(text: str, subject: Subject) -> Subject:
    for part in (one.strip() for one in text.split(";") if one.strip()):
        word, _, rest = part.partition(" ")
        if word.casefold() == "note" and rest.strip():
            subject = replace(subject, notes=rest.strip())
        elif part.casefold() == "no note":
            subject = replace(subject, notes="")
        elif part.casefold().startswith("call it ") and part[8:].strip():
            subject = replace(subject, nickname=" ".join(part[8:].split()))
        else:
            raise FormError("line", f"“{part}” is nothing that is kept of a subject. Say it like: call it …; note …")
    return subject


def _reach(subject: Subject) -> str:
    first, last = subject.wavelength_nm[0], subject.wavelength_nm[-1]
    return f"{first:.0f} to {last:.0f} nm, {len(subject.wavelength_nm)} values"


def under_lamps(subject: Subject, lamps: Sequence[LampLight]) -> Found:
    """What becomes of a subject under each lamp against the reference light of that lamp's own white, the best
    first."""
    title = "under each lamp, to an eye used to it: above as it should be, below as it is, the truest first"
    own = {subject.nickname: grid_of(subject)}
    rows: list[tuple[float, tuple[str, str], PatchPair]] = []
    for lamp in lamps:
        shift = seen_by_eye(lamp.spectrum, lamp.reference, own)[-1]
        size = shift.mean
        pair = rgb_of(display_of_lab(np.vstack([shift.before, shift.after])))
        text = f"{words_of(shift)}, ΔE00 {notation.number(size, 1)}, at {lamp.terms}"
        rows.append((size, (lamp.name, text), PatchPair(lamp.name, pair[0], pair[1], size)))
    rows.sort(key=lambda row: row[0])
    part = Part(
        title=title,
        rows=tuple(row for _, row, _ in rows),
        empty="No lamp was read with its spectrum yet.",
        patches=tuple(pair for *_, pair in rows),
    )
    return Found((part,))
