"""What Bench and Compare show, without an interface."""

from dataclasses import replace

import pytest

from even_beam.answers.bench import charts as bench_charts
from even_beam.answers.bench import rows as bench_rows
from even_beam.answers.bench import run_form, step_terms
from even_beam.answers.bench import view as bench_view
from even_beam.answers.bench.answers import answers_of, caption
from even_beam.answers.bench.run_form import RunForm, RunFormError
from even_beam.answers.compare.modifiers import modifier_lines
from even_beam.answers.compare.pictures import Scene, pictures_of
from even_beam.answers.compare.questions import Ask
from even_beam.answers.compare.sheet import Figures, sheet_of
from even_beam.answers.findings.witness import Witness
from even_beam.bench.field_texts import TermsError
from even_beam.bench.fields import shown_texts_of, terms_of_texts
from even_beam.bench.judging.second_look import SecondLook
from even_beam.collection.collection import Collection
from even_beam.desk.session.desk import SessionDesk, Taken
from even_beam.figures.chart import Points
from even_beam.figures.spectrum import Scaling
from even_beam.known import compare
from even_beam.logbook.store import Logbook
from even_beam.shell.settings import Settings
from even_beam.words import notation

SETTINGS = Settings()


@pytest.fixture
def book(demo):
    logbook = Logbook.open(demo)
    yield logbook
    logbook.close()


def desk_of(book, name: str, clock) -> SessionDesk:
    return SessionDesk(book, next(s for s in book.sessions() if s.name == name), clock)


def test_the_prompt_lights_only_what_changes(book, clock):
    desk = desk_of(book, "Tansy, second evening", clock)
    shown = bench_view.prompt(desk, SETTINGS)
    assert [part.text for part in shown.parts] == ["5600 K", "25 %", "2 m"]
    assert not any(part.changes for part in shown.parts)  # a repeat changes nothing
    assert "reading 2 of 2" in shown.below
    assert "first read" in shown.below
    desk.go_to(desk.state.steps[4].step.id)
    shown = bench_view.prompt(desk, SETTINGS)
    assert [part.text for part in shown.parts if part.changes] == ["10 %"]


def test_the_sheet_and_the_head(book, clock):
    desk = desk_of(book, "Tansy, second evening", clock)
    rows = bench_rows.sheet(desk, SETTINGS)
    assert rows[0].heading
    assert [row.standing for row in rows[1:6]] == ["done", "done", "done", "here", "coming"]
    assert rows[1].figure.endswith(" lx")
    assert bench_view.head_line(desk)[0] == "Tansy, second evening"
    assert bench_view.progress_words(desk).startswith("7 of 30 · about")
    feet = bench_rows.sheet(desk_of(book, "Walk with Bracken", clock), SETTINGS)
    assert feet[1].first == "25 ft"
    assert feet[1].figure == "640 · 640"


def test_figures_in_the_users_unit(book, clock):
    desk = desk_of(book, "Tansy, second evening", clock)
    latest = desk.counted[-1]
    meter = desk.meters[latest.reading.meter_id]
    metric = answers_of(Taken(latest, SecondLook(False, ())), meter, SETTINGS)
    feet = answers_of(Taken(latest, SecondLook(False, ())), meter, replace(SETTINGS, illuminance_unit="fc"))
    assert [block.label for block in metric] == ["illuminance", "white", "tint", "Ra · Rf"]
    assert metric[0].unit == "lx"
    assert feet[0].unit == "fc"
    assert float(metric[0].value.replace("\u202f", "")) == pytest.approx(float(feet[0].value) * 10.764, rel=0.01)
    assert "mired" in metric[1].words
    assert metric[1].scale.caption == "5600 K asked"
    assert metric[2].scale.caption.startswith("daylight curve +0.0033"), "a perfect daylight is not green"
    assert metric[2].words == "on the daylight curve"
    assert caption(desk, SETTINGS, None, None).startswith("read last: Tansy · reflector · 5600 K")


def test_typed_sessions_show_the_walk_and_spectra_their_spectrum(book, clock):
    walk = desk_of(book, "Walk with Bracken", clock)
    assert "walk" in bench_charts.main_chart(walk, walk.counted[-1], None, SETTINGS).title
    tansy = desk_of(book, "Tansy, second evening", clock)
    assert bench_charts.main_chart(tansy, tansy.counted[-1], None, SETTINGS).title == "relative spectrum"
    assert bench_charts.curve_so_far(walk, walk.counted[-1]).empty
    assert not bench_charts.curve_so_far(tansy, tansy.counted[-1]).empty


def test_a_stretch_ends_where_the_terms_change(book, clock):
    desk = desk_of(book, "Specimen table: Tansy or tungsten?", clock)
    yarrow = [m.reading.id for m in desk.measured if desk.name_of(m.reading.source_ids) == "Yarrow"]
    assert bench_view.stretch_of(desk, yarrow[-1]) == tuple(yarrow)
    assert len(bench_view.same_terms(desk, yarrow[-1])) == 2


def scene_of(collection, entrants) -> Scene:
    result = compare.compare(entrants, {}, entrants[0].key, collection.meters)
    return Scene(result, entrants, collection, {e.name: n for n, e in enumerate(entrants)}, Scaling.ILLUMINANCE)


