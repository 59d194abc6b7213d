"""Which lamp a spectrum is of, and at which white and level, as far as its names say: `Heron 5600 50`."""

import re
from collections.abc import Container, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from even_beam.bench.field_texts import FIXED, TermsError
from even_beam.bench.fields import FIELDS, terms_of_texts
from even_beam.bench.limits import impossible_terms
from even_beam.bench.records import Terms
from even_beam.files.reading import shown_name, shown_stem
from even_beam.formats import FormatError

_SAYS_NOTHING = frozenset({"spectrum", "spectra", "spd", "scan", "measurement", "reading", "data", "file", "export",
                           "sample", "untitled", "new", "copy", "nm", "test"})  # fmt: skip
_NUMBER = r"[+-]?\d{1,5}(?:[.,]\d+)?\s*(?:[kK%°m]|deg)?"
_FIELDS = {
    "lamp": r".+",
    "any": r".*",
    **{one.name: _NUMBER if one.limit is not None else r".+" for one in FIELDS if one.read is not None},
    "cct": r"\d{4,5}\s*[kK]?",
    "level": r"\d{1,3}(?:[.,]\d+)?\s*%?",
}


@dataclass(frozen=True, slots=True)
class NamedSo:
    """What the names of a spectrum say of it: its lamp, empty where they do not, and texts of terms by their fields."""

    lamp: str = ""
    texts: Mapping[str, str] = field(default_factory=dict)

    @property
    def terms(self) -> Terms:
        """The terms so far; a lamp whose white is not said is read as it is found."""
        try:
            terms = terms_of_texts(self.texts, Terms(mode=FIXED))
        except TermsError:
            return Terms(mode=FIXED)
        return terms if impossible_terms(terms) is None else Terms(mode=FIXED)


def proposed(names: Sequence[str], lamps: Iterable[str], without_dial: Container[str] = ()) -> NamedSo:
    """What the first of some names says that says anything: a lamp of the Kit first, else all that is no term.

    A white is a number of four or five digits within what lamps are dialled to, a level one up to 100 after it or one
    with a per cent sign, a distance one with its unit. Any other number belongs to the name: `Bittern 60` and `Panel2`
    are units of their own. A white is no dial of a lamp that has none: one of `without_dial`, or one named as such.
    """
    known = sorted(lamps, key=len, reverse=True)
    found = NamedSo()
    for name in names:
        own = _read(name, known)
        found = NamedSo(found.lamp or own.lamp, {**own.texts, **found.texts})
    if found.lamp in without_dial or any(_WITHOUT_DIAL.search(name) for name in names):
        return NamedSo(found.lamp, {field: text for field, text in found.texts.items() if field != "cct"})
    return found


_WITHOUT_DIAL = re.compile(
    r"(?<![a-z])(?:tungsten|halogen|incandescent|fluorescent|discharge|candle|hmi)(?![a-z])", re.IGNORECASE
)
"""Lamps that have one white, by the words they go by."""


def is_without_dial(kind: str) -> bool:
    """Whether a kind of lamp has one white and no dial for it."""
    return _WITHOUT_DIAL.search(kind) is not None


_DATE = re.compile(r"(?<!\d)(?:19|20)\d\d[-_. ]?\d\d[-_. ]?\d\d(?!\d)")
_COPY = re.compile(r"\(\d+\)")
_PART = re.compile(r"(?<!\d)\d+[.,]\d+(?:%|[A-Za-z]+)?|[^\s_,;.()\[\]-]+")
_WHITE = re.compile(r"(\d{4,5})[kK]?")
_LEVEL = re.compile(r"(\d{1,3})(?:%|pct|percent)", re.IGNORECASE)
_DISTANCE = re.compile(r"(\d{1,3}(?:[.,]\d{1,2})?)(m|cm|ft)", re.IGNORECASE)
_UNIT_APART = re.compile(r"(?<=\d)\s+(?=(?:%|k|pct|percent|m|cm|ft)(?![\w]))", re.IGNORECASE)
_COUNTER = re.compile(r"0\d*|#\d+")
_MOST_K = 20_000.0


def _read(name: str, known: Sequence[str]) -> NamedSo:
    text = _UNIT_APART.sub("", _COPY.sub(" ", _DATE.sub(" ", name)))  # a year is no white
    lamp = next((k for k in known if k and re.search(rf"(?<![^\W_]){re.escape(k)}(?![^\W_])", text, re.IGNORECASE)), "")
    rest = re.sub(re.escape(lamp), " ", text, flags=re.IGNORECASE) if lamp else text
    told: dict[str, str] = {}
    own: list[re.Match[str]] = []
    after_a_white = False
    for part in _PART.finditer(rest):
        term = _term(part[0], after_a_white)
        after_a_white = term is not None and term[0] == "cct"
        if term is not None and term[0] not in told:
            told[term[0]] = term[1]
        elif not _COUNTER.fullmatch(part[0]) and part[0].lower() not in _SAYS_NOTHING:
            own.append(part)
    if lamp:  # words beside a lamp of the Kit are remarks; a number makes it another unit
        own = [part for part in own if part[0][:1].isdigit() or part[0][-1:].isdigit()]
    elif all(part[0].isdigit() for part in own):
        own = []  # a number alone names nothing
    return NamedSo(" ".join(filter(None, (lamp, _joined(own, rest)))), told)


