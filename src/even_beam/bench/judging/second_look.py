"""The second look that each new reading gets: whether it fits, and if not, the likely cause.

Nothing here ever changes a figure. A doubt names its causes, likeliest first, and the figures that one slip of
the hand would explain; the person decides.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from even_beam.bench import terms, terms_in_words
from even_beam.bench.judging import slips
from even_beam.bench.judging.expectation import REPEAT_STOPS, Expected, expected_cct, expected_illuminance, like, series
from even_beam.bench.judging.gels import named_shift
from even_beam.bench.judging.laws import SHORT_STOPS, falls_short, oddest
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF, Meter, Terms
from even_beam.bench.terms import terms_line
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES

WHITE_MIRED = 60.0
"""A lamp further off than this from what was dialled is more likely at another setting."""

SAME_WHITE_MIRED = 15.0
"""A lamp holds its white within this while it is dimmed or moved, but for tungsten."""

WARM_UP_S = 900.0
"""Within this of its first reading an LED lamp may still be warming (common practice, no source: 15-30 min)."""

STALE_DARK_S = 2700.0
"""A dark signal older than this should be taken anew (common practice, no source)."""

UNCHANGED_STOPS = 0.03
UNCHANGED_MIRED = 2.0

FLOOR_PCT = 8.0
"""Below this many dimmers give the same light at two settings (common practice, no source)."""

SURE = 1.1
"""An earlier reading is named instead of this one when the odds against it are three to one (log)."""

LIT_ROOM = 0.5
"""A room brighter than this share of the lamp's last level at the mark is more likely a lamp left on."""

TOLD_LITTLE_STOPS, FAR_NEARER = 1.5, 0.45
"""A figure so many stops from what others tell, though they leave it open, is asked about where a slip would bring it
to such a share of that (common practice, no source)."""

LOOKED_AT = "looked at"
"""So begins the note of a reading that counts because someone has looked at it after a weak doubt."""

NOTABLE_AMBIENT = 0.1
"""From this share on the room's light is worth a word."""


@dataclass(frozen=True, slots=True)
class Cause:
    """A likely cause of a doubt, in plain words."""

    kind: str
    text: str


@dataclass(frozen=True, slots=True)
class SecondLook:
    """The verdict on a reading. `expected` is shown after the entry, never before.

    `odd_id` is an earlier reading that is odd beside this one and the others; this one then is not in doubt. `asks`
    is a weak doubt: the reading may be right, and counts once a person has looked at it.
    """

    in_doubt: bool
    sentences: tuple[str, ...]
    expected: Expected | None = None
    stops_off: float | None = None
    causes: tuple[Cause, ...] = ()
    candidates: tuple[slips.Candidate, ...] = ()
    quantity: str = "illuminance"
    odd_id: str = ""
    asks: str = ""

    @property
    def title(self) -> str:
        """The verdict in the fewest words."""
        return "Does not fit: read again" if self.in_doubt else "Fits" if self.expected is not None else "Taken"

    @property
    def cause(self) -> str:
        """The name of the likeliest cause, empty when there is none."""
        return self.causes[0].kind if self.causes else ""

    @property
    def text(self) -> str:
        """All sentences as one paragraph."""
        return " ".join(self.sentences)

    @property
    def explained(self) -> str:
        """The same with the two likeliest causes."""
        return " ".join([*self.sentences, *(cause.text for cause in self.causes[:2])])

    def saying(self, sentence: str) -> "SecondLook":
        """The same verdict with a further sentence."""
        return replace(self, sentences=(*self.sentences, sentence))


@dataclass(frozen=True, slots=True)
class Subject:
    """What is looked at: figures by quantity, at which terms, of which source, read how.

    The illuminance is without `ambient_lx`, the room's own light at this placement (0 where it was not read).
    """

    figures: Mapping[str, float]
    terms: Terms
    source_id: str | None = None
    meter: Meter | None = None
    typed: bool = False
    saturated: bool = False
    ambient_lx: float = 0.0


@dataclass(frozen=True, slots=True)
class Context:
    """What it is looked at beside: all other readings that count, the reading before, the doubtful ones read again.

    `kin` are other lamps of the model; `lit_s` is the time since the lamp was first read, `dark_s` since the meter's
    dark signal was taken, `whites_k` the range that the lamp is claimed to have (None: not known). `gels` are the
    nicknames of what the Kit has as gels.
    """

    others: Sequence[Measured] = ()
    previous: Measured | None = None
    read_again: Sequence[Measured] = ()
    kin: frozenset[str] = frozenset()
    lit_s: float | None = None
    dark_s: float | None = None
    whites_k: tuple[float, float] | None = None
    gels: frozenset[str] = frozenset()


