"""Figures that were kept are those of today's method: who changes one raises METHOD_VERSION, or old logbooks lie."""

import json

import pytest

from even_beam.light import METHOD_VERSION
from tests.golden.make import KEPT, figures

kept = json.loads(KEPT.read_text(encoding="utf-8"))


def test_the_golden_figures_are_those_of_this_method():
    assert kept["method_version"] == METHOD_VERSION, "METHOD_VERSION was raised: python -m tests.golden.make"


def test_no_figure_moved_without_a_new_method_version():
    now = figures()
    assert now.keys() == kept["figures"].keys()
    for name, own in kept["figures"].items():
        for key, values in own.items():
            assert [v is None for v in values] == [v is None for v in now[name][key]], (name, key)
            plain = [v for v in values if v is not None]
            # far below what is kept and shown, far above what another BLAS makes of the same sum
            assert [v for v in now[name][key] if v is not None] == pytest.approx(plain, rel=1e-7, abs=1e-8), (name, key)
