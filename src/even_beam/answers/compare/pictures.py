"""The pictures that prove an answer of Compare, question by question; every mark carries the reading behind it."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from even_beam.answers.compare.questions import Ask
from even_beam.answers.findings.witness import Witness
from even_beam.answers.spectrum.patches import Against, Seen, patch_sets
from even_beam.answers.spectrum.view import sample_colours
from even_beam.bench import terms, terms_in_words
from even_beam.bench.beam_angle import LEAST_ANGLES, planes_of
from even_beam.bench.measured import Measured
from even_beam.collection.collection import Collection
from even_beam.figures.beams import Section, section_chart
from even_beam.figures.chart import Chart, Places
from even_beam.figures.chromaticity import Whites, chromaticity_chart
from even_beam.figures.comparison import CHANGE, Walked, dimmer_chart, distance_chart, stop_ladder
from even_beam.figures.hues import hue_colours
from even_beam.figures.patches import PatchSet
from even_beam.figures.scores import Rgb, Sampled, hue_strip_chart, samples_chart
from even_beam.figures.spectrum import Curve, Scaling, overlay_chart
from even_beam.figures.strip import Strip
from even_beam.figures.value import quality_chart, value_chart
from even_beam.figures.whites import AgainstWhite, Misses, miss_plot, white_chart
from even_beam.known.choice import Entrant, along
from even_beam.known.comparison import Comparison, Entry
from even_beam.known.dimmer_series import against_dimmer, changes_with_dimmer
from even_beam.known.evidence import full_level, value_of
from even_beam.known.findings.colour import sample_scores
from even_beam.known.value import Priced, full_cost, usual_currency
from even_beam.light import SpectrumError
from even_beam.light.tm30 import HUE_BINS


@dataclass(frozen=True, eq=False, slots=True)
class Picture:
    """A chart by its name, how wide it stands beside the others of its row, and in which row."""

    name: str
    chart: Chart
    stretch: int = 1
    row: int = 0


@dataclass(frozen=True, eq=False, slots=True)
class Scene:
    """What pictures are drawn from. `places` number the lamps that are lit, by their names: colour, shape and line in
    every picture; the others are grey."""

    comparison: Comparison
    entrants: Sequence[Entrant]
    collection: Collection
    places: Places
    scaling: Scaling = Scaling.PEAK
    laid_over: Sequence[str] = ()
    unit: str = "m"


def pictures_of(ask: Ask, scene: Scene) -> tuple[Picture, ...]:
    """The pictures of a question, those without anything measured left out."""
    drawn = _DRAWN[ask](scene) if ask in _DRAWN else ()
    return tuple(picture for picture in drawn if not picture.chart.empty)


def _bright(scene: Scene) -> tuple[Picture, ...]:
    dimmed = against_dimmer(scene.entrants, scene.comparison, "stops")
    swept = [series for series in dimmed if len(set(series.levels_pct)) > 1]
    found = [Picture("levels", stop_ladder(scene.comparison, scene.places), 2)]
    if swept:
        found.append(Picture("dimmer", dimmer_chart(swept, "stops", scene.places), 2))
    if walks := _walks(scene):
        found.append(Picture("distance", distance_chart(walks, scene.unit, scene.places), 2))
    sections = _sections(scene)
    if sections:
        found.append(
            Picture("beam", section_chart(sections, scene.places), 1, row=0 if len(found) < MOST_IN_A_ROW else 1)
        )
    return tuple(found)


MOST_IN_A_ROW = 3


def _walks(scene: Scene) -> list[Walked]:
    """The lamps that were read at several distances, all else as compared."""
    found = []
    for entrant in scene.entrants:
        entry = scene.comparison.entry(entrant.key)
        if entry is None or entry.first is None or entry.ratios_only:
            continue
        own = [
            m for m in along(entrant.readings, entry.first, "distance") if m.value("illuminance") and m.terms.distance_m
        ]
        own.sort(key=lambda m: m.terms.distance_m or 0.0)
        if len({m.terms.distance_m for m in own}) > 1:
            found.append(
                Walked(
                    entrant.name,
                    tuple(m.terms.distance_m or 0.0 for m in own),
                    tuple(value_of(m, "illuminance") * (m.terms.distance_m or 0.0) ** 2 for m in own),
                    tuple(m.reading.id for m in own),
                )
            )
    return found


def _white(scene: Scene) -> tuple[Picture, ...]:
    miss, curves = _miss(scene)
    found = [Picture("miss", miss, 3), Picture("chromaticity", curves, 2)]
    for name, quantity in (("white-error", "mired"), ("tint", "duv")):
        whites = [_against_white(e, quantity, scene) for e in scene.entrants]
        several = [one for one in whites if len(set(one.dialled_k)) > 1]
        if several:
            found.append(Picture(name, white_chart(several, quantity, scene.places), 1, row=1))
    for name, quantity in (("white-dimmer", "mired"), ("tint-dimmer", "duv")):
        dimmed = against_dimmer(scene.entrants, scene.comparison, quantity)
        swept = [series for series in dimmed if len(set(series.levels_pct)) > 1]
        if swept:
            found.append(Picture(name, dimmer_chart(swept, quantity, scene.places), 1, row=1))
    return (*found, *_moved_by_dimmer(scene))


def _moved_by_dimmer(scene: Scene) -> list[Picture]:
    """Of one lamp alone: white, tint and scores against the dimmer in one picture."""
    entry = scene.comparison.entries[0]
    if len(scene.entrants) > 1 or entry.first is None:
        return []
    moved = changes_with_dimmer(scene.entrants[0], entry.first)
    places = {one.name: number for number, one in enumerate(moved)}
    return [Picture("dimming", dimmer_chart(moved, CHANGE, places), 2, row=2)] if len(moved) > 1 else []


def _miss(scene: Scene) -> tuple[Chart, Chart]:
    misses, whites = [], []
    for entrant in scene.entrants:
        entry = scene.comparison.entry(entrant.key)
        first = entry.first if entry is not None else None
        along_whites = along(entrant.readings, first, "cct", *terms.PLACE, "meter") if first is not None else []
        dialled = [m for m in along_whites if m.terms.cct_k and m.value("cct") and m.value("duv") is not None]
        misses.append(
            Misses(
                entrant.name,
                tuple(m.terms.cct_k or 0.0 for m in dialled),
                tuple(1e6 / value_of(m, "cct") - 1e6 / (m.terms.cct_k or 1.0) for m in dialled),
                tuple(value_of(m, "duv") for m in dialled),
                tuple(m.reading.id for m in dialled),
            )
        )
        white = [m for m in along_whites if m.value("cct") and m.value("duv") is not None]
        whites.append(
            Whites(
                entrant.name,
                tuple(value_of(m, "cct") for m in white),
                tuple(value_of(m, "duv") for m in white),
                tuple(m.reading.id for m in white),
            )
        )
    return miss_plot(misses, scene.places), chromaticity_chart(whites, scene.places)


def _against_white(entrant: Entrant, quantity: str, scene: Scene) -> AgainstWhite:
    entry = scene.comparison.entry(entrant.key)
    first = entry.first if entry is not None else None
    own = [m for m in along(entrant.readings, first, "cct") if m.terms.cct_k is not None] if first is not None else []
    if quantity == "mired":
        values = [(m, 1e6 / value_of(m, "cct") - 1e6 / (m.terms.cct_k or 1.0)) for m in own if m.value("cct")]
    else:
        values = [(m, value_of(m, quantity)) for m in own if m.value(quantity) is not None]
    return AgainstWhite(
        entrant.name,
        tuple(m.terms.cct_k or 0.0 for m, _ in values),
        tuple(v for _, v in values),
        tuple(m.reading.id for m, _ in values),
    )


def _colours(scene: Scene) -> tuple[Picture, ...]:
    curves = _curves(scene)
    found = [Picture("spectra", overlay_chart(curves, scene.scaling), 3)] if curves else []
    found += [Picture("samples", chart, 4) for chart in _samples(scene)]
    for name in ("ra", "r9"):
        dimmed = against_dimmer(scene.entrants, scene.comparison, name)
        swept = [series for series in dimmed if len(set(series.levels_pct)) > 1]
        if swept:
            found.append(Picture(f"{name}-dimmer", dimmer_chart(swept, name, scene.places), 1, row=2))
    return (*found, *(Picture("hues", chart, 1, row=1) for chart in _hues(scene)))


def _curves(scene: Scene) -> list[Curve]:
    first = {e.key: e.readings[0].reading.id for e in scene.comparison.entries if e.readings}
    spectra = scene.collection.logbook.spectra(first.values())
    names = {e.key: e.name for e in scene.comparison.entries}
    curves = [Curve(spectra[r], scene.places.get(names[s]), names[s]) for s, r in first.items() if r in spectra]
    return [*curves, *_laid_over(scene)]


def _laid_over(scene: Scene) -> list[Curve]:
    """The spectra of any other readings, with the terms that tell them apart."""
    spectra = scene.collection.logbook.spectra(scene.laid_over)
    readings = scene.collection.readings([i for i in scene.laid_over if i in spectra])
    return [
        Curve(
            spectra[i],
            max(scene.places.values(), default=-1) + 1 + number,
            f"{scene.collection.names_of(m.reading.source_ids)}, {terms_in_words.setting(m.terms)},"
            f" {m.reading.at:%-d %b %Y}",
            laid_over=True,
        )
        for number, (i, m) in enumerate(readings.items())
    ]


MOST_BESIDE = 3
"""So many graphics stand side by side; the reference and the first others."""


def _side_by_side(scene: Scene) -> list[tuple[Entry, Measured]]:
    entries = [(e, e.readings[0]) for e in scene.comparison.entries if e.readings and e.readings[0].vectors]
    entries.sort(key=lambda pair: pair[0].key != scene.comparison.reference)
    return entries[:MOST_BESIDE]


def _hues(scene: Scene) -> list[Chart]:
    found = []
    for entry, measured in _side_by_side(scene):
        vectors = measured.vectors
        if "Rcs_h" in vectors:
            title = f"{entry.name}, hue by hue: up more vivid, leaning turns"
            found.append(hue_strip_chart(vectors["Rcs_h"], vectors["Rhs_h"], hue_colours(HUE_BINS), title))
    return found


SAMPLES = tuple(f"R{i}" for i in range(1, 16))


def _samples(scene: Scene) -> list[Chart]:
    """The scores of all lamps on one axis."""
    lamps, colours = _sampled(scene)
    return [samples_chart(lamps, SAMPLES, colours, scene.places)] if lamps else []


def patches_of(scene: Scene, against: Against, by: Seen) -> tuple[PatchSet, ...]:
    """The split patches of lamps whose spectrum at the common terms is known."""
    entries = scene.comparison.entries
    first = {entry.name: entry.readings[0].reading.id for entry in entries if entry.readings}
    spectra = scene.collection.logbook.spectra(first.values())
    reference = next((entry.name for entry in entries if entry.key == scene.comparison.reference), "")
    return patch_sets([(name, spectra[i]) for name, i in first.items() if i in spectra], reference, against, by)


def strip_of(scene: Scene, title: str) -> Strip:
    """The same as figures."""
    lamps, colours = _sampled(scene)
    rows = tuple((one.name, tuple(None if math.isnan(s) else s for s in one.scores)) for one in lamps)
    return Strip(title, tuple(str(n + 1) for n in range(len(SAMPLES))), colours, rows)


def _sampled(scene: Scene) -> tuple[list[Sampled], tuple[Rgb, ...]]:
    """The scores of all lamps; the samples' colours are those under the first lamp with a spectrum."""
    lamps: list[Sampled] = []
    colours: tuple[Rgb, ...] = ()
    for entry in scene.comparison.entries:
        measured = next((m for m in (*entry.readings, *entry.colour) if sample_scores(m)), None)
        if measured is None:
            continue
        own = sample_scores(measured)
        scores = tuple(own.get(i, float("nan")) for i in range(1, len(SAMPLES) + 1))
        lamps.append(Sampled(entry.name, scores, measured.reading.id))
        colours = colours or _sample_colours(scene, measured)
    return lamps, colours


