import json
from dataclasses import replace
from itertools import pairwise

import pytest
from click.testing import CliRunner
from pypdf import PdfReader
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel

from even_beam.app.stations.plan import station as plan_station
from even_beam.app.stations.plan.costs_dialog import CostsDialog
from even_beam.app.window import BENCH, PLAN
from even_beam.cli import main
from even_beam.desk.kit.lamp_form import form_of
from even_beam.shell import places


@pytest.fixture
def window(open_window, demo):
    return open_window(demo, PLAN)


def lamps(window) -> dict[str, str]:
    return {card.source.nickname: card.source.id for card in window.document.kit.lamps()}


def texts(window) -> str:
    return " ".join(label.text() for label in window.plan.findChildren(QLabel))


def test_a_plan_becomes_a_session_on_the_bench(window):
    assert "Take at least one lamp" in texts(window)
    window.plan.choose([lamps(window)["Tansy"]], ["dimming sweep", "distance walk"])
    assert "steps" in texts(window)
    assert "lost: the distance law" in texts(window)
    window.plan._edits["question"].setText("Does it hold when dimmed?")
    window.plan._edits["levels"].setText("100 50 1")
    window.plan.press("Enter")
    assert window.station is window.bench
    desk = window.document.desk
    assert desk.session.question == "Does it hold when dimmed?"
    assert {s.step.terms.level_pct for s in desk.state.steps} == {100.0, 50.0, 1.0}
    window.go(BENCH)


def test_wrong_fields_are_said(window):
    window.plan.choose([lamps(window)["Tansy"]], ["dimming sweep"])
    window.plan._edits["levels"].setText("100 bright")
    assert "“bright” is not a level" in texts(window)
    window.plan.press("Enter")
    assert window.station is window.plan
    for name, text in (("distance", "somewhere"), ("whites", "warm"), ("angles", "sideways"), ("hours", "all")):
        window.plan._edits[name].setText(text)
    shown = {name for name, words in window.plan._faults.items() if not words.isHidden()}
    assert shown == {"distance", "whites", "levels", "angles", "hours"}, "each stands at its field, all at once"
    for name in shown:
        assert window.plan._edits[name].text().split()[-1] in window.plan._faults[name].text()
        window.plan._edits[name].clear()
    assert all(words.isHidden() for words in window.plan._faults.values())
    assert "steps" in texts(window)


def test_the_room_sheet(window, qtbot, tmp_path):
    window.plan.choose([lamps(window)["Bracken"]], ["distance walk", "power", "flicker on camera"])
    path = tmp_path / "room.pdf"
    window.plan.write_room_sheet(path, "Glasshouse evening")
    qtbot.waitUntil(lambda: path.exists() and not window.busy, timeout=20_000)
    text = " ".join(PdfReader(path).pages[0].extract_text().split())
    for words in (
        "Glasshouse evening",
        "10 ft · 15 ft · 20 ft · 25 ft",
        "Bracken",
        "Ambient reading",
        "licensed electrician",
        "seizures",
        "discharge lamp",
        "Dark calibration at",
    ):
        assert words in text, words
    steps = " ".join(" ".join(page.extract_text().split()) for page in PdfReader(path).pages[1:])
    assert "Step by step, to be filled in" in steps
    assert "lx K Duv what happened" in steps
    assert f" {len(window.plan._plan.steps)} " in steps, "each step has its number"
    assert "by hand" in steps
    assert "Bracken · bare · 25 ft" in steps, "what the hands do stands above the steps that follow"


def test_protocols_of_ones_own_stand_in_the_list(open_window, demo):
    own = places.config_file().with_name("protocols.json")
    own.parent.mkdir(parents=True, exist_ok=True)
    own.write_text(json.dumps({"protocols": [{"name": "petals", "answers": "pinks and purples", "whites_k": [4400]}]}))
    window = open_window(demo, PLAN)
    assert "petals" in [p.name for p in window.plan._protocols]
    for broken in (b"{", b"\xff\xfe", b"[]"):
        own.write_bytes(broken)
        window.plan._fill()
        assert "petals" not in [p.name for p in window.plan._protocols]
        assert len(window.plan._protocols) >= 20


