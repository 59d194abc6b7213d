"""What a camera or a photodiode saw of a lamp: its quantities, and the files that a reading of them came from."""

from even_beam.bench.records import Reading

SEEN: frozenset[str] = frozenset(
    {
        "flicker_hz", "percent_flicker", "flicker_index", "svm", "pst_lm", "light", "fade_s", "chart_as_shot",
        "chart_balanced", "chart_skin",
    }
)  # fmt: skip
"""Nobody reads these twice to know how a meter repeats itself."""

_FILE, _AGAINST = "from file: ", ", against "


def note_of(file: str, benchmark: str = "") -> str:
    """The note of a reading that came from a file, and from another that is its benchmark."""
    return f"{_FILE}{file}{_AGAINST}{benchmark}" if benchmark else f"{_FILE}{file}"


def file_of(reading: Reading) -> str:
    """The file that a reading came from; its note where it came from none."""
    return reading.note.removeprefix(_FILE).partition(_AGAINST)[0]


def benchmark_of(reading: Reading) -> str:
    """The file of the benchmark; empty where there is none."""
    return reading.note.partition(_AGAINST)[2]
