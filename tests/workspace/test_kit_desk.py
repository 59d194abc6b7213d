import pytest

from even_beam.workspace.kit_desk import FormError, KitDesk, LampForm, form_of
from even_beam.workspace.kit_view import cells, story

FORM = LampForm(
    "Tansy", "six-emitter", "spot, 260 W", "on approval", "S6", "2000 to 10000", "95+", "19 800 lx", "250", "1,480", "EUR", "May it?"
)  # fmt: skip


@pytest.fixture
def kit(logbook) -> KitDesk:
    return KitDesk(logbook)


def test_add_edit_retire_undo(kit):
    heard = []
    kit.changed.connect(lambda: heard.append(1))
    kit.add_lamp(FORM, "six-emitter colour light")
    (card,) = kit.lamps()
    assert form_of(card).white == "2000 to 10000"
    claim = card.claim("cct")
    assert (claim.low, claim.high) == (2000.0, 10_000.0)
    assert card.claim("ra").low == 95.0
    assert card.claim("ra").high is None
    assert card.costs[0].amount == 1480.0
    kit.edit_lamp(card, LampForm("Tansy", "six-emitter", ra="97"), "six-emitter colour light")
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
    [({"nickname": "  "}, "nickname"), ({"ra": "ninety-x"}, "ra"), ({"price": "cheap"}, "price"), ({"price": "-5"}, "price"), ({"white": "5600 to 3200"}, "white"), ({"illuminance_at_1_m": "-3 lx"}, "illuminance_at_1_m")],
)  # fmt: skip
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
    assert cells(card) == ("Tansy", "six-emitter", "2000 to 10000 K", "95+", "19 800 lx", "250 W", "1\u2009480 EUR")
    texts = [text for text, _ in story(card, [])]
    assert "not read yet" in texts
    assert "on approval" in texts
