"""What is said of a lamp in a line, as people say it: `97 Ra`, `46k lx at 1 m`, `2700 to 6500 K`, `820 EUR`.

Each part becomes a field of its form: `frame 45 EUR` what it costs beside, `weight 2.4 kg` or `dimmer curve:
switchable` what it is to work with. `no Ra`, `no weight`, `no frame` takes one back.
"""

import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from datetime import date, datetime

from even_beam.bench.records import SOURCE_KINDS
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.lamp_form import LampForm
from even_beam.desk.kit.price_line import priced
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.words.entry import EntryError, parse
from even_beam.words.quantities import QUANTITIES, Use, score_names

_WORDS: tuple[tuple[str, str], ...] = (
    (r"(?:nickname|name|call it)\s+(.+)", "nickname"),
    (r"kind\s+(.+)", "kind"),
    (r"model\s+(.+)", "model"),
    (r"serial(?:\s+number)?\s+(.+)", "serial"),
    (r"((?:lent|supplied|bought|hired)\b.+|on approval.*|own|the .+ own .+)", "supplied_by"),
    (r"note\s+(.+)", "notes"),
)
_FIELDS = {"price": "price", "serial": "serial", "note": "notes", "kind": "kind"}
_CLAIMS = {
    "white": "cct", "k": "cct", "level": "illuminance", "power": "power_w", "beam": "beam_deg",
    **{name: name for name in score_names(Use.CLAIMED)},
}  # fmt: skip
"""What claims are called where one is taken back."""

GEAR = (
    "weight", "size", "mount", "control", "connector", "battery", "cooling", "noise", "dimmer", "display", "cable",
    "surge", "dial", "modes", "in the box",
)  # fmt: skip
"""What a lamp is usually asked for beside its light; any other name stands before a colon."""

USUAL = (
    "97 Ra; 2700 to 6500 K; 46k lx at 1 m; beam 30°; 200 W; 820 EUR; frame 45 EUR; weight 2.4 kg; mount …; back by"
    " 2026-12-01; lent by …; note …"
)


def changed(text: str, form: LampForm) -> LampForm:
    """A form with what a line says of it. Raises `FormError` with the field `line` for what is not understood."""
    after, left = partly_changed(text, form)
    if left:
        raise left[0][1]
    return after


def partly_changed(text: str, form: LampForm) -> tuple[LampForm, list[tuple[str, FormError]]]:
    """A form with all of a line that is understood, and each part that is not, with what is wrong with it. Raises
    `FormError` for a line that says nothing."""
    parts = [part.strip() for part in re.split(r"[;\n]", text) if part.strip()]
    if not parts:
        raise FormError("line", f"Say something of the lamp: {USUAL}")
    left = []
    for part in parts:
        try:
            form = _one(part, form)
        except FormError as error:
            left.append((part, error))
    return form, left


def _one(part: str, form: LampForm) -> LampForm:
    for take in (_taken_back, _day, _worded, _opinion, _own_row, _price, _tolerance, _gear, _beam, _claim):
        found = take(part, form)
        if found is not None:
            return found
    raise FormError("line", f"“{part}” is nothing that the Kit keeps of a lamp. Say it like: {USUAL}")


def _taken_back(part: str, form: LampForm) -> LampForm | None:
    match = re.fullmatch(r"(?i)no\s+(.+)", part)
    if match is None:
        return None
    name = match[1].strip().casefold()
    if name in _CLAIMS:
        return replace(form, claims={q: text for q, text in form.claims.items() if q != _CLAIMS[name]})
    if name in _FIELDS:
        return replace(form, **{_FIELDS[name]: ""})  # type: ignore[arg-type]
    left = without(form.gear, name), without(form.beside, name)
    if left == (form.gear, form.beside):
        return None
    return replace(form, gear=left[0], beside=left[1])


def without(rows: tuple[tuple[str, str], ...], name: str) -> tuple[tuple[str, str], ...]:
    """Rows but for the one of a name; letters' case tells nothing apart."""
    return tuple(row for row in rows if row[0].casefold() != name.casefold())


