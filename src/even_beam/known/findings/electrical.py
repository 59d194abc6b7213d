"""What the lamp draws and how loud it is: watts and volt-amperes apart, light per watt, run time, noise, flash pops."""

from collections.abc import Sequence
from statistics import fmean

import numpy as np

from even_beam.bench import fields, terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF
from even_beam.known.evidence import Evidence, ids, lux_of, relative, value_of
from even_beam.known.findings.finding import Finding
from even_beam.light.photometry import cycles_per_exposure
from even_beam.words import notation

POWER_TOLERANCE = 0.03
"""A plug-in power meter is good for this (common practice, no source)."""

SOUND_DB = 1.5
"""A hand-held sound meter is good for this (common practice, no source)."""

_NOT_DRAWN_BY = ("configuration", "zoom", *terms.PLACE)
"""What neither optics nor the meter's place change of what a lamp draws."""


def _by_setting(readings: Sequence[Measured]) -> list[list[Measured]]:
    """Readings of one setting, meter and session: what a lamp draws depends on nothing else here."""
    return list(terms.grouped(readings, *_NOT_DRAWN_BY).values())


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


def drawing(evidence: Evidence) -> list[Measured]:
    """The readings that say what the lamp drew; most lamps have none."""
    if not any(evidence.having(quantity) for quantity in ("power_w", "power_va", "current_a")):
        return []
    return [m for m in evidence.readings if watts_of(m) is not None or apparent_of(m) is not None]


def power(evidence: Evidence) -> tuple[Finding, ...]:
    """Watts, volt-amperes and power factor at each setting, kept apart."""
    found: list[Finding] = []
    for repeats in _by_setting(drawing(evidence)):
        said = evidence.at(repeats[0], *_NOT_DRAWN_BY)
        watts, apparent = _mean([watts_of(m) for m in repeats]), _mean([apparent_of(m) for m in repeats])
        for value, name, unit in ((watts, "power", "W"), (apparent, "apparent power", "VA")):
            if value is None:
                continue
            tail = ""
            if unit == "VA":
                factor = f", power factor {watts / value:.2f}" if watts is not None and value > 0.0 else ""
                tail = factor or ("; its watts are not known" if watts is None else "")
            peak = _peak(repeats, "power_w" if unit == "W" else "power_va", value)
            if peak is not None:
                tail += f", with a peak of {notation.significant(peak, 4)} {unit} in its log"
            shown = notation.significant(value, 4)
            found.append(
                Finding(
                    question="electrical",
                    name=name,
                    value=value,
                    unit=unit,
                    words=f"It draws {shown} {unit}{tail}",
                    terms=said,
                    readings=ids(repeats),
                    axis=_NOT_DRAWN_BY,
                    uncertainty=POWER_TOLERANCE * value,
                    series={} if peak is None else {"peak": (peak,)},
                    weight=27,
                )
            )
    return (*found, *_draw_varies(found))


def _peak(repeats: Sequence[Measured], quantity: str, mean: float) -> float | None:
    """The peak of what was logged, where it lies above the mean by more than the meter's own error."""
    logged = [f.high for m in repeats if (f := m.figure(quantity)) is not None and f.value is not None and f.high]
    peak = max(logged, default=0.0)
    return peak if peak > mean * (1.0 + POWER_TOLERANCE) else None


def _mean(values: Sequence[float | None]) -> float | None:
    known = [v for v in values if v is not None]
    return fmean(known) if known else None


def _draw_varies(found: Sequence[Finding]) -> list[Finding]:
    """Draw depends on white and level: the most is what a circuit must bear."""
    drawn = [f for f in found if f.unit == "W"] or [f for f in found if f.unit == "VA"]
    if len(drawn) < 2:
        return []
    most, least = max(drawn, key=_most_of), min(drawn, key=lambda f: f.value or 0.0)
    name = "most power" if most.unit == "W" else "most apparent power"
    top = f"{notation.significant(_most_of(most), 4)} {most.unit}"
    sentence = (
        f"It draws at most {top} ({most.terms}), at least {notation.significant(least.value, 4)} {least.unit}"
        f" ({least.terms})"
    )
    return [
        Finding(
            question="electrical",
            name=name,
            value=_most_of(most),
            unit=most.unit,
            words=sentence,
            terms=most.terms,
            readings=tuple(dict.fromkeys((*most.readings, *least.readings))),
            axis=fields.NAMES,
            spread=_most_of(most) - (least.value or 0.0),
            uncertainty=most.uncertainty,
            weight=28,
        )
    ]


