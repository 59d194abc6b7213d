"""The records of a logbook: what was owned, asked, set, read and decided.

All are frozen; identity is a UUID in text. Times are aware datetimes in UTC and are handed in by the caller.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from enum import StrEnum
from uuid import uuid4

import numpy as np
from numpy.typing import NDArray

from even_beam.words.quantities import USUALLY_ASKED


def new_id() -> str:
    """A fresh record identity: two people's logbooks can be merged without clashes."""
    return str(uuid4())


class Origin(StrEnum):
    """Who gave a figure. Figures of different origin are never mixed silently."""

    TYPED = "typed"
    DEVICE = "device"
    COMPUTED = "computed"


# --- Kit


@dataclass(frozen=True, slots=True)
class Model:
    """A make of lamp; every unit of it is a `Source` of its own."""

    id: str
    name: str
    kind: str = ""
    notes: str = ""


FIXTURE = "fixture"
FLASH = "flash"
SOURCE_KINDS = (FIXTURE, "sun", "sky", "window", "room light", FLASH, "display white")
"""What can be read: only a fixture has something to dial."""


@dataclass(frozen=True, slots=True)
class Source:
    """Anything that is read: one physical lamp, or sun, sky, a window, a room's light, a display.

    `return_by` is the day until which it can go back (ISO 8601), empty for what stays.
    """

    id: str
    nickname: str
    model_id: str | None = None
    kind: str = FIXTURE
    serial: str = ""
    supplied_by: str = ""
    simulated: str = ""
    notes: str = ""
    retired: bool = False
    return_by: str = ""

    @property
    def is_fixture(self) -> bool:
        """Whether it is a lamp with settings; sun, window, flash and display are read as they are found."""
        return self.kind == FIXTURE


@dataclass(frozen=True, slots=True)
class Claim:
    """What maker or seller states about a model: a value or a range, and the condition it is stated for."""

    id: str
    model_id: str
    quantity: str
    low: float | None
    high: float | None
    unit: str
    text: str
    condition: str = ""


@dataclass(frozen=True, slots=True)
class Cost:
    """One line of what a model costs, accessories included: from `amount` to `high` where that is a range, for `units`
    of them together; what is `optional` is not needed. `said` tells when and where."""

    id: str
    model_id: str
    what: str
    amount: float
    currency: str
    high: float | None = None
    units: int = 1
    optional: bool = False
    said: str = ""

    @property
    def dearest(self) -> float:
        """What one of them costs, where it costs most."""
        return (self.high if self.high is not None else self.amount) / self.units


@dataclass(frozen=True, slots=True)
class Gear:
    """One row of what a model is to work with: `name` is weight, mount, control, in the box or a name of one's own."""

    id: str
    model_id: str
    name: str
    text: str


@dataclass(frozen=True, slots=True)
class Subject:
    """Something that light falls on: the share of light that it gives back at each wavelength in nm, rising.

    Shares are 0 to 1, above it where it fluoresces.
    """

    id: str
    nickname: str
    wavelength_nm: tuple[float, ...]
    reflectance: tuple[float, ...]
    notes: str = ""


GEL = "gel"
"""The kind of a modifier that is a gel; it is named by what it does, as half CTB."""


@dataclass(frozen=True, slots=True)
class Modifier:
    """Something that sits on a lamp: reflector, softbox, lens, gel, doors."""

    id: str
    nickname: str
    kind: str = ""
    notes: str = ""


