"""A meter as a person fills it in, to a record and back."""

from dataclasses import dataclass, replace

from even_beam.bench.records import Meter
from even_beam.desk.kit.form_error import FormError
from even_beam.words import notation
from even_beam.words.entry import EntryError, parse

KINDS = ("spectrometer", "light meter")
RECEPTORS = ("flat", "dome")
CC_SIGNS = ("unknown", "cast", "filter needed")
"""What a meter's CC figure stands for: some show the cast, others the filter needed against it."""


@dataclass(frozen=True, slots=True)
class MeterForm:
    """A meter as texts; tolerances in per cent."""

    nickname: str = ""
    kind: str = "light meter"
    receptor: str = "flat"
    constant: str = "250"
    level_pct: str = "5"
    ratio_pct: str = "1.5"
    floor_lx: str = "1"
    ceiling_lx: str = "200000"
    cc_sign: str = "unknown"
    ratios_only: bool = False
    zeroed_on: str = ""
    notes: str = ""


def form_of(meter: Meter) -> MeterForm:
    """A meter as texts."""
    return MeterForm(
        nickname=meter.nickname,
        kind=meter.kind,
        receptor=meter.receptor,
        constant=_plain(meter.constant),
        level_pct=_plain(100.0 * meter.level_tolerance),
        ratio_pct=_plain(100.0 * meter.ratio_tolerance),
        floor_lx=_plain(meter.floor_lx),
        ceiling_lx=_plain(meter.ceiling_lx),
        cc_sign=meter.cc_sign,
        ratios_only=not meter.absolute,
        zeroed_on=meter.zeroed_on,
        notes=meter.notes,
    )


def _plain(value: float) -> str:
    return notation.plain(value, 3).replace(notation.THIN_SPACE, "")


def meter_of(form: MeterForm, before: Meter) -> Meter:
    """Texts to a meter; what the form does not have stays as `before`. Raises `FormError`."""
    nickname = " ".join(form.nickname.split())
    if not nickname:
        raise FormError("nickname", "A meter needs a nickname: it stands beside every figure")
    asked = (
        before.quantities
        if form.kind == before.kind
        else (("illuminance",) if form.kind == "light meter" else Meter("", "").quantities)
    )
    return replace(
        before,
        nickname=nickname,
        kind=form.kind,
        receptor=form.receptor,
        constant=_number("constant", form.constant, 100.0, 600.0),
        level_tolerance=_number("level_pct", form.level_pct, 0.1, 50.0) / 100.0,
        ratio_tolerance=_number("ratio_pct", form.ratio_pct, 0.05, 50.0) / 100.0,
        floor_lx=_number("floor_lx", form.floor_lx, 0.0, 1e5),
        ceiling_lx=_number("ceiling_lx", form.ceiling_lx, 1.0, 1e7),
        cc_sign=form.cc_sign,
        absolute=not form.ratios_only,
        zeroed_on=form.zeroed_on.strip(),
        notes=form.notes.strip(),
        quantities=asked,
    )


def _number(field: str, text: str, low: float, high: float) -> float:
    try:
        value = parse(text.strip().removesuffix("%").removesuffix("lx"), None).value
    except EntryError as error:
        raise FormError(field, str(error)) from error
    if value is None or not low <= value <= high:
        raise FormError(field, f"“{text}” is not between {low:g} and {high:g}")
    return value
