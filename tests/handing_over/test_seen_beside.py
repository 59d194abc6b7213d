"""Two lamps looked at side by side: one observation, told of each with the name of the other."""

from even_beam.app.stations.bench.observation_dialog import ObservationDialog
from even_beam.bench.records import Source
from even_beam.collection.collection import Collection
from even_beam.handing_over.material import Material
from even_beam.handing_over.sections.lamp import handling
from even_beam.shell.settings import Settings


def test_what_was_seen_of_two_lamps_is_told_of_each(desk, logbook):
    logbook.save(Source("third", "Burdock"))
    desk.reload_kit()
    for lamp in ("lamp", "other", "third"):
        desk.turn_to(lamp)
        desk.confirm(desk.propose("820 lx dial 5600"), keep_in_doubt=True)
    desk.observe("shadow edge", "colour fringes", "", ("lamp", "other"), desk.next_terms)
    desk.observe("fan", "silent", "", ("lamp",), desk.next_terms)
    material = Material(Collection(logbook), Settings(), None)
    told = {one.name: [said.text for said in handling(material, one).said] for one in material.entrants}
    assert told["Tansy"] == ["Beside Sorrel: shadow edge: colour fringes.", "fan: silent."]
    assert told["Sorrel"] == ["Beside Tansy: shadow edge: colour fringes."]
    assert told["Burdock"] == []


def test_the_dialog_asks_beside_which_lamp(qtbot):
    dialog = ObservationDialog(None, "Tansy", [], [], [("other", "Sorrel"), ("third", "Burdock")])
    qtbot.addWidget(dialog)
    dialog.choose("fan", "silent", beside="third")
    dialog.try_accept()
    assert dialog.beside == "third"
    alone = ObservationDialog(None, "Tansy", [], [])
    qtbot.addWidget(alone)
    alone.choose("fan", "silent")
    alone.try_accept()
    assert alone.beside == ""