def _sample_colours(scene: Scene, measured: Measured) -> tuple[Rgb, ...]:
    spectrum = scene.collection.logbook.spectra([measured.reading.id]).get(measured.reading.id)
    try:
        return sample_colours(spectrum) if spectrum is not None else ()
    except SpectrumError:
        return ()  # a spectrum that nothing can be computed from has no samples either


def _sections(scene: Scene) -> list[Section]:
    sections = []
    for entrant in scene.entrants:
        entry = scene.comparison.entry(entrant.key)
        first = entry.first if entry is not None else None
        lit = [m for m in entrant.readings if m.value("illuminance")]
        best = along(lit, first, "angle") if first is not None else []
        if len({m.terms.angle_deg for m in best}) < LEAST_ANGLES:  # else any section of it, whichever has most angles
            best = max(planes_of(full_level(lit)), key=lambda ms: len({m.terms.angle_deg for m in ms}), default=[])
        if len({m.terms.angle_deg for m in best}) >= LEAST_ANGLES:
            own = sorted(best, key=lambda m: m.terms.angle_deg)
            peak = max(value_of(m, "illuminance") for m in own)
            sections.append(
                Section(
                    entrant.name,
                    tuple(m.terms.angle_deg for m in own),
                    tuple(value_of(m, "illuminance") / peak for m in own),
                    tuple(m.reading.id for m in own),
                )
            )
    return sections