def _most_of(drawn: Finding) -> float:
    """What a circuit must bear: the peak where one was logged."""
    return max(float(peak) for peak in (drawn.value or 0.0, *drawn.series.get("peak", ())) if peak is not None)


def light_per_watt(evidence: Evidence) -> tuple[Finding, ...]:
    """Lux and candela per watt where level and power were read at the same setting in one session."""
    by_setting: dict[fields.Key, list[Measured]] = {}
    for m in drawing(evidence):
        if watts_of(m) is not None:
            by_setting.setdefault(terms.key(m, *_NOT_DRAWN_BY, "meter"), []).append(m)
    found = []
    for repeats in terms.grouped(evidence.full).values():
        drawn = by_setting.get(terms.key(repeats[0], *_NOT_DRAWN_BY, "meter"))
        if not drawn or evidence.meter_of(repeats[0]).for_ratios_only:
            continue
        watts = _mean([watts_of(m) for m in drawn])
        if not watts:
            continue
        level, said = evidence.level_of(repeats), evidence.at(repeats[0])
        half = float(np.hypot(relative(level.half_width), POWER_TOLERANCE))
        each = lux_of(level) / watts
        candela = f", {each * repeats[0].terms.distance_m ** 2:.0f} cd/W" if repeats[0].terms.distance_m else ""
        found.append(
            Finding(
                question="electrical",
                name="lux per watt",
                value=each,
                unit="lx/W",
                words=f"It gives {notation.level(each)}/W{candela}",
                terms=said,
                readings=ids([*repeats, *drawn]),
                axis=(*_NOT_DRAWN_BY, "meter"),
                uncertainty=half * each,
                weight=18,
            )
        )
    return tuple(found)


def run_time_hours(battery_wh: float, watts: float, usable: float = 1.0) -> float:
    """Hours that a battery lasts, an estimate: Wh times its usable part over W. Raises `ValueError` unless all are
    positive."""
    if battery_wh <= 0.0 or watts <= 0.0 or not 0.0 < usable <= 1.0:
        raise ValueError("run time needs a battery, a draw and a usable part above zero")
    return battery_wh * usable / watts


def run_time(evidence: Evidence, battery_wh: float | None) -> tuple[Finding, ...]:
    """How long a battery lasts at the highest draw that was read; an estimate, none without a battery."""
    drawn = [(watts, m) for m in drawing(evidence) if (watts := watts_of(m)) is not None and watts > 0.0]
    if battery_wh is None or not drawn:
        return ()
    watts, hungriest = max(drawn, key=lambda pair: pair[0])
    hours = run_time_hours(battery_wh, watts)
    said = evidence.at(hungriest, *_NOT_DRAWN_BY)
    whole, minutes = divmod(round(60.0 * hours), 60)
    drawn_at = f"{battery_wh:.0f} Wh at {notation.significant(watts, 4)} W"
    sentence = f"It runs {whole} h {minutes:02d} min from {drawn_at}, an estimate"
    open_ = ("what the battery gives when it is cold, old or drawn hard",)
    return (
        Finding(
            question="electrical",
            name="run time",
            value=hours,
            unit="h",
            words=sentence,
            terms=said,
            readings=(hungriest.reading.id,),
            uncertainty=POWER_TOLERANCE * hours,
            not_covered=open_,
        ),
    )


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
    ignored = ("configuration", "zoom", "angle", "plane", "placement")
    found = []
    for repeats in terms.grouped([m for m in heard if m.terms.mode != OFF], *ignored).values():
        level, said = _sound(repeats), evidence.at(repeats[0], *ignored)
        here = (repeats[0].reading.session_id, repeats[0].terms.distance_m)
        room = [m for m in heard if m.terms.mode == OFF and (m.reading.session_id, m.terms.distance_m) == here]
        against = _over_the_room(level, _sound(room)) if room else ", the room's own sound in it"
        open_ = () if room else ("the room alone: it was not read",)
        found.append(
            Finding(
                question="noise",
                name="sound level",
                value=level,
                unit="dB",
                words=f"It is heard at {notation.plain(level)} dB{against}",
                terms=said,
                readings=ids([*repeats, *room]),
                axis=ignored,
                uncertainty=SOUND_DB,
                not_covered=open_,
                weight=26,
            )
        )
    return tuple(found)


