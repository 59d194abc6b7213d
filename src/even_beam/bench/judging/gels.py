"""What gels do to a white by their names: a lamp behind half CTO is not off its dial."""

from collections.abc import Collection

from even_beam.bench.fields import plain
from even_beam.light.filters import correction_named, nominal_mired

_COLOURED = frozenset({"gel", "gels", "filter", "cto", "ctb"})
"""Words of a name that say it colours light, without saying how much."""


def is_gel(name: str, gels: Collection[str] = ()) -> bool:
    """Whether what sits on a lamp colours its light, by its name; `gels` are the nicknames known to be gels."""
    known = {plain(gel) for gel in gels}
    return correction_named(name) is not None or plain(name) in known or bool(_COLOURED & set(plain(name).split()))


def named_shift(configuration: Collection[str], gels: Collection[str] = ()) -> tuple[float, float] | None:
    """The least and the most by which what sits on a lamp moves its white by the names, in mired, warmer positive;
    (0, 0) without gels.

    None where a gel is among it whose name does not say its shift; `gels` are the nicknames of those that are known to
    be gels.
    """
    low = high = 0.0
    for name in configuration:
        correction = correction_named(name)
        if correction is not None:
            least, most = nominal_mired(correction)
            low, high = low + least, high + most
        elif is_gel(name, gels):
            return None
    return low, high
