"""The kinds of report: which sections each has in which order, and which kind fits what was asked and read."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from even_beam.answers.match.target_text import OUTSIDE
from even_beam.bench.records import SOURCE_KINDS
from even_beam.handing_over.material import Material


class Kind(StrEnum):
    """A kind by its name on the command line."""

    LAMP = "lamp"
    FULL = "full"
    HEAD_TO_HEAD = "head-to-head"
    COLOURS = "colours"
    CLAIMS = "claims"
    WALK = "walk"
    STORE = "store"
    ROOM = "room"


GAPS, READINGS = "gaps", "readings"
"""The keys of what was not measured and of the appendix, which every kind has."""


@dataclass(frozen=True, slots=True)
class Plan:
    """What a kind holds by keys of sections: on all lamps, on each lamp, on the measuring; `words` say it in a line.

    `pages` begins a page with each lamp; `on_request` are the sections that stand in it only where somebody asks, as
    every reading does.
    """

    words: str
    together: tuple[str, ...] = ()
    by_lamp: tuple[str, ...] = ()
    about: tuple[str, ...] = ("doubts", "method")
    pages: bool = False
    on_request: tuple[str, ...] = ()

    @property
    def closing(self) -> tuple[str, ...]:
        """What stands in the last chapter: on the measuring, after what is on all lamps where none has its own."""
        return (*(() if self.by_lamp else self.together), *self.about, GAPS)

    @property
    def groups(self) -> tuple[tuple[str, ...], ...]:
        """The sections that stand together, and can be moved among themselves."""
        own = (self.together, self.by_lamp) if self.by_lamp else ()
        return tuple(group for group in (*own, self.closing, (READINGS,)) if group)

    @property
    def sections(self) -> tuple[str, ...]:
        """All of them, in the kind's own order."""
        return tuple(key for group in self.groups for key in group)


_PAGE = (
    "answer", "terms", "numbers", "charts", "each-white", "walked", "elsewhere", "claims-in-short",
    "purposes-in-short", "handling",
)  # fmt: skip

_CARD = ("answer", "numbers", "each-white", "claims-in-short", "purposes-in-short", "handling")

PLANS: Mapping[Kind, Plan] = {
    Kind.LAMP: Plan("a lamp on one page", by_lamp=_PAGE, about=("doubts", "meters"), pages=True),
    Kind.FULL: Plan(
        "a full review of each lamp",
        by_lamp=(
            "answer", "terms", "numbers", "sides", "claims-in-short", "handling", "charts", "every-white", "all-else",
            "distance", "whites", "dimming", "samples", "modifiers", "beam", "topics", "repeats",
        ),
        pages=True,
    ),
    Kind.HEAD_TO_HEAD: Plan(
        "lamps against each other",
        together=(
            "in-short", "alike", "ranked", "side-by-side", "landed", "purposes", "distances", "gear", "claims-table",
        ),
        about=("opinion", "doubts", "meters"),
    ),
    Kind.COLOURS: Plan("colours and whites of many lamps", together=("colour", "patches", "white", "pairs")),
    Kind.CLAIMS: Plan(
        "claims against readings", together=("claims-table",), by_lamp=("figures",), on_request=("figures",)
    ),
    Kind.WALK: Plan(
        "distances, beam and what sits on it",
        by_lamp=("answer", "terms", "walked", "cone", "distance", "beam", "modifiers", "output"),
    ),
    Kind.STORE: Plan(
        "every lamp of the store: how far off, what makes them agree",
        together=("store",),
        by_lamp=_CARD,
        pages=True,
        about=("doubts", "meters"),
        on_request=_CARD,
    ),
    Kind.ROOM: Plan("a room: sources, target, corrections", together=("sources", "corrections", "pairs")),
}  # fmt: skip

MANY = 8
"""From so many lamps on a session is a store list (common practice, no source)."""


def usual_kind(material: Material) -> Kind:
    """The kind that fits what was read: of one lamp its page or a walk, of several a comparison, of many a list."""
    entrants = material.entrants
    readings = [m for entrant in entrants for m in entrant.readings]
    has_level = any(m.value("illuminance") for m in readings)
    if any(entrant.kind in OUTSIDE for entrant in entrants) and len(entrants) > 1:
        return Kind.ROOM
    if len(entrants) >= MANY:
        return Kind.STORE if any(e.kind not in SOURCE_KINDS[1:] for e in entrants) else Kind.COLOURS
    if len(entrants) > 1:
        return Kind.HEAD_TO_HEAD if has_level else Kind.COLOURS
    walked = len({m.terms.distance_m for m in readings if m.terms.distance_m})
    settings = len({(m.terms.cct_k, m.terms.level_pct) for m in readings})
    return Kind.WALK if walked > max(2, settings) else Kind.LAMP
