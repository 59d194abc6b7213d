"""What the Bench shows, worked out without an interface: the step, the figures with their words, the sheet, the
pictures."""

import math
from dataclasses import dataclass
from datetime import datetime

from even_beam.bench import terms as sameness
from even_beam.bench import terms_in_words
from even_beam.bench.judging.control import drift_words, session_drift
from even_beam.bench.judging.slips import WORDS, Candidate
from even_beam.bench.measured import Measured
from even_beam.bench.planning.sweep import changed_parts
from even_beam.bench.records import OFF, SHADED, Reading, Terms
from even_beam.bench.run import StepState
from even_beam.bench.traces import SETTLED_SHARE
from even_beam.desk.session.desk import Aside, Proposal, SessionDesk
from even_beam.shell.settings import Settings
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES


@dataclass(frozen=True, slots=True)
class Part:
    """A part of the step: its words, and whether the hands must change it."""

    text: str
    changes: bool


@dataclass(frozen=True, slots=True)
class Prompt:
    """The step in large type: the line above, the setting, and what is read."""

    above: tuple[Part, ...]
    parts: tuple[Part, ...]
    below: str


def prompt(desk: SessionDesk, settings: Settings) -> Prompt:
    """What to set and read next; for a session without a run, what would be read."""
    if desk.aside is not Aside.NONE:
        return _aside_prompt(desk, settings)
    if desk.step is not None:
        return _step_prompt(desk, desk.step, settings)
    if desk.is_run:
        counted = len(desk.counted)
        return Prompt(
            (Part(desk.session.name, False),),
            (Part("all read", False),),
            f"{notation.count(counted, 'reading')} that count. {held_words(desk)}",
        )
    terms = desk.free_terms
    above = (
        Part(desk.name_of(desk.next_sources), not desk.next_sources),
        Part(terms_in_words.configuration(terms), False),
    )
    parts = _setting_parts(terms, frozenset(), settings) if _is_stated(terms) else (Part("just read", True),)
    reads = _reads(desk)
    said = f"target {desk.target.words}" if desk.target is not None else "lamp and terms may be named before or after"
    return Prompt(above, parts, f"{reads} · {said}")


def _aside_prompt(desk: SessionDesk, settings: Settings) -> Prompt:
    """The room alone, or the mark shaded from the lamp, with the meter where it stands."""
    where = terms_in_words.placement(desk.next_terms, settings.distance_unit)
    if desk.aside is Aside.ROOM:
        return Prompt(
            (Part("room light", True), Part(where, False)),
            (Part("lamp off", True),),
            f"{_reads(desk)} · taken off what is read at this mark · B again: shade the meter instead",
        )
    return Prompt(
        (Part(desk.name_of(desk.next_sources), False), Part(where, False)),
        (Part("meter shaded", True),),
        f"{_reads(desk)} · a flag before the meter: what is left is bounce · B again: back to the run",
    )


def _is_stated(terms: Terms) -> bool:
    return terms.cct_k is not None or terms.level_pct is not None or terms.distance_m is not None


def _reads(desk: SessionDesk) -> str:
    """How the meter is read, in the fewest words."""
    meter = desk.meter
    if meter is None:
        return "no meter chosen: type what yours shows"
    if desk.can_read:
        return f"{meter.nickname}: Enter reads it"
    if meter.is_spectrometer and meter.simulated:
        return f"{meter.nickname} is simulated: Alt L names a lamp that it sees, or type what yours shows"
    return f"{meter.nickname}: type its figure"


def _step_prompt(desk: SessionDesk, state: StepState, settings: Settings) -> Prompt:
    step = state.step
    before = last_set(desk)
    same_sources = before is not None and before.source_ids == step.source_ids
    changes = changed_parts(before.terms if before is not None and same_sources else None, step.terms)
    above = (
        Part(desk.name_of(step.source_ids), not same_sources),
        Part(terms_in_words.configuration(step.terms), "configuration" in changes and before is not None),
        Part(terms_in_words.axis(step.terms), bool(changes & {"angle_deg", "turn_deg"}) and before is not None),
    )
    number = min(state.taken + 1, state.required)
    below = [_reads(desk), f"reading {number} of {state.required}"]
    first = state.readings[0] if state.readings else None
    level = desk.of(first.reading.id).value("illuminance") if first is not None and first.counts else None
    if level is not None:
        below.append(f"first read {notation.illuminance(level, settings.illuminance_unit)} {settings.illuminance_unit}")
    if step.wait_s and not state.readings:
        below.append(wait_words(step.wait_s, desk.since_change_s))
    return Prompt(above, _setting_parts(step.terms, changes, settings), " · ".join(below))


def aside_words(aside: Aside) -> tuple[str, str]:
    """What to do for a reading beside the run."""
    if aside is Aside.ROOM:
        return (
            "Lamp off",
            (
                "Leave meter and room as they are, then Enter. Only illuminance and spectrum are corrected, never typed"
                " colour figures or f-stops."
            ),
        )
    if aside is Aside.SHADED:
        return (
            "Shade the meter from the lamp",
            "Hold a flag before it, just large enough, then Enter. What is left is the room and the lamp's own bounce.",
        )
    return "Back to the run", "Nothing was read aside."


