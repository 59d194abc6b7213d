"""The quantities that a reading may hold, each known once: what it is called, in which units it is said, where it can
lie, which letters and headings ask for it, and where it is shown. Whoever lists quantities asks here.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import Enum, Flag, auto

from even_beam.light.photometry import LUX_PER_FOOTCANDLE


class Kind(Enum):
    """What a quantity is one of."""

    LEVEL = auto()
    WHITE = auto()
    TINT = auto()
    COLOUR = auto()
    SCORE = auto()
    SAMPLE = auto()
    EXPOSURE = auto()
    BEAM = auto()
    ELECTRICAL = auto()
    AROUND = auto()
    FLICKER = auto()
    TRACE = auto()
    CHART = auto()


class Use(Flag):
    """What a quantity is for beside being kept."""

    NONE = 0
    COMPARED = auto()
    """Set beside other lamps', on Compare."""
    FOUND = auto()
    """Answered on a lamp's page."""
    TABLED = auto()
    """A column of the tables that are handed over, and of a lamp's summary."""
    CLAIMED = auto()
    """Makers and sellers claim it."""
    LIMITED = auto()
    """A purpose may ask for at least so much of it."""
    EVERY = COMPARED | FOUND | TABLED | CLAIMED | LIMITED


@dataclass(frozen=True, slots=True)
class Quantity:
    """One measurable quantity.

    `unit` is what is stored; `step` is the smallest digit worth showing; `low` and `high` bound what is physically
    possible for a film light: a figure outside is a slip of the hand, not a measurement. `units` are the words that
    stand behind its figures, each with the factor to the stored unit; `names` stand before or behind them, `headings`
    over columns; `letter` answers that a bare number is one.

    Of scores, `half_typed` is what one leaves open that was typed without its spectrum, for a handheld spectrometer
    (the larger ends of what the spectra of usual lamps give, `light.uncertainty.score_half_widths`); two readings of
    one light lie within `repeats` (common practice, no source); `weight` is how soon it is told of a lamp.
    """

    name: str
    label: str
    unit: str
    step: float
    low: float
    high: float
    kind: Kind
    logarithmic: bool = False
    units: Mapping[str, float] = field(default_factory=dict)
    names: tuple[str, ...] = ()
    headings: tuple[str, ...] = ()
    letter: str = ""
    half_typed: float = 3.0
    repeats: float | None = None
    weight: int = 0
    use: Use = Use.NONE
    meaning: str = ""

    @property
    def plain_label(self) -> str:
        """Its label, with what it is of where that is not the name itself: R13 (skin)."""
        return f"{self.label} ({self.meaning})" if self.meaning else self.label


def _score(
    name: str,
    label: str,
    low: float,
    high: float = 100.0,
    *,
    use: Use = Use.EVERY,
    letter: str = "",
    half_typed: float = 3.0,
    repeats: float | None = None,
    weight: int = 0,
    step: float = 0.1,
    headings: tuple[str, ...] = (),
    meaning: str = "",
) -> Quantity:
    """A score of colour rendering: of no unit, said by its name."""
    return Quantity(
        name, label, "", step, low, high, Kind.SCORE, units={name: 1.0}, names=(name,), headings=headings,
        letter=letter, half_typed=half_typed, repeats=repeats, weight=weight, use=use, meaning=meaning,
    )  # fmt: skip


_SKIN = Use.COMPARED | Use.CLAIMED | Use.LIMITED
_SAMPLES = tuple(
    Quantity(f"r{i}", f"R{i}", "", 0.1, -500.0, 100.0, Kind.SAMPLE, units={f"r{i}": 1.0}, names=(f"r{i}",))
    for i in range(1, 16)
    if i not in {9, 13, 15}
)

