"""The pictures of Compare, view by view; every mark carries the reading behind it."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from even_beam.bench import notation, terms
from even_beam.bench.beam_angle import LEAST_ANGLES
from even_beam.bench.choice import Entrant, along
from even_beam.bench.comparison import Comparison, Entry
from even_beam.bench.dimmer_series import against_dimmer
from even_beam.bench.findings.colour import sample_scores
from even_beam.bench.findings.finding import full_level, value_of
from even_beam.bench.measured import Measured
from even_beam.bench.value import Priced, full_cost
from even_beam.figures.beams import Section, section_chart
from even_beam.figures.chart import Chart
from even_beam.figures.chromaticity import Whites, chromaticity_chart
from even_beam.figures.comparison import dimmer_chart, stop_ladder
from even_beam.figures.scores import lollipop_chart, vector_chart
from even_beam.figures.spectrum import Curve, Scaling, overlay_chart
from even_beam.figures.value import quality_chart, value_chart
from even_beam.figures.whites import AgainstWhite, Misses, miss_plot, white_chart
from even_beam.light import SpectrumError
from even_beam.workspace.findings.witness import Witness
from even_beam.workspace.logbook.collection import Collection
from even_beam.workspace.spectrum.view import sample_colours


class View(StrEnum):
    """The pictures and tables that Compare has."""

    OUTPUT = "output"
    MISS = "misses and chromaticity"
    DIMMER = "against the dimmer"
    WHITES = "against the white"
    SPECTRA = "spectra"
    HUES = "hue by hue (TM-30)"
    SAMPLES = "samples R1 to R15"
    BEAM = "across the beam"
    MATRIX = "modifiers"
    VALUE = "value for money"
    FEATURES = "features and costs"
    PATCHES = "split patches"
    CLAIMS = "claims beside readings"
    VERDICT = "judged for a purpose"
    FOR_AND_AGAINST = "for and against"


@dataclass(frozen=True, eq=False, slots=True)
class Scene:
    """What a view is drawn from."""

    comparison: Comparison
    entrants: Sequence[Entrant]
    collection: Collection
    scaling: Scaling = Scaling.PEAK
    laid_over: Sequence[str] = ()

    @property
    def places(self) -> dict[str, int]:
        """The series number of each lamp: its colour and shape in every picture."""
        return {e.key: i for i, e in enumerate(self.comparison.entries)}


def charts(view: View, scene: Scene) -> tuple[Chart, ...]:
    """The pictures of a view; none for one that is a table alone."""
    return _DRAWN[view](scene) if view in _DRAWN else ()


def _output(scene: Scene) -> tuple[Chart, ...]:
    return stop_ladder(scene.comparison), dimmer_chart(
        against_dimmer(scene.entrants, scene.comparison, "stops"), "stops"
    )


def _miss(scene: Scene) -> tuple[Chart, ...]:
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
    return miss_plot(misses), chromaticity_chart(whites)


def _dimmer(scene: Scene) -> tuple[Chart, ...]:
    return tuple(dimmer_chart(against_dimmer(scene.entrants, scene.comparison, q), q) for q in ("mired", "duv", "ra"))


def _whites(scene: Scene) -> tuple[Chart, ...]:
    return tuple(
        white_chart([_against_white(e, q, scene) for e in scene.entrants], q) for q in ("stops", "mired", "duv", "ra")
    )


def _against_white(entrant: Entrant, quantity: str, scene: Scene) -> AgainstWhite:
    entry = scene.comparison.entry(entrant.key)
    first = entry.first if entry is not None else None
    own = [m for m in along(entrant.readings, first, "cct") if m.terms.cct_k is not None] if first is not None else []
    if quantity == "stops":
        top = max((m.value("illuminance") or 0.0 for m in own), default=0.0)
        values = [(m, float(np.log2(value_of(m, "illuminance") / top))) for m in own if m.value("illuminance")]
    elif quantity == "mired":
        values = [(m, 1e6 / value_of(m, "cct") - 1e6 / (m.terms.cct_k or 1.0)) for m in own if m.value("cct")]
    else:
        values = [(m, value_of(m, quantity)) for m in own if m.value(quantity) is not None]
    return AgainstWhite(
        entrant.name,
        tuple(m.terms.cct_k or 0.0 for m, _ in values),
        tuple(v for _, v in values),
        tuple(m.reading.id for m, _ in values),
    )


def _spectra(scene: Scene) -> tuple[Chart, ...]:
    first = {e.key: e.readings[0].reading.id for e in scene.comparison.entries if e.readings}
    spectra = scene.collection.logbook.spectra(first.values())
    names = {e.key: e.name for e in scene.comparison.entries}
    curves = [Curve(spectra[r], scene.places[s], names[s]) for s, r in first.items() if r in spectra]
    return (overlay_chart([*curves, *_laid_over(scene)], scene.scaling),)


def _laid_over(scene: Scene) -> list[Curve]:
    """The spectra of any other readings, with the terms that tell them apart."""
    spectra = scene.collection.logbook.spectra(scene.laid_over)
    readings = scene.collection.readings([i for i in scene.laid_over if i in spectra])
    return [
        Curve(
            spectra[i],
            len(scene.places) + number,
            f"{scene.collection.names_of(m.reading.source_ids)}, {notation.white(m.terms)}, {notation.level(m.terms)},"
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


def _hues(scene: Scene) -> tuple[Chart, ...]:
    found = []
    for entry, measured in _side_by_side(scene):
        vectors = measured.vectors
        if "Rcs_h" in vectors:
            title = (
                f"{entry.name}: Rf {notation.score(entry.figures.get('rf'))}, Rg"
                f" {notation.score(entry.figures.get('rg'))}"
            )
            found.append(replace(vector_chart(vectors["Rcs_h"], vectors["Rhs_h"]), title=title))
    return tuple(found)


def _samples(scene: Scene) -> tuple[Chart, ...]:
    found = []
    for entry, measured in _side_by_side(scene):
        spectrum = scene.collection.logbook.spectra([measured.reading.id])[measured.reading.id]
        scores = [sample_scores(measured).get(i, float("nan")) for i in range(1, 16)]
        try:
            colours = sample_colours(spectrum)
        except SpectrumError:
            continue  # a spectrum that nothing can be computed from has no samples either
        found.append(lollipop_chart(scores, colours, [f"R{i}" for i in range(1, 16)], f"{entry.name}: R1 to R15"))
    return tuple(found)


def _beam(scene: Scene) -> tuple[Chart, ...]:
    sections = []
    for entrant in scene.entrants:
        entry = scene.comparison.entry(entrant.key)
        first = entry.first if entry is not None else None
        lit = [m for m in entrant.readings if m.value("illuminance")]
        best = along(lit, first, "angle") if first is not None else []
        if len({m.terms.angle_deg for m in best}) < LEAST_ANGLES:  # else any section of it, whichever has most angles
            groups = terms.grouped(full_level(lit), "angle").values()
            best = max(groups, key=lambda ms: len({m.terms.angle_deg for m in ms}), default=[])
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
    return (section_chart(sections),) if sections else ()


def _value(scene: Scene) -> tuple[Chart, ...]:
    lamps = priced(scene)
    if not lamps:
        return ()
    return value_chart(lamps, CURRENCY), quality_chart(lamps, CURRENCY)


CURRENCY = "EUR"


def priced(scene: Scene) -> list[Priced]:
    """The lamps that have a price, with what was measured of each at the common terms."""
    witness = Witness(scene.collection)
    by_id: Mapping[str, Entrant] = {e.key: e for e in scene.entrants}
    found = []
    for entry in scene.comparison.entries:
        cost = full_cost(witness.evidence(by_id[entry.key]).costs, CURRENCY) if entry.key in by_id else None
        if cost is None or not entry.readings:
            continue
        distance = scene.comparison.distance_m
        candela = (
            entry.illuminance * distance**2
            if entry.illuminance and distance and entry.comparable and not entry.ratios_only
            else None
        )
        found.append(
            Priced(
                name=entry.name,
                series=scene.places[entry.key],
                price=cost[0],
                includes=cost[1],
                candela=candela,
                ra=entry.figures.get("ra"),
                reading_ids=tuple(m.reading.id for m in entry.readings),
            )
        )
    return found


_DRAWN: Mapping[View, Callable[[Scene], tuple[Chart, ...]]] = {
    View.OUTPUT: _output,
    View.MISS: _miss,
    View.DIMMER: _dimmer,
    View.WHITES: _whites,
    View.SPECTRA: _spectra,
    View.HUES: _hues,
    View.SAMPLES: _samples,
    View.BEAM: _beam,
    View.VALUE: _value,
}
