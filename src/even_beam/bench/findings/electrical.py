"""What the lamp draws and how loud it is: watts and volt-amperes apart, light per watt, run time, noise, flash pops."""

from collections.abc import Sequence

import numpy as np

from even_beam.bench import notation
from even_beam.bench.findings.finding import Evidence, Finding, at, full_level, grouped, ids, level_mean, value_of
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF, Terms
from even_beam.light.photometry import cycles_per_exposure

POWER_TOLERANCE = 0.03
"""A plug-in power meter is good for this (common practice, no source)."""

_SETTING = ("mode", "cct_k", "tint", "level_pct", "hue_deg", "saturation_pct")


def _setting(terms: Terms) -> tuple[object, ...]:
    return tuple(getattr(terms, name) for name in _SETTING)


def watts_of(measured: Measured) -> float | None:
    """Active power: as read, or from V, A and the power factor; never from V and A alone."""
    power = measured.value("power_w")
    if power is not None:
        return power
    apparent, factor = apparent_of(measured), measured.value("power_factor")
    return apparent * factor if apparent is not None and factor is not None else None


def apparent_of(measured: Measured) -> float | None:
    """Apparent power in VA: as read, or volts times amperes. Volts times amperes are never watts."""
    apparent = measured.value("power_va")
    if apparent is not None:
        return apparent
    volts, amperes = measured.value("voltage_v"), measured.value("current_a")
    return volts * amperes if volts is not None and amperes is not None else None


def power(evidence: Evidence) -> tuple[Finding, ...]:
    """Watts, volt-amperes and power factor at each setting, kept apart."""
    found: list[Finding] = []
    electrical = [m for m in evidence.readings if watts_of(m) is not None or apparent_of(m) is not None]
    for repeats in grouped(electrical, lambda m: _setting(m.terms)).values():
        terms = at(repeats[0].terms, "distance")
        watts, apparent = _mean([watts_of(m) for m in repeats]), _mean([apparent_of(m) for m in repeats])
        if watts is not None:
            found.append(
                Finding(
                    "electrical",
                    "power",
                    watts,
                    "W",
                    f"{watts:.0f} W at {terms}.",
                    terms,
                    ids(repeats),
                    None,
                    POWER_TOLERANCE * watts,
                )
            )
        if apparent is not None:
            factor = f", power factor {watts / apparent:.2f}" if watts is not None else "; its watts are not known"
            found.append(
                Finding(
                    "electrical",
                    "apparent power",
                    apparent,
                    "VA",
                    f"{notation.number(apparent, 1)} VA{factor}, at {terms}.",
                    terms,
                    ids(repeats),
                    None,
                    POWER_TOLERANCE * apparent,
                )
            )
    return (*found, *_draw_varies(found))


def _mean(values: Sequence[float | None]) -> float | None:
    known = [v for v in values if v is not None]
    return float(np.mean(known)) if known else None


def _draw_varies(found: Sequence[Finding]) -> list[Finding]:
    """Draw depends on white and level: the most is what a circuit must bear."""
    watts = [f for f in found if f.name == "power"]
    if len(watts) < 2:
        return []
    most, least = max(watts, key=lambda f: f.value or 0.0), min(watts, key=lambda f: f.value or 0.0)
    sentence = f"It draws from {least.value:.0f} W ({least.terms}) to {most.value:.0f} W ({most.terms})."
    return [
        Finding(
            "electrical",
            "most power",
            most.value,
            "W",
            sentence,
            most.terms,
            (*most.readings, *least.readings),
            (most.value or 0.0) - (least.value or 0.0),
            most.uncertainty,
        )
    ]


def light_per_watt(evidence: Evidence) -> tuple[Finding, ...]:
    """Lux and candela per watt where level and power were read at the same setting."""
    by_setting: dict[tuple[object, ...], list[Measured]] = {}
    for m in evidence.readings:
        if watts_of(m) is not None:
            by_setting.setdefault(_setting(m.terms), []).append(m)
    found = []
    for repeats in grouped(full_level(evidence.lit), lambda m: (m.terms, m.reading.meter_id)).values():
        drawn = by_setting.get(_setting(repeats[0].terms))
        if not drawn or evidence.meter_of(repeats[0]).for_ratios_only:
            continue
        watts = float(np.mean([w for m in drawn if (w := watts_of(m)) is not None]))
        mean, terms = level_mean(evidence, repeats), at(repeats[0].terms)
        relative = float(np.hypot(mean.absolute, POWER_TOLERANCE))
        each = mean.value / watts
        candela = f", {each * repeats[0].terms.distance_m ** 2:.0f} cd/W" if repeats[0].terms.distance_m else ""
        found.append(
            Finding(
                "electrical",
                "lux per watt",
                each,
                "lx/W",
                f"{each:.1f} lx/W{candela} at {terms}.",
                terms,
                ids([*repeats, *drawn]),
                None,
                relative * each,
            )
        )
    return tuple(found)


def run_time_hours(battery_wh: float, watts: float, usable: float = 1.0) -> float:
    """Hours that a battery lasts, an estimate: Wh times its usable part over W. Raises `ValueError` unless all are positive."""
    if battery_wh <= 0.0 or watts <= 0.0 or not 0.0 < usable <= 1.0:
        raise ValueError("run time needs a battery, a draw and a usable part above zero")
    return battery_wh * usable / watts


