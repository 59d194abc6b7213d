"""The figures of Compare as a sheet: what cannot stand beside the reference says why, what was not read nothing."""

from datetime import UTC, datetime

import pytest

from even_beam.answers.compare.answer import Question, answer
from even_beam.answers.compare.questions import Ask
from even_beam.answers.intake.importing import import_files
from even_beam.collection.collection import Collection
from even_beam.logbook.store import Logbook

ROWS = """session,fixture,cct_k,dimmer_pct,distance,quantity,value,unit,meter
E,Tansy,5600,100,2 m,illuminance,1000,lx,Wall meter
E,Sorrel,5600,100,2 m,illuminance,2000,lx,Wall meter
E,Rue,5600,100,,illuminance,500,lx,Wall meter
E,Thyme,5600,100,2 m,cct,5500,K,Wall meter
"""


@pytest.fixture
def sheet(tmp_path):
    path = tmp_path / "rows.csv"
    path.write_text(ROWS)
    book = Logbook.create(tmp_path / "book.evenbeam")
    import_files([path], book, lambda: datetime(2026, 12, 1, 19, tzinfo=UTC))
    collection = Collection(book)
    chosen = tuple(e.key for e in collection.entrants())
    first = next(e.key for e in collection.entrants() if e.name == "Tansy")
    yield answer(collection, Question(ask=Ask.BRIGHT, chosen=chosen, reference=first)).sheet
    book.close()


def test_a_ratio_has_its_sign_and_its_reasons(sheet):
    by_name = {cells[0].text: dict(zip(sheet.columns, cells, strict=True)) for _, _, cells in sheet.rows}
    ratio = next(name for name in sheet.columns if "stop" in name)
    assert by_name["Tansy"][ratio].text == "reference"
    assert by_name["Sorrel"][ratio].text == "+1.00" and by_name["Sorrel"][ratio].by == pytest.approx(1.0)
    assert "distance" in by_name["Rue"][ratio].text and by_name["Rue"][ratio].marked