@dataclass(frozen=True, slots=True)
class Meter:
    """An instrument and what its specification promises.

    `level_tolerance` is relative and common to all readings (it cancels between two of the same meter);
    `ratio_tolerance` is what remains then. `constant` is C of the exposure equation, 250 flat or 340 dome.
    `floor_lx` and `ceiling_lx` bound the levels it can read; `dim_lx` is where its colour figures become noise.
    `absolute` is False for a meter that is good for ratios only; `zeroed_on` names the lamp it was zeroed on, if any.
    """

    id: str
    nickname: str
    kind: str = "spectrometer"
    receptor: str = "flat"
    constant: float = 250.0
    absolute: bool = True
    level_tolerance: float = 0.05
    ratio_tolerance: float = 0.015
    xy_tolerance: float = 0.003
    floor_lx: float = 1.0
    dim_lx: float = 10.0
    ceiling_lx: float = 200_000.0
    zeroed_on: str = ""
    cc_sign: str = "unknown"
    quantities: tuple[str, ...] = USUALLY_ASKED
    simulated: str = ""
    notes: str = ""

    @property
    def is_spectrometer(self) -> bool:
        """Whether a key reads it; any other meter is read by eye and typed."""
        return self.kind == "spectrometer"

    @property
    def is_assumed(self) -> bool:
        """Whether nothing was stated of what it promises: a handheld meter's usual tolerances are taken."""
        usual = Meter("", "")
        promised = ((m.level_tolerance, m.ratio_tolerance, m.xy_tolerance) for m in (self, usual))
        return len({*promised}) == 1 and not self.simulated

    @property
    def for_ratios_only(self) -> bool:
        """Whether its figures may be compared with each other but never published as they are."""
        return not self.absolute or bool(self.zeroed_on)


@dataclass(frozen=True, slots=True)
class Calibration:
    """A calibration, a dark calibration or a zeroing of a meter."""

    id: str
    meter_id: str
    at: datetime
    kind: str
    note: str = ""


@dataclass(frozen=True, slots=True)
class ToleranceSet:
    """The limits by which a verdict for one purpose is given: limit name to number."""

    id: str
    name: str
    purpose: str
    limits: Mapping[str, float]


@dataclass(frozen=True, slots=True)
class FileMapping:
    """How files of one shape are read, as the user settled it."""

    id: str
    shape: str
    content: Mapping[str, object]


# --- Terms

OFF = "off"
"""The mode of a reading of the room alone."""

SHADED = "shaded"
"""The placement of a meter that stands where it stood, with a flag between it and the lamp."""


@dataclass(frozen=True, slots=True)
class Terms:
    """All that must be equal for two figures to be compared, but for conditions and meter, which stand beside it.

    Setting: `mode`, `cct_k`, `tint`, `level_pct`, `hue_deg`, `saturation_pct`, `zoom`. Configuration: what sits on
    the lamp, in order; none is bare. Placement: `distance_m` from the reference plane (None: unknown, or equal but
    not measured, as `placement` says), `angle_deg` off the beam axis,
    in the plane through it that is turned from the level one by `turn_deg` (`bench.off_axis`).
    """

    mode: str = "CCT"
    cct_k: float | None = None
    tint: str = ""
    level_pct: float | None = None
    hue_deg: float | None = None
    saturation_pct: float | None = None
    zoom: str = ""
    configuration: tuple[str, ...] = ()
    distance_m: float | None = None
    placement: str = "on axis"
    angle_deg: float = 0.0
    reference_plane: str = ""
    turn_deg: float = 0.0


# --- Sessions


@dataclass(frozen=True, slots=True)
class Session:
    """One question at the bench, with its decision at the end."""

    id: str
    name: str
    created_at: datetime
    zone: str = "UTC"
    question: str = ""
    decision: str = ""
    disclosure: str = ""


@dataclass(frozen=True, slots=True)
class ReportLayout:
    """How a kind of report of a session is arranged: keys of sections in order, those left out, own sentences."""

    id: str
    session_id: str
    kind: str
    section_order: tuple[str, ...] = ()
    left_out: tuple[str, ...] = ()
    own: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Conditions:
    """A timed row of what the room was like."""

    id: str
    session_id: str
    at: datetime
    room: str = ""
    ambient_lx: float | None = None
    temperature_c: float | None = None
    mains_v: float | None = None
    note: str = ""


@dataclass(frozen=True, slots=True)
class Step:
    """Sources lit at given terms, with what is read, by which meter, how often.

    `spread_stops` is how far the repeats may lie apart before one more is asked for (None: no limit); `wait_s` is
    how long the lamp rests or warms at these terms before it is read.
    """

    id: str
    session_id: str
    position: float
    source_ids: tuple[str, ...]
    terms: Terms
    quantities: tuple[str, ...] = ("illuminance",)
    meter_id: str | None = None
    repeats: int = 1
    inserted: bool = False
    spread_stops: float | None = None
    wait_s: float = 0.0