@dataclass(slots=True)
class _Doubts:
    sentences: list[str] = field(default_factory=list)
    causes: list[Cause] = field(default_factory=list)
    candidates: list[slips.Candidate] = field(default_factory=list)
    quantity: str = ""

    def add(self, quantity: str, sentence: str, *causes: Cause, candidates: Sequence[slips.Candidate] = ()) -> None:
        self.sentences.append(sentence)
        self.causes.extend(causes)
        if candidates and not self.candidates:
            self.candidates.extend(candidates)
        self.quantity = self.quantity or quantity


def second_look(subject: Subject, context: Context) -> SecondLook:
    """Judge a reading beside the others of its session."""
    doubts = _Doubts()
    odd: Measured | None = None
    level = subject.figures.get("illuminance")
    expected = expected_illuminance(context.others, subject.source_id, subject.terms, context.kin)
    _possible(subject, doubts)
    if subject.terms.mode == OFF:
        return _look_at_the_room(subject, context, doubts)
    _meter_range(subject, doubts)
    _room_light(subject, doubts)
    if level is not None and level > 0.0 and not doubts.sentences:
        _unchanged(subject, context, expected, doubts)
        confirmed = _repeats_a_doubt(level, context)
        expected = (None if confirmed else _nearest_mark(subject, context)) or expected
        odd = _odd_earlier(subject, context, expected, confirmed=confirmed)
        if expected is not None and odd is None and not confirmed:
            _against_expected(subject, context, expected, doubts)
    if not doubts.sentences:
        _colour_repeats(subject, context, doubts)
    if "cct" in subject.figures and not doubts.sentences:
        _white(subject, context, doubts)
    stops_off = expected.stops_off(level) if expected is not None and level else None
    if doubts.sentences:
        return SecondLook(
            in_doubt=True,
            sentences=tuple(doubts.sentences),
            expected=expected,
            stops_off=stops_off,
            causes=tuple(doubts.causes),
            candidates=tuple(doubts.candidates),
            quantity=doubts.quantity,
        )
    if odd is not None:
        what = f"{notation.light(odd.value('illuminance'))} at {_change(odd.terms, subject.terms)}"
        words = f"With this one, an earlier reading fits no longer: {what}. Alt E goes back to it."
        return SecondLook(False, (words,), expected, stops_off, odd_id=odd.reading.id)
    calm = tuple(_calm(subject, context, expected, stops_off))
    meant = () if expected is None or not subject.typed or not level else likelier(level, expected, subject.ambient_lx)
    asks = asking(level, meant[0].value, _begun(expected.basis)) if meant and level and expected is not None else ""
    return SecondLook(False, calm, expected, stops_off, candidates=meant, asks=asks)


def likelier(level: float, expected: Expected, ambient_lx: float = 0.0) -> tuple[slips.Candidate, ...]:
    """What a lost or added digit would make of a figure that two others and more hardly rule out, where that lies far
    nearer; what one other tells, or a repeat, is not asked about."""
    by_a_law = expected.firm and expected.tolerance_stops != REPEAT_STOPS
    off = abs(expected.stops_off(level))
    if not by_a_law or not expected.fits(level) or off < TOLD_LITTLE_STOPS:
        return ()
    reach = 2.0 ** (FAR_NEARER * off)
    bounds = expected.centre / reach + ambient_lx, expected.centre * reach + ambient_lx
    found = slips.candidates(level + ambient_lx, *bounds, centre=expected.centre + ambient_lx)
    return tuple(one for one in found if one.slip in _OF_A_DIGIT)


def asking(level: float, meant: float, basis: str) -> str:
    """A weak doubt in words."""
    tells = "tell" if _plural(basis) else "tells"
    return f"{notation.light(level)} is not ruled out, but {notation.light(meant)} lies nearer to what {basis} {tells}."


_OF_A_DIGIT = frozenset({slips.Slip.FACTOR_OF_TEN, slips.Slip.DROPPED_OR_DOUBLED_DIGIT})


def _begun(basis: str) -> str:
    """A basis within a sentence."""
    return basis[:1].lower() + basis[1:]


