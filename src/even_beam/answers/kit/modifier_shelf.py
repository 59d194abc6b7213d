"""The shelf of what sits on lamps: reflectors, doors and gels, each with what it did to the lamps that it was on."""

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from even_beam.answers.findings.witness import Witness
from even_beam.answers.kit.shelf import Found, Part, Record, Thing, ThingPage
from even_beam.answers.match.stock import measured_gels
from even_beam.bench.records import GEL, Modifier, new_id
from even_beam.collection.collection import Collection
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.form_error import FormError
from even_beam.figures.reflectance import share_chart
from even_beam.known.evidence import Evidence
from even_beam.known.findings import modifiers
from even_beam.known.findings.finding import Finding
from even_beam.known.split import Split
from even_beam.light import FloatArray
from even_beam.light.filters import correction, correction_named, shift
from even_beam.light.references import reference_spectrum
from even_beam.logbook.store import Logbook
from even_beam.words import notation

_ON = ("P3200", "D55")
"""The lights that a gel's effect is told on."""

_A_MODEL = "As such gels usually are: a model from memory, not this sheet. Readings with it and without measure it."


class ModifierShelf:
    """The modifiers of a Kit, and those that lamps were read with and nobody wrote down."""

    one = "modifier or gel"
    usual = "gel; kind softbox; call it …; note 90 cm, grid in the lid"
    files = ""
    from_files_alone = False
    empty = "No modifier yet. A writes one down; what lamps are read with stands here by itself."

    def __init__(self, kit: KitDesk) -> None:
        self._kit = kit

    def _kept(self) -> list[Modifier]:
        return self._kit.logbook.all(Modifier)

    def _read_with(self) -> dict[str, list[str]]:
        """Every part that lamps were read with, and the lamps by id."""
        found: dict[str, list[str]] = {}
        for source_id, words in self._kit.logbook.reading_counts(Split.CONFIGURATIONS):
            for part in words.split(" + ") if words != "bare" else ():
                found.setdefault(part, []).append(source_id)
        return found

    def _modifier(self, key: str | None) -> Modifier | None:
        return next((one for one in self._kept() if one.nickname == key), None)

    def things(self) -> list[Thing]:
        """Every modifier, by name."""
        read = self._read_with()
        found = {one.nickname: Thing(one.nickname, one.nickname, _line(one, read)) for one in self._kept()}
        for name in read:
            found.setdefault(name, Thing(name, name, f"{_on_lamps(read[name])}, not written down"))
        return sorted(found.values(), key=lambda thing: thing.name.casefold())

    def page(self, key: str) -> ThingPage | None:
        """What it is; of a gel, what one of that name usually does."""
        if all(thing.key != key for thing in self.things()):
            return None
        modifier = self._modifier(key)
        facts = [("kind", modifier.kind), ("notes", modifier.notes)] if modifier is not None else []
        parts = [Part("what it is", tuple((n, t) for n, t in facts if t), "Nothing is written down. Enter says more.")]
        model = correction_named(key)
        chart = None
        if model is not None:
            transmission = correction(model).transmission
            rows = tuple((f"on {name}", _effect(name, transmission)) for name in _ON)
            parts.append(Part("what such a gel does", (*rows, ("", _A_MODEL))))
            chart = share_chart(transmission, "what such a gel lets through", "transmittance")
        line = _line(modifier, self._read_with()) if modifier is not None else "lamps were read with it"
        return ThingPage(key, line, tuple(parts), chart)

    def record(self, key: str) -> Record | None:
        """What it did to the lamps that were read with it and without."""
        lamps = list(dict.fromkeys(self._read_with().get(key, ())))
        modifier = self._modifier(key)
        is_gel = correction_named(key) is not None or (modifier is not None and modifier.kind == GEL)
        return (lambda path: _found(path, key, lamps, is_gel=is_gel)) if lamps else None

    def understood(self, text: str, key: str | None) -> str:
        """What a line would change."""
        before = self._modifier(key)
        after = self._changed(text, key)
        was = before or Modifier("", after.nickname)
        said = [f"{n}: {new or 'taken back'}" for n, old, new in (
            ("name", was.nickname, after.nickname), ("kind", was.kind, after.kind), ("note", was.notes, after.notes),
        ) if old != new]  # fmt: skip
        return "; ".join(said) or ("nothing new" if before is not None else f"; and more, such as {self.usual}")

    def _changed(self, text: str, key: str | None) -> Modifier:
        one = self._modifier(key)
        if one is None and key is not None:
            one = Modifier(new_id(), key)  # read with, and now written down
        if one is None:
            name, _, text = text.partition(";")
            one = Modifier(new_id(), " ".join(name.split()))
        for part in (said.strip() for said in text.split(";") if said.strip()):
            one = self._with(part, one)
        if correction_named(one.nickname) is not None and not one.kind:
            one = replace(one, kind=GEL)
        return one

    def _with(self, part: str, one: Modifier) -> Modifier:
        word, _, rest = part.partition(" ")
        word, rest = word.casefold(), rest.strip()
        if part.casefold() == GEL:
            return replace(one, kind=GEL)
        if part.casefold() in {"no note", "no kind"}:
            return replace(one, notes="") if rest == "note" else replace(one, kind="")
        if word in {"kind", "note"} and rest:
            return replace(one, kind=rest) if word == "kind" else replace(one, notes=rest)
        if part.casefold().startswith("call it ") and part[8:].strip():
            if one.nickname in self._read_with():
                raise FormError("line", f"Readings call it {one.nickname}: it keeps that name")
            return replace(one, nickname=" ".join(part[8:].split()))
        raise FormError("line", f"“{part}” is nothing that is kept of a modifier. Say it like: {self.usual}")

    def say(self, text: str, key: str | None) -> tuple[str, str]:
        """Change a modifier, write one down, or add one."""
        after, before = self._changed(text, key), self._modifier(key)
        if not after.nickname:
            raise FormError("line", "A modifier needs a name: what the terms of a reading call it")
        if any(other.nickname.casefold() == after.nickname.casefold() for other in self._kept() if other != before):
            raise FormError("line", f"There is a {after.nickname} already; choose another name")
        self._kit.put(f"modifier {after.nickname}", after, before)
        return after.nickname, f"{after.nickname} is {'changed' if before is not None else 'in the Kit'}"

    def remove(self, key: str) -> str:
        """Take it out of the Kit; readings that name it go on naming it."""
        modifier = self._modifier(key)
        if modifier is None:
            raise FormError("line", f"{key} is not written down: readings name it, and these stay")
        self._kit.put(f"modifier {key} taken out", None, modifier)
        return f"{key} is out of the Kit; readings that name it stay"

    def take(self, path: Path) -> tuple[str, str]:
        """Refused: they are read on lamps."""
        raise FormError("line", "A gel is measured by two readings, with it and without")

    def write(self, path: Path) -> str:
        """Refused: they go with the sessions."""
        raise FormError("line", "Modifiers go with the sessions: D in the Report writes them as open data")