@dataclass(frozen=True, slots=True)
class Value:
    """One figure of a reading: its value in the stored unit, or a bound or range, with the text as given."""

    quantity: str
    value: float | None
    origin: Origin
    low: float | None = None
    high: float | None = None
    text: str = ""
    unit: str = ""
    qualifier: str = ""


@dataclass(frozen=True, slots=True)
class Reading:
    """One act of measuring, at the terms that were asked of the lamp.

    `since_change_s` is the time since the lamp or its terms last changed (None: not known); `meter_mode` and
    `meter_range` are the meter's own at that moment.
    """

    id: str
    session_id: str
    at: datetime
    sequence: int
    terms: Terms
    source_ids: tuple[str, ...] = ()
    step_id: str | None = None
    meter_id: str | None = None
    note: str = ""
    values: tuple[Value, ...] = ()
    since_change_s: float | None = None
    meter_mode: str = ""
    meter_range: str = ""

    def with_values(self, values: tuple[Value, ...]) -> "Reading":
        """The reading with its figures. Written out: a lamp of many years has thousands, and `replace` takes
        twice as long."""
        return Reading(
            id=self.id,
            session_id=self.session_id,
            at=self.at,
            sequence=self.sequence,
            terms=self.terms,
            source_ids=self.source_ids,
            step_id=self.step_id,
            meter_id=self.meter_id,
            note=self.note,
            values=values,
            since_change_s=self.since_change_s,
            meter_mode=self.meter_mode,
            meter_range=self.meter_range,
        )


@dataclass(frozen=True, eq=False, slots=True)
class Spectrum:
    """Spectral irradiance as the instrument gave it, on its own grid; compared by identity."""

    wavelength_nm: NDArray[np.float64]
    values: NDArray[np.float64]
    absolute: bool = True


class EventKind(StrEnum):
    """What can happen at the bench after a step was planned."""

    TAKEN = "taken"
    SUPERSEDED = "superseded"
    TAKEN_BACK = "taken back"
    SET_ASIDE = "set aside"
    IN_DOUBT = "in doubt"
    KEPT_IN_DOUBT = "kept in doubt"
    ENTRY_WITHDRAWN = "entry withdrawn"
    DOUBT_CLEARED = "doubt cleared"
    TERMS_CORRECTED = "terms corrected"
    LAMP_SHOWS = "lamp shows"
    SOURCE_NAMED = "source named"
    SUSPECT_FROM = "suspect from here"
    AGREES_AGAIN = "agrees again"
    REPEAT_ASKED = "repeat asked"
    STEP_INSERTED = "step inserted"
    STEP_SKIPPED = "step skipped"
    JUMPED = "jumped"
    METER_CHANGED = "meter changed"
    DARK_CALIBRATED = "dark calibrated"
    NOTE = "note"
    OBSERVED = "observed"
    PHOTO_ADDED = "photo added"
    TARGET_SET = "target set"
    EXPOSURE_STATED = "exposure stated"
    LOOK_KEPT = "look kept"
    ROOM_NOTED = "room noted"
    CALIBRATED = "calibrated"
    DESCRIBED = "described"
    UNDONE = "undone"


@dataclass(frozen=True, slots=True)
class Event:
    """Something that happened; nothing is ever changed or deleted, an undo names the event it undoes."""

    id: str
    session_id: str
    sequence: int
    at: datetime
    kind: EventKind
    reading_id: str | None = None
    step_id: str | None = None
    field: str = ""
    old: str = ""
    new: str = ""
    reason: str = ""
    undoes: str | None = None


# --- Figures computed from a spectrum


@dataclass(frozen=True, slots=True)
class Computed:
    """What `light.evaluate` made of a reading's spectrum: scalars by quantity name, and vectors such as R1-R15."""

    reading_id: str
    method_version: int
    scalars: Mapping[str, float] = field(default_factory=dict)
    vectors: Mapping[str, tuple[float, ...]] = field(default_factory=dict)


def corrected(terms: Terms, name: str, value: object) -> Terms:
    """`terms` with the field `name` replaced. Raises `TypeError` for a field that terms do not have."""
    return replace(terms, **{name: value})  # type: ignore[arg-type]
