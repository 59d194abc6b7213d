"""Labels, sentences, pictures and open data of the demo and of invented logbooks, by the command line as well."""

import json
import re
from contextlib import closing
from datetime import UTC, datetime
from xml.etree import ElementTree

import numpy as np
import pytest
from click.testing import CliRunner
from luxpy.toolboxes.iolidfiles.io_lid_files import read_lamp_data
from PIL import Image

from even_beam.answers.findings.as_json import findings
from even_beam.answers.intake.importing import import_files
from even_beam.answers.spectrum.beams import flux_of
from even_beam.bench.records import Source, Terms, new_id
from even_beam.cli import main
from even_beam.collection.collection import Collection
from even_beam.figures.picture_renderer import GROUNDS
from even_beam.formats import FormatError, lm63
from even_beam.formats.session_data import read as read_session
from even_beam.handing_over.beam_file import beams_of
from even_beam.handing_over.folder import data_of, write_folder
from even_beam.handing_over.labels import content_of, labels_of, left_off_words
from even_beam.handing_over.material import Material
from even_beam.handing_over.pictures import NoChartError, charts_of, write_picture
from even_beam.handing_over.sentences import as_text, statements
from even_beam.logbook.store import Logbook
from even_beam.paper.label import SIZES, LabelContent
from even_beam.shell.settings import Settings
from even_beam.words import notation
from tests.handing_over.invented import ROWS, invented


@pytest.fixture
def collection(demo):
    book = Logbook.open_to_read(demo)
    yield Collection(book)
    book.close()


@pytest.fixture
def specimen(collection):
    return Material(collection, Settings(), next(s for s in collection.sessions if s.name.startswith("Specimen")))


def _run(*arguments, **kwargs):
    return CliRunner().invoke(main, [str(argument) for argument in arguments], **kwargs)


# --- labels


def test_a_label_says_what_was_read_of_one_set_up(collection):
    material = Material(collection, Settings(), None)
    burdock = next(e for e in material.entrants if e.name == "Burdock")
    content = content_of(material, burdock)
    assert content.read == "reflector · 100 % · checked 17 Nov 2026 · Spectrometer 2 · simulated"
    assert "5600 gives 6\u202f050 K" in content.lines, "its tint cannot be seen"
    assert "dial 5250 for 5600 K" in content.lines, "its dial goes in 50 K"
    assert "dims to 1 %" in content.lines, "its 1 % is 1.05 % of full"


def test_every_line_of_every_label_stands_in_the_findings(collection):
    """Figures of a label are those of `findings --json`, at the set-up that it names."""
    told = json.dumps(findings(collection), ensure_ascii=False)
    material = Material(collection, Settings(), None)
    for entrant in material.entrants:
        content = content_of(material, entrant)
        read = re.search(r"checked \d+ (\w{3}) (\d{4})", content.read)
        for line in content.lines:
            if line == entrant.kind:
                continue
            if line.startswith("check again by"):  # within the year
                assert read and line == f"check again by {read[1]} {int(read[2]) + 1}"
                continue
            numbers = re.findall(r"[+−]?\d[\d\u202f]*(?:\.\d+)?", line)
            said = any(number.replace("\u202f", "") in told.replace("\u202f", "") for number in numbers)
            assert said or (line.startswith("clip on ") and line.removeprefix("clip on ") in told), line


@pytest.mark.parametrize(
    ("column", "usual", "other", "said"),
    [("mode", "CCT", "Boost", "Boost"), ("tint", "0", "+30", "tint +30"), ("reference_plane", "", "yoke", "the yoke")],
)
def test_a_label_never_mixes_two_ways_of_a_lamp(tmp_path, column, usual, other, said):
    """Whites of a mode and of another, or of two tints, stood as if the lamp gave both at once."""

    def label_of(ways: tuple[str, ...]) -> LabelContent:
        rows = [f"lamp,cct_k,dimmer_pct,distance,{column},quantity,value,unit,meter"]
        for way in ways:
            for white, gives in ((3200, 3250), (5600, 5700)):
                rows.append(f"Tansy,{white},100,2 m,{way},cct,{gives - 500 * (way == other)},K,Wall meter")
        path = tmp_path / f"{'-'.join(ways)}.csv"
        path.write_text("\n".join(rows).replace("lamp,", "fixture,", 1))
        book = Logbook.create(path.with_suffix(".evenbeam"))
        import_files([path], book, lambda: datetime(2026, 12, 1, 19, tzinfo=UTC))
        material = Material(Collection(book), Settings(), None)
        content = content_of(material, material.entrants[0])
        book.close()
        return content

    both = " ".join(label_of((usual, other)).texts)
    assert "5600 gives 5\u202f700 K" in both and "5\u202f200 K" not in both and "2\u202f750 K" not in both
    alone = label_of((other,))
    assert said in alone.read and "5600 gives 5\u202f200 K" in " ".join(alone.lines)