_ALL = (
    Quantity(
        "illuminance", "illuminance", "lx", 1.0, 0.0, 1e6, Kind.LEVEL, logarithmic=True, letter="l",
        units={
            "lx": 1.0, "lux": 1.0, "l": 1.0, "klx": 1000.0, "fc": LUX_PER_FOOTCANDLE, "footcandle": LUX_PER_FOOTCANDLE,
            "footcandles": LUX_PER_FOOTCANDLE,
        },
        headings=("lux", "lx", "fc", "footcandles", "foot candles", "output", "e"), use=Use.CLAIMED,
    ),
    Quantity(
        "luminance", "luminance", "cd/m²", 1.0, 0.0, 1e8, Kind.LEVEL, logarithmic=True,
        units={"cd/m2": 1.0, "nit": 1.0, "nits": 1.0},
    ),
    Quantity(
        "cct", "colour temperature", "K", 1.0, 1000.0, 50_000.0, Kind.WHITE, units={"k": 1.0, "kelvin": 1.0},
        names=("cct",), letter="k", repeats=4.0, use=Use.CLAIMED,
        headings=(
            "cct read", "cct measured", "measured cct", "kelvin", "colour temperature", "color temperature", "k",
            "temp",
        ),
    ),
    Quantity(
        "duv", "tint (Duv)", "", 0.0001, -0.15, 0.15, Kind.TINT, units={"duv": 1.0}, names=("duv",), letter="d",
        repeats=0.0015, headings=("d uv", "delta uv", "tint duv"),
    ),
    Quantity("cc", "tint (CC)", "CC", 0.5, -100.0, 100.0, Kind.TINT, units={"cc": 1.0}, names=("cc",)),
    Quantity("x", "x", "", 0.0001, 0.0, 0.8, Kind.COLOUR),
    Quantity("y", "y", "", 0.0001, 0.0, 0.9, Kind.COLOUR),
    _score("ra", "Ra", -300.0, letter="r", half_typed=2.0, repeats=1.0, weight=40, headings=("cri ra",)),
    _score("re", "mean of R1–R15", -300.0, use=Use.NONE, headings=("cri re",)),
    *_SAMPLES[:8],
    _score("r9", "R9", -500.0, half_typed=7.0, weight=35),
    *_SAMPLES[8:11],
    _score("r13", "R13", -500.0, half_typed=2.7, use=_SKIN, meaning="skin"),
    *_SAMPLES[11:],
    _score("r15", "R15", -500.0, half_typed=2.7, use=_SKIN, meaning="skin"),
    _score("rf", "Rf", 0.0, letter="f", half_typed=1.5, repeats=1.0, weight=36),
    _score("rg", "Rg", 0.0, 200.0, half_typed=1.0, use=Use.COMPARED | Use.FOUND | Use.CLAIMED),
    _score("ssi", "SSI", 0.0, letter="s", half_typed=1.9, repeats=1.5, weight=34, step=1.0),
    _score("tlci", "TLCI", 0.0, letter="t", half_typed=2.7, repeats=1.5, weight=37),
    _score("tlmf", "TLMF", 0.0, half_typed=2.7, use=Use.COMPARED | Use.FOUND | Use.TABLED | Use.CLAIMED),
    Quantity(
        "f_stop", "exposure", "f/", 0.1, 0.5, 128.0, Kind.EXPOSURE,
        headings=("f stop", "fstop", "f number", "stop", "aperture"),
    ),
    Quantity("ev", "exposure value", "EV", 0.1, -10.0, 30.0, Kind.EXPOSURE, units={"ev": 1.0}, names=("ev",)),
    Quantity("hue", "hue", "°", 1.0, 0.0, 360.0, Kind.COLOUR),
    Quantity("saturation", "saturation", "%", 1.0, 0.0, 100.0, Kind.COLOUR),
    Quantity("beam_deg", "beam angle", "°", 1.0, 0.0, 360.0, Kind.BEAM, use=Use.CLAIMED),
    Quantity(
        "power_w", "power", "W", 1.0, 0.0, 1e5, Kind.ELECTRICAL, logarithmic=True,
        units={"w": 1.0, "watt": 1.0, "watts": 1.0}, headings=("watts", "w", "power", "draw"), use=Use.CLAIMED,
    ),
    Quantity(
        "power_va", "apparent power", "VA", 1.0, 0.0, 1e5, Kind.ELECTRICAL, logarithmic=True, units={"va": 1.0},
        headings=("va", "apparent power"),
    ),
    Quantity(
        "current_a", "current", "A", 0.01, 0.0, 400.0, Kind.ELECTRICAL, logarithmic=True, units={"a": 1.0},
        headings=("amps", "a", "current"),
    ),
    Quantity(
        "voltage_v", "voltage", "V", 0.1, 0.0, 1000.0, Kind.ELECTRICAL, units={"v": 1.0},
        headings=("volts", "v", "voltage"),
    ),
    Quantity("power_factor", "power factor", "", 0.01, 0.0, 1.0, Kind.ELECTRICAL, headings=("pf",)),
    Quantity(
        "sound_db", "sound level", "dB", 0.1, 0.0, 140.0, Kind.AROUND, units={"db": 1.0},
        headings=("db", "dba", "noise", "sound"),
    ),
    Quantity(
        "temperature_c", "temperature", "°C", 0.1, -60.0, 1500.0, Kind.AROUND, units={"c": 1.0, "°c": 1.0},
        headings=("temperature", "deg c", "c"),
    ),
    Quantity(
        "flicker_hz", "flicker frequency", "Hz", 1.0, 0.0, 1e7, Kind.FLICKER, units={"hz": 1.0, "khz": 1000.0},
        headings=("flicker", "hz"),
    ),
    Quantity("percent_flicker", "per cent flicker", "%", 0.1, 0.0, 100.0, Kind.FLICKER),
    Quantity("flicker_index", "flicker index", "", 0.001, 0.0, 1.0, Kind.FLICKER),
    Quantity("svm", "stroboscopic visibility (SVM)", "", 0.01, 0.0, 100.0, Kind.FLICKER),
    Quantity("pst_lm", "slow flicker (PstLM)", "", 0.01, 0.0, 1000.0, Kind.FLICKER),
    Quantity("light", "light, relative", "", 0.001, -1e12, 1e12, Kind.TRACE),
    Quantity("fade_s", "fade time", "s", 0.01, 0.0, 1e5, Kind.TRACE),
    Quantity("chart_as_shot", "chart as shot (CIEDE2000)", "", 0.1, 0.0, 200.0, Kind.CHART),
    Quantity("chart_balanced", "chart balanced (CIEDE2000)", "", 0.1, 0.0, 200.0, Kind.CHART),
    Quantity("chart_skin", "skin balanced (CIEDE2000)", "", 0.1, 0.0, 200.0, Kind.CHART),
)  # fmt: skip

QUANTITIES: dict[str, Quantity] = {quantity.name: quantity for quantity in _ALL}

USUALLY_ASKED = ("illuminance", "cct", "duv", "ra")
"""What a reading answers where no plan and no meter says otherwise."""


def score_names(use: Use = Use.NONE) -> tuple[str, ...]:
    """The names of the scores, all or those of a use, in their order: means before samples, SSI and TLCI last."""
    return tuple(name for name, one in QUANTITIES.items() if one.kind is Kind.SCORE and use in one.use)


def of_use(use: Use) -> tuple[str, ...]:
    """The names of all quantities of a use, in their order."""
    return tuple(name for name, one in QUANTITIES.items() if use in one.use)


def of_kinds(*kinds: Kind) -> frozenset[str]:
    """The names of all quantities of some kinds."""
    return frozenset(name for name, one in QUANTITIES.items() if one.kind in kinds)


def unit_of(name: str) -> str:
    """The stored unit of a quantity; none of what is not known."""
    return QUANTITIES[name].unit if name in QUANTITIES else ""