def _line(one: Modifier, read: dict[str, list[str]]) -> str:
    return " · ".join(part for part in (one.kind, _on_lamps(read.get(one.nickname, [])) or "not read yet") if part)


def _on_lamps(source_ids: Sequence[str]) -> str:
    count = len(set(source_ids))
    return f"read on {count} lamp{'' if count == 1 else 's'}" if count else ""


def _effect(light: str, transmission: FloatArray) -> str:
    spectrum = reference_spectrum(light)
    if spectrum is None:
        raise KeyError(light)
    does = shift(spectrum, transmission)
    mired = notation.number(float(does.mired), 0, signed=True)
    return f"{mired} mired, Duv {notation.duv(float(does.duv))}, {notation.stops(-float(does.loss_stops))} stops"


def _found(path: Path, name: str, lamps: Sequence[str], *, is_gel: bool) -> Found:
    logbook = Logbook.open_to_read(path)
    try:
        collection = Collection(logbook)
        witness = Witness(collection)
        rows: list[tuple[str, str]] = []
        entrants = collection.entrants(lamps)
        for entrant in entrants:
            evidence = witness.evidence(entrant)
            told = [*modifiers.matrix(evidence), *modifiers.beam_spread(evidence)]
            sentences = dict.fromkeys(f.sentence for f in told if f.weight > 0 and _is_of(f, name, evidence))
            rows += [(entrant.name, sentence) for sentence in sentences]
        part = Part(
            "what it did", tuple(rows),
            "No lamp was read with it and without it at the same terms: two such readings say what it does.",
        )  # fmt: skip
        readings = [m for e in entrants for m in witness.evidence(e).readings]
        share = measured_gels(collection, readings, [name]).get(name.casefold()) if is_gel else None
        title = "what it lets through, as it was read"
        return Found((part,), share_chart(share, title, "transmittance") if share is not None else None)
    finally:
        logbook.close()


def _is_of(finding: Finding, name: str, evidence: Evidence) -> bool:
    """Whether a finding sets readings that differ in this one part beside each other."""
    worn = {m.terms.configuration for m in evidence.readings if m.reading.id in set(finding.readings)}
    return any(set(ours) - set(theirs) == {name} and not set(theirs) - set(ours) for ours in worn for theirs in worn)
