"""The shelf of limits: for each purpose the limits by which a lamp is judged for it."""

import re
from dataclasses import replace
from pathlib import Path

from even_beam.answers.findings.tolerance_sets import own_set, sets_in, tolerance_sets, write_sets
from even_beam.answers.kit.shelf import Part, Record, Thing, ThingPage
from even_beam.bench.records import ToleranceSet, new_id
from even_beam.bench.tolerances import LIMITS, ToleranceError, set_of, shipped
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.limit_line import USUAL, changed, limit_words, words_of
from even_beam.files.errors import OutputError


class LimitShelf:
    """Sets of limits: those that come with the program, and a logbook's own, which replace them by name."""

    one = "set of limits"
    usual = USUAL
    files = "Sets of limits (*.json);;All files (*)"
    from_files_alone = False
    empty = "No set of limits. A makes one."

    def __init__(self, kit: KitDesk) -> None:
        self._kit = kit

    @property
    def _sets(self) -> tuple[ToleranceSet, ...]:
        return tolerance_sets(self._kit.logbook)

    def _own(self, name: str) -> ToleranceSet | None:
        return own_set(self._kit.logbook, name)

    def _set(self, key: str | None) -> ToleranceSet | None:
        return next((one for one in self._sets if one.name == key), None)

    def things(self) -> list[Thing]:
        """Every set."""
        return [Thing(one.name, one.name, self._origin(one)) for one in self._sets]

    def _origin(self, one: ToleranceSet) -> str:
        if self._own(one.name) is None:
            return "as shipped"
        return "changed here" if any(one.name == known.name for known in shipped()) else "your own"

    def page(self, key: str) -> ThingPage | None:
        """Its limits, and what it is for."""
        one = self._set(key)
        if one is None:
            return None
        rows = [(LIMITS[n].label, limit_words(n, one.limits[n])) for n in LIMITS if n in one.limits]
        note = "Limits are common practice unless their source is named; change them to your own."
        return ThingPage(
            one.name, one.purpose, (Part("a lamp must keep", tuple(rows)), Part("", (("", note),))) if rows else ()
        )

    def record(self, key: str) -> Record | None:
        """Nothing: what lamps come to by it is told in Compare."""
        return None

    def _parts(self, text: str, key: str | None) -> tuple[ToleranceSet, str]:
        """The set that a line changes, with the name and purpose that it gives, and what is left of limits."""
        before = self._set(key)
        if before is None:
            name, _, text = text.partition(";")
            before = ToleranceSet("", " ".join(name.split()), "", {})
        rest = []
        for part in (one.strip() for one in text.split(";") if one.strip()):
            named = re.fullmatch(r"(?i)(purpose|call it)\s+(.+)", part)
            if named is None:
                rest.append(part)
            elif named[1].casefold() == "purpose":
                before = replace(before, purpose=named[2].strip())
            else:
                before = replace(before, name=" ".join(named[2].split()))
        return before, "; ".join(rest)

    def understood(self, text: str, key: str | None) -> str:
        """What a line would change."""
        one, rest = self._parts(text, key)
        was = self._set(key)
        said = [f"name: {one.name}"] if was is not None and one.name != was.name else []
        said += [f"purpose: {one.purpose}"] if one.purpose != (was.purpose if was is not None else "") else []
        said += [words_of(rest, one.limits)] if rest else []
        return "; ".join(said) or f"; and its limits, such as {USUAL}"

    def say(self, text: str, key: str | None) -> tuple[str, str]:
        """Change a set, or make one; a shipped one that is changed becomes the logbook's own of that name."""
        one, rest = self._parts(text, key)
        try:
            after = set_of({"name": one.name, "purpose": one.purpose, "limits": changed(rest, one.limits)})
        except ToleranceError as error:
            raise FormError("line", str(error)) from error
        before = self._own(after.name)
        kept = replace(after, id=before.id if before is not None else new_id())
        self._kit.put(f"limits for {kept.name}", kept, before)
        return kept.name, f"Lamps are judged for {kept.name} by these limits from now on"

    def remove(self, key: str) -> str:
        """Forget the logbook's own set; the shipped one of that name is back."""
        own = self._own(key)
        if own is None:
            raise FormError("line", f"“{key}” is as it was shipped")
        self._kit.put(f"limits for {key} put back", None, own)
        is_shipped = any(one.name == key for one in shipped())
        return f"“{key}” is as it was shipped" if is_shipped else f"“{key}” is gone"

    def take(self, path: Path) -> tuple[str, str]:
        """Read the sets of a JSON file, in place of those of the same names."""
        try:
            found = sets_in(path)
        except ToleranceError as error:
            raise FormError("line", str(error)) from error
        kept = []
        for one in found:
            before = self._own(one.name)
            kept.append((replace(one, id=before.id if before is not None else new_id()), before))
        self._kit.put_pairs(f"limits of {path.name}", kept)
        count = f"{len(found)} sets of limits" if len(found) > 1 else "One set of limits"
        return found[0].name if found else "", f"{count} of {path.name} {'are' if len(found) > 1 else 'is'} in the Kit"

    def write(self, path: Path) -> str:
        """Write every set as JSON."""
        try:
            write_sets(path, self._sets, over_others=True)  # the dialog has asked
        except OutputError as error:
            raise FormError("line", str(error)) from error
        return f"Every set of limits is in {path.name}"
