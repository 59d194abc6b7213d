"""Every finding of a fixture, question by question."""

from collections.abc import Mapping, Sequence

from even_beam.bench.records import Session
from even_beam.known.evidence import Evidence
from even_beam.known.findings import (
    as_typed,
    beam,
    beam_planes,
    camera,
    colour,
    dimming,
    electrical,
    modifiers,
    output,
    repeatability,
    tint,
    white,
    years,
)
from even_beam.known.findings.finding import Finding

USUAL_ISO, USUAL_SHUTTER_S = 800.0, 0.02


def findings_of(
    evidence: Evidence,
    others: Sequence[Evidence] = (),
    sessions: Mapping[str, Session] | None = None,
    iso: float = USUAL_ISO,
    shutter_s: float = USUAL_SHUTTER_S,
    band_edges_k: Sequence[float] = white.BAND_EDGES_K,
    battery_wh: float | None = None,
) -> tuple[Finding, ...]:
    """All findings of a fixture; `others` are units of the same model, `sessions` those of its readings by id."""
    modified, found_levels = modifiers.matrix(evidence), output.levels(evidence)
    return (
        *found_levels,
        *output.disagreeing(evidence),
        *years.sessions_apart(evidence),
        *output.distance_law(evidence),
        *output.exposure(evidence, found_levels, iso, shutter_s),
        *output.focus_range(evidence),
        *beam.beam_sections(evidence),
        *beam_planes.shape_and_flux(evidence),
        *electrical.exposures(evidence),
        *electrical.flash_pops(evidence),
        *white.white_errors(evidence, band_edges_k),
        *white.fixed_whites(evidence),
        *white.curve(evidence),
        *white.what_to_dial(evidence),
        *white.dial_slope(evidence),
        *tint.tint(evidence),
        *tint.tint_dial(evidence),
        *tint.cc_figures(evidence),
        *years.whites_apart(evidence),
        *white.peak_output(evidence),
        *dimming.law(evidence),
        *dimming.drift(evidence),
        *dimming.noise_floor(evidence),
        *dimming.changed_by_themselves(evidence),
        *modified,
        *modifiers.spread_across_whites(evidence, modified),
        *modifiers.beam_spread(evidence),
        *colour.scores(evidence),
        *colour.samples(evidence),
        *colour.hue_dial(evidence),
        *colour.desaturated_white(evidence),
        *electrical.power(evidence),
        *electrical.run_time(evidence, battery_wh),
        *electrical.light_per_watt(evidence),
        *electrical.noise(evidence),
        *electrical.flicker(evidence, shutter_s),
        *camera.flicker_depth(evidence),
        *camera.charts(evidence),
        *camera.fades(evidence),
        *as_typed.as_typed(evidence),
        *repeatability.repeatability(evidence),
        *years.ageing(evidence, sessions or {}),
        *years.meter_changes(evidence),
        *years.unit_to_unit(evidence, others),
    )
