"""What a subject gives back, or a gel lets through, at each wavelength."""

from even_beam.figures.chart import Axis, Chart, Line
from even_beam.light import WAVELENGTH_NM, FloatArray

_X = Axis("wavelength, nm", 380.0, 780.0, tuple((float(nm), str(nm)) for nm in range(400, 800, 50)))


def share_chart(share: FloatArray, title: str, what: str) -> Chart:
    """A share of light on the working grid, shape (401,), in per cent; `what` says of what."""
    top = max(100.0, 105.0 * float(share.max()))
    at = float(WAVELENGTH_NM[int(share.argmax())])
    y = Axis(f"{what}, %", 0.0, top, tuple((float(p), str(p)) for p in range(0, int(top) + 1, 25)))
    summary = f"{title}: {100.0 * float(share.max()):.0f} % at most, at {at:.0f} nm."
    return Chart(title, _X, y, (Line(WAVELENGTH_NM.tolist(), (100.0 * share).tolist()),), summary)
