"""With footcandles and feet set, every sentence, chart and page says them; what is kept stays in lx and m."""

import re
from dataclasses import replace

import pytest
from click.testing import CliRunner

from even_beam.cli import main
from even_beam.collection.collection import Collection
from even_beam.handing_over.compose import write_report
from even_beam.handing_over.kinds import Kind
from even_beam.handing_over.material import Material
from even_beam.light.photometry import LUX_PER_FOOTCANDLE
from even_beam.shell.settings import Settings, load, save
from even_beam.words import notation


@pytest.fixture
def read_in_feet(desk):
    """A lamp read at three marks, with footcandles and feet set."""
    for metres, lux in ((1.0, 3200.0), (2.0, 800.0), (4.0, 200.0)):
        desk.free_terms = replace(desk.free_terms, distance_m=metres)
        desk.confirm(desk.propose(f"{lux} lx"), keep_in_doubt=True)
    save(Settings(illuminance_unit="fc", distance_unit="ft"))
    return desk


def test_what_is_set_is_spoken_by_the_command_line(read_in_feet):
    path = str(read_in_feet.logbook.path)
    said = CliRunner().invoke(main, ["findings", path, "--all"]).output
    assert "lx" not in re.sub(r"\blx/W\b", "", said)
    assert f"{notation.lux(800.0 / LUX_PER_FOOTCANDLE)} fc" in said  # 74.32 fc, by the definition of the foot
    assert "74.3 fc" in said
    found = CliRunner().invoke(main, ["compare", path, "--fixtures", "Tansy"])
    assert found.exit_code == 0


def test_it_is_on_the_page_and_its_charts(read_in_feet, tmp_path):
    collection = Collection(read_in_feet.logbook)
    write_report(Material(collection, load(), collection.sessions[-1]), Kind.LAMP, tmp_path / "page.html")
    page = (tmp_path / "page.html").read_text(encoding="utf-8")
    assert '<th scope="col">fc</th>' in page
    assert ">74.3<" in page
    assert ">lx<" not in page.replace('<th scope="col">fc</th><th scope="col">lx</th>', ""), "both stand by distance"


def test_lux_again_when_that_is_set():
    save(Settings(illuminance_unit="fc"))
    assert notation.light(107.639) == "10 fc" or notation.light(107.639) == "10.0 fc"
    save(Settings())
    assert notation.light(107.639) == "108 lx"
