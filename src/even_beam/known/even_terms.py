"""The even-terms line: what is the same between lamps, what was brought to common terms, what differs, what is not
known."""

from collections.abc import Mapping, Sequence

from even_beam.bench import fields, terms
from even_beam.bench.fields import UNSTATED
from even_beam.bench.records import Meter
from even_beam.known.choice import Chosen
from even_beam.known.comparison import Entry, Evenness, TermNote
from even_beam.known.split import says
from even_beam.words import notation


def notes_on(
    chosen: Sequence[Chosen], entries: Sequence[Entry], common: float | None, meters: Mapping[str, Meter]
) -> list[TermNote]:
    """Every term between the lamps, what is the same in one; then what was brought, what differs, what is not known."""
    read = [c for c in chosen if c.first is not None]
    nothing = [c.entrant.name for c in chosen if c.first is None]
    notes = [TermNote(Evenness.UNKNOWN, f"nothing read at these terms: {', '.join(nothing)}")] if nothing else []
    if not read:
        return notes
    for one in fields.FIELDS:
        apart = [c for c in read if one.name not in c.joined]
        if one.name not in {"distance", "placement", "mode", "session"} and apart:
            notes += _field_note(one, apart, meters)
    notes += _joined_notes(read, entries)
    notes += _distance_notes(read, entries, common)
    for meter in {m.reading.meter_id for c in read for m in c.readings}:
        known = meters.get(meter or "")
        if known is not None and known.for_ratios_only:
            zeroed = f", zeroed on {known.zeroed_on}" if known.zeroed_on else ""
            notes.append(TermNote(Evenness.UNKNOWN, f"{known.nickname} is for ratios only{zeroed}", ("meter",)))
    notes += [TermNote(Evenness.UNKNOWN, f"{e.name} rests on {e.doubtful}") for e in entries if e.doubtful]
    order = list(Evenness)
    same = [note for note in notes if note.evenness is Evenness.SAME and note.text]
    rest = sorted((n for n in notes if n.evenness is not Evenness.SAME), key=lambda n: order.index(n.evenness))
    if not same:
        return rest
    together = TermNote(Evenness.SAME, ", ".join(n.text for n in same), tuple(f for n in same for f in n.fields))
    return [together, *rest]


def _field_note(one: fields.Field, read: Sequence[Chosen], meters: Mapping[str, Meter]) -> list[TermNote]:
    """How a field stands between the lamps; silent where nobody stated it and nobody needs to."""
    if one.name == "cct":
        return _white_note(read)
    asked_of = [c for c in read if c.entrant.is_fixture or _is_stated(c, one.name)]
    if one.name == "turn":  # what stands on the axis stands in every plane
        asked_of = [c for c in asked_of if c.first is not None and c.first.terms.angle_deg != 0.0]
    names = {key: meter.nickname for key, meter in meters.items()}
    by_lamp = {c.entrant.name: terms.value_words(c.first, one.name, names) for c in asked_of if c.first is not None}
    stated = {c.entrant.name: _is_stated(c, one.name) for c in asked_of}
    values = {by_lamp[name] for name, is_stated in stated.items() if is_stated}
    silent = [c.entrant.name for c in read if one.name in c.unstated and c.entrant.is_fixture]
    notes = (
        [TermNote(Evenness.UNKNOWN, f"{one.label} of {', '.join(silent)} not stated", (one.name,))] if silent else []
    )
    if not values:
        return notes
    if len(values) == 1 and (all(stated.values()) or one.name == "level"):
        text = next(iter(values)) or ("on axis" if one.name == "angle" else "")
        return [*notes, TermNote(Evenness.SAME, text, (one.name,))]
    if len(values) == 1:
        silent = [name for name, is_stated in stated.items() if not is_stated]
        said = _named_value(
            one.name, notation.listed([n for n in stated if stated[n]]), next(iter(values)), stated=True
        )
        text = f"{one.label}: {said}; not stated of {', '.join(silent)}"
        return [*notes, TermNote(Evenness.UNKNOWN, text, (one.name,))] if one.name in {"zoom", "tint"} else notes
    plain = fields.PLAIN.get(one.name, "")
    words = {name: (text or plain) if stated[name] else "not stated" for name, text in by_lamp.items()}
    return [*notes, TermNote(Evenness.DIFFERS, f"{one.label}: {_by_value(words)}", (one.name,))]