def _with(rows: tuple[tuple[str, str], ...], name: str, text: str) -> tuple[tuple[str, str], ...]:
    """Rows with one of a name in its place, or last."""
    if any(known.casefold() == name.casefold() for known, _ in rows):
        return tuple((known, text if known.casefold() == name.casefold() else was) for known, was in rows)
    return (*rows, (name, text))


def _day(part: str, form: LampForm) -> LampForm | None:
    match = re.fullmatch(r"(?i)(?:goes\s+)?back(?:\s+by)?\s+(.+)", part)
    if match is None:
        return None
    return replace(form, return_by=_date(match[1]))


def _date(text: str) -> str:
    """A day as it is kept, from `2026-12-01`, `1 December 2026` or `1.12.2026`."""
    readers: tuple[Callable[[str], date], ...] = (
        date.fromisoformat,
        lambda t: datetime.strptime(t, "%d %B %Y").date(),
        lambda t: datetime.strptime(t, "%d %b %Y").date(),
        lambda t: datetime.strptime(t, "%d.%m.%Y").date(),
    )
    for read in readers:
        try:
            return read(text.strip()).isoformat()
        except ValueError:
            continue
    raise FormError("line", f"“{text}” is not a day; write 2026-12-01 or 1 December 2026")


def _price(part: str, form: LampForm) -> LampForm | None:
    told = priced(part)
    if told is None:
        return None
    what, price = told
    if what.casefold() in {"", "price", "lamp"}:
        return replace(form, price=price.amount_text, currency=price.currency, price_terms=price.terms)
    return replace(form, beside=_with(form.beside, what, price.text))


def _own_row(part: str, form: LampForm) -> LampForm | None:
    """A row of gear under a name of one's own: `dimmer curve: switchable`."""
    match = re.fullmatch(r"([^:]{2,30}):\s*(.+)", part)
    return None if match is None else replace(form, gear=_with(form.gear, match[1].strip(), match[2].strip()))


def _opinion(part: str, form: LampForm) -> LampForm | None:
    """What speaks for it and against it: as many as there are, each a row."""
    match = re.fullmatch(r"(?i)(for|against):?\s+(.+)", part)
    if match is None:
        return None
    row = (match[1].casefold(), match[2].strip())
    return form if row in form.gear else replace(form, gear=(*form.gear, row))


def _tolerance(part: str, form: LampForm) -> LampForm | None:
    """How near a lamp is said to come: `within 50 K`, beside the white that is claimed; `3 % typical`."""
    match = re.fullmatch(r"(?i)(?:white\s+)?((?:within|±|\+/-)\s*\d.*(?:k|kelvin|mired|duv)|.*\btypical)", part)
    if match is None:
        return None
    claimed = form.claims.get("cct", "")
    if claimed and not match[1].lower().endswith("typical"):
        return _claiming(form, "cct", f"{claimed.partition(', ')[0]}, {match[1]}")
    return replace(form, gear=_with(form.gear, "tolerance", match[1]))


def _gear(part: str, form: LampForm) -> LampForm | None:
    match = re.fullmatch(rf"(?i)({'|'.join(GEAR)})\s+(.+)", part)
    return None if match is None else replace(form, gear=_with(form.gear, match[1].casefold(), match[2].strip()))


def _beam(part: str, form: LampForm) -> LampForm | None:
    """A claimed beam angle, `beam 30°`, `15 to 50° beam`, `beam 30, with the reflector`."""
    match = re.fullmatch(r"(?i)(?:beam\s+([\d][^,]*)|([\d][^,]*?)\s*beam)(,.+)?", part)
    if match is None:
        return None
    angle = re.sub(r"(?i)\s*(?:°|deg(?:rees)?)", "", match[1] or match[2]).strip()
    return _claiming(form, "beam_deg", f"{angle}{match[3] or ''}")