@pytest.mark.parametrize(
    ("behind", "told"),
    [(5250, ["Net against bare: −1.00 stops, +12 mired"]), (5630, ["Net against bare: −1.00 stops"])],
)
def test_a_label_says_a_shift_of_white_only_where_it_can_be_told(tmp_path, behind, told):
    """5600 to 5250 K are 12 mired, which a handheld meter tells; 5600 to 5630 K are one, which it does not."""
    rows = ["fixture,cct_k,dimmer_pct,distance,configuration,quantity,value,unit,meter"]
    for on_it, lux, white in (("bare", 2000, 5610), ("Net", 1000, behind)):
        at = f"Tansy,5600,100,2 m,{on_it}"
        rows += [f"{at},illuminance,{lux},lx,Wall meter", f"{at},cct,{white},K,Wall meter"]
    path = tmp_path / "net.csv"
    path.write_text("\n".join(rows))
    with closing(Logbook.create(tmp_path / "net.evenbeam")) as book:
        import_files([path], book, lambda: datetime(2026, 12, 1, 19, tzinfo=UTC))
        material = Material(Collection(book), Settings(), None)
        lines = content_of(material, material.entrants[0]).lines
    assert [line for line in lines if "Net" in line] == told, lines


@pytest.mark.parametrize("name", ROWS)
@pytest.mark.parametrize("size", ["12mm", "Letter-3x10"])
def test_invented_logbooks_have_labels_too(tmp_path, name, size):
    book = invented(name, tmp_path)
    labels = labels_of(Material(Collection(book), Settings(), None), SIZES[size])
    book.close()
    for label in labels:
        assert label.placed[0].text and label.smallest_pt >= 5.0
        assert not re.search(r"nan|None|inf\b", " ".join(label.content.texts))
    assert bool(labels) == bool(ROWS[name])


def test_what_does_not_fit_is_said(collection):
    labels = labels_of(Material(collection, Settings(), None), SIZES["12mm"])
    words = left_off_words(labels)
    for label in labels:
        for line in (*label.left_off, *label.left_off_code):
            assert any(label.content.name in said and line in said for said in words)


def test_nobody_labels_a_window(collection):
    names = [one.content.name for one in labels_of(Material(collection, Settings(), None), SIZES["24mm"])]
    assert "North window" not in names and len(names) == 7


# --- sentences


def test_sentences_in_both_units_and_what_must_not_be_said(specimen, collection):
    found = statements(lambda: Material(collection, Settings(), specimen.session))
    text = as_text(found)
    assert "Burdock is a stop and a quarter brighter than Tansy: about two and a half times as bright" in text
    assert "1.25 ±0.16 stops; 2.13 to 2.66 times as bright." in text, "in place of what must not be said"
    (beside,) = (one for one in found if one.about == "Burdock beside Tansy")
    assert [unsaid.words for unsaid in beside.unsaid][:1] == ["twice as bright"]
    assert text.count("Reckoned: ") == text.count("Alike for all: ") == 1, "terms once"
    assert "do not say “Ra 97”" in text
    metric = next(one for one in found if one.long.startswith("Tansy gives 4\u202f880 lx"))
    assert metric.imperial.startswith("It gives 454 fc")
    assert notation.light_unit() == "lx"