def test_a_plan_runs_without_a_window(tmp_path):
    plan, book = tmp_path / "plan.json", tmp_path / "book.evenbeam"
    plan.write_text(
        json.dumps(
            {
                "name": "Evening",
                "lamps": [{"nickname": "Tansy", "simulated": "six-emitter colour light"}],
                "protocols": ["quick look", "power"],
            }
        )
    )
    result = CliRunner().invoke(main, ["run", str(plan), str(book), "--simulate"])
    assert result.exit_code == 0, result.output
    lines = result.stdout.splitlines()
    assert sum(" lx " in line for line in lines) == 5  # four of the protocols, and the reference again
    assert sum(line.startswith("left out, read by hand") for line in lines) >= 3
    assert "5 readings" in CliRunner().invoke(main, ["check", str(book)]).output
    for content, words in (
        ({"lamps": ["Nobody"], "protocols": ["quick look"]}, "no simulated lamp"),
        ({"lamps": ["Tansy"], "protocols": ["nothing"]}, "no protocol"),
        ({"lamps": []}, "needs"),
    ):
        plan.write_text(json.dumps(content))
        result = CliRunner().invoke(main, ["run", str(plan), str(book), "--simulate"])
        assert result.exit_code == 1
        assert words in result.stderr


def test_the_run_sheet_is_changed_by_hand_and_back(window, hands):
    window.plan.choose([lamps(window)["Tansy"]], ["dimming sweep"])
    sheet, before = window.plan._sheet, window.plan._plan
    third = before.steps[2].id
    sheet.choose_step(third)
    sheet.setFocus()
    QTest.keyClick(window.plan, Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier)
    assert window.plan._plan.steps[3].id == third
    assert sheet.chosen_step == third  # the cursor goes along
    hands.press(window, "+")
    assert window.plan._plan.steps[4].terms == before.steps[2].terms
    hands.press(window, "s")
    assert [s.id for s in window.plan._plan.steps].count(third) == 0
    for _ in range(3):
        window._undo()
    assert window.plan._plan == before
    window.plan.press("Enter")
    assert len(window.document.desk.state.steps) == len(before.steps)


def test_a_long_plan_is_split_over_days(window):
    window.plan.choose([lamps(window)["Tansy"]], ["full review"])
    window.plan._edits["whites"].setText("2000 to 12400 by 100")
    window.plan._edits["hours"].setText("0.5")
    assert "day 1 of" in window.plan._sheet._shown[0].first
    steps = window.plan._plan.steps
    assert len({s.terms.cct_k for s in steps}) == 105
    window.plan._edits["name"].setText("Review")
    window.plan.press("Enter")
    names = [s.name for s in window.document.logbook.sessions() if s.name.startswith("Review")]
    assert names[0] == f"Review, day 1 of {len(names)}"
    assert window.document.desk.session.name == names[0]
    for text, words in (("99 days", "hours a day"), ("2 3", "hours a day")):
        window.plan._edits["hours"].setText(text)
        assert words in texts(window)


def test_costs_are_edited_and_learned(window, monkeypatch):
    window.plan.choose([lamps(window)["Tansy"]], ["quick look"])
    before = window.plan._plan.seconds

    class Editing(CostsDialog):
        def exec(self) -> int:
            assert self._learned.observed["by_key_s"] > 20
            self.take_learned()
            self._boxes["warm_up_s"].setValue(1800.0)
            self.accept()
            return 1

    monkeypatch.setattr(plan_station, "CostsDialog", Editing)
    window.plan.press("T")
    assert window.document.costs.warm_up_s == 1800.0
    assert 8.0 < window.document.costs.by_key_s < 11.0  # this unit reads every 9 s
    assert window.document.costs.distance_s > 70.0  # and takes longer than usual to move
    assert window.plan._plan.seconds > before + 800.0
    from even_beam.shell.settings import load

    assert load().costs["warm_up_s"] == 1800.0


def steps_of(window) -> list:
    return list(window.plan._plan.steps) if window.plan._plan else []


