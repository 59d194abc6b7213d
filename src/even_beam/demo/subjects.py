"""What the garden's film unit films: petals, leaves and paper by their reflectance. Invented, in the shapes that such
things usually have."""

import numpy as np

from even_beam.bench.records import Subject, new_id
from even_beam.light import FloatArray

_NM = np.arange(380.0, 781.0, 10.0)


def _step(at_nm: float, width_nm: float) -> FloatArray:
    return 1.0 / (1.0 + np.exp(-(_NM - at_nm) / width_nm))


def _hill(at_nm: float, width_nm: float) -> FloatArray:
    return np.exp(-0.5 * ((_NM - at_nm) / width_nm) ** 2)


def subjects() -> list[Subject]:
    """Five of them, with where each was measured."""
    shapes = {
        "bluebell petal": (0.08 + 0.34 * _hill(455.0, 42.0) + 0.45 * _step(700.0, 14.0), "herbarium, fresh"),
        "poppy petal": (0.04 + 0.62 * _step(602.0, 9.0), "herbarium, fresh"),
        "marigold petal": (0.05 + 0.68 * _step(522.0, 14.0), "herbarium, fresh"),
        "beech leaf": (0.05 + 0.13 * _hill(552.0, 26.0) + 0.48 * _step(708.0, 10.0), "north slope"),
        "pressing paper": (0.62 + 0.2 * _step(430.0, 30.0), "the sheets that specimens lie on"),
    }
    wavelength = tuple(map(float, _NM))
    return [
        Subject(new_id(), name, wavelength, tuple(round(float(v), 4) for v in shares), note)
        for name, (shares, note) in shapes.items()
    ]