def fits_now(measured: Measured, others: Sequence[Measured], meter: Meter | None) -> bool:
    """Whether a reading that was in doubt fits what else has been read, by a law or a curve and not by a guess."""
    level = measured.value("illuminance")
    expected = expected_illuminance(others, measured.source_id, measured.terms)
    if not level or expected is None or not expected.firm or not expected.fits(level):
        return False
    names = ("illuminance", "cct", "duv")
    figures = {name: value for name in names if (value := measured.value(name)) is not None}
    subject = Subject(figures, measured.terms, measured.source_id, meter)
    return not second_look(subject, Context(others)).in_doubt


def _look_at_the_room(subject: Subject, context: Context, doubts: _Doubts) -> SecondLook:
    """The room alone should be darker than the lamp at this mark was."""
    lit = context.previous.value("illuminance") if context.previous is not None else None
    same_mark = context.previous is not None and context.previous.terms.distance_m == subject.terms.distance_m
    room = subject.figures.get("illuminance", 0.0)
    if lit and same_mark and room > LIT_ROOM * lit:
        doubts.add(
            "illuminance",
            f"{notation.light(room)} is much for the room alone: with the lamp it was {notation.light(lit)}.",
            Cause("lamp_still_on", "Is the lamp off?"),
        )
    if doubts.sentences:
        return SecondLook(True, tuple(doubts.sentences), causes=tuple(doubts.causes), quantity=doubts.quantity)
    level = notation.light(subject.figures.get("illuminance"))
    return SecondLook(False, (f"The room alone: {level}. It is taken off what is read at this mark with this meter.",))


def _room_light(subject: Subject, doubts: _Doubts) -> None:
    """A reading that is mostly the room's light says nothing of the lamp."""
    level = subject.figures.get("illuminance")
    if level is None or not subject.ambient_lx or subject.ambient_lx < level:
        return
    doubts.add(
        "illuminance",
        f"Of {notation.light(level + subject.ambient_lx)} the room alone gives {notation.light(subject.ambient_lx)}.",
        Cause("ambient", "Is the lamp on? Else darken the room, go nearer, or read the room again with Alt B."),
    )


def _possible(subject: Subject, doubts: _Doubts) -> None:
    """Physical limits; nobody reads a film light at 27 006 000 lx or a white of 29 K."""
    for name, value in subject.figures.items():
        quantity = QUANTITIES.get(name)
        if quantity is None or quantity.low <= value <= quantity.high:
            continue
        meant: tuple[slips.Candidate, ...] = ()
        if name == "cct" and subject.typed and subject.terms.cct_k is not None:
            meant = _white_candidates(value, subject.terms.cct_k)
        text = f"{notation.number(value, 4 if quantity.step < 0.01 else 0)} {quantity.unit}".strip()
        doubts.add(
            name,
            f"{notation.sentence(quantity.label)} {text} is not possible for a film light.",
            *_slip_causes(meant),
            candidates=meant,
        )


def _meter_range(subject: Subject, doubts: _Doubts) -> None:
    level = subject.figures.get("illuminance")
    level = None if level is None else level + subject.ambient_lx  # what fell on the meter
    if subject.saturated:
        doubts.add(
            "illuminance",
            "The meter was saturated: more light fell on it than it can read.",
            Cause("saturated", "Move the meter further off or dim the lamp, and read again."),
        )
    elif level is not None and subject.meter is not None and level < subject.meter.floor_lx:
        doubts.add(
            "illuminance",
            f"{notation.light(level)} lies below what {subject.meter.nickname} can read "
            f"({notation.light(subject.meter.floor_lx)}).",
            Cause("too_dim", "Is the lamp on? Else read nearer to it."),
        )


def _unchanged(subject: Subject, context: Context, expected: Expected | None, doubts: _Doubts) -> None:
    """The commonest slip: the lamp was not changed since the step before."""
    before = _unchanged_since(subject, context, expected)
    if before is not None and not _repeats_a_doubt(subject.figures["illuminance"], context):
        doubts.add(
            "illuminance",
            f"The same as the reading before ({notation.light(before.value('illuminance'))} at"
            f" {_change(before.terms, subject.terms)}).",
            Cause("lamp_not_changed", "Was the lamp changed?"),
        )