@pytest.mark.parametrize("name", ROWS)
def test_sentences_of_invented_logbooks_rest_on_their_readings(tmp_path, name):
    book = invented(name, tmp_path)
    collection = Collection(book)
    own = {m.reading.id for s in collection.sessions for m in collection.readings_in(s.id)}
    found = statements(lambda: Material(Collection(book), Settings(), None))
    assert bool(found) == bool(ROWS[name])
    for one in found:
        assert set(one.readings) <= own
        assert not re.search(r"\bnan\b|None|\binf\b|  ", f"{one.short} {one.long}"), one
    book.close()


def test_markdown_shows_names_as_they_are(tmp_path):
    book = invented("strange names", tmp_path)
    text = as_text(statements(lambda: Material(Collection(book), Settings(), None)), markdown=True)
    book.close()
    assert "\\<b\\>x\\</b\\> & co" in text


# --- pictures


@pytest.mark.parametrize("ground", GROUNDS)
def test_a_picture_of_exact_size_with_its_terms(specimen, tmp_path, ground):
    path = tmp_path / "spectra.png"
    write_picture(specimen, "spectra", 960, 540, ground, path)
    with Image.open(path) as image:
        assert image.size == (960, 540)
        corner = image.convert("RGBA").getpixel((1, 1))
    assert (corner[3] == 0) == ground.startswith("transparent")
    if not ground.startswith("transparent"):
        assert (sum(corner[:3]) < 150) == (ground == "dark")


def test_the_terms_are_burnt_in_and_type_is_large(specimen, tmp_path):
    path = tmp_path / "levels.svg"
    write_picture(specimen, "levels", 1920, 1080, "dark", path)
    root = ElementTree.parse(path).getroot()
    texts = [element for element in root.iter() if element.tag.endswith("text")]
    said = " ".join("".join(element.itertext()) for element in texts)
    assert "Yarrow full blue gel" in said and "Simulated readings" in said
    sizes = [float(size) for e in texts for size in re.findall(r"([\d.]+)px", e.get("style", ""))]
    height = float(root.get("viewBox").split()[3])
    assert min(sizes) / height > 1.0 / 36.0


def test_every_chart_has_a_name_and_no_name_is_in_vain(specimen):
    there = set(charts_of(specimen))
    assert there >= {"levels", "dimmer", "miss", "spectra", "samples", "hues", "value", "quality", "match"}


def test_a_walk_has_its_chart(collection):
    walk = Material(collection, Settings(), next(s for s in collection.sessions if s.name == "Walk with Bracken"))
    assert "inverse square" in charts_of(walk)["distance"].title


def test_a_chart_that_was_not_read_says_which_there_are(specimen, tmp_path):
    with pytest.raises(NoChartError, match="there are: levels"):
        write_picture(specimen, "beam", 1920, 1080, "dark", tmp_path / "x.png")
    for size in ((10, 10), (100_000, 1080)):
        with pytest.raises(ValueError, match="a picture has from"):
            write_picture(specimen, "levels", *size, "dark", tmp_path / "x.png")


# --- open data


def test_a_round_trip_keeps_every_figure_status_event_and_term(collection, tmp_path):
    """The folder taken into a new logbook: the same findings, the same records, and the same folder again."""
    write_folder(collection, Settings(), None, tmp_path / "out")
    assert _run("import", tmp_path / "out", tmp_path / "back.evenbeam").exit_code == 0
    book = Logbook.open_to_read(tmp_path / "back.evenbeam")
    again = Collection(book)
    ours, theirs = (findings(one) | {"logbook": ""} for one in (collection, again))
    assert ours == theirs
    before = data_of(collection, collection.sessions)
    after = data_of(again, again.sessions)
    for field in ("sessions", "steps", "readings", "events", "conditions", "states", "computed", "spectra", "photos"):
        assert getattr(before, field) == getattr(after, field), field
    assert {s.id: s for s in before.sources} == {s.id: s for s in after.sources}
    book.close()
    said = _run("import", tmp_path / "out", tmp_path / "back.evenbeam")
    assert "225 readings were there already" in said.stdout


def test_the_files_say_how_each_reading_stands(collection, tmp_path):
    write_folder(collection, Settings(), None, tmp_path / "out")
    data = read_session((tmp_path / "out" / "session.json").read_bytes(), "session.json")
    states = set(data.states.values())
    assert "counts" in states and len(states) > 2
    readme = (tmp_path / "out" / "README.md").read_text(encoding="utf-8")
    assert "2 of which do not count" in readme and "simulated" in readme
    assert len(list((tmp_path / "out" / "spectra").glob("*.xml"))) == len(data.spectra)