def test_every_question_has_pictures_with_named_axes(book):
    collection = Collection(book)
    session = next(s for s in collection.sessions if s.name.startswith("Specimen"))
    scene = scene_of(collection, collection.entrants_in(session.id))
    assert [e.name for e in scene.entrants] == ["Tansy", "Burdock", "Yarrow"]
    for ask, count in ((Ask.BRIGHT, 2), (Ask.WHITE, 6), (Ask.COLOURS, 7), (Ask.ENOUGH, 0), (Ask.WORTH, 2)):
        drawn = pictures_of(ask, scene)
        assert len(drawn) == count, ask
        for picture in drawn:
            assert picture.chart.summary and not picture.chart.empty
            assert picture.chart.y.label or picture.chart.title.startswith("spectra"), picture.chart.title
    ladder = pictures_of(Ask.BRIGHT, scene)[0].chart
    marks = [mark for mark in ladder.marks if isinstance(mark, Points)]
    assert [mark.label for mark in marks] == ["Burdock", "Tansy", "Yarrow"], "the brightest first"
    assert [mark.series for mark in marks] == [1, 0, 2], "each keeps its colour"


def test_figures_belong_to_their_question(book):
    collection = Collection(book)
    witness = Witness(collection)
    session = next(s for s in collection.sessions if s.name.startswith("Specimen"))
    figures = Figures(
        scene_of(collection, collection.entrants_in(session.id)), collection.meters, witness, collection, "lx"
    )
    bright, white, colours, worth = (sheet_of(ask, figures) for ask in (Ask.BRIGHT, Ask.WHITE, Ask.COLOURS, Ask.WORTH))

    def column(sheet, name):
        return [cells[sheet.columns.index(name)] for _, _, cells in sheet.rows]

    assert column(bright, "stops from Tansy")[0].text == "reference"
    assert [c.text for c in column(white, "off, mired")][1] == "\N{MINUS SIGN}13.3"
    assert column(white, "off, mired")[1].marked  # Burdock with its reflector
    assert [c.text for c in column(colours, "weakest")] == ["R12 83", "R12 75", "R9 76"]
    assert column(worth, "price, EUR")[0].text == f"1{notation.THIN_SPACE}645"
    assert [c.text for c in column(worth, "modes read")][2] == "nothing to dial"
    assert column(worth, "weight")[0].text == "5.2 kg with the supply"
    for sheet in (bright, white, colours, worth):
        assert [cells[0].text for _, _, cells in sheet.rows] == ["Tansy", "Burdock", "Yarrow"]
        for place, name in enumerate(sheet.columns[1:], start=1):
            assert any(cells[place].text != notation.NONE for _, _, cells in sheet.rows), f"{name} says nothing"
    assert modifier_lines(witness, figures.scene.entrants) == ()


def test_modes_are_what_was_dialled(book):
    """A window is read in no mode, and of a lamp whose white nobody stated it is not known."""
    collection = Collection(book)
    entrants = collection.entrants()
    figures = Figures(scene_of(collection, entrants), collection.meters, Witness(collection), collection, "lx")
    sheet = sheet_of(Ask.WORTH, figures)
    modes = {cells[0].text: cells[sheet.columns.index("modes read")].text for _, _, cells in sheet.rows}
    assert modes["North window"] == modes["Yarrow"] == "nothing to dial"
    assert "CCT" in modes["Tansy"]


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"source_ids": ()}, "at least one lamp"),
        ({"whites": "560"}, "between 1000"),
        ({"levels": "100 200"}, "a level"),
        ({"distances": "far"}, "not a list of distances"),
    ],
)
def test_a_run_that_cannot_be_planned(changes, words):
    form = replace(RunForm(("lamp",), "5600 3200", "100 50", "2 m"), **changes)
    with pytest.raises(RunFormError, match=words):
        run_form.sweep_of(form)


def test_a_run_as_people_write_it():
    sweep = run_form.sweep_of(
        RunForm(("a",), "5600 K, 3200 K", "100% 50%; 1", "10 15 20 ft", "reflector + diffuser", "spot", 3)
    )
    assert sweep.whites_k == (5600.0, 3200.0)
    assert sweep.levels_pct == (100.0, 50.0, 1.0)
    assert sweep.distances_m == pytest.approx((3.048, 4.572, 6.096))
    assert sweep.configurations == (("reflector", "diffuser"),)
    assert run_form.distances("equal") == ()
    assert run_form.distances("2 m 3.5 m") == (2.0, 3.5)


def test_terms_as_people_write_them():
    from even_beam.bench.records import Terms

    terms = Terms(cct_k=5600.0, level_pct=25.0, distance_m=3.048, configuration=("reflector",))
    shown = shown_texts_of(terms, "ft")
    assert shown["distance"] == "10 ft"
    assert terms_of_texts(shown, terms, shown) == terms
    other = terms_of_texts({**shown, "level": "50 %", "distance": "equal", "configuration": "bare"}, terms, shown)
    assert step_terms.differences(terms, other) == {
        "level_pct": 50.0,
        "distance_m": None,
        "placement": "equal",
        "configuration": (),
    }
    for changes in ({"cct": "99"}, {"distance": "far"}, {"level": "120"}, {"angle": "x"}):
        with pytest.raises(TermsError) as raised:
            terms_of_texts({**shown, **changes}, terms, shown)
        assert raised.value.field == next(iter(changes))
    assert step_terms.step_terms("33", terms).level_pct == 33.0
    assert step_terms.step_terms("4400 K; 50 %", terms).cct_k == 4400.0
    assert step_terms.step_terms("3 m", terms).distance_m == 3.0
    with pytest.raises(TermsError):
        step_terms.step_terms("12 W", terms)