def wait_words(wait_s: float, since_s: float | None) -> str:
    """How long the lamp still rests or warms before it is read; nothing stops one who reads earlier."""
    left = wait_s - (since_s or 0.0)
    if left <= 0.0:
        return "waited long enough"
    return f"wait {notation.number(left / 60.0, 0)} min" if left >= 90.0 else f"wait {notation.number(left)} s"


def seconds_to_wait(desk: SessionDesk) -> float:
    """How long the next reading still has to wait: the plan asks for it, and the first reading there was not taken."""
    step = desk.step
    if step is None or not step.step.wait_s or step.readings or desk.aside is not Aside.NONE:
        return 0.0
    return max(0.0, step.step.wait_s - desk.waited_s)


def may_end_early(desk: SessionDesk) -> bool:
    """Whether settled light ends the present wait: a meter must see it, and the wait must be for it to settle.

    Waits of one light again and again are a warm-up that is being recorded: each is part of the figure.
    """
    step = desk.step
    if step is None or not desk.can_read or seconds_to_wait(desk) <= 0.0:
        return False
    same = [s for s in desk.state.steps if (s.step.terms, s.step.source_ids) == (step.step.terms, step.step.source_ids)]
    return sum(s.step.wait_s > 0.0 for s in same) == 1


def minutes_words(seconds: float) -> str:
    """A time to wait, counted down: 14 min 20 s."""
    whole = math.ceil(seconds)
    return f"{whole} s" if whole < 120 else f"{whole // 60} min {whole % 60} s"


def meter_words(desk: SessionDesk) -> str:
    """How the meter that was chosen is read."""
    meter = desk.meter
    if meter is None:
        return "What is typed from here on stands without a meter; its uncertainty is a handheld one's. Alt M goes on."
    if desk.can_read:
        return "Enter reads it. M chooses the next."
    if meter.is_spectrometer and meter.simulated:
        return "It is simulated, and sees only lamps that have a stand-in: type what your own meter shows."
    return "Type what it shows. M chooses the next."


def countdown_words(desk: SessionDesk) -> str:
    """How long is still to wait; empty where nothing is waited for."""
    left = seconds_to_wait(desk)
    return minutes_words(left) if left > 0.0 else ""


def since_words(desk: SessionDesk) -> str:
    """How long, at most, the light has stood as it is, and whether the last two readings say that it has settled."""
    if seconds_to_wait(desk) > 0.0:
        return "more to wait · Enter asks before it reads"
    since = desk.since_change_s
    if since is None or since > 5999.0:
        return ""
    clock = f"{notation.number(since)} s" if since < 120.0 else f"{int(since // 60)} min {int(since % 60)} s"
    change = settling_percent(desk)
    if change is None:
        return f"{clock} since the change"
    moving = "settled" if abs(change) <= 100.0 * SETTLED_SHARE else f"still {'rising' if change > 0.0 else 'falling'}"
    return f"{clock} since the change · {moving} ({notation.number(change, 1, signed=True)} %)"


def settling_percent(desk: SessionDesk) -> float | None:
    """By how many per cent the level moved between the last two readings at these terms; None with fewer."""
    same = [
        value
        for m in desk.counted
        if m.terms == desk.next_terms
        and m.reading.source_ids == desk.next_sources
        and (value := m.value("illuminance"))
    ]
    return 100.0 * (same[-1] / same[-2] - 1.0) if len(same) > 1 else None


def _setting_parts(terms: Terms, changes: frozenset[str], settings: Settings) -> tuple[Part, ...]:
    parts = []
    if white := terms_in_words.stated_white(terms):
        parts.append(Part(white, bool(changes & {"cct_k", "mode", "tint"})))
    if terms.zoom:
        parts.append(Part(terms_in_words.zoom(terms), "zoom" in changes))
    if terms.level_pct is not None:
        parts.append(Part(terms_in_words.level(terms), "level_pct" in changes))
    if terms.distance_m is not None or terms.placement == "equal":
        short = terms_in_words.placement(terms, settings.distance_unit)
        parts.append(Part("equal distance" if terms.distance_m is None else short, "distance_m" in changes))
    parts += [Part(words, stored in changes) for stored, words in sameness.said_beside(terms)]
    return tuple(parts) or (Part(terms_in_words.white(terms), False),)


def latest(desk: SessionDesk) -> Measured | None:
    """The last reading that counts, shown when a session is taken up again."""
    return desk.counted[-1] if desk.counted else None


def greeting(desk: SessionDesk) -> tuple[str, str]:
    """Title and words before the first reading, or when a run is taken up again."""
    if desk.is_run and desk.measured and desk.step is not None:
        goes_on = "Enter reads the next step" if desk.can_read else "Type what the next step gives"
        return "Taken up where it was left", f"{progress_words(desk)}. {goes_on}."
    if not desk.is_run and not desk.measured:
        return (
            "Read something",
            (
                f"{'Enter reads the meter. ' if desk.can_read else ''}A digit types a figure: 1.6k, 160 fc, f/5.6,"
                " 5600 K; terms too: 50 %, spot, at 3 m. PgDn is the next level. Alt R plans a run. Spectrum files and"
                " folders may be dropped here. Lamp and terms can be named afterwards."
            ),
        )
    return "", ""