def _unchanged_since(subject: Subject, context: Context, expected: Expected | None) -> Measured | None:
    """The reading before, when this one is the same although the light should have changed."""
    before = context.previous
    if before is None or (before.terms == subject.terms and before.source_id == subject.source_id):
        return None
    level, level_before = subject.figures["illuminance"], before.value("illuminance")
    if not level_before or abs(np.log2(level / level_before)) > UNCHANGED_STOPS:
        return None
    white, white_before = subject.figures.get("cct"), before.value("cct")
    if white and white_before and abs(1e6 / white - 1e6 / white_before) > UNCHANGED_MIRED:
        return None
    dialled, dialled_before = subject.terms.cct_k, before.terms.cct_k
    should_change = expected is not None and not expected.fits(level_before)
    levels = subject.terms.level_pct, before.terms.level_pct
    should_change |= levels[0] != levels[1] and all(level is None or level >= FLOOR_PCT for level in levels)
    should_change |= bool(white and dialled and dialled_before) and dialled != dialled_before
    return before if should_change else None


def _change(before: Terms, now: Terms) -> str:
    """The part of the earlier terms that differs."""
    if before.level_pct != now.level_pct:
        return terms_in_words.level(before)
    if before.cct_k != now.cct_k:
        return terms_in_words.white(before)
    if before.distance_m != now.distance_m:
        return terms_in_words.placement(before)
    return terms_line(before)


def _repeats_a_doubt(level: float, context: Context) -> bool:
    """Read again and the same: then it is the lamp that does not fit, not the reading."""
    return any(
        (earlier := other.value("illuminance")) and abs(np.log2(level / earlier)) <= REPEAT_STOPS
        for other in context.read_again
    )


def _against_expected(subject: Subject, context: Context, expected: Expected, doubts: _Doubts) -> None:
    level = subject.figures["illuminance"]
    off = expected.stops_off(level)
    if expected.fits(level):
        return
    reach = 0.3 if expected.firm else expected.tolerance_stops
    room = subject.ambient_lx  # the slip was made in the figure that was read, the room's light included
    bounds = expected.centre * 2.0**-reach + room, expected.centre * 2.0**reach + room
    meant = slips.candidates(level + room, *bounds, centre=expected.centre + room) if subject.typed else ()
    direction = "high" if off > 0 else "low"
    sentence = (
        f"{expected.basis} put{'' if _plural(expected.basis) else 's'} it at"
        f" {notation.illuminance(expected.low)}–{notation.light(expected.high)}; this is {abs(off):.1f}"
        f" {'stop' if abs(off) < 1.0 else 'stops'} {direction}."
    )
    repeats = expected.tolerance_stops == REPEAT_STOPS
    causes = [*_slip_causes(meant), *_wrong_setting(subject, context)]
    if repeats:
        causes.append(Cause("disagreeing_repeats", "Did the lamp, the meter or the dimmer move between the two?"))
    elif direction == "low":
        causes.append(Cause("mis_aimed_meter", "Meter off the beam, or something in the way?"))
        causes.append(Cause("knocked_dimmer", "A knocked dimmer, or the level not back up?"))
    else:
        causes.append(Cause("knocked_dimmer", "A knocked dimmer, or another lamp lit?"))
        causes.append(Cause("nearer_than_the_mark", "Meter nearer than the mark?"))
    causes += _still_changing(context)
    doubts.add("illuminance", sentence, *causes, candidates=meant)


def _plural(basis: str) -> bool:
    if basis.startswith("the other "):
        return True
    first = basis.removeprefix("The ").split(" ", 1)[0].capitalize()
    return first in {"Two", "Three", "Four", "Five", "Both"} or first.isdigit()


def _wrong_setting(subject: Subject, context: Context) -> list[Cause]:
    """Another setting of this lamp that gave just this level."""
    level = subject.figures["illuminance"]
    for other in context.others:
        value = other.value("illuminance")
        if (
            other.source_id == subject.source_id
            and other.terms.distance_m == subject.terms.distance_m
            and other.terms != subject.terms
            and value
            and abs(np.log2(level / value)) <= UNCHANGED_STOPS
        ):
            return [
                Cause(
                    "wrong_setting", f"It is what {terms_in_words.setting(other.terms)} gave: is the lamp still there?"
                )
            ]
    return []


def _odd_earlier(subject: Subject, context: Context, expected: Expected | None, *, confirmed: bool) -> Measured | None:
    """The earlier reading that is odd, when this one and all the others fit a law without it; None when none is.

    One that was `confirmed`, read again and the same, is right beside a single other that does not fit it.
    """
    level = subject.figures["illuminance"]
    if confirmed and (before := _unchanged_since(subject, context, expected)) is not None:
        return before  # read again and still the same: then the one before was read at this setting
    outside = expected is not None and not expected.fits(level)
    same = like(context.others, subject.source_id, subject.terms)
    if confirmed and outside and len(same) == 1:
        return same[0]
    for along in ("distance_m", "level_pct"):
        found = series(context.others, subject.source_id, subject.terms, along)
        if found is None:
            continue
        stops = found.stops.copy()
        stops[-1] = np.log2(level)
        if stops.size == 2 and confirmed and outside:
            return found.groups[0][-1]
        odd = oddest(found.law, stops)
        if odd is not None and odd.place < stops.size - 1 and (confirmed or odd.lead > SURE):
            return found.groups[odd.place][-1]
    return None


