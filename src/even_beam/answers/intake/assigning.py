"""Which step of a run a spectrum from a file belongs to: by what its name says, else by the white that it shows."""

from collections.abc import Mapping, Sequence

from even_beam.answers.intake.spectra import FoundSpectrum
from even_beam.bench.records import Step
from even_beam.light.colorimetry import cct_and_duv, tristimulus, uv_1960, xy
from even_beam.light.spectra import resample

NEAR_MIRED = 40.0
"""A light no farther from a step's dial may well be of it (common practice, no source)."""


def steps_for(found: Sequence[FoundSpectrum], steps: Sequence[Step], names: Mapping[str, str]) -> list[int | None]:
    """The step of each spectrum by its place, each step once; None where neither name nor white tells which. `names`
    are the lamps' by their ids."""
    told: list[int | None] = []
    for one in found:
        open_steps = [place for place in range(len(steps)) if place not in told]
        fitting = [place for place in open_steps if _fits_name(one, steps[place], names)]
        said = bool(one.of.lamp and one.of.lamp in names.values()) or bool(one.of.texts)
        if not said or len(fitting) > 1:
            fitting = _of_white(one, fitting or ([] if said else open_steps), steps)
        told.append(fitting[0] if len(fitting) == 1 else None)
    return told


def _fits_name(one: FoundSpectrum, step: Step, names: Mapping[str, str]) -> bool:
    """Whether nothing that the name says is otherwise in the step."""
    of, terms = one.of, step.terms
    lamps = {names.get(source, "").casefold() for source in step.source_ids}
    if of.lamp and of.lamp.casefold() not in lamps and of.lamp in names.values():
        return False
    said = of.terms
    pairs = ((said.cct_k, terms.cct_k), (said.level_pct, terms.level_pct), (said.distance_m, terms.distance_m))
    return all(own is None or own == asked for own, asked in pairs)


def _of_white(one: FoundSpectrum, places: Sequence[int], steps: Sequence[Step]) -> list[int]:
    """The steps whose dialled white the light is near; nothing where two whites are."""
    light = resample(one.named.wavelength_nm, one.named.values)
    cct = float(cct_and_duv(*uv_1960(*xy(tristimulus(light))))[0])
    near = [
        place
        for place in places
        if (white := steps[place].terms.cct_k) is not None and abs(1e6 / cct - 1e6 / white) <= NEAR_MIRED
    ]
    return near if len({steps[place].terms.cct_k for place in near}) == 1 else []