def test_zooms_angles_and_places_cross_what_the_protocols_ask(window):
    window.plan.choose([lamps(window)["Tansy"]], ["dimming sweep"])
    window.plan._edits["levels"].setText("100 50")
    alone = {s.terms for s in steps_of(window)}
    for name, text in (("zooms", "flood, spot"), ("angles", "centre, left 15, right 15"), ("distance", "2 m 10 ft")):
        window.plan._edits[name].setText(text)
    crossed = {s.terms for s in steps_of(window)}
    assert {(t.zoom, t.angle_deg, round(t.distance_m, 3)) for t in crossed} == {
        (zoom, angle, metres) for zoom in ("flood", "spot") for angle in (-15.0, 0.0, 15.0) for metres in (2.0, 3.048)
    }
    assert len(crossed) == 12 * len(alone)
    outer = [(t.distance_m, t.angle_deg, t.zoom) for t in (s.terms for s in steps_of(window))]
    changes = sum(a != b for a, b in pairwise(outer))
    assert changes <= 12, "what costs most is changed least: each place, aim and zoom once, and the last reference"
    window.plan._edits["levels"].setText(" ".join(str(n) for n in range(1, 101)))
    window.plan._edits["whites"].setText("2000 to 9900 by 20")
    window.plan.choose([lamps(window)["Tansy"]], ["dimming sweep", "CCT sweep"])
    assert len(steps_of(window)) < 20_000 or "too many" in texts(window)
    window.plan._edits["angles"].setText("centre, sideways")
    assert "is not an angle" in texts(window)


def test_equal_units_are_one_group(window):
    desk = window.document.kit
    cards = desk.lamps()
    first, other = (c for c in cards if c.model is not None and c.source.nickname in {"Tansy", "Bracken"})
    desk.edit_lamp(other, replace(form_of(other), model=f" {first.model.name.upper()} "))
    window.plan._lamps.setCurrentRow([c.source.id for c in desk.lamps()].index(other.source.id))
    window.plan.choose([], ["dimming sweep"])
    window.plan.press("U")
    assert set(window.plan._lamps.chosen) == {first.source.id, other.source.id}
    assert "units of one model, read at the same terms" in texts(window)
    by_unit = {i: [s.terms for s in steps_of(window) if s.source_ids == (i,)] for i in window.plan._lamps.chosen}
    assert by_unit[first.source.id] == by_unit[other.source.id] != []
    window.plan._lamps.setCurrentRow([c.source.nickname for c in desk.lamps()].index("Comfrey"))
    window.plan.press("U")
    assert len(window.plan._lamps.chosen) == 2


def test_a_sheet_changed_by_hand_outlives_what_is_written_beside_it(window):
    plan = window.plan
    card = window.document.kit.lamps()[0]
    plan.choose([card.source.id], ["dimming sweep"])
    plan._sheet.choose_row(2)
    plan.press("S")
    changed = [step.id for step in plan._plan.steps]
    plan._edits["name"].setText("An evening of its own")
    plan._edits["question"].setText("Does it hold?")
    assert [step.id for step in plan._plan.steps] == changed
    plan._edits["levels"].setText("100 50 25")
    assert [step.id for step in plan._plan.steps] != changed
    plan.undo()
    assert [step.id for step in plan._plan.steps] == changed


def test_a_short_time_gives_up_what_tells_least_and_g_takes_it_back(window):
    window.plan.choose([lamps(window)["Tansy"], lamps(window)["Bracken"]], ["full review", "claims check"])
    whole = window.plan._plan
    minutes = int(whole.seconds * 0.7 / 60.0)
    window.plan._edits["time"].setText(f"{minutes} min")
    short = window.plan._plan
    assert "Given up: " in texts(window)
    assert short.seconds <= 60.0 * minutes < whole.seconds
    went_last = short.given_up[-1].kind
    QTest.keyClick(window.plan._lamps, Qt.Key.Key_G)
    assert went_last not in {one.kind for one in window.plan._plan.given_up}
    window.plan._edits["time"].setText("soon")
    assert "“soon” is not a time for a plan" in window.plan._faults["time"].text()
    window.plan._edits["time"].setText("")
    assert len(window.plan._plan.steps) == len(whole.steps)
    window.plan.press("G")
    assert len(window.plan._plan.steps) == len(whole.steps), "there was nothing to take back"
