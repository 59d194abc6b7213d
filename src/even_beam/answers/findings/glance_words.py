"""What a lamp is at a glance in a few sentences, and in five large figures with what follows from each."""

from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.answers.findings.glance import AtWhite, Dimmed, Glance
from even_beam.bench.terms import said_of
from even_beam.known.findings.colour import WEAK
from even_beam.known.in_words import tint_side, white_side
from even_beam.light.cri_samples import SAMPLE_WORDS
from even_beam.light.filters import NO_SUCH_GEL, duv_of_gel, gel_fraction_of_duv
from even_beam.light.photometry import stops
from even_beam.words import notation

MOST_WHITES = 3
"""So many whites are named one by one."""


@dataclass(frozen=True, slots=True)
class Figure:
    """One large figure: what it is, its value and unit, what follows from it, and the readings behind it."""

    label: str
    value: str
    unit: str
    lines: tuple[str, ...]
    readings: tuple[str, ...]


Sentence = tuple[str, tuple[str, ...]]
"""A sentence and the readings it rests on."""


def sentences(glance: Glance) -> list[Sentence]:
    """Its light and dimmer, its whites, its tint, its weakest colour; what was not read is not spoken of."""
    row = glance.at
    if row is None:
        return []
    found = [_light(glance, row), _whites(glance), _tint(glance), _colours(row), _doubtful(glance, row)]
    return [one for one in found if one is not None]


def _light(glance: Glance, row: AtWhite) -> Sentence | None:
    dimmed = glance.dimmed
    parts = []
    if row.lux is not None:
        parts.append(f"gives {notation.level(row.lux)}{_at_place(row)}")
    if dimmed is not None:
        parts.append(_dims(dimmed, of_it=bool(parts)))
    if not parts:
        return None
    behind = (*row.readings, *(dimmed.readings if dimmed is not None else ()))
    return f"{glance.entrant.name} {' and '.join(parts)}.", tuple(dict.fromkeys(behind))


def _at_place(row: AtWhite) -> str:
    terms = row.repeats[0].terms
    if terms.distance_m is not None:
        return f" at {notation.distance(terms.distance_m)}"
    return " at an equal distance" if terms.placement == "equal" else ""


def _dims(dimmed: Dimmed, *, of_it: bool) -> str:
    """What the lowest level gives."""
    of_what = "of it" if of_it else "of its light"
    share, dial = notation.percent(float(f"{dimmed.gives_pct:.2g}")), notation.percent(dimmed.lowest_pct)
    if dimmed.is_in_proportion:
        return f"dims to {dial} % {of_what}"
    return f"at {dial} % {'still ' if dimmed.gives_pct > dimmed.lowest_pct else 'only '}gives {share} % {of_what}"


def _whites(glance: Glance) -> Sentence | None:
    rows = [row for row in glance.whites if row.error_mired is not None]
    if not rows:
        row = glance.at
        if row is None or row.cct_k is None:
            return None
        return f"It gives {notation.white(row.cct_k)} K.", row.readings
    behind = tuple(dict.fromkeys(i for row in rows for i in row.readings))
    if len(rows) == 1:
        return _one_white(rows[0]), behind
    right = [row for row in rows if not row.is_off]
    warm = [row for row in rows if row.is_off and (row.error_mired or 0.0) > 0.0]
    cool = [row for row in rows if row.is_off and (row.error_mired or 0.0) < 0.0]
    sides = [(side, own) for side, own in (("warm", warm), ("cool", cool)) if own]
    all_three = len(sides) + bool(right) == 3
    most = 1 if all_three else MOST_WHITES
    parts = [f"right at {_named(right, len(rows), most)}"] if right else []
    parts += [f"{side} at {_named(own, len(rows), most)}{'' if all_three else f' ({_by(own)})'}" for side, own in sides]
    far = f", {_by([*warm, *cool])}" if all_three else ""
    return f"Its white is {notation.listed(parts)}{far}.", behind


def _named(rows: Sequence[AtWhite], every: int, most: int) -> str:
    """The whites by their names; all of them, or how many, where they are many."""
    if len(rows) == every > 2:
        return f"all {every} whites"
    if len(rows) > most:
        return f"{len(rows)} of {every} whites"
    return f"{notation.listed([notation.dialled(row.dialled_k or 0.0) for row in rows])} K"


def _by(rows: Sequence[AtWhite]) -> str:
    most = max(abs(row.error_mired or 0.0) for row in rows)
    return f"by {'up to ' if len(rows) > 1 else ''}{most:.0f} mired"


