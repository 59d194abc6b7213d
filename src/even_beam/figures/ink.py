"""What a chart is drawn with away from the screen: paper in a report, dark, light or transparent in a film."""

from collections.abc import Mapping
from dataclasses import dataclass

from even_beam.figures.chart import Tone


@dataclass(frozen=True, slots=True)
class Ink:
    """Colours (hex), and the size of type in points; marks and lines grow with it. `ground` is None on nothing."""

    ground: str | None
    text: str
    axis: str
    rule: str
    band: str
    stem: str
    tones: Mapping[Tone, str]
    series: tuple[str, ...]
    size_pt: float = 7.0

    def colour(self, series: int | None, tone: Tone) -> str:
        """The colour of a lamp's marks, or of a tone where it is no lamp's."""
        return self.tones[tone] if series is None else self.series[series % len(self.series)]

    @property
    def scale(self) -> float:
        """How much larger than on a printed page all is drawn."""
        return self.size_pt / PAPER_PT


PAPER_PT = 7.0

_LIGHT_TONES = {
    Tone.PLAIN: "#1a1a1a",
    Tone.QUIET: "#6a6a6a",
    Tone.ACCENT: "#9a5b00",
    Tone.GREEN: "#2f7d4b",
    Tone.MAGENTA: "#9b3fae",
}
_LIGHT_SERIES = ("#0072b2", "#8a6a00", "#7a5bb5", "#333333", "#b85000", "#00805f", "#8a4a20", "#4f6f84")

PAPER = Ink(None, "#444444", "#8a8a8a", "#cccccc", "#eeeeee", "#767676", _LIGHT_TONES, _LIGHT_SERIES)
LIGHT = Ink("#ffffff", "#1a1a1a", "#6a6a6a", "#c4c4c4", "#eeeeee", "#767676", _LIGHT_TONES, _LIGHT_SERIES)
DARK = Ink(
    "#111111",
    "#ececec",
    "#8c8c8c",
    "#4a4a4a",
    "#242424",
    "#8c8c8c",
    {
        Tone.PLAIN: "#ececec",
        Tone.QUIET: "#a6a6a6",
        Tone.ACCENT: "#e6a23c",
        Tone.GREEN: "#5fb878",
        Tone.MAGENTA: "#c86dd7",
    },
    ("#56b4e9", "#f0e442", "#b9a3e3", "#ececec", "#e08f62", "#7fd1b9", "#c9a227", "#9fb8c8"),
)
"""The colours of the studio theme, so that a picture in a film looks as the window does."""
