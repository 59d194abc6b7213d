"""Would a test fail if a sign, a comparison, a branch or a factor of two were wrong? Prints the share of changes that
survive.

`python -m benchmarks.mutants [MODULE ...]` changes one place at a time in a copy of the sources and runs the tests that
speak of that module; `--any 100 [SEED]` draws a hundred places from all of the sources, and runs the tests of their
folders. What survives is printed, to be looked at one by one; the tree itself is never touched.
"""

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from copy import deepcopy
from pathlib import Path

ROOT = Path(__file__).parents[1]
SEED, MOST_A_MODULE = 2026, 40
TESTS = {
    "bench/estimate.py": ("tests/bench/test_estimate.py", "tests/bench/test_exposure.py", "tests/known/findings"),
    "bench/walks.py": ("tests/bench/test_walks.py", "tests/known/test_compare.py"),
    "bench/terms.py": ("tests/bench/test_terms.py", "tests/known/test_compare.py", "tests/bench/test_one_sameness.py"),
    "known/choice.py": (
        "tests/known/test_choice.py",
        "tests/known/test_compare.py",
        "tests/bench/test_one_sameness.py",
    ),
    "said/bare.py": ("tests/said",),
    "said/covering.py": ("tests/said",),
    "said/figures.py": ("tests/said",),
    "said/terms.py": ("tests/said",),
    "bench/judging/gels.py": ("tests/bench/judging/test_gels.py",),
    "bench/judging/laws.py": ("tests/test_second_look_as_detector.py", "tests/bench/judging"),
    "words/wording.py": ("tests/words/test_wording.py",),
    "camera/shutter.py": ("tests/camera/test_shutter.py",),
    "camera/flicker.py": ("tests/camera/test_flicker.py",),
    "camera/chart_comparison.py": ("tests/camera/test_charts.py",),
    "camera/fades.py": ("tests/camera/test_fades.py",),
    "formats/lm63.py": ("tests/formats/test_lm63.py",),
    "paper/label.py": ("tests/paper/test_label.py",),
    "light/photometry.py": ("tests/light", "tests/bench/test_walks.py"),
    "light/white.py": ("tests/light",),
}
"""The modules that are changed, and the tests that speak of each."""


def speaking_of(module: str) -> tuple[str, ...]:
    """The tests of a module: those named, else the nearest folder that mirrors its own; of the window those of its
    station or widget, and where nobody speaks of it the whole folder's."""
    if module in TESTS:
        return TESTS[module]
    path = Path(module)
    if path.parts[0] == "app":
        names = {path.stem, path.parent.name} - {"app", "stations", "widgets", "station", "__init__"}
        own = [p for p in (ROOT / "tests" / "app").glob("test_*.py") if any(name in p.stem for name in names)]
        return tuple(str(p.relative_to(ROOT)) for p in sorted(own)) or ("tests/app/test_window.py",)
    for folder in path.parents:
        if folder.parts and (ROOT / "tests" / folder).is_dir():
            return (f"tests/{folder}",)
    beside = ROOT / "tests" / f"test_{path.parts[0]}.py"
    return (f"tests/test_{path.parts[0]}.py",) if beside.exists() else ("tests/test_cli.py",)


_OTHER: dict[type[ast.AST], type[ast.AST]] = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.Lt: ast.GtE, ast.GtE: ast.Lt,
    ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
}  # fmt: skip


def changed(node: ast.AST) -> tuple[str, ast.AST] | None:
    """A node with one thing wrong, and in words what; None where there is nothing to change."""
    other = deepcopy(node)
    if isinstance(other, ast.BinOp) and type(other.op) in _OTHER:
        other.op = _OTHER[type(other.op)]()  # type: ignore[assignment]
        return "sign", other
    if isinstance(other, ast.Compare) and type(other.ops[0]) in _OTHER:
        other.ops[0] = _OTHER[type(other.ops[0])]()  # type: ignore[assignment]
        return "comparison", other
    if isinstance(other, ast.If | ast.IfExp):
        other.test = ast.UnaryOp(ast.Not(), other.test)
        return "branch", other
    if isinstance(other, ast.UnaryOp) and isinstance(other.op, ast.USub):
        return "sign", other.operand
    if isinstance(other, ast.Constant) and type(other.value) is float and other.value:
        return "factor of two", ast.Constant(2.0 * other.value)
    return None


