"""A report arranged: sections out, in another order, with sentences of one's own; kept with the session."""

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.collection.collection import Collection
from even_beam.handing_over.arrangement import Arrangement, keep_arrangement, kept_arrangement, usual_arrangement
from even_beam.handing_over.compose import composed, title_of_section
from even_beam.handing_over.kinds import PLANS, READINGS, Kind
from even_beam.handing_over.material import Material
from even_beam.logbook.store import Logbook
from even_beam.paper import page
from even_beam.shell.settings import Settings

KEYS = ("a", "b", "c", "d")
OTHERS = ("e", "f")


@given(st.permutations(KEYS), st.sets(st.sampled_from(KEYS)), st.sampled_from(KEYS), st.integers(-5, 5))
def test_nothing_is_lost_by_moving(order, out, key, by):
    arranged = Arrangement(tuple(order), frozenset(out)).moved([OTHERS, KEYS], key, by)
    assert arranged.ordered(OTHERS) == OTHERS
    assert sorted(arranged.ordered(KEYS)) == sorted(KEYS)
    assert set(arranged.applied(KEYS)) == set(KEYS) - out
    before, after = list(order), list(arranged.ordered(KEYS))
    assert after.index(key) == min(max(before.index(key) + by, 0), 3)
    before.remove(key)
    after.remove(key)
    assert before == after


def test_a_section_out_in_another_order_and_with_a_sentence(demo):
    book = Logbook.open(demo)
    collection = Collection(book)
    session = next(s for s in collection.sessions if s.name.startswith("Specimen"))
    arranged = (
        usual_arrangement(Kind.HEAD_TO_HEAD)
        .toggled("gear")
        .toggled(READINGS)
        .moved(PLANS[Kind.HEAD_TO_HEAD].groups, "landed", -4)
        .with_sentence("ranked", "Look at the petals & judge.")
    )
    keep_arrangement(book, session, Kind.HEAD_TO_HEAD, arranged)
    book.close()
    book = Logbook.open_to_read(demo)
    kept = kept_arrangement(book, session, Kind.HEAD_TO_HEAD)
    assert kept == arranged
    assert kept_arrangement(book, session, Kind.LAMP) == usual_arrangement(Kind.LAMP)
    document = composed(Material(Collection(book), Settings(), session), Kind.HEAD_TO_HEAD, kept)
    keys = [s.key for chapter in document.chapters for s in chapter.sections]
    assert keys[0] == "landed" and "gear" not in keys
    assert document.readings, "asked for"
    assert "Look at the petals &amp; judge." in page.html(document)
    book.close()


def test_keeping_twice_keeps_one(demo):
    book = Logbook.open(demo)
    session = book.sessions()[0]
    for text in ("first", "second"):
        keep_arrangement(book, session, Kind.LAMP, Arrangement().with_sentence("figures", text))
    assert kept_arrangement(book, session, Kind.LAMP).own == {"figures": "second"}
    assert Arrangement().with_sentence("figures", "x").with_sentence("figures", "  ").own == {}
    book.close()


@pytest.mark.parametrize("kind", Kind)
def test_every_section_goes_where_it_is_moved(demo, kind):
    """Each by one place within its group, as the report has it: no move that nothing comes of."""
    book = Logbook.open_to_read(demo)
    collection = Collection(book)
    session = next(s for s in collection.sessions if s.name.startswith("Specimen"))
    material = Material(collection, Settings(), session)

    def printed(arranged):
        chapters = composed(material, kind, arranged).chapters
        return {tuple(s.key for s in chapter.sections) for chapter in chapters}

    usual = usual_arrangement(kind)
    of_plan = [key for group in PLANS[kind].groups for key in group]
    marked = replace(usual, out=frozenset({READINGS}), own=dict.fromkeys(of_plan, "Mine."))  # none is empty then
    for group in PLANS[kind].groups[:-1]:
        for above, below in pairwise(group):
            moved = marked.moved(PLANS[kind].groups, below, -1)
            own = next(keys for keys in printed(moved) if above in keys)
            assert own.index(below) == own.index(above) - 1, (above, below)
    book.close()


@pytest.mark.parametrize("kind", Kind)
def test_every_section_has_a_name_for_people(kind):
    assert all(title_of_section(key) for key in PLANS[kind].sections)