def test_another_lab_recomputes_it_from_the_folder(collection, tmp_path):
    """The figures of the TM-27 files by the public library are those of the table (colour-science, BSD-3)."""
    import colour

    write_folder(collection, Settings(), None, tmp_path / "out")
    data = read_session((tmp_path / "out" / "session.json").read_bytes(), "session.json")
    scalars = {one.reading_id: one.scalars for one in data.computed}
    for file in sorted((tmp_path / "out" / "spectra").glob("*.xml"))[::40]:
        spectrum = colour.SpectralDistribution_IESTM2714(str(file)).read()
        reading = next(i for i in scalars if i in spectrum.header.description)
        xyz = colour.sd_to_XYZ(spectrum.copy().align(colour.SpectralShape(380, 780, 1)), k=683.0)
        xy = colour.XYZ_to_xy(xyz)
        assert (float(xy[0]), float(xy[1])) == pytest.approx((scalars[reading]["x"], scalars[reading]["y"]), abs=2e-4)


def test_the_schema_is_the_one_the_file_keeps(collection, tmp_path):
    """Checked by hand-written rules that the library's own reader does not share: types and what is required."""
    write_folder(collection, Settings(), None, tmp_path / "out")
    schema = json.loads((tmp_path / "out" / "schema.json").read_text())
    plain = json.loads((tmp_path / "out" / "session.json").read_text())
    reading = schema["$defs"]["Reading"]
    assert set(reading["required"]) <= set(plain["readings"][0])
    assert set(plain["readings"][0]) <= set(reading["properties"])
    assert set(plain) <= set(schema["properties"])


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("{", "not valid JSON"),
        ("[]", "no session as Even Beam writes it"),
        ('{"readings": [{"id": "r"}]}', "readings.0.session_id"),
        ('{"format": "other"}', "format"),
        ('{"conditions": [{"id": "c", "ambient_lx": 1e999}]}', "infinite"),
        ("[" * 100_000, "not valid JSON"),
    ],
)  # fmt: skip
def test_a_session_that_is_none_says_where(tmp_path, text, words):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "session.json").write_text(text, encoding="utf-8")
    result = _run("import", tmp_path / "in", tmp_path / "new.evenbeam")
    assert result.exit_code == 1 and words in result.stderr
    assert not (tmp_path / "new.evenbeam").exists()


def test_an_impossible_or_torn_session_leaves_nothing(collection, tmp_path):
    """A figure that cannot be, and readings of a session that is not there, keep all of it out."""
    write_folder(collection, Settings(), collection.sessions[0], tmp_path / "out")
    whole = json.loads((tmp_path / "out" / "session.json").read_text())
    for spoil in (
        lambda d: d["readings"][0]["values"][0].update(value=-5.0),
        lambda d: d["events"][0].update(session_id="nowhere", reading_id=None),
        lambda d: d["readings"][0].update(meter_id="nobody"),
    ):
        spoilt = json.loads(json.dumps(whole))
        spoil(spoilt)
        (tmp_path / "bad").mkdir(exist_ok=True)
        (tmp_path / "bad" / "session.json").write_text(json.dumps(spoilt))
        book = Logbook.create(tmp_path / f"{new_id()}.evenbeam")
        path = book.path
        book.close()
        _run("import", tmp_path / "bad", path)
        book = Logbook.open_to_read(path)
        kept = Collection(book)
        readings = [m for s in kept.sessions for m in kept.readings_in(s.id)]
        assert readings == [] or len(readings) == len(whole["readings"])
        assert not any((m.value("illuminance") or 1.0) < 0.0 for m in readings)
        book.close()


def test_a_nickname_that_another_lamp_has_is_told_apart(collection, tmp_path):
    write_folder(collection, Settings(), collection.sessions[0], tmp_path / "out")
    book = Logbook.create(tmp_path / "own.evenbeam")
    book.save(Source("mine", "Sorrel"))
    book.close()
    assert _run("import", tmp_path / "out", tmp_path / "own.evenbeam").exit_code == 0
    book = Logbook.open_to_read(tmp_path / "own.evenbeam")
    assert {"Sorrel", "Sorrel 2"} <= {source.nickname for source in book.all(Source)}
    book.close()


