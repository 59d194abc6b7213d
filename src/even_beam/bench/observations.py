"""What eye and ear say of a lamp: quick picks with a note and photos. An opinion, never a measurement."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from even_beam.bench.records import Terms

FLICKER = "flicker on camera"
"""What a camera showed, at the frame rate and shutter that the note says."""

ANSWERS: Mapping[str, frozenset[str]] = {FLICKER: frozenset({"flicker_hz"})}
"""Quantities of a step that are answered once something is said of a subject: there is no meter for them."""

PICKS: Mapping[str, tuple[str, ...]] = {
    "shadow edge": ("clean", "colour fringes", "soft steps"),
    "shadow": ("single", "double", "several"),
    "evenness": ("even", "hot centre", "dark centre", "rings", "patches"),
    "door cut": ("clean", "soft", "leaks", "doubled"),
    "colour at the edge": ("as the centre", "warmer", "cooler", "greener", "more magenta"),
    "projection": ("sharp", "soft at the edge", "hot spot", "colour rings", "shows its emitters"),
    "spill": ("none", "at the back", "at the yoke", "round the doors"),
    FLICKER: ("none seen", "faint bands", "strong bands", "beats", "faint beats"),
    "effects": ("smooth", "steps seen", "not as named"),
    "modes": ("easy to find", "hidden", "the level changes with the mode", "the white changes with the mode"),
    "channels": ("each as dialled", "one drops when another rises", "one is missing"),
    "fan": ("silent", "heard close by", "heard across the room", "changes pitch"),
    "handling": ("good", "heavy", "knob slips", "display hard to read", "hot to touch"),
    "skin": ("alive", "flat", "green", "sallow"),
}
"""Subjects and what is usually said of them; anything else is typed as a note."""

OWN_WORDS = "seen"
"""What an observation is about that was written without choosing a subject."""

OF_THE_LAMP = "handling"
"""What an observation speaks of whose photo shows the lamp itself."""

OPINION = "by eye and ear: an opinion, not a measurement"


@dataclass(frozen=True, slots=True)
class Observation:
    """Something seen or heard with these sources lit at these terms."""

    id: str
    session_id: str
    at: datetime
    source_ids: tuple[str, ...]
    terms: Terms
    subject: str
    finding: str = ""
    note: str = ""

    @property
    def sentence(self) -> str:
        """The observation in a line."""
        said = ", ".join(part for part in (self.finding, self.note) if part)
        return f"{self.subject}: {said}" if said else self.subject


@dataclass(frozen=True, eq=False, slots=True)
class Photo:
    """A picture kept with an observation or a reading: image and thumbnail as encoded bytes; compared by identity."""

    id: str
    session_id: str
    at: datetime
    name: str
    media_type: str
    image: bytes
    thumbnail: bytes
    observation_id: str | None = None
    reading_id: str | None = None