def run_time(evidence: Evidence, battery_wh: float | None) -> tuple[Finding, ...]:
    """How long a battery lasts at the highest draw that was read; an estimate, none without a battery."""
    drawn = [(watts, m) for m in evidence.readings if (watts := watts_of(m)) is not None and watts > 0.0]
    if battery_wh is None or not drawn:
        return ()
    watts, hungriest = max(drawn, key=lambda pair: pair[0])
    hours = run_time_hours(battery_wh, watts)
    terms = at(hungriest.terms, "distance")
    whole, minutes = divmod(round(60.0 * hours), 60)
    sentence = f"{whole} h {minutes:02d} min from {battery_wh:.0f} Wh at {watts:.0f} W ({terms}), an estimate."
    open_ = ("what the battery gives when it is cold, old or drawn hard",)
    return (
        Finding("electrical", "run time", hours, "h", sentence, terms, (hungriest.reading.id,), None, POWER_TOLERANCE * hours, None, open_),
    )  # fmt: skip


def circuit_load(
    volt_amperes: Sequence[float], volts: float, rated_a: float, continuous: float = 0.8
) -> tuple[float, float, bool]:
    """Amperes that lamps draw together from *measured* VA, the circuit's continuous line, and whether they pass it.

    80 % is a common rule (common practice, no source); the local code and a licensed electrician decide.
    """
    amperes = sum(volt_amperes) / volts
    line = continuous * rated_a
    return amperes, line, amperes > line


def noise(evidence: Evidence) -> tuple[Finding, ...]:
    """Sound level, and without the room where the room alone was read with the microphone in the same place.

    Levels of sources that are not coherent add by their energy; less than 6 dB above the room the difference is rough,
    and below 3 dB it tells nothing (common practice in acoustics, the limits from memory).
    """
    heard = evidence.having("sound_db")
    loud = [m for m in heard if m.terms.mode != OFF]
    found = []
    for repeats in grouped(loud, lambda m: (_setting(m.terms), m.terms.distance_m)).values():
        level, terms = _sound(repeats), at(repeats[0].terms)
        room = [m for m in heard if m.terms.mode == OFF and m.terms.distance_m == repeats[0].terms.distance_m]
        against = _over_the_room(level, _sound(room)) if room else ", the room's own sound in it"
        open_ = () if room else ("the room alone: it was not read",)
        sentence = f"{level:.1f} dB at {terms}{against}."
        found.append(Finding("noise", "sound level", level, "dB", sentence, terms, ids([*repeats, *room]), None, 1.5, None, open_))  # fmt: skip
    return tuple(found)


def _sound(readings: Sequence[Measured]) -> float:
    return float(np.mean([value_of(m, "sound_db") for m in readings]))


def without_room(level_db: float, room_db: float) -> float | None:
    """The level of the lamp alone, in dB; None where it stands less than 3 dB above the room."""
    if level_db - room_db < 3.0:
        return None
    return float(10.0 * np.log10(10.0 ** (level_db / 10.0) - 10.0 ** (room_db / 10.0)))


def _over_the_room(level_db: float, room_db: float) -> str:
    alone = without_room(level_db, room_db)
    above = f", {notation.number(level_db - room_db, 1, signed=True)} dB against the room alone ({room_db:.1f} dB)"
    if alone is None:
        return f"{above}: too little to tell the lamp's own"
    about = "about " if level_db - room_db < 6.0 else ""
    return f"{above}: {about}{alone:.1f} dB the lamp's own"


SHORT_EXPOSURES_S = (1.0 / 1000.0, 1.0 / 8000.0)


def flicker(evidence: Evidence, shutter_s: float) -> tuple[Finding, ...]:
    """How many cycles of the lamp's modulation an exposure holds, at the usual exposure time and at short ones."""
    found = []
    for repeats in grouped(evidence.having("flicker_hz"), lambda m: _setting(m.terms)).values():
        hertz = float(np.mean([value_of(m, "flicker_hz") for m in repeats]))
        exposures = (shutter_s, *SHORT_EXPOSURES_S)
        counts = [float(cycles_per_exposure(hertz, t)) for t in exposures]
        told = ", ".join(f"{notation.plain(c, 1)} cycles in 1/{1.0 / t:.0f} s" for c, t in zip(counts, exposures, strict=True))  # fmt: skip
        terms = at(repeats[0].terms, "distance")
        series = {"exposure_s": exposures, "cycles": tuple(counts)}
        open_ = ("how deep the light dips and its lowest level, which decide whether a camera shows it",)
        found.append(Finding("electrical", "flicker", hertz, "Hz", f"{notation.number(hertz)} Hz at {terms}: {told}.", terms, ids(repeats), None, None, None, open_, series))  # fmt: skip
    return tuple(found)


def flash_pops(evidence: Evidence) -> tuple[Finding, ...]:
    """How even a flash is from pop to pop, in stops."""
    found = []
    for pops in grouped(evidence.having("f_stop"), lambda m: (m.terms, m.reading.meter_id)).values():
        if len(pops) < 4:
            continue
        stops = 2.0 * np.log2([value_of(m, "f_stop") for m in pops])
        spread, scatter = float(np.ptp(stops)), float(np.std(stops, ddof=1))
        sentence = f"{len(pops)} pops lie within {spread:.2f} stop of each other (standard deviation {scatter:.2f})."
        found.append(Finding("output", "pop to pop", spread, "stops", sentence, at(pops[0].terms), ids(pops), scatter))
    return tuple(found)
