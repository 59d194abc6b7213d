"""The lamp dialog: what is wrong is said where it is read, nothing is lost that was typed, and every field has its
name."""

import pytest
from PyQt6.QtWidgets import QLineEdit

from even_beam.app.kit.lamp_dialog import LampDialog
from even_beam.workspace.kit.desk import KitDesk
from even_beam.workspace.kit.lamp_form import FormError, LampForm, form_of
from even_beam.workspace.kit.view import simulated_kinds


@pytest.fixture
def kit(logbook):
    return KitDesk(logbook)


@pytest.fixture
def dialog(qtbot, qapp, kit):
    opened = LampDialog(None, LampForm(""), simulated_kinds(), "", kit.add_lamp)
    qtbot.addWidget(opened)
    return opened


def fill(dialog, **texts):
    for name, text in texts.items():
        dialog._edits[name].setText(text)


def test_every_field_has_a_name_and_its_own_place(dialog):
    edits = dialog.findChildren(QLineEdit)
    names = [edit.accessibleName() for edit in edits]
    assert all(names) and len(set(names)) == len(names)
    dialog.show()
    dialog.layout().activate()
    boxes = [edit.geometry() for edit in edits]
    assert not any(a.intersects(b) for i, a in enumerate(boxes) for b in boxes[i + 1 :])


def test_a_field_that_cannot_be_is_named_and_the_rest_stays(dialog, kit):
    fill(dialog, nickname="Mallow", return_by="Friday", price="480", supplied_by="lent by the mill")
    dialog.try_accept()
    assert "2026-12-01" in dialog.fault.text() and kit.lamps() == []
    assert dialog._edits["supplied_by"].text() == "lent by the mill"
    fill(dialog, return_by="2026-12-24")
    dialog.try_accept()
    (card,) = kit.lamps()
    assert (card.source.nickname, card.source.return_by, card.costs[0].amount) == ("Mallow", "2026-12-24", 480.0)


def test_a_window_is_no_fixture_and_what_was_kept_comes_back(dialog, kit, qtbot):
    fill(dialog, nickname="North window")
    dialog._what.setCurrentText("window")
    dialog.try_accept()
    (card,) = kit.lamps()
    assert not card.source.is_fixture
    again = LampDialog(
        None, form_of(card), simulated_kinds(), "", lambda form, simulated: kit.edit_lamp(card, form, simulated)
    )
    qtbot.addWidget(again)
    assert again._what.currentText() == "window" and again._edits["nickname"].text() == "North window"


def test_a_refusal_names_its_field():
    assert FormError("ra", "no").field == "ra"