def _worded(part: str, form: LampForm) -> LampForm | None:
    played = re.fullmatch(r"(?i)played by (?:the (?:simulated )?)?(.+)", part)
    if played is not None:
        return replace(form, simulated=_one_of(played[1], tuple(LAMPS), "a simulated fixture"))
    being = re.fullmatch(r"(?i)is an? (.+)", part)
    if being is not None:
        return replace(form, what=_one_of(being[1], SOURCE_KINDS, "what can be read"))
    for pattern, field in _WORDS:
        match = re.fullmatch(rf"(?i){pattern}", part)
        if match is not None:
            return replace(form, **{field: match[1].strip()})  # type: ignore[arg-type]
    return None


def _one_of(text: str, known: tuple[str, ...], what: str) -> str:
    found = next((name for name in known if name.casefold() == text.strip().casefold()), None)
    if found is None:
        raise FormError("line", f"“{text}” is not {what}; there are {', '.join(known)}")
    return found


def _claim(part: str, form: LampForm) -> LampForm | None:
    """A figure that maker or seller claims; where it is stated for more than the usual, after a comma."""
    figure, _, further = part.partition(", ")
    figure = re.sub(r"(?i)\s*(?:at|@)\s*1\s*m$", "", figure)
    figure = re.sub(r"(?i)^(?:power|draws|white|level|claims?|claimed)\s+(?=[\d<>~±])", "", figure)
    scores = "|".join(score_names(Use.CLAIMED))
    try:
        entry = parse(re.sub(rf"(?i)^({scores})\s+(.+)$", r"\2 \1", figure))
    except EntryError as error:
        raise FormError("line", str(error)) from error
    if entry.quantity is None or entry.quantity not in _CLAIMS.values():
        return None
    said = re.sub(rf"(?i)\s*(?:{scores}|k|w)$", "", figure) if entry.quantity != "illuminance" else figure
    said = re.sub(rf"(?i)^(?:{scores})\s+", "", said).strip()
    return _claiming(form, entry.quantity, f"{said}, {further}" if further else said)


def _claiming(form: LampForm, quantity: str, text: str) -> LampForm:
    """A form with a claim in place of the one there was of its quantity."""
    return replace(form, claims={**form.claims, quantity: text})


_SAID = {
    "return_by": "goes back by", "supplied_by": "supplied", "notes": "note", "what": "it is a",
    "simulated": "played by",
}  # fmt: skip
_SAID_OF_CLAIMS = {"cct": "white", "illuminance": "level at 1 m", "beam_deg": "beam angle, °"}


def words_of(text: str, form: LampForm) -> str:
    """What a line would change, in words, and what of it would not be kept. Raises `FormError`."""
    after, left = partly_changed(text, form)
    return "; ".join([words_between(form, after), *(str(error) for _, error in left)])


def words_between(form: LampForm, after: LampForm) -> str:
    """What differs between two forms, in words."""
    said = []
    for field in LampForm.__dataclass_fields__:
        was, now = getattr(form, field), getattr(after, field)
        if was == now or field in {"currency", "price_terms"}:
            continue
        if field == "claims":
            said += _claims_changed(form.claims, after.claims)
            continue
        if isinstance(now, tuple):
            said += [f"{name}: {told}" for name, told in now if (name, told) not in was]
            said += [f"{name}: taken back" for name, _ in was if name not in {known for known, _ in now}]
            continue
        terms = f", {after.price_terms}" if after.price_terms else ""
        unit = f" {after.currency}{terms}" if field == "price" and after.price else ""
        said.append(f"{_SAID.get(field, field)}: {now or 'taken back'}{unit}")
    return "; ".join(said) or "nothing new"


def _claims_changed(was: Mapping[str, str], now: Mapping[str, str]) -> list[str]:
    changed_ = [quantity for quantity in {**was, **now} if was.get(quantity, "") != now.get(quantity, "")]
    named = {quantity: _SAID_OF_CLAIMS.get(quantity) or QUANTITIES[quantity].label for quantity in changed_}
    return [f"claimed {named[quantity]}: {now.get(quantity) or 'taken back'}" for quantity in changed_]
