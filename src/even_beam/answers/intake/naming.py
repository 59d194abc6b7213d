"""Which lamp a spectrum is of, and at which white and level, as far as its names say: `Heron 5600 50`."""

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from even_beam.bench.field_texts import FIXED, TermsError
from even_beam.bench.fields import FIELDS, terms_of_texts
from even_beam.bench.limits import impossible_terms
from even_beam.bench.records import Terms
from even_beam.files.reading import shown_name, shown_stem
from even_beam.formats import FormatError

_SAYS_NOTHING = frozenset({"spectrum", "spectra", "spd", "scan", "measurement", "reading", "data", "file", "export",
                           "lamp", "sample", "untitled", "new", "copy", "nm", "test"})  # fmt: skip
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


def proposed(names: Sequence[str], lamps: Iterable[str]) -> NamedSo:
    """What the first of some names says that says anything: a lamp of the Kit first, else the words before a number.

    A white is a number of four or five digits within what lamps are dialled to; a level one up to 100 after it, or one
    with a per cent sign.
    """
    known = sorted(lamps, key=len, reverse=True)
    found = NamedSo()
    for name in names:
        own = _read(name, known)
        found = NamedSo(found.lamp or own.lamp, {**own.texts, **found.texts})
    return found


def _read(name: str, known: Sequence[str]) -> NamedSo:
    undated = re.sub(r"(?<!\d)(?:19|20)\d\d[-_. ]\d\d[-_. ]\d\d(?!\d)", " ", name)  # a year is no white
    text = " ".join(re.sub(r"[_\-.,;()\[\]]+", " ", undated).split())
    lamp = next((k for k in known if k and re.search(rf"(?<!\w){re.escape(k)}(?!\w)", text, re.IGNORECASE)), "")
    rest = re.sub(re.escape(lamp), " ", text, flags=re.IGNORECASE) if lamp else text
    numbers = map(float, re.findall(r"(?<!\d)(\d{4,5})(?=\s*[kK]?(?:\s|$))", rest))
    white = next((number for number in numbers if 1500.0 <= number <= 20_000.0), None)
    level = _level(rest, white is not None)
    if not lamp:
        words = re.split(r"\d", text)[0].split()
        lamp = " ".join(word for word in words if word.lower() not in _SAYS_NOTHING)
    told = {"cct": white, "level": level}
    return NamedSo(lamp, {name: f"{value:g}" for name, value in told.items() if value is not None})


def _level(text: str, after_a_white: bool) -> float | None:
    percent = re.search(r"(?<!\d)(\d{1,3})\s*(?:%|pct|percent)", text)
    if percent is not None:
        return float(percent[1]) if float(percent[1]) <= 100.0 else None
    alone = re.search(r"\d{4,5}\s*[kK]?\s+(\d{1,3})(?!\d)", text) if after_a_white else None
    return float(alone[1]) if alone is not None and float(alone[1]) <= 100.0 else None


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
