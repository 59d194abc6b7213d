"""A report arranged: sections out, in another order, with sentences of one's own; kept with the session."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from even_beam.logbook.store import Logbook
from even_beam.reports import page
from even_beam.workspace.logbook.collection import Collection
from even_beam.workspace.report.arrangement import (
    READINGS,
    Arrangement,
    keep_arrangement,
    kept_arrangement,
    usual_arrangement,
)
from even_beam.workspace.report.compose import composed, sections_of, title_of_section
from even_beam.workspace.report.kinds import Kind
from even_beam.workspace.report.material import Material
from even_beam.workspace.shell.settings import Settings

KEYS = ("a", "b", "c", "d")


@given(st.permutations(KEYS), st.sets(st.sampled_from(KEYS)), st.sampled_from(KEYS), st.integers(-5, 5))
def test_nothing_is_lost_by_moving(order, out, key, by):
    arranged = Arrangement(tuple(order), frozenset(out)).moved(KEYS, key, by)
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
        .moved(sections_of(Kind.HEAD_TO_HEAD), "colour", -4)
        .with_sentence("white", "Look at the petals & judge.")
    )
    keep_arrangement(book, session.id, Kind.HEAD_TO_HEAD, arranged)
    book.close()
    book = Logbook.open_to_read(demo)
    kept = kept_arrangement(book, session.id, Kind.HEAD_TO_HEAD)
    assert kept == arranged
    assert kept_arrangement(book, session.id, Kind.LAMP) == usual_arrangement(Kind.LAMP)
    document = composed(Material(Collection(book), Settings(), session), Kind.HEAD_TO_HEAD, kept)
    keys = [s.key for chapter in document.chapters for s in chapter.sections]
    assert keys[0] == "colour" and "gear" not in keys
    assert document.readings == ()
    assert "Look at the petals &amp; judge." in page.html(document)
    book.close()


def test_keeping_twice_keeps_one(demo):
    book = Logbook.open(demo)
    session = book.sessions()[0]
    for text in ("first", "second"):
        keep_arrangement(book, session.id, Kind.LAMP, Arrangement().with_sentence("figures", text))
    assert kept_arrangement(book, session.id, Kind.LAMP).own == {"figures": "second"}
    assert Arrangement().with_sentence("figures", "x").with_sentence("figures", "  ").own == {}
    book.close()


@pytest.mark.parametrize("kind", Kind)
def test_every_section_has_a_name_for_people(kind):
    assert all(title_of_section(key) for key in sections_of(kind))
