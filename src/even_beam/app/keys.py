"""The one table of keys. The same letter means the same thing in every station."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class KeyHint:
    """A key, what it does in a word or two, and a longer line for the key table."""

    key: str
    label: str
    help: str = ""


BENCH = (
    KeyHint(
        "Enter",
        "read",
        "Read the meter, or confirm the figure typed. In doubt: read again. It never keeps a figure in doubt.",
    ),
    KeyHint("*", "again", "One more reading of the last step. In doubt: choose what the figure was."),
    KeyHint("/", "take back", "Take back the last reading; it stays in the logbook, marked."),
    KeyHint(
        "-",
        "something moved",
        "What was read since the last step that agrees becomes suspect, until a repeat agrees again. Pressed again, it"
        " starts a reading later.",
    ),
    KeyHint("+", "insert a step", "Put a step in right here. In doubt: hold to keep the figure, in doubt."),
    KeyHint("N", "note", "A remark on the last reading."),
)
BENCH_MORE = (
    KeyHint(
        "0–9 f . =",
        "type a figure",
        "A digit opens the entry line: 1.6k, 1,600, 160 fc, f/16.8, 99+, sixteen hundred; several with “;”.",
    ),
    KeyHint("L", "lamp", "Name the lamp that was or will be read."),
    KeyHint(
        "T", "terms", "What is dialled, what sits on the lamp, how far the meter stands. With readings: correct them."
    ),
    KeyHint("R", "plan a run", "Pick lamps, whites, levels, distance, meter and repeats."),
    KeyHint("I", "inspect", "Show the last reading in the Spectrum panel, with all its figures."),
    KeyHint("S", "skip", "Leave the present step out."),
    KeyHint(
        "B",
        "room light",
        "Read the room with the lamp off, to be taken off what is read at this mark; again: the meter shaded from the"
        " lamp; again: back.",
    ),
    KeyHint("Y", "lamp shows", "What the lamp displays when it is not what was asked."),
    KeyHint("H", "set aside", "Leave the last reading out of every figure, with the reason; it stays in the logbook."),
    KeyHint("J", "by eye and ear", "Shadow edges, evenness, fan noise, handling, with photos: kept as an opinion."),
    KeyHint("G", "target", "Set a target white; every source's distance to it. Keep it as a look, come back to one."),
    KeyHint("C", "decide", "The decision that the session was for."),
    KeyHint("D", "dark", "Dark-calibrate the meter with the light kept off it."),
    KeyHint(
        "W",
        "reader window",
        "A second window for whoever stands at the lamp: what to set, what was read, whether it fits. F11 fills a"
        " screen.",
    ),
    KeyHint("Q", "sessions", "Go to another session, or begin a new one."),
)
DOUBT = (
    KeyHint("Enter", "read again"),
    KeyHint("*", "choose what it was"),
    KeyHint("+", "hold to keep it, in doubt"),
)
JUST_READ = (BENCH[0], BENCH[2], BENCH[5], *BENCH_MORE[1:4], BENCH_MORE[10], BENCH_MORE[14])
BENCH_IN_DOUBT = (BENCH[2], BENCH[5])
PLAN = (
    KeyHint("Space", "take or leave", "Take the lamp or protocol under the cursor into the plan, or out of it."),
    KeyHint("Enter", "begin on the Bench", "Make the run sheet a session and go to the Bench."),
    KeyHint("Alt ↑ ↓", "move a step", "On the run sheet: move the step under the cursor. Ctrl Z takes it back."),
    KeyHint("+", "double a step", "On the run sheet: read the step under the cursor a second time."),
    KeyHint("S", "leave a step out", "On the run sheet: leave the step under the cursor out."),
    KeyHint("T", "times", "What changes cost, in seconds: edit them, or take what earlier sessions say."),
    KeyHint("P", "room sheet", "Write the room sheet as PDF or HTML, to print and fill in."),
)
KIT = (
    KeyHint("A", "add a lamp", "A new lamp."),
    KeyHint("Enter", "edit", "Change the lamp under the cursor."),
    KeyHint("U", "meters", "What each meter is, how far it can be trusted, and whether it is good for ratios only."),
    KeyHint("PgDn PgUp", "its page", "Go down the page of the lamp under the cursor, and up."),
    KeyHint("Del", "retire", "Take the lamp out of the lists; its readings stay."),
    KeyHint("Ctrl Z", "undo", "Undo the last edit."),
)
COMPARE = (
    KeyHint("Space", "in or out", "Take the lamp under the cursor into the comparison, or out of it."),
    KeyHint("L", "lock reference", "Set the lamp under the cursor as the one the others are compared with."),
    KeyHint("E", "only even terms", "Show only lamps that were read at the terms chosen."),
    KeyHint(
        "I",
        "readings behind",
        "The readings behind the lamp under the cursor, or behind the mark that was clicked; one can be set aside"
        " there.",
    ),
    KeyHint(
        "V",
        "next view",
        "Output, miss plot, against dimmer and white, spectra, hues, samples, beam, modifiers, value, features,"
        " patches, claims, verdict, for and against.",
    ),
    KeyHint(
        "O",
        "lay over",
        "Lay the spectrum of the mark that was clicked over the others in the view of spectra, or take it off.",
    ),
    KeyHint("T", "tolerances", "The limits by which lamps are judged: edit them, write and read them as JSON."),
    KeyHint("Ctrl C", "copy picture and data", "Copy the chart as a picture and as figures."),
)
SPECTRUM = (
    KeyHint("O", "open a file", "Open a file of spectra."),
    KeyHint("M", "how it is read", "Change how a table is read; remembered for files of the same shape."),
    KeyHint("→", "next", "The next spectrum of the file."),
    KeyHint("W", "write", "Write the spectrum as IES TM-27, CGATS or JSON."),
    KeyHint("K", "keep as a reading", "Take it into the session on the Bench."),
    KeyHint("Ctrl C", "copy", "Copy the spectrum as a picture and as figures."),
)
REPORT = (
    KeyHint("Enter", "save the page", "Write the page as PDF or HTML."),
    KeyHint("X", "save the table", "Write all readings as CSV, XLSX or JSON."),
)
EVERYWHERE = (
    KeyHint("Ctrl 1–6", "stations", "Kit, Plan, Bench, Compare, Report, Spectrum."),
    KeyHint("F1", "all keys", "This table."),
    KeyHint("F10", "file", "New, open, recent, save a copy, show in folder, settings, about."),
    KeyHint("Ctrl Z", "undo", "Undo the last act; Ctrl Shift Z does it again."),
    KeyHint("Ctrl I", "import", "Old tests as a table, spectra, power logs; or drop them on the Bench."),
    KeyHint("Ctrl N / O / S", "new, open, save a copy", "Logbooks are kept as you work; a copy is for others."),
)
