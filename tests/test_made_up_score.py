"""A score that nobody knew is found at every door once it stands in the one table of quantities.

The table is read when modules are loaded, so each door is tried in a process of its own that adds a row first.
"""

import subprocess
import sys
import textwrap

import pytest

ADD = """
import json, sys
from pathlib import Path
from even_beam.words import quantities
quantities.QUANTITIES["glow"] = quantities._score(
    "glow", "Glow", 0.0, letter="g", repeats=2.0, weight=33, headings=("radiance",)
)
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
(folder / "old.csv").write_text(
    "session,lamp,set,level,distance,lux,cct read,radiance,meter\\n"
    + "".join(
        f"Evening,{lamp},5600,100,2 m,{level},{white},{glow},Wall meter\\n"
        for lamp, level, white, glow in (
            ("Tansy", 1200, 5588, 93.5), ("Yarrow", 1400, 5630, 71.25), ("Tansy", 1203, 5590, 93.1),
            ("Tansy", 1201, 5591, 93.3), ("Yarrow", 1398, 5633, 71.5),
        )
    )
)
from even_beam.bench.records import Model
from even_beam.formats import columns, readings_table
from even_beam.answers.intake.importing import keep
from even_beam.answers.intake.past_table import understand
from even_beam.logbook.store import Logbook
from datetime import UTC, datetime

table = readings_table.load(folder / "old.csv")
guess = readings_table.guess_of(table)
assert guess["radiance"] == "measured glow", guess
logbook = Logbook.create(book)
report = keep(understand(table, guess), logbook, lambda: datetime(2026, 12, 1, 19, tzinfo=UTC))
assert report.refused == [], report.refused
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.lamp_form import form_of
from even_beam.desk.kit.lamp_line import changed, words_of
desk = KitDesk(logbook)
card = next(card for card in desk.lamps() if card.source.nickname == "Tansy")
form = changed("model six-emitter; Glow 90", form_of(card))
assert words_of("Glow 90", form_of(card)) == "claimed Glow: 90"
desk.edit_lamp(card, form)
from even_beam.bench.records import ToleranceSet
from even_beam.desk.kit import limit_line
limits = limit_line.changed("Glow 80", {})
assert limits == {"glow": 80.0}
assert limit_line.words_of("Glow 80", {}) == "Glow at least 80"
logbook.save(ToleranceSet("glowing", "glowing", "", limits))
logbook.close()
"""

DOORS = {
    "the line": """
from even_beam.said import Situation, understand
here = Situation(("illuminance", "glow"))
(figure,) = understand("Glow 91", here).entries
assert (figure.quantity, figure.value, figure.written) == ("glow", 91.0, "Glow 91")
assert understand("91 g", here).entries[0].quantity == "glow"
assert "g" in [choice.letter for choice in understand("91", here).choices]
assert understand("low 80s Glow", here).entries[0].low == 80.0
""",
    "what a figure can be": """
from even_beam.bench.limits import impossible_figure
assert impossible_figure("glow", 93.0, None, None) is None
assert impossible_figure("glow", 130.0, None, None) is not None
""",
    "import, and the table that is written": TABLE
    + """
out = folder / "all.csv"
run("export", book, "--to", "csv", out)
assert "glow,93.5" in out.read_text()
""",
    "findings and their JSON": TABLE
    + """
(found,) = json.loads(run("findings", book, "--fixture", "Tansy", "--json"))["fixtures"]
assert found["rows"][0]["figures"]["glow"] == 93.3
(finding,) = [one for one in found["findings"] if one["name"] == "Glow"]
assert finding["value"] == 93.3 or abs(finding["value"] - 93.3) < 1e-9
""",
    "claims": TABLE
    + """
(found,) = json.loads(run("findings", book, "--fixture", "Tansy", "--json"))["fixtures"]
(claim,) = found["claims"]
assert (claim["quantity"], claim["claim"], claim["verdict"]) == ("glow", "90", "holds"), claim
""",
    "limits": TABLE
    + """
assert "Glow 71 is below 80" in run("findings", book, "--fixture", "Yarrow", "--all")
""",
    "Compare": TABLE
    + """
found = json.loads(run("compare", book, "--fixtures", "Tansy,Yarrow", "--json"))
by_name = {one["fixture"]: one["figures"] for one in found["entries"]}
assert abs(by_name["Tansy"]["glow"] - 93.3) < 1e-9, found
""",
    "the answer of Compare and its sheet": TABLE
    + """
from even_beam.answers.compare.answer import Question, answer
from even_beam.answers.compare.questions import Ask
from even_beam.collection.collection import Collection
shown = answer(Collection(Logbook.open_to_read(book)), Question(ask=Ask.COLOURS))
assert "Glow" in shown.sheet.columns
assert "Glow 93" in shown.published, shown.published
""",
    "the Bench, where another figure than before is in doubt": TABLE
    + """
at = ("--fixture", "Tansy", "--meter", "Wall meter", "--at", "cct=5600;level=100;distance=2 m", "--json")
found = json.loads(run("enter", book, "Glow 92", *at))
assert found["kept"] and found["understood"][0]["quantity"] == "glow", found
found = json.loads(run("enter", book, "Glow 62", *at, code=3))
assert found["look"]["in_doubt"] and "Glow" in " ".join(found["look"]["sentences"]), found
""",
    "a lamp's page and its label": TABLE
    + """
from even_beam.answers.findings.lamp_page import page_of
from even_beam.handing_over.lamp_record import record_of
from even_beam.paper.label import SIZES
from even_beam.shell.settings import Settings
logbook = Logbook.open(book)
desk = KitDesk(logbook)
card = next(card for card in desk.lamps() if card.source.nickname == "Tansy")
record = record_of(book, card.source.id, Settings(), SIZES["62mm"])
page = page_of(card, desk.readings_of(card.source.id), (record.told, record.claims))
logbook.close()
assert [(row.name, row.came_to) for row in page.claims] == [("Glow", "holds: 93.3")], page.claims
assert any(known.text.startswith("Glow is 93") for known in page.known), page.known
assert any("Glow 93" in line for line in record.label.content.lines), record.label
""",
    "report": TABLE
    + """
run("report", book, "--fixtures", "Tansy,Yarrow", "--out", folder / "page.html")
page = (folder / "page.html").read_text()
assert "Glow" in page and ">93<" in page
""",
    "the guide's list of figures": """
from even_beam.app.guide_pages import page
assert "Glow" in page("figures.md")
""",
}


@pytest.mark.parametrize("door", DOORS)
def test_a_made_up_score_is_found_at(door, tmp_path):
    script = textwrap.dedent(ADD + DOORS[door])
    done = subprocess.run([sys.executable, "-c", script, str(tmp_path)], check=False, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr[-3000:]
