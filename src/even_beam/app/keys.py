"""The one table of keys. The same letter means the same thing in every station."""

from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class KeyHint:
    """A key, what it does in a word or two, and a longer line for the key table."""

    key: str
    label: str
    help: str = ""


def offered(keys: Iterable[KeyHint]) -> str:
    """Keys as they are read aloud."""
    return "; ".join(f"{hint.key}: {hint.label}" for hint in keys)


PLAN = (
    KeyHint("Space", "take or leave", "Take the lamp or protocol under the cursor into the plan, or out of it."),
    KeyHint("U", "all units", "Take every lamp of the model under the cursor, to be read alike as a group."),
    KeyHint("Enter", "begin on the Bench", "Make the run sheet a session and go to the Bench."),
    KeyHint("Alt ↑ ↓", "move a step", "On the run sheet: move the step under the cursor. Ctrl Z takes it back."),
    KeyHint("+", "double a step", "On the run sheet: read the step under the cursor a second time."),
    KeyHint("S", "leave a step out", "On the run sheet: leave the step under the cursor out."),
    KeyHint(
        "G",
        "give back",
        "Keep what shortage of time took last; something else goes for it. Write the time at “Time for it”.",
    ),
    KeyHint("T", "times", "What changes cost, in seconds: edit them, or take what earlier sessions say."),
    KeyHint("P", "room sheet", "Write the room sheet as PDF or HTML, to print and fill in."),
)
KIT = (
    KeyHint("1–5", "shelves", "Lamps, modifiers and gels, subjects, meters, limits."),
    KeyHint("A", "add", "A new one by its name; more may be said in the same line. A subject is read from a file."),
    KeyHint(
        "Enter",
        "say more of it",
        "All that is kept of it, as people say it: 97 Ra; 46k lx at 1 m; 820 EUR; frame 45 EUR; weight 2.4 kg."
        " A lamp or meter of another bench: same as Tansy (barn); and two again.",
    ),
    KeyHint("PgDn PgUp", "its page", "Go down the page of the thing under the cursor, and up."),
    KeyHint(
        "Del",
        "take out",
        "A lamp is retired and its readings stay; a retired one is brought back. A meter that read something stays."
        " Limits that were changed go back to what was shipped.",
    ),
    KeyHint("R", "retired lamps", "Show the retired lamps as well, or leave them out."),
    KeyHint("I", "read a file", "Subjects out of a file of reflectances; limits out of JSON."),
    KeyHint("X", "write limits", "Every set of limits as JSON, for another logbook."),
    KeyHint("Ctrl Z", "undo", "Undo the last edit."),
)
COMPARE = (
    KeyHint("1–5", "questions", "How bright, which white, which colours, good enough, worth it."),
    KeyHint("Space", "in or out", "Take the lamp under the cursor into the comparison, or out of it."),
    KeyHint("A", "all lamps", "Take all lamps in; again: the first few."),
    KeyHint("L", "reference", "Set the lamp under the cursor as the one the others are compared with."),
    KeyHint("E", "only even terms", "Show only lamps that were read at the terms chosen."),
    KeyHint("P", "purpose", "What the lamps are judged for."),
    KeyHint(
        "I",
        "readings behind",
        "The readings behind the lamp under the cursor, or behind the mark that was clicked; one can be set aside"
        " there.",
    ),
    KeyHint("M", "plan what is missing", "Where a question has no answer: the plan that would give it one."),
    KeyHint("S", "sort", "Sort the figures by the next column; a click on a heading sorts by that one."),
    KeyHint(
        "O",
        "lay over",
        "Lay the spectrum of the mark that was clicked over the others under Which colours?, or take it off.",
    ),
    KeyHint("T", "limits", "Go to the limits by which lamps are judged, on their shelf in the Kit."),
    KeyHint("PgDn PgUp", "down the page", "To the pictures and figures further down, and back up."),
    KeyHint("Ctrl C", "copy the answer", "The sentences that may be published, with all their terms, and the figures."),
    KeyHint("Ctrl Shift C", "copy the picture", "The first picture, as a picture and as figures."),
)
MATCH = (
    KeyHint("1–4", "questions", "Make them agree, mix on one subject, enough light, mains and batteries."),
    KeyHint("T", "target", "The white that all shall have: 5600, 3200 +0.002, D55, Tansy 3200, or least."),
    KeyHint("L", "follow this one", "The lamp under the cursor, as it was read last, is the target."),
    KeyHint(
        "O", "cheapest to follow", "The target is the lamp that costs the others least: light, gels, what is left."
    ),
    KeyHint("G", "gels you own", "What may be clipped on, by what it does; kept in the Kit. Ctrl Z takes it back."),
    KeyHint("X", "stop, supply, lux", "What else a question needs: a stop, a circuit or battery, an illuminance."),
    KeyHint("Space", "in or out", "Take the lamp under the cursor in, or out."),
    KeyHint("A", "all lamps", "Take all lamps in; again: the first few."),
    KeyHint("PgDn PgUp", "down the page", "To the pairs and sentences further down, and back up."),
    KeyHint("Ctrl C", "copy the answer", "The answer with its sentences and figures."),
)
SPECTRUM = (
    KeyHint("O", "open a file", "Open a file of spectra."),
    KeyHint("M", "how it is read", "Change how a table is read; remembered for files of the same shape."),
    KeyHint("→", "next", "The next spectrum of the file; ← the one before."),
    KeyHint("S", "samples of a subject", "What the subject under the cursor is made of, one by one; ↑ ↓ move."),
    KeyHint("C", "eye or camera", "Subjects as an eye used to each light sees them, or as the standard camera does."),
    KeyHint("F", "all figures", "Every figure with its meaning, samples, patches; and back to the subjects."),
    KeyHint("W", "write", "Write the spectrum as IES TM-27, CGATS or JSON."),
    KeyHint("K", "keep as a reading", "Take it into the session on the Bench."),
    KeyHint("Ctrl C", "copy", "Copy the spectrum as a picture and as figures."),
)
CAMERA = (
    KeyHint("1–4", "questions", "A chart in photographs, flicker, fades, walls and edges."),
    KeyHint("O", "open", "Photographs of a chart; a waveform as a table or WAV file; fades; a photograph of a wall."),
    KeyHint("L", "benchmark", "The photograph under the cursor is what the others are set against."),
    KeyHint("C", "place corners", "Arrows move a corner, with Shift by ten; Space goes to the next; Enter when done."),
    KeyHint("P", "a part", "Skin, a product, a petal: one part of all photographs side by side at equal exposure."),
    KeyHint("E", "across an edge", "A line across a shadow or the cut of a door: its width, steps and colour fringe."),
    KeyHint("B", "balanced or as shot", "Patches and figures once greys agree, or as they were shot."),
    KeyHint("R", "frames of one lamp", "All but the benchmark are of one lamp: what they scatter by is told."),
    KeyHint("X", "camera, seconds", "A camera of your own: 24 fps 1/48 15ms; the seconds that a fade was asked for."),
    KeyHint("S", "by their spectra", "What the standard camera makes of lamp and benchmark by spectra that were read."),
    KeyHint("W", "camera's white", "The white that the camera found by itself; kept as that camera's own."),
    KeyHint("V", "seen by eye", "What a camera showed: 24 fps, 1/48: none seen; kept with the lamp on the Bench."),
    KeyHint(
        "K",
        "keep with the lamp",
        "As a reading of the lamp next on the Bench, or of one you name; Ctrl Z undoes.",
    ),
    KeyHint("Del", "leave out", "Leave the photograph under the cursor out; the file stays."),
    KeyHint("PgDn PgUp", "down the page", "To pictures and figures further down, and back up."),
    KeyHint("Ctrl C", "copy the answer", "The answer with its sentences and figures."),
)
REPORT = (
    KeyHint("Enter", "save it", "Write the report as PDF or HTML."),
    KeyHint("L", "labels", "Labels for lamps: rolls and sheets of exact size, with a code."),
    KeyHint("S", "sentences", "What may be said of the lamps, and what must not: on the clipboard."),
    KeyHint("P", "pictures", "A chart as a picture for a film or an article."),
    KeyHint("X", "table", "Write all readings as CSV, XLSX or JSON."),
    KeyHint("D", "open data", "Everything in a folder that another logbook can take in."),
    KeyHint("Alt ↑ ↓", "move a section", "The section under the cursor further up or down; Space leaves it out."),
    KeyHint("PgDn PgUp", "the page", "Further down and up in the preview."),
    KeyHint("Esc", "leave off", "Stop what is being made; nothing of it is written."),
)
EVERYWHERE = (
    KeyHint("Ctrl 1–8", "stations", "Kit, Plan, Bench, Compare, Match, Report, Spectrum, Camera."),
    KeyHint("F1", "all keys", "This table."),
    KeyHint("F10", "file", "New, open, recent, save a copy, show in folder, settings, about."),
    KeyHint("Ctrl Z", "undo", "Undo the last act; Ctrl Shift Z does it again."),
    KeyHint("Ctrl I", "import", "Old tests as a table, spectra, power logs; or drop them on the Bench."),
    KeyHint("Ctrl N / O / S", "new, open, save a copy", "Logbooks are kept as you work; a copy is for others."),
)