def _joined_notes(read: Sequence[Chosen], entries: Sequence[Entry]) -> list[TermNote]:
    """What is a mean of several sessions or meters, by the choice of whoever asks."""
    names = tuple(dict.fromkeys(name for c in read for name in c.joined))
    return [TermNote(Evenness.BROUGHT, f"{e.name}: {e.joined}", names) for e in entries if e.joined]


def _is_stated(chosen: Chosen, name: str) -> bool:
    """Whether a field was stated; sun and window are bare without a word."""
    value = None if chosen.first is None else terms.value(chosen.first, name)
    return value is not UNSTATED and (value != () or chosen.entrant.is_fixture)


def _by_value(words: Mapping[str, str]) -> str:
    """Lamps with their values, those of one value together: Tansy and Burdock reflector; Yarrow bare."""
    together: dict[str, list[str]] = {}
    for name, text in words.items():
        together.setdefault(name if says(name, text) else text, []).append(name)
    return "; ".join(
        names[0] if names == [text] else f"{notation.listed(names)} {text}".rstrip() for text, names in together.items()
    )


def _named_value(field: str, name: str, text: str, stated: bool) -> str:
    words = (text or fields.PLAIN.get(field, "")) if stated else "not stated"
    if says(name, words):
        return name
    return f"{name} {words}".rstrip()


def _white_note(read: Sequence[Chosen]) -> list[TermNote]:
    whites_ = {c.entrant.name: c.first.terms.cct_k for c in read if c.first is not None}
    dialled = {k for k in whites_.values() if k is not None}
    own = [name for name, white in whites_.items() if white is None]
    if not dialled:
        return [TermNote(Evenness.SAME, "each at its own white", ("cct",))]
    if len(dialled) == 1:
        same = TermNote(Evenness.SAME, f"{notation.dialled(next(iter(dialled)))} K dialled", ("cct",))
        if not own:
            return [same]
        return [TermNote(Evenness.DIFFERS, f"white: none was dialled on {', '.join(own)}", ("cct",))]
    said = {name: f"{notation.dialled(w)} K" if w else "its own white" for name, w in whites_.items()}
    return [TermNote(Evenness.DIFFERS, f"white: {_by_value(said)}", ("cct",))]


def _distance_notes(read: Sequence[Chosen], entries: Sequence[Entry], common: float | None) -> list[TermNote]:
    lamps = [c for c in read if c.entrant.is_fixture]
    distances = {c.entrant.name: c.first.terms.distance_m for c in lamps if c.first is not None}
    unknown = [name for name, value in distances.items() if value is None]
    if distances and len(unknown) == len(distances):
        equal = all(c.first is not None and c.first.terms.placement == "equal" for c in lamps)
        text = "equal distance, not measured: ratios only" if equal else "distance not known: levels cannot be compared"
        return [TermNote(Evenness.SAME if equal else Evenness.UNKNOWN, text, ("distance",))]
    notes = (
        [TermNote(Evenness.UNKNOWN, f"distance of {', '.join(unknown)} not known", ("distance",))] if unknown else []
    )
    if common is None:
        return notes
    places = {e.name: e.at_m for e in entries if e.at_m is not None}
    if len(set(places.values())) > 1:
        shown = _by_value({name: notation.distance(at) for name, at in places.items()})
        notes.append(TermNote(Evenness.DIFFERS, f"distance: {shown}", ("distance",)))
    target = notation.distance(common)
    moved = [e for e in entries if e.how]
    refused = [e for e in entries if e.first is not None and e.level is None and e.first.terms.distance_m and e.why_not]
    if not moved and not unknown and not refused and not notes:
        return [TermNote(Evenness.SAME, target, ("distance",))]
    alike: dict[str, list[str]] = {}
    for entry in moved:
        to = notation.distance(entry.at_m if entry.at_m is not None else common)
        if entry.how is not None:
            alike.setdefault(f"{entry.how.caution} to {to}", []).append(entry.name)
    notes += [TermNote(Evenness.BROUGHT, f"{', '.join(names)} {how}", ("distance",)) for how, names in alike.items()]
    notes += [TermNote(Evenness.DIFFERS, f"{e.name}: {e.why_not}", ("distance",)) for e in refused]
    return notes
