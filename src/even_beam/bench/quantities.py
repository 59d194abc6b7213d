"""The quantities that a reading may hold: their names, units and physical limits, in one table."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Quantity:
    """One measurable quantity.

    `unit` is what is stored; `step` is the smallest digit worth showing; `low` and `high` bound what is physically
    possible for a film light: a figure outside is a slip of the hand, not a measurement.
    """

    name: str
    label: str
    unit: str
    step: float
    low: float
    high: float
    logarithmic: bool = False


_ALL = (
    Quantity("illuminance", "illuminance", "lx", 1.0, 0.0, 1e6, logarithmic=True),
    Quantity("luminance", "luminance", "cd/m²", 1.0, 0.0, 1e8, logarithmic=True),
    Quantity("cct", "colour temperature", "K", 1.0, 1000.0, 50_000.0),
    Quantity("duv", "tint (Duv)", "", 0.0001, -0.15, 0.15),
    Quantity("cc", "tint (CC)", "CC", 0.5, -100.0, 100.0),
    Quantity("x", "x", "", 0.0001, 0.0, 0.8),
    Quantity("y", "y", "", 0.0001, 0.0, 0.9),
    Quantity("ra", "Ra", "", 0.1, -300.0, 100.0),
    Quantity("re", "mean of R1–R15", "", 0.1, -300.0, 100.0),
    *(Quantity(f"r{i}", f"R{i}", "", 0.1, -500.0, 100.0) for i in range(1, 16)),
    Quantity("rf", "Rf", "", 0.1, 0.0, 100.0),
    Quantity("rg", "Rg", "", 0.1, 0.0, 200.0),
    Quantity("ssi", "SSI", "", 1.0, 0.0, 100.0),
    Quantity("tlci", "TLCI", "", 0.1, 0.0, 100.0),
    Quantity("tlmf", "TLMF", "", 0.1, 0.0, 100.0),
    Quantity("f_stop", "exposure", "f/", 0.1, 0.5, 128.0),
    Quantity("ev", "exposure value", "EV", 0.1, -10.0, 30.0),
    Quantity("hue", "hue", "°", 1.0, 0.0, 360.0),
    Quantity("saturation", "saturation", "%", 1.0, 0.0, 100.0),
    Quantity("beam_deg", "beam angle", "°", 1.0, 0.0, 360.0),
    Quantity("power_w", "power", "W", 1.0, 0.0, 1e5, logarithmic=True),
    Quantity("power_va", "apparent power", "VA", 1.0, 0.0, 1e5, logarithmic=True),
    Quantity("current_a", "current", "A", 0.01, 0.0, 400.0, logarithmic=True),
    Quantity("voltage_v", "voltage", "V", 0.1, 0.0, 1000.0),
    Quantity("power_factor", "power factor", "", 0.01, 0.0, 1.0),
    Quantity("sound_db", "sound level", "dB", 0.1, 0.0, 140.0),
    Quantity("temperature_c", "temperature", "°C", 0.1, -60.0, 1500.0),
    Quantity("flicker_hz", "flicker frequency", "Hz", 1.0, 0.0, 1e7),
    Quantity("percent_flicker", "per cent flicker", "%", 0.1, 0.0, 100.0),
    Quantity("flicker_index", "flicker index", "", 0.001, 0.0, 1.0),
    Quantity("svm", "stroboscopic visibility (SVM)", "", 0.01, 0.0, 100.0),
    Quantity("pst_lm", "slow flicker (PstLM)", "", 0.01, 0.0, 1000.0),
    Quantity("light", "light, relative", "", 0.001, -1e12, 1e12),
    Quantity("fade_s", "fade time", "s", 0.01, 0.0, 1e5),
    Quantity("chart_as_shot", "chart as shot (CIEDE2000)", "", 0.1, 0.0, 200.0),
    Quantity("chart_balanced", "chart balanced (CIEDE2000)", "", 0.1, 0.0, 200.0),
    Quantity("chart_skin", "skin balanced (CIEDE2000)", "", 0.1, 0.0, 200.0),
)

QUANTITIES: dict[str, Quantity] = {quantity.name: quantity for quantity in _ALL}