def _term(part: str, after_a_white: bool) -> tuple[str, str] | None:
    """The field of a term and its text; None for a part of the name."""
    if (white := _WHITE.fullmatch(part)) and 1500.0 <= float(white[1]) <= _MOST_K:
        return "cct", white[1]
    if (level := _LEVEL.fullmatch(part)) and float(level[1]) <= 100.0:
        return "level", level[1]
    if distance := _DISTANCE.fullmatch(part):
        return "distance", f"{distance[1].replace(',', '.')} {distance[2].lower()}"
    if after_a_white and part.isdigit() and not part.startswith("0") and float(part) <= 100.0:
        return "level", part
    return None


def _joined(parts: Sequence[re.Match[str]], text: str) -> str:
    """Parts of a name with the signs between them as they stood: Kit-A1."""
    found = ""
    for before, part in zip([None, *parts], parts, strict=False):
        between = text[before.end() : part.start()] if before is not None else ""
        found += ("" if before is None else "-" if between == "-" else " ") + part[0]
    return found


def by_pattern(pattern: str, names: Sequence[str]) -> NamedSo:
    """What names say by a pattern such as `{lamp} {cct} {level}`; `{any}` is skipped. Raises `FormatError`."""
    unknown = [f for f in re.findall(r"\{(.*?)\}", pattern) if f not in _FIELDS]
    if unknown or "{" not in pattern:
        raise FormatError(f"“{pattern}” is no pattern of names; write it like {{lamp}} {{cct}} {{level}}, and {{any}}")
    if len(pattern) > MOST_LETTERS:
        raise FormatError(f"a pattern of {len(pattern)} letters names no file")
    for name in names:
        found = _fitted(_tokens(pattern), name.strip()[:MOST_LETTERS])
        if found is not None:
            lamp = found.pop("lamp", "").replace("_", " ").strip()
            found.pop("any", None)
            texts = {field: _as_typed(text) for field, text in found.items()}
            try:
                terms_of_texts(texts, Terms(mode=FIXED))
            except TermsError as error:
                raise FormatError(f"“{name[:MOST_LETTERS]}” by {pattern}: {error}") from error
            return NamedSo(lamp, texts)
    raise FormatError(f"“{names[0][:MOST_LETTERS]}” is not named like {pattern}")


def _as_typed(text: str) -> str:
    """What stands in a name as it would be typed: names of files have no blanks and no commas."""
    return text.replace("_", " ").replace(",", ".").strip()


MOST_LETTERS = 255
"""Of a name and of a pattern, as file systems have it."""

Token = tuple[str, re.Pattern[str]]
"""A field, or nothing for text between fields, and what its text looks like."""


def _tokens(pattern: str) -> list[Token]:
    parts = re.split(r"\{(.*?)\}", pattern)
    found = []
    for place, part in enumerate(parts):
        if place % 2:
            found.append((part, re.compile(_FIELDS[part])))
        elif part:
            found.append(("", re.compile(re.escape(part).replace(r"\ ", r"[\s_\-]+"))))
    return found


def _fitted(tokens: Sequence[Token], name: str) -> dict[str, str] | None:
    """What stands in a name for each field, as little as can be for a lamp and as much as can be for a figure; None
    where the name is not of the pattern.

    Where the rest does not fit is remembered, so that the time goes with the length of both: as one expression,
    patterns of many fields took years.
    """
    hopeless: set[tuple[int, int]] = set()

    def from_here(token: int, start: int) -> dict[str, str] | None:
        if token == len(tokens):
            return {} if start == len(name) else None
        if (token, start) in hopeless:
            return None
        field, looks = tokens[token]
        ends = range(start, len(name) + 1)
        for end in ends if field in _AS_LITTLE else reversed(ends):
            if looks.fullmatch(name, start, end) and (rest := from_here(token + 1, end)) is not None:
                return {field: name[start:end], **rest} if field else rest
        hopeless.add((token, start))
        return None

    return from_here(0, 0)


_AS_LITTLE = frozenset({"lamp", "any"})


def files_in(paths: Sequence[Path], suffixes: frozenset[str]) -> tuple[list[Path], str]:
    """The files of a list in which folders may stand, and what their session is called: the folder, or the file."""
    found: list[Path] = []
    for path in paths:
        if path.is_dir():
            found += sorted(p for p in path.rglob("*") if p.suffix.lower() in suffixes and p.is_file())
        else:
            found.append(path)
    folder = next((p for p in paths if p.is_dir()), None)
    return found, shown_name(folder.resolve()) if folder is not None else (shown_stem(paths[0]) if paths else "")
