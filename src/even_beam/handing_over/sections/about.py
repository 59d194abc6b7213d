"""Sections on the measuring itself: what is in doubt, by what method and meters, and what was not measured."""

from collections.abc import Callable, Mapping, Sequence

from even_beam.answers.bench.calibration_form import DARK, calibration_words
from even_beam.bench.measured import Measured
from even_beam.bench.records import Calibration, Conditions, Meter
from even_beam.bench.terms import terms_line
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.rows import BY_EYE
from even_beam.known.summary import gaps as unmeasured
from even_beam.paper.document import ReadingLine, Said, Section, Setting
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, Use, score_names

Build = Callable[[Material], Section]

MOST_DOUBTS = 30


def opinion(material: Material) -> Section:
    """What eye and ear said of all lamps."""
    said = tuple(
        Said(f"{material.collection.names_of(seen.source_ids)}: {seen.sentence}.") for seen in material.observations
    )
    return Section("opinion", BY_EYE, tuple(dict.fromkeys(said)), setting=Setting.OPINION)


def doubts(material: Material) -> Section:
    """Every reading in doubt, and every one that counts though it is suspect."""
    said = [Said(f"{flag.sentence}.", (flag.reading_id,)) for flag in material.flags[:MOST_DOUBTS]]
    left = len(material.flags) - len(said)
    said += [Said(f"And {left} more; the table of readings marks them.")] if left > 0 else []
    suspect = [m for m in material.readings if m.state.counts and m.state.suspect]
    if suspect:
        count = len(suspect)
        said.append(
            Said(
                f"{count} reading{'s' * (count > 1)} {'are' if count > 1 else 'is'} suspect: something moved before"
                f" {'them' if count > 1 else 'it'}. Such a reading counts only where no other was taken at its terms.",
                tuple(m.reading.id for m in suspect),
            )
        )
    return Section("doubts", "In doubt", tuple(said))


def method(material: Material) -> Section:
    """Meters and calibrations, the room, tolerances, disclosure, what ± means."""
    said = [Said(line, (), "meter") for line in _meters(material)]
    said += [Said(f"{line}.", (), "calibration") for line in _calibrations(material)]
    said += [Said(line, (), "room") for line in _rooms(material)]
    said += [Said(line, (), "disclosure") for line in _disclosures(material)]
    said += [Said(line, (), "supplied by") for line in _suppliers(material)]
    sets = [one.name for one in material.witness.tolerance_sets()]
    said.append(Said(f"The limits of {', '.join(sets)}, as this logbook has them.", (), "tolerances"))
    said.append(Said(UNCERTAINTY, (), "uncertainty"))
    return Section("method", "Method", tuple(said))


UNCERTAINTY = (
    "± is the 95 % half width of the figure itself: calibration, set-up, scatter and rounding together; what two"
    " figures have in common cancels in their ratio. Lamps whose difference is smaller are called level where half a"
    " stop could have been told."
)


def meters(material: Material) -> Section:
    """With which meters, by whom it was lent, and what ± means: the foot of a single page."""
    used = {m.reading.meter_id for m in material.readings if m.state.counts}
    known = [material.collection.meters[i] for i in used if i in material.collection.meters]
    names = sorted(f"{one.nickname}{' (simulated)' * bool(one.simulated)}" for one in known)
    names += ["a meter that was not named"] if len(names) < len(used) else []
    counting = sum(m.state.counts for m in material.readings)
    said = [f"{notation.listed(names)}, {notation.count(counting, 'reading')}."] if names else []
    corrected = sum(bool(m.state.corrections) for m in material.readings if m.state.counts)
    said += [f"The terms of {notation.count(corrected, 'reading')} were corrected after reading."] if corrected else []
    said += _disclosed(material)
    said += ["± holds in 95 of 100 cases: meter, set-up, scatter and rounding.", OFF_AND_TINT]
    return Section("meters", "Read with", tuple(Said(line) for line in said), setting=Setting.FOOT)


OFF_AND_TINT = (
    "Off: measured less dialled. Tint: Duv beyond the daylight curve (from 5000 K up) or the Planckian (below 4000 K)."
)


def _disclosed(material: Material) -> list[str]:
    """What the sessions disclose, each once: what another says with more words is left out."""
    every = dict.fromkeys(one.disclosure.strip().rstrip(".") for one in material.sessions if one.disclosure.strip())
    return [f"{text}." for text in every if not any(text in other for other in every if other != text)]


def _meters(material: Material) -> list[str]:
    collection = material.collection
    used = {m.reading.meter_id for m in material.readings}
    known = sorted((collection.meters[i] for i in used if i in collection.meters), key=lambda meter: meter.nickname)
    lines = [
        f"{meter.nickname} ({meter.kind}): levels to ±{notation.plain(100.0 * meter.level_tolerance)} %, ratios to"
        f" ±{notation.plain(100.0 * meter.ratio_tolerance)} %, x, y to ±{notation.plain(meter.xy_tolerance, 4)}"
        f"{_standing(meter)}."
        for meter in known
    ]
    return [*lines, *(["Some readings name no meter: a handheld one's usual tolerances are assumed."] * (None in used))]