def test_nothing_is_written_over(collection, tmp_path):
    (tmp_path / "there").mkdir()
    (tmp_path / "there" / "thesis.txt").write_text("years of work")
    with pytest.raises(FormatError, match="not empty"):
        write_folder(collection, Settings(), None, tmp_path / "there")
    assert [p.name for p in (tmp_path / "there").iterdir()] == ["thesis.txt"]


def test_a_beam_as_it_was_read(desk, tmp_path):
    """A beam of a known law read across: the file holds its candela, and what is assumed of it."""
    for angle in (-30.0, -20.0, -10.0, 0.0, 10.0, 20.0, 30.0):
        desk.free_terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0, angle_deg=angle)
        desk.confirm(desk.propose(f"{1000.0 * np.exp(-((angle / 15.0) ** 2)):.2f} lx"), keep_in_doubt=True)
    material = Material(Collection(desk.logbook), Settings(), None)
    ((_, photometry),) = beams_of(material, material.entrants[0])
    read = lm63.read(lm63.write(photometry).encode(), "beam")
    assert read.horizontal_deg.tolist() == [0.0, 180.0]
    for angle, candela in zip(read.vertical_deg[:4], read.candela[1][:4], strict=True):
        assert candela == pytest.approx(9000.0 * np.exp(-((angle / 15.0) ** 2)), rel=2e-3)
    assert read.candela[:, -1].tolist() == [0.0, 0.0] and read.vertical_deg[-1] == 90.0
    assert any("Beyond 30 deg nothing was read" in text for text in read.keywords["OTHER"])
    write_folder(Collection(desk.logbook), Settings(), None, tmp_path / "out")
    assert len(list((tmp_path / "out" / "beams").glob("*.ies"))) == 1
    shown = _run("inspect", next((tmp_path / "out" / "beams").glob("*.ies")), "--json")
    assert json.loads(shown.stdout)["beam_angle_deg"] == pytest.approx(
        2 * 15.0 * np.sqrt(np.log(2.0)), abs=1.5
    )  # marks 10 deg apart


WIDE, HIGH, DARKER = 15.0, 8.0, 0.8


def _width_in(turn_deg: float) -> float:
    """Of an ellipse, along a plane through its middle."""
    turn = np.deg2rad(turn_deg)
    return 1.0 / np.hypot(np.cos(turn) / WIDE, np.sin(turn) / HIGH)


def _read_in(desk, angles, turns):
    for turn in turns:
        for angle in angles:
            desk.free_terms = Terms(
                cct_k=5600.0, level_pct=100.0, distance_m=3.0, angle_deg=angle, turn_deg=turn if angle else 0.0
            )
            level = 1000.0 * np.exp(-((angle / _width_in(turn)) ** 2)) * (DARKER if angle < 0 else 1.0)
            desk.confirm(desk.propose(f"{level:.4f} lx"), keep_in_doubt=True)
    return Material(Collection(desk.logbook), Settings(), None)


def _side(turn_deg: float) -> float:
    """Left and down are darker than right and up."""
    return DARKER if 180.0 <= turn_deg < 360.0 else 1.0