def _one_white(row: AtWhite) -> str:
    dialled, gives = notation.dialled(row.dialled_k or 0.0), notation.white(row.cct_k)
    if not row.is_off:
        return f"Dialled {dialled} K, it gives {gives} K: right."
    side = white_side(row.error_mired or 0.0)
    instead = f"; dial {row.dial} instead" if row.dial not in {"", "leave"} else ""
    return f"It is {side}: {gives} K where {dialled} was dialled{instead}."


def _tint(glance: Glance) -> Sentence | None:
    rows = [row for row in glance.whites if row.off is not None]
    if not rows:
        return None
    behind = tuple(dict.fromkeys(i for row in rows for i in row.readings))
    tinted = [row for row in rows if row.is_tinted]
    if not tinted:
        return "It has no tint that this meter can see.", behind
    worst = max(tinted, key=lambda row: abs(row.off or 0.0))
    sides = {tint_side(row.off or 0.0) for row in tinted}
    most = notation.number(abs(worst.off or 0.0), 3)
    where = f"most at {notation.dialled(worst.dialled_k or 0.0)} K ({most})" if len(rows) > 1 else f"({most})"
    if len(tinted) == 1 and len(rows) > 1:
        where = f"at {notation.dialled(worst.dialled_k or 0.0)} K alone ({most})"
    leans = f"It leans {tint_side(worst.off or 0.0)}{',' if len(tinted) > 1 else ''} {where}"
    if len(sides) > 1:
        leans = f"Its tint turns with the white: {tint_side(worst.off or 0.0)} {where}"
    mended = mends(worst)
    return f"{leans}{f': {mended}' if mended else ''}.", behind


def gel_of(row: AtWhite) -> tuple[str, bool] | None:
    """The gel that mends a tint, and whether it does so as far as the meter can tell; None where none surely helps."""
    if not row.is_tinted or row.off is None or row.cct_k is None:
        return None
    gel = gel_fraction_of_duv(row.off, row.cct_k)
    if gel in {"none", NO_SUCH_GEL}:
        return None
    left = row.off + duv_of_gel(gel, row.cct_k)
    return (gel, abs(left) <= row.half_duv) if abs(left) < abs(row.off) else None


def mends(row: AtWhite) -> str:
    """What a gel does to a tint, in words; nothing where none surely helps."""
    gel = gel_of(row)
    if gel is None:
        return ""
    name, rights = gel
    article = "an" if name.startswith("eighth") else "a"
    return f"{article} {name} {'puts it right' if rights else 'takes part of it back'}"


def _colours(row: AtWhite) -> Sentence | None:
    samples = row.samples
    if len(samples) < len(SAMPLE_WORDS):
        return None
    weak = sorted((i for i in samples if samples[i] < WEAK), key=lambda i: samples[i])
    if not weak:
        return f"It renders all fifteen samples at {WEAK:.0f} or better.", row.readings
    named = notation.listed([f"{SAMPLE_WORDS[i]} (R{i} {notation.score(samples[i])})" for i in weak[:2]])
    return f"{notation.sentence(named)} suffer most.", row.readings


def _doubtful(glance: Glance, row: AtWhite) -> Sentence | None:
    return (f"It rests on {glance.doubtful}.", row.readings) if glance.doubtful else None


# --- the five figures


def figures(glance: Glance, settings_line: str) -> list[Figure]:
    """Light, white, tint, colour, dimmer, as far as they were read; `settings_line` names sensitivity and shutter."""
    row = glance.at
    if row is None:
        return []
    found = [_light_figure(glance, row, settings_line), _white_figure(glance, row), _tint_figure(row)]
    found += [_colour_figure(row), _dimmer_figure(glance)]
    return [one for one in found if one is not None]


def _light_figure(glance: Glance, row: AtWhite, settings_line: str) -> Figure | None:
    if row.lux is None:
        return None
    lines = [f"{notation.significant(glance.candela)} cd"] if glance.candela is not None else []
    lines += [f"{notation.f_thirds(glance.f_stop)} at {settings_line}"] if glance.f_stop is not None else []
    return Figure(
        f"Light{_at_place(row)}", notation.level_alone(row.lux), notation.light_unit(), tuple(lines), row.readings
    )


