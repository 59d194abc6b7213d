"""The gels that may be clipped on: those in the Kit, as models of what they do or as they were measured here."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import GEL, Modifier
from even_beam.collection.collection import Collection
from even_beam.collection.mean_spectrum import spectrum_of
from even_beam.errors import TellableError
from even_beam.known.evidence import mean_of
from even_beam.light.filters import (
    as_measured,
    correction,
    correction_named,
    correction_names,
    filled,
    tinted,
    transmittance,
)
from even_beam.light.gel_packs import Stock
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray
from even_beam.light.white import reference_duv

ALL, NONE = "all", "none"


class UnknownGelError(TellableError, ValueError):
    """A gel that nothing is known of; the message says what there is."""


def owned(collection: Collection) -> list[str]:
    """The gels of the Kit by name."""
    return [modifier.nickname for modifier in collection.logbook.all(Modifier) if modifier.kind == GEL]


def stock_of(collection: Collection, asked: str, readings: Sequence[Measured]) -> Stock:
    """The gels asked: `all` there are models of, `none`, some by name, separated by commas, or those of the Kit when
    nothing is asked (all when it has none).

    One that `readings` of a lamp with and without it have measured is taken as measured. One of the Kit of which
    nothing is known is left out; for one that is asked by name it raises `UnknownGelError`.
    """
    words = asked.strip().casefold()
    if words == NONE:
        return Stock((), np.empty((0, WAVELENGTH_NM.size)))
    named = [part.strip() for part in asked.split(",") if part.strip()] if words not in {"", ALL} else []
    own = [] if named or words == ALL else owned(collection)
    names = named or own or list(correction_names(second_series=words == ALL))
    read = {name.casefold(): _read_shares(collection, readings, name) for name in names}
    seen = {name: _mean(shares) for name, shares in read.items() if shares}
    found = {name: transmission for name in names if (transmission := _transmission(name, seen)) is not None}
    if strange := [name for name in named if name not in found]:
        raise UnknownGelError(
            f"nothing is known of the gel “{strange[0]}”: read a lamp with it and without, or name it by what it does,"
            f" such as {', '.join(correction_names()[:3])} or half minus green"
        )
    unsure = tuple(_unsure(read[name.casefold()]) for name in found)
    return Stock(tuple(found), np.array(list(found.values())).reshape(-1, WAVELENGTH_NM.size), unsure)


TYPED_UNSURE = 0.5
"""What a gel does to one lamp, read as level and white alone, leaves open on another so much of what its name does (no
source)."""


def _unsure(shares: "Sequence[Share]") -> float:
    """How much of what dyes of a name differ by is left open for a gel."""
    if not shares:
        return 1.0
    return 0.0 if any(one.by_spectrum for one in shares) else TYPED_UNSURE


@dataclass(frozen=True, eq=False, slots=True)
class Share:
    """What a pair of readings says of a gel: its transmittance, shape (401,), from spectra, or as a smooth filter."""

    transmission: FloatArray
    by_spectrum: bool


def _mean(shares: Sequence[Share]) -> FloatArray:
    """The mean of what spectra say, else of the smooth filters."""
    best = [one for one in shares if one.by_spectrum] or shares
    return np.mean([one.transmission for one in best], axis=0)


def _transmission(name: str, measured: dict[str, FloatArray]) -> FloatArray | None:
    """What a gel lets through: as measured, else by what it is called; None where nothing is known of it."""
    if name.casefold() in measured:
        return measured[name.casefold()]
    model = correction_named(name)
    return correction(model).transmission if model is not None else None


def measured_gels(collection: Collection, readings: Sequence[Measured], names: Sequence[str]) -> dict[str, FloatArray]:
    """What gels let through by their names in small letters, from readings of one lamp with and without each, all else
    equal."""
    read = {name.casefold(): _read_shares(collection, readings, name) for name in names}
    return {name: _mean(shares) for name, shares in read.items() if shares}


def _read_shares(collection: Collection, readings: Sequence[Measured], name: str) -> list[Share]:
    pairs = _pairs(readings, name.casefold())
    return [share for pair in pairs if (share := _share(collection, *pair)) is not None]


def _pairs(readings: Sequence[Measured], gel: str) -> list[tuple[list[Measured], list[Measured]]]:
    """Readings with the gel, each group with those without it at the same terms of the same lamp."""
    groups = [
        (parts, ms)
        for own in terms.by_value_of(readings, lambda m: (m.source_id, terms.key(m, "configuration"))).values()
        for parts, ms in terms.by_value_of(own, lambda m: tuple(p.casefold() for p in m.terms.configuration)).items()
    ]
    with_it = [(parts, ms) for parts, ms in groups if isinstance(parts, tuple) and gel in parts]
    return [
        (ms, bare)
        for parts, ms in with_it
        for others, bare in groups
        if others == tuple(p for p in parts if p != gel)
        and bare[0].source_id == ms[0].source_id
        and terms.key(bare[0], "configuration") == terms.key(ms[0], "configuration")
    ]


def _share(collection: Collection, with_it: Sequence[Measured], without: Sequence[Measured]) -> Share | None:
    behind = spectrum_of([m.reading.id for m in with_it], collection)
    bare = spectrum_of([m.reading.id for m in without], collection)
    if behind is None or bare is None:
        typed = _typed_share(with_it, without)
        return Share(typed, by_spectrum=False) if typed is not None else None
    return Share(np.clip(filled(transmittance(behind, bare)), 0.0, None), by_spectrum=True)


def _typed_share(with_it: Sequence[Measured], without: Sequence[Measured]) -> FloatArray | None:
    """From typed levels and whites: the smooth filter that does as much. Where no tint was read it has none."""
    behind, bare = (
        {name: value for name in ("illuminance", "cct", "duv") if (value := mean_of(readings, name)) is not None}
        for readings in (with_it, without)
    )
    if not all({"illuminance", "cct"} <= set(one) and one["illuminance"] > 0.0 for one in (behind, bare)):
        return None
    known = "duv" in behind and "duv" in bare
    return as_measured(
        tinted(bare["cct"], bare["duv"] if known else float(reference_duv(bare["cct"]))),
        1e6 / behind["cct"] - 1e6 / bare["cct"],
        behind["duv"] - bare["duv"] if known else 0.0,
        max(float(np.log2(bare["illuminance"] / behind["illuminance"])), 0.0),
    )
