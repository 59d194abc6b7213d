"""What is said of a lamp in a line, as people say it: `97 Ra`, `46k lx at 1 m`, `2700 to 6500 K`, `820 EUR`.

Each part becomes a field of its form; `no Ra` or an empty figure takes a claim back.
"""

import re
from collections.abc import Callable
from dataclasses import replace
from datetime import date, datetime

from even_beam.bench.entry import EntryError, parse
from even_beam.workspace.kit.lamp_form import FormError, LampForm

_WORDS: tuple[tuple[str, str], ...] = (
    (r"(?:nickname|name|call it)\s+(.+)", "nickname"),
    (r"kind\s+(.+)", "kind"),
    (r"model\s+(.+)", "model"),
    (r"serial(?:\s+number)?\s+(.+)", "serial"),
    (r"((?:lent|supplied|bought|hired)\b.+|on approval.*|own|the .+ own .+)", "supplied_by"),
    (r"note\s+(.+)", "notes"),
)
_PRICE = re.compile(
    r"(?i)([\d.,\s]+)\s*(EUR|USD|GBP|CHF|JPY|SEK|€|\$|£)|(EUR|USD|GBP|CHF|JPY|SEK|€|\$|£)\s*([\d.,\s]+)"
)
_SIGNS = {"€": "EUR", "$": "USD", "£": "GBP"}
_CLAIMED = {"cct": "white", "ra": "ra", "illuminance": "illuminance_at_1_m", "power_w": "power"}
_NAMES = {"white": "white", "k": "white", "ra": "ra", "level": "illuminance_at_1_m", "power": "power", "price": "price"}

USUAL = "97 Ra; 2700 to 6500 K; 46k lx at 1 m; 200 W; 820 EUR; back by 2026-12-01; lent by …; serial …; note …"


def changed(text: str, form: LampForm) -> LampForm:
    """A form with what a line says of it. Raises `FormError` with the field `line` for what is not understood."""
    parts = [part.strip() for part in re.split(r"[;\n]", text) if part.strip()]
    if not parts:
        raise FormError("line", f"Say something of the lamp: {USUAL}")
    for part in parts:
        form = _one(part, form)
    return form


def _one(part: str, form: LampForm) -> LampForm:
    for take in (_taken_back, _day, _price, _worded, _claim):
        found = take(part, form)
        if found is not None:
            return found
    raise FormError("line", f"“{part}” is nothing that the Kit keeps of a lamp. Say it like: {USUAL}")


def _taken_back(part: str, form: LampForm) -> LampForm | None:
    match = re.fullmatch(r"(?i)no\s+(\w+)", part)
    field = _NAMES.get(match[1].casefold()) if match is not None else None
    return replace(form, **{field: ""}) if field is not None else None


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
    match = _PRICE.fullmatch(part)
    if match is None:
        return None
    amount, sign = (match[1], match[2]) if match[1] is not None else (match[4], match[3])
    return replace(form, price=amount.strip(), currency=_SIGNS.get(sign, sign.upper()))


def _worded(part: str, form: LampForm) -> LampForm | None:
    for pattern, field in _WORDS:
        match = re.fullmatch(rf"(?i){pattern}", part)
        if match is not None:
            return replace(form, **{field: match[1].strip()})
    return None


def _claim(part: str, form: LampForm) -> LampForm | None:
    """A figure that maker or seller claims; where it is stated for more than the usual, after a comma."""
    figure, _, further = part.partition(", ")
    figure = re.sub(r"(?i)\s*(?:at|@)\s*1\s*m$", "", figure)
    try:
        entry = parse(re.sub(r"(?i)^(ra)\s+(.+)$", r"\2 Ra", figure))
    except EntryError as error:
        raise FormError("line", str(error)) from error
    field = _CLAIMED.get(entry.quantity or "")
    if field is None:
        return None
    said = re.sub(r"(?i)\s*(?:ra|k|w)$", "", figure) if field != "illuminance_at_1_m" else figure
    said = re.sub(r"(?i)^ra\s+", "", said).strip()
    return replace(form, **{field: f"{said}, {further}" if further else said})


def words_of(text: str, form: LampForm) -> str:
    """What a line would change, in words."""
    after = changed(text, form)
    names = {
        "white": "claimed white", "ra": "claimed Ra", "illuminance_at_1_m": "claimed level at 1 m",
        "power": "claimed power", "return_by": "goes back by", "supplied_by": "supplied", "notes": "note",
    }  # fmt: skip
    said = []
    for field in LampForm.__dataclass_fields__:
        if getattr(after, field) != getattr(form, field) and field != "currency":
            value = getattr(after, field) or "taken back"
            unit = f" {after.currency}" if field == "price" and after.price else ""
            said.append(f"{names.get(field, field)}: {value}{unit}")
    return "; ".join(said) or "nothing new"