def _nearest_mark(subject: Subject, context: Context) -> Expected | None:
    """What the other marks put at the nearest one, where it falls short by less than a slip would."""
    found = series(context.others, subject.source_id, subject.terms, "distance_m")
    if found is None:
        return None
    marks = [group[0].terms.distance_m or 0.0 for group in found.groups]
    stops = found.stops.copy()
    stops[-1] = np.log2(subject.figures["illuminance"])
    short = falls_short(found.law, stops, stops.size - 1)
    if short is None or (subject.terms.distance_m or 0.0) >= min(marks):
        return None
    return Expected(float(np.exp2(short.centre)), SHORT_STOPS, f"The {len(marks)} marks farther out")


def _still_changing(context: Context) -> list[Cause]:
    """A lamp that was only just lit, or a meter whose dark signal is old."""
    found = []
    if context.lit_s is not None and context.lit_s < WARM_UP_S:
        minutes = max(1, round(context.lit_s / 60.0))
        found.append(Cause("warming_up", f"First read {minutes} min ago: is the lamp warm?"))
    if context.dark_s is not None and context.dark_s > STALE_DARK_S:
        age = f"{context.dark_s / 60.0:.0f}"
        found.append(Cause("stale_dark", f"The dark signal is {age} min old: Alt D takes it anew."))
    return found


def _slip_causes(meant: Sequence[slips.Candidate]) -> list[Cause]:
    by_slip: dict[slips.Slip, list[str]] = {}
    for candidate in meant:
        by_slip.setdefault(candidate.slip, []).append(notation.plain(candidate.value))
    return [
        Cause(str(slip), f"{notation.sentence(slips.WORDS[slip])} {' or '.join(values)}.")
        for slip, values in by_slip.items()
    ]


COLOUR_REPEATS: Mapping[str, float] = {n: q.repeats for n, q in QUANTITIES.items() if q.repeats is not None}
"""How far two readings of the same colour may lie apart: mired for the white (common practice, no source)."""


def _colour_repeats(subject: Subject, context: Context, doubts: _Doubts) -> None:
    """A white, a tint or a score that was read here before, and is another now."""
    level = subject.figures.get("illuminance")
    if level is not None and subject.meter is not None and level < subject.meter.dim_lx:
        return  # its colour figures are noise there
    ignored = ("plane", "distance", "placement")
    wanted = terms.stated(subject.terms, *ignored)
    same = [m for m in context.others if m.source_id == subject.source_id and subject.source_id is not None]
    same = [m for m in same if terms.key(m, *ignored, *terms.READ) == wanted]
    for name, limit in COLOUR_REPEATS.items():
        now, before = subject.figures.get(name), [v for m in same if (v := m.value(name)) is not None]
        again = [v for m in context.read_again if (v := m.value(name)) is not None]
        if now is None or not before:
            continue
        usual = float(np.median(before))
        if _apart(name, now, usual) <= limit or any(_apart(name, now, v) <= limit / 2.0 for v in again):
            continue
        write = {"cct": notation.kelvin, "duv": notation.duv}.get(name, notation.score)
        unit = " K" if name == "cct" else ""
        meant = _white_candidates(now, usual) if name == "cct" and subject.typed else ()
        doubts.add(
            name,
            f"{notation.sentence(QUANTITIES[name].label)} {write(now)}{unit} where it was {write(usual)}{unit} before.",
            *_slip_causes(meant),
            Cause("disagreeing_repeats", "Did the lamp, the meter or the setting move between the two?"),
            candidates=meant,
        )
        return


def _apart(name: str, a: float, b: float) -> float:
    if name == "cct":
        return abs(1e6 / max(a, 1.0) - 1e6 / max(b, 1.0))
    return abs(a - b)


def _white_candidates(value: float, cct: float) -> tuple[slips.Candidate, ...]:
    mired = 1e6 / cct
    low, high = 1e6 / (mired + SAME_WHITE_MIRED), 1e6 / max(mired - SAME_WHITE_MIRED, 1.0)
    return slips.candidates(value, low, high, centre=cct, light=False)