def quantity_label(name: str) -> str:
    """What a quantity is called."""
    return QUANTITIES[name].label if name in QUANTITIES else name


def candidate_words(candidate: Candidate, proposal: Proposal) -> tuple[str, str]:
    """A candidate figure as it is offered, and the slip that would explain it."""
    unit = "K" if proposal.look.quantity == "cct" else "lx"
    offer = f"{notation.plain(candidate.value)} {unit}"
    return (
        offer,
        f"You typed {proposal.text.strip()}: {WORDS[candidate.slip]} {offer}. Nothing is changed unless you hold +.",
    )


def stretch_of(desk: SessionDesk, reading_id: str) -> tuple[str, ...]:
    """The readings up to this one, back to where its lamp, configuration and distance were first the same."""
    one = desk.of(reading_id)
    found: list[str] = []
    for measured in reversed([m for m in desk.measured if m.reading.sequence <= one.reading.sequence]):
        same = (
            measured.source_id == one.source_id
            and measured.terms.distance_m == one.terms.distance_m
            and measured.terms.configuration == one.terms.configuration
        )
        if not same:
            break
        found.append(measured.reading.id)
    return tuple(reversed(found))


def last_set(desk: SessionDesk) -> Reading | None:
    """The last reading of the light, as it was asked for: what stands on the bench now."""
    lit = (m.reading for m in reversed(desk.measured) if m.reading.terms.mode != OFF)
    return next((one for one in lit if one.terms.placement != SHADED), None)


def held_words(desk: SessionDesk) -> str:
    """What the end of a run says of each lamp: whether it held from its first reading to its repeat."""
    lamps = dict.fromkeys(m.reading.source_ids for m in desk.counted if m.terms.mode != OFF)
    own = {lamp: [m for m in desk.counted if m.reading.source_ids == lamp] for lamp in lamps}
    said = [f"{desk.name_of(lamp)} {drift_words(session_drift(readings))}" for lamp, readings in own.items()]
    suspect = sum(m.state.suspect for m in desk.counted)
    left = [f"{notation.count(suspect, 'reading')} suspect still"] if suspect else []
    return f"{'; '.join([*left, *said])}."


def same_terms(desk: SessionDesk, reading_id: str) -> tuple[str, ...]:
    """The readings of the same lamp at exactly the same terms."""
    one = desk.of(reading_id)
    return tuple(m.reading.id for m in desk.measured if m.terms == one.terms and m.source_id == one.source_id)


# --- the head


def head_line(desk: SessionDesk) -> tuple[str, ...]:
    """Session, meter with its dark calibration, and ambient light."""
    meter = desk.meter
    parts = [desk.session.name]
    if meter is not None:
        dark = desk.dark_calibrated_at
        parts.append(
            f"{meter.nickname} · {_dark_words(dark, desk)}"
            if meter.is_spectrometer
            else f"{meter.nickname} · {meter.receptor}, C {meter.constant:.0f}"
        )
    parts += ["simulated: no real light is read"] if desk.can_read and meter is not None and meter.simulated else []
    parts += [f"{meter.nickname} is for ratios only"] if meter is not None and meter.for_ratios_only else []
    room = desk.ambient_here
    if room:
        parts.append(f"room light {notation.light(room)}, taken off")
    else:
        noted = next((c.ambient_lx for c in reversed(desk.conditions()) if c.ambient_lx is not None), None)
        parts += [f"room light {notation.light(noted)} noted"] if noted is not None else []
    parts += _climate(desk)
    return tuple(parts)


def _climate(desk: SessionDesk) -> list[str]:
    """Temperature and mains as they were last noted."""
    rows = desk.conditions()
    warm = next((c.temperature_c for c in reversed(rows) if c.temperature_c is not None), None)
    mains = next((c.mains_v for c in reversed(rows) if c.mains_v is not None), None)
    said = [f"{notation.plain(warm)} °C"] if warm is not None else []
    return [*said, *([f"{notation.plain(mains)} V"] if mains is not None else [])]


def _dark_words(at: datetime | None, desk: SessionDesk) -> str:
    if at is None:
        return "dark not taken"
    minutes = max(0, int((desk.now() - at).total_seconds() // 60))
    if minutes < 120:
        return f"dark {minutes} min ago"
    return f"dark {minutes // 60} h ago" if minutes < 2880 else f"dark {minutes // 1440} days ago"


def progress_words(desk: SessionDesk) -> str:
    """How far the run is, and how long it still takes."""
    if not desk.is_run:
        count = len(desk.counted)
        return f"{count} reading{'' if count == 1 else 's'}"
    total = sum(s.required for s in desk.state.steps)
    taken = sum(min(s.taken, s.required) for s in desk.state.steps)
    minutes = desk.seconds_left() / 60.0
    left = f"about {max(1, round(minutes))} min left" if desk.step is not None else "all read"
    return f"{taken} of {total} · {left}"
