"""A lamp's page on the demo: sentences with what they rest on, each claim with what it came to."""

import pytest

from even_beam.answers.findings.lamp_page import page_of
from even_beam.desk.kit.desk import KitDesk
from even_beam.handing_over.lamp_record import record_of
from even_beam.known.findings.claims import Holds
from even_beam.logbook.store import Logbook
from even_beam.paper.label import SIZES
from even_beam.shell.settings import Settings


@pytest.fixture
def kit(demo):
    logbook = Logbook.open(demo)
    yield KitDesk(logbook)
    logbook.close()


def test_the_page_of_every_lamp(kit, demo):
    for card in kit.lamps():
        read_in = kit.readings_of(card.source.id)
        record = record_of(demo, card.source.id, Settings(), SIZES["62mm"])
        page = page_of(card, read_in, (record.told, record.claims))
        assert page.name == card.source.nickname
        assert ([row.came_to for row in page.claims] and len(page.claims) == len(card.claims)) or not card.claims
        told = [one for one in record.told if one.subject != "claim"]
        for one, known in zip(page.known or (), told, strict=True):
            assert one.text.endswith(".") and one.terms == known.differs
            whole = " ".join((known.words, known.differs, known.aside))
            for word in (one.text + " " + one.terms).replace(".", " ").replace(",", " ").replace(";", " ").split():
                assert word in whole, "no word is made up"
            lost = set(whole.replace(",", " ").replace(";", " ").replace(".", " ").split()) - set(
                (one.text + " " + one.terms).replace(",", " ").replace(";", " ").replace(".", " ").split()
            )
            assert lost == set(), "and none is lost"
        marked = {row.name for row in page.claims if row.marked}
        failed = [one for one in record.claims if one.holds is Holds.NO]
        assert len(marked) == len({one.claim.quantity for one in failed})
        assert len(page.record) == len(read_in)


def test_before_the_record_is_read_it_says_so_and_without_one_nothing_is_awaited(kit):
    tansy = next(card for card in kit.lamps() if card.source.nickname == "Tansy")
    assert page_of(tansy, kit.readings_of(tansy.source.id), None).known is None
    assert page_of(tansy, [], None).known == ()
    assert ("other units", "Thyme, Rue") in page_of(tansy, [], None, ["Thyme", "Rue"]).facts
    assert kit.read_last() == tansy.source.id
