"""A line as parts that cover each of its words once: the coverings that speak for themselves, the best first."""

import heapq
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import count

from even_beam.bench.records import Terms
from even_beam.said import bare, figures, terms
from even_beam.said.meaning import REFUSED, Meaning, Stretch, Whole, refusal
from even_beam.said.situation import Situation
from even_beam.said.words_of_line import Word

LONGEST_PART = 8
"""No part of a line has more words."""

CLEAR = 1.0
"""What fits better by so much is meant; what comes nearer is asked."""

_MOST_STEPS = 20_000
_SILENT = frozenset({"read", "reads", "shows", "and", "is", "now"})
"""Words that say no more than what stands beside them: 5594 K read, 820 lx and 50 %."""
_SILENT_COST = 0.3


@dataclass(frozen=True, slots=True)
class Placed:
    """A part of a covering: the words from `start` to before `end`, and what they mean; None for a silent one."""

    start: int
    end: int
    meaning: Meaning | None


@dataclass(frozen=True, slots=True)
class Covering:
    """One reading of the whole line."""

    parts: tuple[Placed, ...]
    cost: float

    @property
    def refused(self) -> str:
        """Why it cannot be, of the first part that cannot; empty where all can."""
        return next((p.meaning.refused for p in self.parts if p.meaning is not None and p.meaning.refused), "")

    @property
    def decides(self) -> frozenset[tuple[str, object]]:
        """Everything that it says: two coverings with the same mean the same."""
        return frozenset(slot for part in self.parts if part.meaning is not None for slot in part.meaning.slots)


def coverings(words: Sequence[Word], situation: Situation) -> list[Covering]:
    """The best reading of a line and all that come near it, each with another meaning. Never empty."""
    lattice = _lattice(words, situation)
    found: dict[frozenset[tuple[str, object]], Covering] = {}
    ways: list[tuple[float, int, int, tuple[Placed, ...], Mapping[str, object]]] = [(0.0, 0, 0, (), {})]
    order, best, been = count(1), float("inf"), set()
    for _ in range(_MOST_STEPS):
        if not ways or ways[0][0] >= best + CLEAR:
            break
        cost, _, place, parts, slots = heapq.heappop(ways)
        if place == len(words):
            settled = _settled(parts, cost, situation.terms)
            if settled is None:
                continue
            known = found.get(settled.decides)
            if known is None or settled.cost < known.cost:
                found[settled.decides] = settled
                best = min(best, settled.cost)
            continue
        if (here := (place, frozenset(slots.items()))) in been:
            continue  # another way said the same so far, and cost no more
        been.add(here)
        for placed, least in lattice[place]:
            more, against = _taken(placed, slots)
            heapq.heappush(ways, (cost + least + REFUSED * bool(against), next(order), placed.end,
                                  (*parts, against or placed), more))  # fmt: skip
    if not found:
        why = "this is too much for one line: say it in two"
        return [Covering((Placed(0, len(words), refusal(words[0].text, why)),), REFUSED)]
    near = [one for one in found.values() if one.cost < best + CLEAR]
    return sorted(near, key=lambda one: one.cost)


def _lattice(words: Sequence[Word], situation: Situation) -> list[list[tuple[Placed, float]]]:
    """From each word on, the parts that may begin there, each with the least it costs."""
    lattice: list[list[tuple[Placed, float]]] = []
    for start in range(len(words)):
        found: list[tuple[Placed, float]] = []
        for end in range(start + 1, min(len(words), start + LONGEST_PART) + 1):
            if end > start + 1 and words[end - 1].parted:
                break
            behind = words[end].text if end < len(words) and not words[end].parted else ""
            stretch = Stretch(" ".join(word.text for word in words[start:end]), behind, situation)
            found += [(Placed(start, end, one), _least(one)) for one in _meanings(stretch)]
        if words[start].text.lower() in _SILENT:
            found.append((Placed(start, start + 1, None), _SILENT_COST))
        if all(placed.end != start + 1 or (placed.meaning and placed.meaning.settle) for placed, _ in found):
            found.append((Placed(start, start + 1, _unknown(words[start].text, situation)), REFUSED))
        lattice.append(found)
    return lattice


def _least(meaning: Meaning) -> float:
    """What a meaning costs at least, before the whole line is known."""
    return meaning.cost if meaning.settle is None else meaning.least


def _meanings(stretch: Stretch) -> list[Meaning]:
    """All that a stretch may mean: what says so by itself, and numbers by what they could be."""
    known = [meaning for propose in terms.PROPOSERS for meaning in propose(stretch)]
    if stretch.situation.settings_alone:
        return [meaning for meaning in known if meaning.entry is None]
    for propose in figures.PROPOSERS:
        if found := list(propose(stretch)):
            return [*known, *found]
    return [*known, *bare.meanings(stretch)]


def _unknown(word: str, situation: Situation) -> Meaning:
    if situation.settings_alone:
        return refusal(word, f"“{word}” is no setting: write a level (33), a white (4400 K), a distance (3 m), spot")
    if word.isdigit() and set(word) == {"0"}:
        return refusal(word, f"“{word}” after a figure: blanks group digits in threes only, such as 1 600")
    if any(letter.isdigit() for letter in word):
        asks = "Add a unit such as lx, K or Duv" if word.lstrip("+-−")[:1].isdigit() else "It is no figure"
        return refusal(word, f"“{word}”: of what? {asks}")
    return refusal(word, f"“{word}” is not understood. What sits on the lamp is said with “with”: with {word}")


def _taken(placed: Placed, slots: Mapping[str, object]) -> tuple[Mapping[str, object], Placed | None]:
    """What is decided with a part, and the part refused where it decides otherwise what was decided before it."""
    meaning = placed.meaning
    if meaning is None:
        return slots, None
    for name, value in meaning.slots:
        if name in slots and (slots[name] != value or name.startswith("read ")):
            why = (
                f"two figures of the same quantity: “{meaning.words}” beside another"
                if name.startswith("read ")
                else f"“{meaning.words}” stands beside another: say which of the two it is"
            )
            return slots, replace(placed, meaning=refusal(meaning.text, why))
    return {**slots, **dict(meaning.slots)}, None


def _settled(parts: Sequence[Placed], cost: float, standing: Terms) -> Covering | None:
    """A covering with what its parts are beside all that it says itself; None where one of them is nothing."""
    stated = {name: value for part in parts if part.meaning is not None for name, value in part.meaning.terms.items()}
    read = (part.meaning.entry for part in parts if part.meaning is not None and part.meaning.entry is not None)
    here = replace(standing, **stated)  # type: ignore[arg-type]
    whole = Whole(here, frozenset(stated), frozenset(entry.quantity or "" for entry in read))
    settled: list[Placed] = []
    for part in parts:
        if part.meaning is None or part.meaning.settle is None:
            settled.append(part)
            continue
        meaning = part.meaning.settle(whole)
        if meaning is None:
            return None
        cost += meaning.cost - _least(part.meaning)
        settled.append(replace(part, meaning=meaning))
    return Covering(tuple(settled), cost)
