from even_beam.logbook.store import Logbook
from even_beam.reports.page import html
from even_beam.workspace.logbook.collection import Collection
from even_beam.workspace.report.content import page_content
from even_beam.workspace.shell.settings import Settings


def test_opinions_stand_apart_from_figures(demo):
    collection = Collection(Logbook.open_to_read(demo))
    session = next(s for s in collection.sessions if s.name.startswith("Specimen"))
    text = html(page_content(collection, session, Settings()))
    assert "an opinion and no measurement" in text
    assert "Tansy: shadow edge: colour fringes" in text
    other = next(s for s in collection.sessions if s.name.startswith("Walk"))
    assert "an opinion" not in html(page_content(collection, other, Settings()))