def _sound(readings: Sequence[Measured]) -> float:
    """The mean of sound levels: of their energies."""
    energy = 10.0 ** (np.array([value_of(m, "sound_db") for m in readings]) / 10.0)
    return float(10.0 * np.log10(energy.mean()))


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
    for repeats in _by_setting(evidence.having("flicker_hz")):
        hertz = fmean([value_of(m, "flicker_hz") for m in repeats])
        exposures = (shutter_s, *SHORT_EXPOSURES_S)
        counts = [float(cycles_per_exposure(hertz, t)) for t in exposures]
        told = ", ".join(
            f"{notation.plain(c, 1)} cycles in {notation.seconds(t)}" for c, t in zip(counts, exposures, strict=True)
        )
        said = evidence.at(repeats[0], *_NOT_DRAWN_BY)
        open_ = ("how deep the light dips and its lowest level, which decide whether a camera shows it",)
        found.append(
            Finding(
                question="electrical",
                name="flicker",
                value=hertz,
                unit="Hz",
                words=f"It flickers at {notation.number(hertz)} Hz: {told}",
                terms=said,
                readings=ids(repeats),
                axis=_NOT_DRAWN_BY,
                not_covered=open_,
                series={"exposure_s": exposures, "cycles": tuple(counts)},
                weight=22,
            )
        )
    return tuple(found)


def flash_pops(evidence: Evidence) -> tuple[Finding, ...]:
    """How even a flash is from pop to pop, in stops."""
    found = []
    for pops in terms.grouped(evidence.having("f_stop")).values():
        if len(pops) < 4:
            continue
        stops = 2.0 * np.log2([value_of(m, "f_stop") for m in pops])
        spread, scatter, said = float(np.ptp(stops)), float(np.std(stops, ddof=1)), evidence.at(pops[0])
        sentence = (
            f"{len(pops)} readings in f-stops lie within {spread:.2f} stop of each other (standard deviation"
            f" {scatter:.2f})"
        )
        found.append(
            Finding(
                question="output",
                name="pop to pop",
                value=spread,
                unit="stops",
                words=sentence,
                terms=said,
                readings=ids(pops),
                spread=scatter,
                weight=30,
            )
        )
    return tuple(found)


def exposures(evidence: Evidence) -> tuple[Finding, ...]:
    """Levels that were read as f-stops, as they were read: a level in lx needs ISO and shutter, a ratio does not."""
    found = []
    only = evidence.full_level_of(lambda m: m.value("f_stop") is not None and m.figure("illuminance") is None)
    for repeats in terms.grouped(only).values():
        stops, said = evidence.exposure_of(repeats), evidence.at(repeats[0])
        number = float(np.exp2((stops.value or 0.0) / 2.0))
        found.append(
            Finding(
                question="output",
                name="exposure as read",
                value=number,
                unit="f/",
                words=f"It reads {notation.f_stop(number)}",
                aside="ISO and shutter were not stated, so it compares with its own session alone.",
                terms=said,
                readings=ids(repeats),
                uncertainty=number * (float(np.exp2(stops.half_width / 2.0)) - 1.0),
                weight=55,
            )
        )
    return tuple(found)
