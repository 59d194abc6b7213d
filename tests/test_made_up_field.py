"""A field of terms that nobody knew is found at every door once it stands in the three places that CONTRIBUTING names:
the record, the table of fields, and the tables of the logbook.

The sources are copied and the three lines added, as a developer would.
"""

import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

SOURCES = Path(__file__).parents[1] / "src"
RECORD = ("    turn_deg: float = 0.0\n", '    turn_deg: float = 0.0\n    drive: str = ""\n')
METER = '    Field("meter", "meter"'
FIELD = (
    METER,
    """    text_field(
        "drive", "drive", "drive", lambda v: "" if v is None else f"drive {v}", caption="Drive", example="smooth",
        cost=KNOB, spoken="drive",
    ),
"""
    + METER,
)
TURN = "    turn_deg FLOAT DEFAULT '0' NOT NULL"
COLUMN = (TURN, f"{TURN},\n    drive VARCHAR DEFAULT '' NOT NULL")

BEGIN = """
import json, sys
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from click.testing import CliRunner
from even_beam.cli import main

def run(*arguments, code=0):
    done = CliRunner().invoke(main, [str(one) for one in arguments], catch_exceptions=False)
    assert done.exit_code == code, done.output
    return done.output

folder = Path(sys.argv[1])
book = folder / "kit.evenbeam"
"""

TABLE = """
rows = ["session,fixture,cct_k,dimmer_pct,distance,drive,quantity,value,unit,meter"]
for drive, level, white in (("smooth", 1000, 5600), ("fast", 1300, 5450)):
    for quantity, value, unit in (("illuminance", level, "lx"), ("cct", white, "K"), ("ra", 95, "")):
        rows.append(f"Evening,Tansy,5600,100,2 m,{drive},{quantity},{value},{unit},Wall meter")
(folder / "old.csv").write_text("\\n".join(rows))
run("import", folder / "old.csv", book)
"""

DOORS = {
    "the line": """
from even_beam.bench.records import Terms
from even_beam.said import Situation, understand
said = understand("820 lx; drive smooth", Situation(("illuminance",)))
assert said.terms["drive"] == "smooth" and "drive smooth" in said.written
""",
    "a form, its words and its cost": """
from even_beam.answers.bench.step_terms import terms_changed
from even_beam.bench.fields import FIELDS, shown_texts_of, terms_of_texts
from even_beam.bench.planning.costs import Costs
from even_beam.bench.planning.sweep import changed_parts
from even_beam.bench.records import Terms
from even_beam.bench.terms import terms_line
before = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
assert "Drive" in [one.caption for one in FIELDS]
after = terms_of_texts({**shown_texts_of(before, "m"), "drive": "fast"}, before, shown_texts_of(before, "m"))
assert after == replace(before, drive="fast")
assert terms_changed(before, after) == ["drive fast"]
assert "drive fast" in terms_line(after)
assert Costs().change(before, after) == Costs().knob_s
assert changed_parts(before, after) == {"drive"}
""",
    "the prompt of the Bench": """
from even_beam.answers.bench.view import prompt
from even_beam.bench.records import Session, Terms
from even_beam.desk.session.desk import SessionDesk
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings
logbook = Logbook.create(book)
session = Session("s", "Evening", datetime(2026, 12, 1, tzinfo=UTC))
logbook.save(session)
desk = SessionDesk(logbook, session, lambda: datetime(2026, 12, 1, 19, tzinfo=UTC))
desk.free_terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0, drive="fast")
assert "drive fast" in [part.text for part in prompt(desk, Settings()).parts]
logbook.close()
""",
    "a table, out and in again": TABLE
    + """
run("export", book, "--to", "csv", folder / "all.csv")
text = (folder / "all.csv").read_text()
assert "drive" in text.splitlines()[0] and ",fast," in text
again = folder / "again.evenbeam"
run("import", folder / "all.csv", again)
(lamp,) = json.loads(run("findings", again, "--json"))["fixtures"]
assert [row["terms"]["drive"] for row in lamp["rows"]] == ["smooth", "fast"]
""",
    "findings, in words and JSON": TABLE
    + """
(lamp,) = json.loads(run("findings", book, "--json"))["fixtures"]
assert [row["terms"]["drive"] for row in lamp["rows"]] == ["smooth", "fast"]
levels = [one["sentence"] for one in lamp["findings"] if one["name"] == "illuminance"]
assert len(levels) == 2, "never averaged over"
assert {"drive smooth" in one or "drive fast" in one for one in levels} == {True}, levels
""",
    "Compare, by what is asked of all and of one": TABLE
    + """
found = json.loads(run("compare", book, "--fixtures", "Tansy@drive=smooth,Tansy@drive=fast", "--json"))
assert [one["terms"]["drive"] for one in found["entries"]] == ["smooth", "fast"]
assert "drive" in json.dumps(found["terms"]), found["terms"]
found = json.loads(run("compare", book, "--fixtures", "Tansy", "--at", "drive=fast", "--json"))
assert found["entries"][0]["illuminance_lx"] > 1200.0
""",
    "what is entered from a script": TABLE
    + """
at = ("--fixture", "Tansy", "--at", "cct=5600;level=100;distance=2 m;drive=fast", "--json")
found = json.loads(run("enter", book, "1301 lx", *at))
assert found["kept"] and found["terms"]["drive"] == "fast"
""",
    "names of files": """
from even_beam.answers.intake.naming import by_pattern
assert by_pattern("{lamp} {drive}", ["Tansy_smooth"]).terms.drive == "smooth"
""",
    "report and sentences": TABLE
    + """
run("report", book, "--fixtures", "Tansy", "--out", folder / "page.html")
page = (folder / "page.html").read_text()
assert "drive smooth" in page and "drive fast" in page
said = run("sentences", book, "--fixtures", "Tansy")
assert "drive" in said, said
""",
}


@pytest.fixture(scope="module")
def with_one_more(tmp_path_factory):
    root = tmp_path_factory.mktemp("sources")
    shutil.copytree(SOURCES, root, dirs_exist_ok=True, ignore=shutil.ignore_patterns("__pycache__"))
    for name, (old, new) in (
        ("bench/records.py", RECORD), ("bench/fields.py", FIELD), ("logbook/schema.sql", COLUMN),
    ):  # fmt: skip
        path = root / "even_beam" / name
        text = path.read_text()
        assert old in text
        path.write_text(text.replace(old, new))
    return root


@pytest.mark.parametrize("door", DOORS)
def test_a_made_up_field_is_found_at(door, with_one_more, tmp_path):
    environment = {**os.environ, "PYTHONPATH": str(with_one_more)}
    script = BEGIN + DOORS[door]
    done = subprocess.run(
        [sys.executable, "-c", script, str(tmp_path)], check=False, capture_output=True, text=True, env=environment
    )
    assert done.returncode == 0, done.stderr[-3000:]