def _worth(scene: Scene) -> tuple[Picture, ...]:
    lamps = priced(scene)
    if not lamps:
        return ()
    currency = currency_of(scene.collection, scene.entrants)
    return Picture("value", value_chart(lamps, currency)), Picture("quality", quality_chart(lamps, currency))


def currency_of(collection: Collection, entrants: Sequence[Entrant]) -> str:
    """The currency that most of the lamps are priced in; empty where none is."""
    witness = Witness(collection)
    return usual_currency([witness.evidence(one).costs for one in entrants])


def priced_otherwise(scene: Scene) -> list[str]:
    """The lamps that have a price in other currencies alone, each with them: nothing is converted."""
    witness, currency = Witness(scene.collection), currency_of(scene.collection, scene.entrants)
    found = []
    for entry in scene.entrants:
        others = sorted({cost.currency for cost in witness.evidence(entry).costs if not cost.optional})
        if others and currency not in others:
            found.append(f"{entry.name} in {' and '.join(others)}")
    return found


def priced(scene: Scene) -> list[Priced]:
    """The lamps that have a price in the currency of most, with what was measured of each at the common terms."""
    witness = Witness(scene.collection)
    currency = currency_of(scene.collection, scene.entrants)
    by_id: Mapping[str, Entrant] = {e.key: e for e in scene.entrants}
    found = []
    for entry in scene.comparison.entries:
        cost = full_cost(witness.evidence(by_id[entry.key]).costs, currency) if entry.key in by_id else None
        if cost is None or not entry.readings:
            continue
        distance = scene.comparison.distance_m
        candela = entry.illuminance * distance**2 if entry.illuminance and distance and entry.comparable else None
        found.append(
            Priced(
                name=entry.name,
                series=scene.places.get(entry.name),
                price=cost[0],
                currency=currency,
                includes=cost[1],
                candela=candela,
                ra=entry.figures.get("ra"),
                reading_ids=tuple(m.reading.id for m in entry.readings),
            )
        )
    return found


_DRAWN: Mapping[Ask, Callable[[Scene], tuple[Picture, ...]]] = {
    Ask.BRIGHT: _bright,
    Ask.WHITE: _white,
    Ask.COLOURS: _colours,
    Ask.WORTH: _worth,
}
