from dataclasses import replace
from datetime import date

import pytest

from even_beam.answers.kit.lamp_shelf import LampShelf
from even_beam.answers.plan.view import as_found, equal_units
from even_beam.bench.planning.protocols import shipped
from even_beam.bench.planning.run_sheet import Bench, LampPlan, make_plan
from even_beam.bench.records import Meter
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.lamp_form import LampForm, form_of
from even_beam.desk.kit.meter_form import MeterForm, meter_of
from even_beam.desk.kit.meter_form import form_of as meter_form_of
from even_beam.desk.kit.view import cells, worth_knowing
from even_beam.shell.settings import Settings
from even_beam.words.notation import THIN_SPACE

FORM = LampForm(
    "Tansy",
    "six-emitter",
    "spot, 260 W",
    "on approval",
    "S6",
    {"cct": "2000 to 10000", "ra": "95+", "illuminance": "19 800 lx", "power_w": "250"},
    "1,480",
    "EUR",
    "May it?",
)


@pytest.fixture
def kit(logbook) -> KitDesk:
    return KitDesk(logbook)


def test_add_edit_retire_undo(kit):
    heard = []
    kit.changed.connect(lambda: heard.append(1))
    kit.add_lamp(FORM)
    (card,) = kit.lamps()
    assert form_of(card).claims["cct"] == "2000 to 10000"
    claim = card.claim("cct")
    assert (claim.low, claim.high) == (2000.0, 10_000.0)
    assert card.claim("ra").low == 95.0
    assert card.claim("ra").high is None
    assert card.costs[0].amount == 1480.0
    kit.edit_lamp(card, LampForm("Tansy", "six-emitter", claims={"ra": "97"}))
    (edited,) = kit.lamps()
    assert [c.quantity for c in edited.claims] == ["ra"]
    assert kit.undo() == "edit Tansy"
    assert set(kit.lamps()[0].claims) == set(card.claims)
    assert kit.redo() == "edit Tansy"
    kit.retire_lamp(kit.lamps()[0])
    assert kit.lamps() == []
    assert kit.undo() == "retire Tansy"
    assert kit.undo() == "edit Tansy"
    assert kit.undo() == "add Tansy"
    assert kit.undo() is None
    assert kit.lamps() == []
    assert len(heard) >= 7


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"nickname": "  "}, "nickname"),
        ({"claims": {"ra": "ninety-x"}}, "ra"),
        ({"price": "cheap"}, "price"),
        ({"price": "-5"}, "price"),
        ({"claims": {"cct": "5600 to 3200"}}, "cct"),
        ({"claims": {"illuminance": "-3 lx"}}, "illuminance"),
    ],
)
def test_a_wrong_field_is_named_and_nothing_kept(kit, changes, field):
    from dataclasses import replace

    with pytest.raises(FormError) as raised:
        kit.add_lamp(replace(FORM, **changes))
    assert raised.value.field == field
    assert kit.lamps() == []


def test_nicknames_are_one_lamp_each(kit):
    kit.add_lamp(FORM)
    with pytest.raises(FormError, match="already"):
        kit.add_lamp(LampForm("tansy"))
    kit.retire_lamp(kit.lamps()[0])
    with pytest.raises(FormError, match="retired"):
        kit.add_lamp(LampForm("Tansy"))


def test_what_the_kit_shows(kit):
    kit.add_lamp(FORM)
    (card,) = kit.lamps()
    assert cells(card) == ("Tansy", "six-emitter", "2000 to 10000 K", "95+", "250 W", "1\u202f480 EUR")
    assert worth_knowing(card, date(2026, 11, 25)) == (f"1{THIN_SPACE}480 EUR", False)
    (thing,) = LampShelf(kit, date(2026, 11, 25)).things()
    assert thing.found_by("SIX approval") and not thing.found_by("six tungsten")


def test_a_retired_lamp_is_found_and_brought_back(kit):
    kit.add_lamp(FORM)
    kit.retire_lamp(kit.lamps()[0])
    assert kit.lamps() == []
    (card,) = kit.lamps(retired=True)
    assert worth_knowing(card, date(2026, 11, 25))[0] == "retired"
    kit.bring_back(card)
    assert [c.source.nickname for c in kit.lamps()] == ["Tansy"]
    assert kit.undo() == "bring back Tansy"
    assert kit.lamps() == []


def test_meters_are_filled_in_and_undone(logbook):
    kit = KitDesk(logbook)
    new = meter_of(MeterForm("Phone", ratios_only=True, constant="340", receptor="dome"), Meter("m", ""))
    kit.save_meter(new, None)
    assert kit.meters()[0].for_ratios_only
    assert kit.meters()[0].quantities == ("illuminance",)
    changed = meter_of(replace(meter_form_of(new), ratios_only=False, level_pct="4 %"), new)
    kit.save_meter(changed, new)
    assert kit.meters()[0].level_tolerance == pytest.approx(0.04)
    assert not kit.meters()[0].for_ratios_only
    with pytest.raises(FormError, match="already"):
        kit.save_meter(meter_of(MeterForm("phone"), Meter("other", "")), None)
    kit.undo()
    assert kit.meters()[0] == new
    kit.undo()
    assert kit.meters() == []


