"""Which lamp a spectrum is of, and at which white and level, as far as its names say: `Heron 5600 50`."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path

from even_beam.bench.limits import impossible_terms
from even_beam.bench.records import Terms
from even_beam.formats import FormatError

_SAYS_NOTHING = frozenset({"spectrum", "spectra", "spd", "scan", "measurement", "reading", "data", "file", "export",
                           "lamp", "sample", "untitled", "new", "copy", "nm", "test"})  # fmt: skip
_FIELDS = {
    "lamp": r"(?P<lamp>.+?)",
    "cct": r"(?P<cct>\d{4,5})\s*[kK]?",
    "level": r"(?P<level>\d{1,3}(?:[.,]\d+)?)\s*%?",
    "any": r".*?",
}


@dataclass(frozen=True, slots=True)
class NamedSo:
    """What the names of a spectrum say of it; empty and None for what they do not."""

    lamp: str = ""
    cct_k: float | None = None
    level_pct: float | None = None

    @property
    def terms(self) -> Terms:
        """The terms so far; a lamp whose white is not said is read as it is found."""
        terms = Terms(mode="CCT" if self.cct_k else "fixed", cct_k=self.cct_k, level_pct=self.level_pct)
        return terms if impossible_terms(terms) is None else Terms(mode="fixed")


def proposed(names: Sequence[str], lamps: Iterable[str]) -> NamedSo:
    """What the first of some names says that says anything: a lamp of the Kit first, else the words before a number.

    A white is a number of four or five digits within what lamps are dialled to; a level one up to 100 after it, or one
    with a per cent sign.
    """
    known = sorted(lamps, key=len, reverse=True)
    found = NamedSo()
    for name in names:
        own = _read(name, known)
        found = NamedSo(
            found.lamp or own.lamp,
            found.cct_k if found.cct_k is not None else own.cct_k,
            found.level_pct if found.level_pct is not None else own.level_pct,
        )
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
    return NamedSo(lamp, white, level)


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
    parts = re.split(r"\{(.*?)\}", pattern)
    regex = "".join(_FIELDS[p] if i % 2 else re.escape(p).replace(r"\ ", r"[\s_\-]+") for i, p in enumerate(parts))
    for name in names:
        match = re.fullmatch(regex, name.strip())
        if match is not None:
            groups = match.groupdict()
            return NamedSo(
                (groups.get("lamp") or "").replace("_", " ").strip(),
                float(groups["cct"]) if groups.get("cct") else None,
                float(groups["level"].replace(",", ".")) if groups.get("level") else None,
            )
    raise FormatError(f"“{names[0]}” is not named like {pattern}")


def files_in(paths: Sequence[Path], suffixes: frozenset[str]) -> tuple[list[Path], str]:
    """The files of a list in which folders may stand, and what their session is called: the folder, or the file."""
    found: list[Path] = []
    for path in paths:
        if path.is_dir():
            found += sorted(p for p in path.rglob("*") if p.suffix.lower() in suffixes and p.is_file())
        else:
            found.append(path)
    folder = next((p for p in paths if p.is_dir()), None)
    return found, folder.resolve().name if folder is not None else (paths[0].stem if paths else "")
