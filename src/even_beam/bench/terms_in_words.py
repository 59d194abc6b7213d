"""How the terms of a reading are written: its white, level, optics and place, each in the fewest words."""

from even_beam.bench import off_axis
from even_beam.bench.records import OFF, SHADED, Terms
from even_beam.words import notation

PLAIN_MODES = frozenset({"CCT", "fixed", ""})
"""Ways of a lamp that go without saying: a white says that it is dialled, and nothing that it cannot be."""


def white(terms: Terms) -> str:
    """The white or colour that was dialled, in the fewest words."""
    if terms.mode == OFF:
        return "lamp off"
    if not is_white_stated(terms):
        return "no white dialled"
    if terms.cct_k is not None:
        tint = terms.tint.strip().replace("-", notation.MINUS)
        untouched = tint in {"", "0", "+0", f"{notation.MINUS}0"}
        return f"{notation.dialled(terms.cct_k)} K{'' if untouched else f' tint {tint}'}"
    if terms.hue_deg is not None:
        return f"hue {notation.plain(terms.hue_deg)}°"
    return terms.mode


def is_white_stated(terms: Terms) -> bool:
    """Whether a white, a colour or a way of the lamp's own was stated: not of a lamp without a dial, nor of one that
    was read as it was found."""
    return terms.cct_k is not None or terms.hue_deg is not None or terms.mode not in PLAIN_MODES


def stated_white(terms: Terms) -> str:
    """The white that was dialled; empty where none was."""
    return white(terms) if is_white_stated(terms) else ""


def setting(terms: Terms) -> str:
    """White and level as far as they were stated: 5600 K, 50 %."""
    said = stated_white(terms), level(terms) if terms.level_pct is not None else ""
    return ", ".join(filter(None, said)) or "another setting"


def level(terms: Terms) -> str:
    """The dimmer setting."""
    return "level not stated" if terms.level_pct is None else f"{notation.percent(terms.level_pct)} %"


def configuration(terms: Terms) -> str:
    """What sits on the lamp; bare when nothing does."""
    return " + ".join(terms.configuration) if terms.configuration else "bare"


def zoom(terms: Terms) -> str:
    """The zoom by its name; a number alone says what it is the number of."""
    return f"zoom {terms.zoom}" if terms.zoom[:1].isdigit() else terms.zoom


def placement(terms: Terms, unit: str | None = None) -> str:
    """Where the meter stood."""
    if terms.distance_m is None:
        return "equal distance, not measured" if terms.placement == "equal" else "distance unknown"
    return notation.distance(terms.distance_m, unit)


def axis(terms: Terms) -> str:
    """On the beam axis, how far off it, or shaded from the lamp."""
    if terms.placement == SHADED:
        return "meter shaded"
    if terms.angle_deg == 0:
        return "on axis"
    return f"{notation.plain(terms.angle_deg)}° off axis {off_axis.plane_words(terms.turn_deg)}".rstrip()
