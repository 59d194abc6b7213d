"""The changes that `make mutants` makes are real ones, each in one place, and named."""

import ast

from benchmarks.mutants import TESTS, mutants, speaking_of

SOURCE = """
def f(a, b):
    if a < b:
        return -a + 2.0 * b
    return a / b
"""


def test_every_change_is_in_one_place_and_named():
    found = dict(mutants(SOURCE))
    whole = ast.unparse(ast.parse(SOURCE)).splitlines()
    kinds = sorted(what.split(": ")[1] for what in found)
    assert kinds == ["branch", "comparison", "factor of two", "sign", "sign", "sign", "sign"]
    for source in found.values():
        assert sum(a != b for a, b in zip(whole, source.splitlines(), strict=True)) == 1


def test_what_is_changed_and_what_tests_it_are_there(request):
    root = request.config.rootpath
    for module, tests in TESTS.items():
        assert (root / "src" / "even_beam" / module).is_file()
        assert all((root / path).exists() for path in tests)


def test_every_module_has_tests_to_be_run(request):
    root = request.config.rootpath
    sources = root / "src" / "even_beam"
    for path in sources.rglob("*.py"):
        assert all((root / one).exists() for one in speaking_of(str(path.relative_to(sources)))), path