@pytest.mark.parametrize(
    ("field", "text"), [("nickname", " "), ("constant", "9"), ("level_pct", "lots"), ("floor_lx", "-1")]
)
def test_a_meter_that_cannot_be_is_refused_by_field(field, text):
    with pytest.raises(FormError) as raised:
        meter_of(replace(MeterForm("Phone"), **{field: text}), Meter("m", ""))
    assert raised.value.field == field


def test_sources_that_are_no_fixtures(logbook):
    kit = KitDesk(logbook)
    kit.add_lamp(LampForm("North window", what="window"))
    (card,) = kit.lamps()
    assert not card.source.is_fixture
    assert cells(card)[1] == "window"
    assert form_of(card).what == "window"
    assert as_found([card]) == (card.source.id,)
    plan = make_plan(
        [LampPlan(card.source.id, None, as_found=True)],
        shipped()[:8],
        Bench(Meter("k", "S"), Meter("h", "L", kind="light meter")),
    )
    assert {(s.terms.cct_k, s.terms.level_pct, s.terms.mode) for s in plan.steps} == {(None, None, "fixed")}
    assert all(s.wait_s == 0.0 for s in plan.steps)  # a window does not warm up


def test_the_day_it_goes_back_is_kept_shown_and_refused_when_it_is_none(kit):
    source = kit.add_lamp(replace(FORM, return_by=" 2026-12-01 "))
    card = next(card for card in kit.lamps() if card.source.id == source.id)
    assert card.source.return_by == "2026-12-01" and form_of(card).return_by == "2026-12-01"
    assert worth_knowing(card, date(2026, 11, 25)) == ("back by Tue 1 Dec", True)
    assert worth_knowing(card, date(2026, 12, 2)) == ("was due back 1 Dec", True)
    with pytest.raises(FormError) as raised:
        kit.edit_lamp(card, replace(form_of(card), return_by="1.12."))
    assert raised.value.field == "return_by"
    kit.edit_lamp(card, replace(form_of(card), return_by=""))
    assert kit.lamps()[0].source.return_by == ""
    assert kit.undo() is not None and kit.lamps()[0].source.return_by == "2026-12-01"


def test_a_lamps_record_follows_what_is_read(demo, clock):
    from even_beam.desk.session.document import Document

    document = Document.open(demo, Settings(), clock)
    lamps = {card.source.nickname: card.source.id for card in document.kit.lamps()}
    before = sum(count for _, count in document.kit.readings_of(lamps["Tansy"]))
    desk = document.begin("One more")
    desk.free_source = lamps["Tansy"]
    desk.confirm(desk.propose("1185"), keep_in_doubt=True)
    after = document.kit.readings_of(lamps["Tansy"])
    assert sum(count for _, count in after) == before + 1
    assert (after[-1][0].name, after[-1][1]) == ("One more", 1)
    assert document.learned_costs().costs.knob_s > 0.0
    document.close()


def test_lamps_of_one_model_share_it_and_every_edit_comes_back(kit):
    kit.add_lamp(FORM)
    second = kit.add_lamp(LampForm("Thyme", "six-emitter", "Spot,  260 w", claims={"ra": "96"}))
    tansy, thyme = kit.lamps()
    assert tansy.model == thyme.model
    assert thyme.source == second
    assert {c.quantity for c in thyme.claims} == {"cct", "ra", "illuminance", "power_w"}
    assert thyme.claim("ra").text == "96", "what is typed of the second unit is claimed of the model"
    assert equal_units(kit.lamps(), second.id) == (tansy.source.id, second.id)
    kit.undo()
    (alone,) = kit.lamps()
    assert alone.claim("ra").text == "95+"
    kit.redo()
    kit.edit_lamp(kit.lamps()[1], replace(form_of(kit.lamps()[1]), model="another spot"))
    tansy, thyme = kit.lamps()
    assert tansy.model.name == "spot, 260 W", "one unit of two takes another name without renaming both"
    assert thyme.model.name == "another spot"
    kit.add_lamp(LampForm("Sorrel", "panel", "soft panel", price="100", claims={"cct": "5600"}))
    sorrel = next(c for c in kit.lamps() if c.source.nickname == "Sorrel")
    kit.edit_lamp(sorrel, replace(form_of(sorrel), model="spot, 260 W"))
    moved = next(c for c in kit.lamps() if c.source.nickname == "Sorrel")
    assert moved.model.name == "spot, 260 W"
    assert moved.claim("cct").text == "2000 to 10000", "it takes the model's claims, not the model its"
    assert moved.costs[0].amount == 1480.0
    assert kit.undo() == "edit Sorrel"
    back = next(c for c in kit.lamps() if c.source.nickname == "Sorrel")
    assert (back.model.name, back.claim("cct").text, back.costs[0].amount) == ("soft panel", "5600", 100.0)
    kit.edit_lamp(back, replace(form_of(back), model="softer panel"))
    assert next(c for c in kit.lamps() if c.source.nickname == "Sorrel").model.id == back.model.id