def _standing(meter: Meter) -> str:
    """What is to be known of a meter's promises, and of itself."""
    said = [", assumed for nothing was stated"] if meter.is_assumed else []
    said += ["; for ratios only"] if meter.for_ratios_only else []
    return "".join([*said, *(["; simulated"] if meter.simulated else [])])


def _disclosures(material: Material) -> list[str]:
    return [f"{one.name}: {one.disclosure}" for one in material.sessions if one.disclosure.strip()]


def _calibrations(material: Material) -> tuple[str, ...]:
    """The latest calibration and zeroing of every meter that was read; its dark signal is a matter of the evening."""
    latest: dict[tuple[str, str], Calibration] = {}
    for row in material.collection.logbook.all(Calibration):
        if row.kind != DARK and any(
            m.reading.meter_id == row.meter_id and row.at <= m.reading.at for m in material.readings
        ):
            latest[row.meter_id, row.kind] = row
    meters = material.collection.meters
    return tuple(calibration_words(row, meters[row.meter_id].nickname) for row in latest.values())


def _rooms(material: Material) -> list[str]:
    found = []
    for session in material.sessions:
        for row in material.collection.logbook.of_session(Conditions, session.id):
            parts = [row.room or "room not described"]
            parts += [f"ambient {notation.light(row.ambient_lx)}"] if row.ambient_lx is not None else []
            parts += [f"{notation.plain(row.temperature_c)} °C"] if row.temperature_c is not None else []
            parts += [f"mains {notation.plain(row.mains_v)} V"] if row.mains_v is not None else []
            parts += [row.note] if row.note else []
            found.append(f"{row.at:%-d %b %Y %H:%M} UTC: {', '.join(parts)}.")
    return found


def _suppliers(material: Material) -> list[str]:
    by: dict[str, list[str]] = {}
    for entrant in material.entrants:
        source = material.collection.sources[entrant.source_id]
        if source.is_fixture:
            by.setdefault(source.supplied_by or "supplier not stated", []).append(entrant.name)
    return [f"{notation.listed(names)}: {who}." for who, names in by.items()]


def gaps(material: Material, silent: Sequence[str] = ()) -> Section:
    """What was not measured; `silent` names the sections of this report that have nothing to say."""
    if not material.entrants:
        return Section("gaps", "Not measured", (Said("No reading counts yet: there is nothing to report on."),))
    found = list(unmeasured(material.entrants, material.collection.sources))
    found += [name for name in dict.fromkeys(silent) if not any(name in gap for gap in found)]
    said = f"{'; '.join(found)}." if found else "nothing that this report would have expected."
    return Section("gaps", "Not measured", (Said(said),), setting=Setting.FOOT)


ABOUT: Mapping[str, tuple[str, Build]] = {
    "opinion": ("eye and ear", opinion),
    "doubts": ("doubts", doubts),
    "method": ("method", method),
    "meters": ("meters", meters),
}
"""The sections on the measuring by their keys; `gaps` comes last and is told which were silent."""


# --- the appendix


def reading_lines(material: Material) -> tuple[ReadingLine, ...]:
    """Every reading of the report, numbered in the order taken."""
    return tuple(_line(number, m, material) for number, m in enumerate(material.readings, start=1))


_SHOWN = (
    "illuminance", "cct", "duv", "cc", *score_names(Use.TABLED), "hue", "saturation", "power_w", "f_stop",
)  # fmt: skip
MOST_FIGURES = 8


def _line(number: int, measured: Measured, material: Material) -> ReadingLine:
    reading, meter = measured.reading, material.collection.meters.get(measured.reading.meter_id or "")
    given = [v.quantity for v in reading.values if v.quantity not in _SHOWN]
    ratios = meter is not None and meter.for_ratios_only
    figures = [words for name in (*_SHOWN, *dict.fromkeys(given)) if (words := _figure(measured, name, ratios=ratios))]
    return ReadingLine(
        id=reading.id,
        number=number,
        at=reading.at,
        lamp=material.collection.names_of(reading.source_ids),
        terms=terms_line(measured.terms),
        figures=" · ".join(figures[:MOST_FIGURES]) or notation.NONE,
        meter=(meter.nickname + (", simulated" if meter.simulated else "")) if meter is not None else "not named",
        state=", ".join(measured.state.marks),
        counts=measured.state.counts,
    )


def _figure(measured: Measured, name: str, *, ratios: bool) -> str:
    figure = measured.figure(name)
    if figure is None or name not in QUANTITIES:
        return ""
    if name == "illuminance":
        if figure.value is None:
            return figure.text
        return notation.light(figure.value) + (" (for ratios only)" if ratios else "")
    label = QUANTITIES[name].label
    if figure.value is None:
        return f"{label} {figure.text}"
    match name:
        case "cct":
            return f"{notation.kelvin(figure.value)} K"
        case "duv":
            return f"Duv {notation.duv(figure.value)}"
        case "f_stop":
            return notation.f_stop(figure.value)
        case _:
            return f"{label} {notation.as_given(figure.value, figure.text)}"
