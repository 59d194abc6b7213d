"""Parts in any order, with any separators between, mean the same or ask; what is added changes nothing of the rest."""

import random
import time

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from benchmarks.drawn_lines import ASKING_ALL, drawn, joined, means
from even_beam.said import understand
from even_beam.words.entry import EntryError


@settings(max_examples=120, deadline=None)
@given(st.integers(0, 10**9))
def test_a_line_means_what_its_parts_mean_or_asks(seed):
    draw = random.Random(seed)
    pieces = drawn(draw)
    said = understand(joined(pieces, draw), ASKING_ALL)
    if not said.choices:
        assert means(said, pieces), said.written


def test_hardly_a_line_has_to_ask():
    draw = random.Random(14)
    lines = [joined(drawn(draw), draw) for _ in range(150)]
    asked = [line for line in lines if understand(line, ASKING_ALL).choices]
    assert len(asked) <= 0.1 * len(lines), asked


@settings(max_examples=100, deadline=None)
@given(st.integers(0, 10**9))
def test_the_words_of_a_line_are_each_part_of_one_thing(seed):
    draw = random.Random(seed)
    line = joined(drawn(draw), draw)
    covered = [False] * len(line)
    for part in understand(line, ASKING_ALL).parts:
        assert not any(covered[part.start : part.end])
        covered[part.start : part.end] = [True] * (part.end - part.start)
    left = "".join(letter for letter, is_covered in zip(line, covered, strict=True) if not is_covered)
    assert not set(left.split()) - {"and", "read", ",", ";"}


@pytest.mark.parametrize(
    "piece", ["1 ", "95 600 ", "with a b c d ", "5594 ", "x ", "1.600 ", "spot 95 5594 0.002 ", "with "]
)
def test_a_line_of_nonsense_is_refused_and_not_pondered(piece):
    """Ways through a line grow with its words; one that says the same as another so far is not gone on with."""
    began = time.process_time()
    with pytest.raises(EntryError):
        understand((piece * 120)[:239], ASKING_ALL)
    assert time.process_time() - began < 20.0, "minutes would be one way after the other"


def test_the_same_figure_twice_is_no_figure_once():
    with pytest.raises(EntryError, match="two figures of the same quantity"):
        understand("820 lx 820 lx", ASKING_ALL)
    assert understand("50 % 820 lx 50 %", ASKING_ALL).terms == {"level_pct": 50.0}