class _Changing(ast.NodeTransformer):
    """Changes the place of a number, and keeps what it did."""

    def __init__(self, place: int) -> None:
        self.left, self.done = place, ""

    def visit(self, node: ast.AST) -> ast.AST:
        found = changed(node)
        if found is not None:
            if self.left == 0:
                self.left = -1
                self.done = f"{getattr(node, 'lineno', 0)}: {found[0]}: {ast.unparse(node).splitlines()[0][:90]}"
                return ast.copy_location(found[1], node)
            self.left -= 1
        return self.generic_visit(node)


def mutants(source: str) -> Iterator[tuple[str, str]]:
    """Every changed source, with where and what was changed."""
    tree = ast.parse(source)
    places = sum(changed(node) is not None for node in ast.walk(tree))
    for place in range(places):
        changing = _Changing(place)
        made = changing.visit(deepcopy(tree))
        if changing.done:
            yield changing.done, ast.unparse(ast.fix_missing_locations(made))


def survives(copy: Path, module: str, source: str) -> bool:
    """Whether every test passes with a changed module."""
    target = copy / "src" / "even_beam" / module
    kept = target.read_text(encoding="utf-8")
    target.write_text(source, encoding="utf-8")
    environment = {
        **os.environ,
        "PYTHONPATH": str(copy / "src"),
        "PYTHONDONTWRITEBYTECODE": "1",
        "QT_QPA_PLATFORM": "offscreen",
    }
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *speaking_of(module)]
    try:
        done = subprocess.run(command, cwd=copy, env=environment, capture_output=True, timeout=300, check=False)
    except subprocess.TimeoutExpired:
        return False
    finally:
        target.write_text(kept, encoding="utf-8")
    return done.returncode == 0


@contextmanager
def copied() -> Iterator[Path]:
    """A copy of the sources and tests, to be changed."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder)
        for name in ("src", "tests", "benchmarks"):
            shutil.copytree(ROOT / name, copy / name, ignore=shutil.ignore_patterns("__pycache__"))
        for name in ("pyproject.toml", "README.md", "docs"):
            (shutil.copytree if (ROOT / name).is_dir() else shutil.copy)(ROOT / name, copy / name)
        yield copy


def report(modules: Sequence[str]) -> None:
    """Print what survives in each module, and the share."""
    with copied() as copy:
        for module in modules:
            every = list(mutants((ROOT / "src" / "even_beam" / module).read_text(encoding="utf-8")))
            chosen = random.Random(SEED).sample(every, min(MOST_A_MODULE, len(every)))
            left = 0
            for what, source in sorted(chosen):
                if survives(copy, module, source):
                    left += 1
                    print(f"  {module}, line {what}", flush=True)
            print(f"{module}: {left} of {len(chosen)} survive ({100.0 * left / max(len(chosen), 1):.0f} %)", flush=True)


def report_any(count: int, seed: int) -> None:
    """Print what survives of places drawn from all of the sources."""
    sources = ROOT / "src" / "even_beam"
    places = [
        (str(path.relative_to(sources)), number)
        for path in sorted(sources.rglob("*.py"))
        for number in range(sum(changed(node) is not None for node in ast.walk(ast.parse(path.read_text("utf-8")))))
    ]
    left = 0
    with copied() as copy:
        for tried, (module, number) in enumerate(random.Random(seed).sample(places, min(count, len(places)))):
            if tried and tried % 10 == 0:
                print(f"{left} of {tried} so far", flush=True)
            tree = ast.parse((sources / module).read_text("utf-8"))
            changing = _Changing(number)
            made = ast.unparse(ast.fix_missing_locations(changing.visit(tree)))
            if changing.done and survives(copy, module, made):
                left += 1
                print(f"  {module}, line {changing.done}", flush=True)
    print(f"{left} of {count} survive, drawn by {seed} from {len(places)} places", flush=True)


if __name__ == "__main__":
    if sys.argv[1:2] == ["--any"]:
        report_any(int(sys.argv[2]), int(sys.argv[3]) if len(sys.argv) > 3 else SEED)
    else:
        report(sys.argv[1:] or list(TESTS))
