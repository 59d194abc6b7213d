"""In whatever order benches work and merge: at the end all tell the same, nothing is lost, and the last word stands.

What must stand is found by a model that knows no file: sets of readings, and of each field what was said last.
"""

import itertools
import tempfile
from dataclasses import replace
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st

from even_beam.answers.sharing.merging import merge
from even_beam.bench.records import Source
from even_beam.logbook.store import Logbook
from tests.answers.sharing.benches import NOW, Bench

BENCHES = 3
ACTS = st.lists(
    st.tuples(
        st.integers(0, BENCHES - 1),
        st.sampled_from(["read", "session", "lamp", "note", "name", "take out", "merge"]),
        st.integers(0, 3),
    ),
    max_size=14,
)


def take_in(here: Bench, other: Bench) -> int:
    """Merge one into another; how many records came."""
    book = Logbook.open(here.path)
    try:
        (found,) = merge(book, [other.path], NOW, {})
        return found.came
    finally:
        book.close()


def begun(folder: Path) -> list[Bench]:
    """Benches that begin with copies of one logbook."""
    first = Bench(folder / "0.evenbeam")
    session, lamp = first.session("Together"), first.lamp("Tansy")
    first.read(session, lamp, 100.0)
    first.lamp("Fennel")
    return [first, *(first.copy(folder / f"{n}.evenbeam") for n in range(1, BENCHES))]


def do(benches: list[Bench], who: int, act: str, number: int, *, clash: bool) -> None:
    """One act of one bench; names are the same on all where they may `clash`."""
    bench = benches[who]
    if act == "merge":
        if number % BENCHES != who:
            take_in(bench, benches[number % BENCHES])
        return
    own = "" if clash else f" of {who}"
    book = Logbook.open(bench.path)
    sessions, lamps = book.sessions(), book.all(Source)
    lamp = lamps[number % len(lamps)] if lamps else None
    names = {one.nickname for one in lamps}
    used = book.sessions_reading()
    book.close()
    if act == "session":
        bench.session(f"Evening {number}{own}")
    elif act == "lamp":
        if f"Lamp {number}{own}" not in names:
            bench.lamp(f"Lamp {number}{own}")
    elif lamp is None:
        return
    elif act == "read":
        bench.read(sessions[number % len(sessions)].id, lamp.id, 100.0 + number)
    else:
        book = Logbook.open(bench.path)
        if act == "note":
            book.save(replace(lamp, notes=f"note {number} of {who}"))
        elif act == "name" and f"Name {number}{own}" not in names:
            book.save(replace(lamp, nickname=f"Name {number}{own}"))
        elif act == "take out" and lamp.id not in used:
            book.exchange([lamp], [])
        book.close()


def last_words(benches: list[Bench]) -> dict[tuple, str]:
    """Of each field that was ever changed what was said last, over all benches: by the log of changes alone."""
    said = sorted({row for bench in benches for row in bench.rows("change")}, key=lambda row: (row[1], row[0]))
    return {(row[2], row[3], row[4]): row[6] for row in said}


def identities(bench: Bench, table: str) -> set[str]:
    return {row[0] for row in bench.rows(table)}


@settings(max_examples=12, deadline=None)
@given(acts=ACTS)
def test_all_tell_the_same_at_the_end(acts):
    with tempfile.TemporaryDirectory() as name:
        benches = begun(Path(name))
        for who, act, number in acts:
            do(benches, who, act, number, clash=True)
        readings = set().union(*(identities(bench, "reading") for bench in benches))
        values = set().union(*(bench.rows("value") for bench in benches))
        for _ in range(4):
            came = [take_in(a, b) for a, b in itertools.permutations(benches, 2)]
            if not any(came):
                break
        first, *others = (bench.everything() for bench in benches)
        assert all(other == first for other in others)
        assert identities(benches[0], "reading") == readings and benches[0].rows("value") == values
        named = {row[0]: row for row in benches[0].rows("source")}
        for (what, record_id, field), new in last_words(benches).items():
            if what == "source" and field == "nickname" and record_id in named:
                assert f'"{named[record_id][1]}"' == new
        assert len({row[1] for row in named.values()}) == len(named), "no two lamps have one name"


@settings(max_examples=12, deadline=None)
@given(acts=ACTS, order=st.permutations(range(BENCHES)))
def test_order_is_of_no_matter(acts, order):
    """Commutative, associative, idempotent: where no name is taken twice."""
    with tempfile.TemporaryDirectory() as name:
        benches = begun(Path(name))
        for who, act, number in acts:
            do(benches, who, act, number, clash=False)
        one = benches[0].copy(Path(name) / "left.evenbeam")
        for bench in (benches[1], benches[2], benches[1]):
            take_in(one, bench)
        other = benches[order[0]].copy(Path(name) / "right.evenbeam")
        pair = benches[order[1]].copy(Path(name) / "pair.evenbeam")
        take_in(pair, benches[order[2]])
        take_in(other, pair)
        assert without_put_back(other) == without_put_back(one)


def without_put_back(bench: Bench) -> dict:
    """All of it; that a lamp is put back because somebody used it is noted by whoever finds it so."""
    found = bench.everything()
    found["change"] = {row for row in found["change"] if row[6] != "1"}
    return found
