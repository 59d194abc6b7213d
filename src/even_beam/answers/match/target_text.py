"""A target as it is written: `cct=5600;duv=0.003`, `x=0.33;y=0.34`, `white=D55`, `kept=NAME`, `fixture=A;cct=5600`, or
as a white is said: `5600`, `3200 K +0.002`, `daylight 5600`."""

import math
from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from typing import Protocol

from even_beam.answers.findings.named_lamps import asked_terms
from even_beam.answers.findings.witness import Witness
from even_beam.answers.match.lamp import Lamp
from even_beam.bench.target import Look, Target
from even_beam.collection.collection import Collection
from even_beam.errors import TellableError
from even_beam.known.choice import Entrant
from even_beam.light.colorimetry import WHITE_DUV_LIMIT, cct_and_duv, uv_1960
from even_beam.light.white import named_whites, reference_duv
from even_beam.said.white import white_said
from even_beam.words.entry import EntryError


class Named(Protocol):
    """A lamp by its name and kind."""

    @property
    def name(self) -> str:
        """What it is called."""

    @property
    def kind(self) -> str:
        """What it is."""


LEAST = "least"
"""As a target: the white of the lamp that costs the others least to follow."""

OUTSIDE = ("window", "sky", "sun", "flash", "room light")
"""The kinds of source that cannot be dialled: the others follow them."""


class TargetTextError(TellableError, ValueError):
    """A target that could not be understood; the message says how it is written."""


def target_of(text: str, collection: Collection, witness: Witness) -> Target:
    """The target of a text. A white without a Duv is taken on the usual curve: Planckian below 4000 K, daylight from
    5000 K, a blend between.

    Raises `TargetTextError`, and `UnknownFixtureError` and `TermsTextError` for a fixture at terms.
    """
    parts = _parts(text)
    if (kept := parts.get("kept", parts.get("look"))) is not None:  # as it was written before
        return _look(kept, collection)
    if "fixture" in parts:
        return _fixture(parts, collection, witness)
    if "white" in parts:
        return _named(parts["white"])
    if {"x", "y"} <= set(parts):
        return of_xy(_number(parts["x"]), _number(parts["y"]))
    if "cct" in parts:
        cct = _number(parts["cct"].lower().removesuffix("k"))
        return of_white(cct, _number(parts["duv"]) if "duv" in parts else None)
    try:
        return white_said(text)
    except EntryError as error:
        raise TargetTextError(
            f"“{text}” is no target ({error}); say 5600, or write cct=5600;duv=0.003, x=0.33;y=0.34, white=D55,"
            " fixture=NAME;cct=5600 or kept=NAME"
        ) from error


def usual_target(collection: Collection, lamps: Sequence[Named], witness: Witness) -> Target | None:
    """The target where none is named: the newest look, else a source that is no lamp; None where there is neither, or
    no white of them is known, as of a flash that was only metered."""
    looks = sorted(collection.logbook.all(Look), key=lambda look: look.at)
    outside = [lamp.name for lamp in lamps if lamp.kind in OUTSIDE]
    for text in (*(f"kept={look.name}" for look in looks[-1:]), *(f"fixture={name}" for name in outside)):
        with suppress(TargetTextError):
            return target_of(text, collection, witness)
    return None


def of_white(cct_k: float, duv: float | None) -> Target:
    """A typed white; on the usual curve where no tint is said. Raises `TargetTextError`."""
    if not 1000.0 <= cct_k <= 25_000.0:
        raise TargetTextError(f"{cct_k:g} K is no white from 1000 to 25 000 K")
    if duv is None:
        return Target(cct_k, float(reference_duv(cct_k)))
    if not abs(duv) <= WHITE_DUV_LIMIT:
        raise TargetTextError(f"a Duv of {duv:g} is no white: it lies within ±{WHITE_DUV_LIMIT}")
    return Target(cct_k, duv)


def of_xy(x: float, y: float) -> Target:
    """A white by its chromaticity of CIE 1931. Raises `TargetTextError`."""
    if not (0.0 < x < 1.0 and 0.0 < y < 1.0 and x + y <= 1.0):
        raise TargetTextError(f"x {x:g} and y {y:g} are no chromaticity")
    cct, duv = (float(v) for v in cct_and_duv(*uv_1960(x, y)))
    if not math.isfinite(cct) or abs(duv) > WHITE_DUV_LIMIT:
        raise TargetTextError(f"x {x:g}, y {y:g} is a colour and no white")
    return Target(cct, duv, f"x {x:.4f}, y {y:.4f}")


def _parts(text: str) -> dict[str, str]:
    found = {}
    for part in text.split(";"):
        name, sign, value = (word.strip() for word in part.partition("="))
        if sign:
            found[name.casefold()] = value
    return found


def _number(text: str) -> float:
    try:
        value = float(text.replace("\u2212", "-").replace(" ", ""))
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise TargetTextError(f"“{text}” is no number")
    return value


def _look(name: str, collection: Collection) -> Target:
    looks = {look.name.casefold(): look for look in collection.logbook.all(Look)}
    if name.casefold() not in looks:
        known = ", ".join(look.name for look in looks.values()) or "none was kept"
        raise TargetTextError(f"there is no kept white “{name}”; there are: {known}")
    return looks[name.casefold()].target


def _named(name: str) -> Target:
    whites = {white.name.casefold(): white for white in named_whites()}
    if name.casefold() not in whites:
        raise TargetTextError(
            f"there is no white “{name}”; there are: {', '.join(white.name for white in whites.values())}"
        )
    white = whites[name.casefold()]
    return replace(of_xy(white.x, white.y), name=white.name)


def _fixture(parts: Mapping[str, str], collection: Collection, witness: Witness) -> Target:
    asked = ";".join(f"{name}={value}" for name, value in parts.items() if name != "fixture")
    entrant: Entrant = replace(witness.entrants([parts["fixture"]])[0], own=asked_terms(collection, asked))
    lamp = Lamp.of(entrant, witness.evidence(entrant))
    if lamp is None:
        raise TargetTextError(f"no colour temperature of {entrant.name} was read at {asked or 'any terms'}")
    return target_of_lamp(lamp)


def target_of_lamp(lamp: Lamp) -> Target:
    """The white a source has where it was read last."""
    repeats = lamp.settings[-1]
    white = lamp.evidence.white_of(repeats)
    tints = [m for m in repeats if m.value("duv") is not None]
    cct = 1e6 / (white.value or 1.0)
    duv = lamp.evidence.tint_of(tints).value if tints else None
    said = lamp.evidence.at(repeats[0])
    name = f"{lamp.name}, {said}" if said else lamp.name
    return Target(cct, duv if duv is not None else float(reference_duv(cct)), name)
