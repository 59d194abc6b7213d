"""What is said of a meter in a line, as people say it: `dome; C 340; level 4 %; ratios only; zeroed on Tansy`."""

import re
from collections.abc import Mapping
from dataclasses import replace

from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.meter_form import CC_SIGNS, KINDS, RECEPTORS, MeterForm

USUAL = "spectrometer; dome; level 4 %; repeats 1.5 %; from 1 lx; to 200000 lx; ratios only; zeroed on …; note …"

_CHOICES: Mapping[str, tuple[str, ...]] = {"kind": KINDS, "receptor": RECEPTORS}
_WORDED: tuple[tuple[str, str], ...] = (
    (r"(?:call it|nickname|name)\s+(.+)", "nickname"),
    (r"c\s+(\d.*)", "constant"),
    (r"level(?: within)?\s+(?:±\s*)?(\d.*)", "level_pct"),
    (r"(?:repeats?|two readings)(?: agree)?(?: within)?\s+(?:±\s*)?(\d.*)", "ratio_pct"),
    (r"(?:reads )?from\s+(\d.*)", "floor_lx"),
    (r"(?:reads )?to\s+(\d.*)", "ceiling_lx"),
    (r"zeroed on\s+(.+)", "zeroed_on"),
    (r"note\s+(.+)", "notes"),
)
_FLAGS: Mapping[str, tuple[str, str | bool]] = {
    "ratios only": ("ratios_only", True),
    "good for ratios only": ("ratios_only", True),
    "no ratios only": ("ratios_only", False),
    "absolute": ("ratios_only", False),
    "not zeroed": ("zeroed_on", ""),
    "no note": ("notes", ""),
}
NAMES: Mapping[str, str] = {
    "nickname": "name", "kind": "it is a", "receptor": "receptor", "constant": "C of its exposure equation",
    "level_pct": "level within, %", "ratio_pct": "two readings agree within, %", "floor_lx": "reads from, lx",
    "ceiling_lx": "reads to, lx", "cc_sign": "its CC shows", "ratios_only": "good for ratios only",
    "zeroed_on": "zeroed on", "notes": "note",
}  # fmt: skip


def changed(text: str, form: MeterForm) -> MeterForm:
    """A form with what a line says of the meter. Raises `FormError` for what is not understood."""
    parts = [part.strip() for part in re.split(r"[;\n]", text) if part.strip()]
    if not parts:
        raise FormError("line", f"Say something of the meter: {USUAL}")
    for part in parts:
        form = _one(part, form)
    return form


def _one(part: str, form: MeterForm) -> MeterForm:
    words = " ".join(part.casefold().split())
    if words in _FLAGS:
        field, value = _FLAGS[words]
        return replace(form, **{field: value})  # type: ignore[arg-type]
    for field, choices in _CHOICES.items():
        if words in choices:
            return replace(form, **{field: words})  # type: ignore[arg-type]
    sign = re.fullmatch(r"cc(?: shows)?(?: the)?\s+(.+)", words)
    if sign is not None and sign[1] in CC_SIGNS:
        return replace(form, cc_sign=sign[1])
    for pattern, field in _WORDED:
        match = re.fullmatch(rf"(?i){pattern}", part)
        if match is not None:
            return replace(form, **{field: match[1].strip()})  # type: ignore[arg-type]
    raise FormError("line", f"“{part}” is nothing that the Kit keeps of a meter. Say it like: {USUAL}")


def words_of(text: str, form: MeterForm) -> str:
    """What a line would change, in words."""
    after = changed(text, form)
    said = []
    for field, name in NAMES.items():
        was, now = getattr(form, field), getattr(after, field)
        if was != now:
            shown = ("yes" if now else "no") if isinstance(now, bool) else now or "taken back"
            said.append(f"{name}: {shown}")
    return "; ".join(said) or "nothing new"