def _white_figure(glance: Glance, row: AtWhite) -> Figure | None:
    if row.cct_k is None:
        return None
    lines: list[str] = []
    if row.error_mired is not None:
        asked = f"{notation.dialled(row.dialled_k or 0.0)} K"
        side = white_side(row.error_mired)
        lines.append(f"{abs(row.error_mired):.0f} mired {side} for {asked}" if row.is_off else f"right at {asked}")
        lines += [f"dial {row.dial} instead"] if row.dial not in {"", "leave"} else []
        others = [one for one in glance.whites if one is not row and one.is_off]
        if others and len(lines) < 2:
            worst = max(others, key=lambda one: abs(one.error_mired or 0.0))
            side = white_side(worst.error_mired or 0.0)
            lines.append(f"{abs(worst.error_mired or 0.0):.0f} {side} at {notation.dialled(worst.dialled_k or 0.0)} K")
    return Figure("White", notation.white(row.cct_k), "K", tuple(lines), row.readings)


def _tint_figure(row: AtWhite) -> Figure | None:
    if row.off is None:
        return None
    if not row.is_tinted:
        half = notation.number(row.half_duv, 3)
        return Figure("Tint", "none", "to see", (f"within {half}, as far", "as this meter tells"), row.readings)
    gel = gel_of(row)
    lines = (gel[0], "puts it right" if gel[1] else "takes part of it back") if gel is not None else ()
    return Figure("Tint", notation.number(abs(row.off), 3), tint_side(row.off or 0.0), lines, row.readings)


def _colour_figure(row: AtWhite) -> Figure | None:
    name = next((one for one in ("ra", "rf", "tlci") if one in row.scores), None)
    if name is None:
        return None
    label = {"ra": "Ra", "rf": "Rf", "tlci": "TLCI"}[name]
    lines = [f"deep red R9 {notation.score(row.scores['r9'])}"] if "r9" in row.scores and name != "r9" else []
    samples = {i: score for i, score in row.samples.items() if i != 9}
    if len(samples) > 8:
        worst = min(samples, key=lambda i: samples[i])
        lines.append(f"{SAMPLE_WORDS[worst]} R{worst} {notation.score(samples[worst])}")
    elif "rf" in row.scores and name != "rf":
        lines.append(f"Rf {notation.score(row.scores['rf'])}")
    return Figure("Colour", notation.score(row.scores[name]), label, tuple(lines), row.readings)


def _dimmer_figure(glance: Glance) -> Figure | None:
    dimmed = glance.dimmed
    if dimmed is None or dimmed.gives_pct <= 0.0:
        return None
    share = notation.percent(float(f"{dimmed.gives_pct:.2g}"))
    lines = [f"{notation.percent(dimmed.lowest_pct)} % gives {share} %"]
    if dimmed.drift is not None:
        span, half = dimmed.drift
        lines.append(f"white drifts {span:.0f} mired" if span > half else f"white stays within {half:.0f} mired")
    size = abs(float(stops(dimmed.gives_pct / 100.0)))
    return Figure("Dims by", notation.number(size, 1), "stops", tuple(lines), dimmed.readings)


# --- the terms


def terms_line(glance: Glance) -> str:
    """What all of it holds for where no line says otherwise."""
    row, first, main = glance.at, glance.base, glance.main
    if first is None or main is None:
        return ""
    by_colour = row is not None and row.lux is None and row.colour
    meter = glance.evidence.meter_of(row.colour[0] if row is not None and by_colour else first)
    parts = [
        f"dialled {notation.dialled(first.terms.cct_k)} K" if first.terms.cct_k is not None else "",
        said_of(first.terms, *(("cct",) if first.terms.cct_k is not None else ())).replace(" · ", ", "),
        meter.nickname,
        f"{main.reading.at:%-d %B %Y}",
    ]
    return ", ".join(part for part in parts if part)


def what_it_can_tell(glance: Glance) -> str:
    """How far level, white and tint can be told of this lamp: levels ±5 %, white ±130 K, tint ±0.002."""
    row = glance.at
    if row is None:
        return ""
    parts = []
    if row.level is not None and row.level.value is not None:
        parts.append(f"levels ±{notation.number(100.0 * (2.0**row.level.half_width - 1.0))} %")
    if row.white is not None and row.cct_k is not None:
        parts.append(f"white ±{notation.number(round(row.white.half_width * row.cct_k**2 / 1e6, -1))} K")
    parts += [f"tint ±{notation.number(row.half_duv, 3)}"] if row.off is not None else []
    return ", ".join(parts)