@pytest.mark.parametrize(
    ("angles", "turns", "horizontal"),
    [
        ((-30, -20, -10, 0, 10, 20, 30), (0.0, 90.0), [0.0, 90.0, 180.0, 270.0, 360.0]),
        ((0, 5, 10, 15, 20, 30), (0.0, 45.0, 90.0), [0.0, 45.0, 90.0]),
        ((0, 5, 10, 15, 20, 30), (0.0, 45.0), None),
    ],
)
def test_a_beam_read_in_several_planes_is_one_file_where_the_format_can_say_it(
    desk, tmp_path, angles, turns, horizontal
):
    """One file where the format can say it. The flux is held to an integral by brute force over the solid angle;
    another reader reads the grid (luxpy)."""
    material = _read_in(desk, angles, turns)
    files = beams_of(material, material.entrants[0])
    if horizontal is None:  # what lies between 45 and 90 degrees nobody read, and no symmetry says it
        assert [p.horizontal_deg.tolist() for _, p in files] == [[0.0], [0.0]]
        assert ["in the plane of 45°" in words for words, _ in files] == [False, True]
        return
    ((words, photometry),) = files
    assert "plane" not in words
    path = tmp_path / "grid.ies"
    path.write_text(lm63.write(photometry), encoding="ascii")
    read = read_lamp_data(str(path), normalize=None)
    assert read["h_angs"] == pytest.approx(horizontal)
    v = {round(float(a), 2): place for place, a in enumerate(read["v_angs"])}
    for row, turn in enumerate(horizontal):
        for angle in (10, 20, 30):
            expected = 9000.0 * np.exp(-((angle / _width_in(turn)) ** 2)) * _side(turn)
            assert read["candela_2d"][row][v[angle]] == pytest.approx(expected, rel=5e-3, abs=0.05)
    # a straight line is drawn between planes, by us as by whoever reads the file, so the truth is taken along it too
    polar, planes = np.deg2rad(np.linspace(0.0, 30.0, 1500)), np.deg2rad(horizontal)
    width = np.array([_width_in(turn) for turn in horizontal])
    intensity = 9000.0 * np.exp(-((np.rad2deg(polar)[None, :] / width[:, None]) ** 2))
    intensity *= np.array([[_side(turn)] for turn in horizontal])
    quarters = 2.0 * np.pi / (planes[-1] - planes[0])
    true = quarters * float(np.trapezoid(np.trapezoid(intensity * np.sin(polar), polar, axis=1), planes))
    assert flux_of(photometry) == pytest.approx(true, rel=0.13)  # marks of 5 or 10 degrees


# --- the command line


def test_the_command_line_hands_over(demo, tmp_path):
    for arguments in (
        ("report", demo, "--kind", "room", "--session", "Glasshouse, north window", "--out", tmp_path / "r.html"),
        ("report", demo, "--fixtures", "Burdock", "--without", "readings,meters", "--out", tmp_path / "b.html"),
        ("label", demo, "--fixtures", "Burdock,Tansy", "--size", "24mm", "--out", tmp_path / "l.pdf"),
        ("sentences", demo, "--fixtures", "Tansy", "--markdown"),
        ("sentences", demo, "--session", "Specimen table: Tansy or tungsten?", "--json"),
        ("pictures", demo, "--chart", "list"),
        ("pictures", demo, "--chart", "spectra", "--size", "640x360", "--out", tmp_path / "p.svg"),
        ("export", demo, "--to", "folder", tmp_path / "open", "--session", "Store check, spring"),
    ):
        result = _run(*arguments)
        assert result.exit_code == 0, (arguments, result.output)
    assert "Every reading" not in (tmp_path / "b.html").read_text(encoding="utf-8")


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (("report", "--out", "x.txt"), "does not end in .html or .pdf"),
        (("report", "--session", "none", "--out", "x.pdf"), "there is no session"),
        (("report", "--fixtures", "Nobody", "--out", "x.pdf"), "no readings of “Nobody”"),
        (("report", "--without", "weather", "--out", "x.pdf"), "no section weather"),
        (("report", "--fixtures", "Tansy", "--session", "Store check, spring", "--out", "x.pdf"), "not both"),
        (("label", "--size", "A4-3x8", "--start", "25", "--out", "x.pdf"), "places 1 to 24"),
        (("label", "--size", "12mm", "--out", "no/such/x.pdf"), "Nothing was changed"),
        (("pictures", "--chart", "spectra", "--size", "big", "--out", "x.png"), "is no size"),
        (("pictures", "--chart", "spectra", "--out", "x.gif"), ".png or .svg"),
        (("pictures", "--chart", "weather", "--out", "x.png"), "nothing was read for the chart"),
    ],
)
def test_what_is_asked_wrongly_is_said(demo, tmp_path, monkeypatch, arguments, words):
    monkeypatch.chdir(tmp_path)
    result = _run(arguments[0], demo, *arguments[1:])
    assert result.exit_code in {1, 2} and words in result.output
    assert not any(tmp_path.glob("x.*")) and "Traceback" not in result.output
