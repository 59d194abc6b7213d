"""Every act of the Bench in one register: its key, its words, and when it can be done. F1 and the foot read it."""

from dataclasses import dataclass
from enum import Flag, auto

from even_beam.app.keys import KeyHint


class When(Flag):
    """What the Bench is at when an act stands in the foot."""

    RUN = auto()
    JUST_READING = auto()
    DOUBT = auto()
    NOWHERE = 0


ALT = "Alt "
_BOTH = When.RUN | When.JUST_READING


@dataclass(frozen=True, slots=True)
class Act:
    """An act: the hint of its key, and when the foot shows it."""

    hint: KeyHint
    foot: When = When.NOWHERE

    @property
    def key(self) -> str:
        """Its key."""
        return self.hint.key


ACTS = (
    Act(
        KeyHint(
            "Enter",
            "read",
            "Read the meter, or confirm what was typed. In doubt: read again. It never keeps a figure in doubt.",
        ),
        _BOTH,
    ),
    Act(KeyHint("*", "again", "One more reading of the last step. In doubt: choose what the figure was."), When.RUN),
    Act(
        KeyHint(
            "/",
            "take back",
            "Take back the last reading; it stays in the logbook, marked. In doubt: give the doubted figure up.",
        ),
        _BOTH | When.DOUBT,
    ),
    Act(
        KeyHint(
            "-",
            "something moved",
            "Asks since when: what was read since becomes suspect, until a repeat agrees again.",
        ),
        When.RUN,
    ),
    Act(
        KeyHint("+", "insert a step", "Put a step in right here. In doubt: hold to keep the figure, in doubt."),
        When.RUN,
    ),
    Act(KeyHint("Alt N", "note", "A remark on the last reading."), When.RUN | When.DOUBT),
    Act(
        KeyHint(
            "0–9 A–Z f . =",
            "type",
            "A digit or a letter opens the line, and no letter does anything by itself. Figures: 1.6k, 160 fc, f/16.8,"
            " 99+, Ra 96, 5600 K ±200 K. Terms with them or alone, in any order: 50 %, spot, at 25 ft, dial 3200,"
            " full CTO, 1 ft right, ISO 800 1/50; a lamp by its name. One letter alone names its act, and Enter does"
            " it; Alt and the letter do it at once.",
        )
    ),
    Act(
        KeyHint(
            "PgDn PgUp", "next level", "Without a run: the next level of the sweep, 100 % to 1 %, or the one before."
        ),
        When.JUST_READING,
    ),
    Act(
        KeyHint(
            "Alt ↑ ↓", "another step", "The step before or after on the run sheet; one that is finished is read again."
        ),
        When.RUN,
    ),
    Act(KeyHint("Alt L", "lamp", "Name the lamp that was or will be read."), When.JUST_READING),
    Act(
        KeyHint("Alt M", "meter", "Without a run: the next meter of the Kit, or one that is not named."),
        When.JUST_READING,
    ),
    Act(
        KeyHint(
            "Alt T",
            "terms",
            "What is dialled, what sits on the lamp, how far the meter stands. With readings: correct them.",
        ),
        When.JUST_READING,
    ),
    Act(
        KeyHint(
            "Alt E",
            "earlier readings",
            "Every reading of the session: correct its figure or terms, set it aside, name its lamp, note something.",
        ),
        _BOTH,
    ),
    Act(
        KeyHint("Alt R", "plan a run", "Pick lamps, whites, levels, distance, meter and repeats."),
        When.JUST_READING,
    ),
    Act(
        KeyHint(
            "Alt U",
            "what was done",
            "Everything that can be taken back, the newest first; one act goes with all that came after it.",
        )
    ),
    Act(KeyHint("Alt I", "inspect", "Show the last reading in the Spectrum panel, with all its figures.")),
    Act(KeyHint("Alt S", "skip", "Leave the present step out.")),
    Act(
        KeyHint(
            "Alt B",
            "room light",
            "Read the room with the lamp off, to be taken off what is read at this mark; again: the meter shaded from"
            " the lamp; again: back.",
        )
    ),
    Act(
        KeyHint(
            "Alt K",
            "the room",
            "Temperature, mains voltage, the room's own light, what else was lit, and when the meter was calibrated or"
            " zeroed: kept with the time.",
        )
    ),
    Act(KeyHint("Alt Y", "lamp shows", "What the lamp displays when it is not what was asked.")),
    Act(
        KeyHint(
            "Alt H",
            "set aside",
            "Leave the last reading out of every figure, with the reason; it stays in the logbook.",
        ),
    ),
    Act(
        KeyHint(
            "Alt J", "by eye and ear", "Shadow edges, evenness, fan noise, handling, with photos: kept as an opinion."
        )
    ),
    Act(
        KeyHint(
            "Alt G", "target", "Set a target white; every source's distance to it. Keep it, or come back to one kept."
        ),
    ),
    Act(
        KeyHint(
            "Alt O",
            "on and off",
            "What something does that sits on the lamp: asks for a reading without it and one with it, says the effect,"
            " and takes it off. A gel goes into the Kit, and Match takes it as it was read.",
        ),
    ),
    Act(
        KeyHint(
            "Alt A",
            "by itself",
            "Read the sheet by itself, with the meters and lamps of a bench file: any key pauses, Esc puts the lamps to"
            " rest at once, Alt A goes on.",
        ),
        When.RUN,
    ),
    Act(KeyHint("Alt C", "decide", "The decision that the session was for.")),
    Act(KeyHint("Alt D", "dark", "Dark-calibrate the meter with the light kept off it.")),
    Act(
        KeyHint(
            "Alt W",
            "reader window",
            "A second window for whoever stands at the lamp: what to set, what was read, whether it fits. F11 fills a"
            " screen.",
        )
    ),
    Act(KeyHint("Alt Q", "sessions", "Go to another session, or begin a new one."), When.JUST_READING),
)

IN_DOUBT = (
    KeyHint("Enter", "read again"),
    KeyHint("*", "choose what it was"),
    KeyHint("+", "hold to keep it, in doubt"),
)
"""What the second look offers beside a figure in doubt."""

WAITS = (KeyHint("Enter", "take it back and type on"), IN_DOUBT[2], KeyHint("Alt L", "it was another lamp"))
"""What is offered where one types on beside a figure in doubt."""

TYPING = (
    KeyHint("Enter", "keep"),
    KeyHint(";", "parts if you like"),
    KeyHint("Esc", "leave the line"),
    KeyHint("Alt L", "another lamp"),
)
"""What matters while a line is typed."""

HINTS = tuple(act.hint for act in ACTS)
OF_A_LETTER = {act.key[-1]: act.hint for act in ACTS if act.key.startswith(ALT) and len(act.key) == len(ALT) + 1}
"""The acts that a letter stands for: with Alt at once, alone in the line after Enter."""


def foot(when: When) -> tuple[KeyHint, ...]:
    """The keys that matter now."""
    return tuple(act.hint for act in ACTS if act.foot & when)