def _white(subject: Subject, context: Context, doubts: _Doubts) -> None:
    white, wanted = subject.figures["cct"], _white_wanted(subject, context)
    if wanted is None or not white > 0.0:
        return
    target, limit, reference = wanted
    error = 1e6 / white - 1e6 / target
    if (subject.terms.mode == "fixed" and error > 0.0) or abs(error) <= limit:
        return  # a lamp of fixed white, such as tungsten, grows warmer as it is dimmed
    again = [other.value("cct") for other in context.read_again]
    if any(abs(1e6 / white - 1e6 / other) <= UNCHANGED_MIRED for other in again if other):
        return
    meant = _white_candidates(white, target) if subject.typed else ()
    direction = "warmer" if error > 0 else "cooler"
    doubts.add(
        "cct",
        f"{notation.kelvin(white)} K is {abs(error):.0f} mired {direction} than {reference}"
        f" ({notation.kelvin(target)} K).",
        *_slip_causes(meant),
        *_cannot_be_dialled(subject, context),
        Cause("wrong_setting", "Is the lamp at the white that the step asks for, and in the right mode?"),
        *_still_changing(context),
        candidates=meant,
    )


def _white_wanted(subject: Subject, context: Context) -> tuple[float, float, str] | None:
    """The white that this setting should give, in kelvin, how far off it may be in mired, and what it is called; None
    where nothing says it."""
    before = expected_cct(context.others, subject.source_id, subject.terms)
    if before is not None:
        return before, SAME_WHITE_MIRED, "what it gave so far"
    shift = named_shift(subject.terms.configuration, context.gels)
    if subject.terms.cct_k is None or shift is None:
        return None
    low, high = shift
    target = 1e6 / subject.terms.cct_k + 0.5 * (low + high)
    if target <= 0.0:
        return None  # a blue gel on a lamp that is cool already leaves no temperature
    behind = f" behind {terms_in_words.configuration(subject.terms)}" if (low, high) != (0.0, 0.0) else ""
    return 1e6 / target, WHITE_MIRED + 0.5 * (high - low), f"what was dialled{behind}"


def _cannot_be_dialled(subject: Subject, context: Context) -> list[Cause]:
    white, whites = subject.terms.cct_k, context.whites_k
    if white is None or whites is None or whites[0] <= white <= whites[1]:
        return []
    low, high = (notation.dialled(k) for k in whites)
    return [
        Cause(
            "cannot_be_dialled",
            f"This lamp is claimed to go from {low} to {high} K: can {notation.dialled(white)} K be dialled?",
        )
    ]


def _off_words(off: float) -> str:
    """How far a level lies from what was likeliest."""
    return f"{abs(off):.2f} {notation.stop_word(abs(off))} {'above' if off > 0.0 else 'below'}"


def _calm(subject: Subject, context: Context, expected: Expected | None, off: float | None) -> list[str]:
    sentences = []
    level = subject.figures.get("illuminance")
    if level and _repeats_a_doubt(level, context):
        sentences.append("Read again and the same: it is the lamp that does this, not the reading.")
    elif expected is not None and off is not None:
        if expected.tolerance_stops == REPEAT_STOPS:
            sentences.append(f"Repeats agree within {abs(2.0**off - 1.0) * 100.0:.1f} %.")
        else:
            bound = expected.above if off > 0.0 else expected.tolerance_stops
            sentences.append(f"{expected.basis}: {_off_words(off)}, within {bound:.1f}.")
    elif level is not None:
        sentences.append("Nothing to compare it with yet.")
    if level is not None and subject.meter is not None and level < subject.meter.dim_lx:
        sentences.append(f"Below {notation.light(subject.meter.dim_lx)} colour figures of this meter are mostly noise.")
        if context.dark_s is not None and context.dark_s > STALE_DARK_S:
            sentences += [cause.text for cause in _still_changing(context) if cause.kind == "stale_dark"]
    if level is not None and subject.ambient_lx:
        share = subject.ambient_lx / (level + subject.ambient_lx)
        sentences.append(
            f"The room's {notation.light(subject.ambient_lx)} ({notation.percent(100.0 * share)} %) are taken off."
        )
        if share > NOTABLE_AMBIENT:
            sentences.append("That is much: keep the room's light steady.")
    sentences += [cause.text for cause in _cannot_be_dialled(subject, context)]
    return sentences
