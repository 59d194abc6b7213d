"""What is said of readings afterwards: displayed terms, observations with photos, targets and looks, room light."""

import io
from dataclasses import replace

import pytest
from PIL import Image

from even_beam.answers.bench import rows as bench_rows
from even_beam.answers.bench import view as bench_view
from even_beam.answers.bench.target import TargetError, target_of
from even_beam.bench.planning.sweep import Sweep, run_sheet
from even_beam.bench.records import EventKind, Session, Step, Terms, new_id
from even_beam.bench.target import Target
from even_beam.desk.session.desk import Aside, SessionDesk
from even_beam.desk.session.photos import PhotoError, read_photo
from even_beam.shell.settings import Settings
from tests.conftest import LIGHT_METER

SETTINGS = Settings()


def type_in(desk: SessionDesk, *texts: str):
    return [desk.confirm(desk.propose(text)) for text in texts]


def again(desk: SessionDesk, clock) -> SessionDesk:
    return SessionDesk(desk.logbook, desk.session, clock)


def photo_with_position(path):
    """A photo that says where it was taken (EXIF GPS: 0x8825) and is turned on its side (0x0112)."""
    image = Image.new("RGB", (3000, 1000), (90, 120, 60))
    exif = Image.Exif()
    exif[0x0112] = 6
    exif[0x8825] = {1: "N", 2: (38.0, 42.0, 0.0), 3: "W", 4: (9.0, 8.0, 0.0)}
    image.save(path, exif=exif)
    return path


def test_a_reading_counts_for_what_the_lamp_displayed(desk, clock):
    (taken,) = type_in(desk, "1000")
    desk.lamp_shows(taken.measured.reading.id, {"level_pct": 92.0})
    shown = again(desk, clock).measured[0]
    assert shown.terms.level_pct == 92.0
    assert shown.state.as_taken.level_pct == 100.0
    assert [(e.old, e.new) for e in shown.state.displayed] == [("100.0", "92.0")]
    assert not shown.state.corrections  # nobody noted anything wrong
    assert desk.undo() == "lamp shows"
    assert desk.measured[0].terms.level_pct == 100.0


def test_the_room_is_read_once_and_taken_off_from_then_on(desk, clock):
    type_in(desk, "1000")
    desk.read_aside(Aside.ROOM)
    assert bench_view.prompt(desk, SETTINGS).parts[0].text == "lamp off"
    type_in(desk, "40")
    assert desk.aside is Aside.NONE
    assert desk.ambient_here == 40.0
    (later,) = type_in(desk, "1002")
    assert later.measured.value("illuminance") == pytest.approx(962.0)
    assert again(desk, clock).measured[0].value("illuminance") == pytest.approx(960.0)  # what came before it too
    assert "room light 40.0 lx, taken off" in bench_view.head_line(desk)
    desk.read_aside(Aside.SHADED)
    (bounced,) = type_in(desk, "90")
    assert bounced.measured.terms.placement == "shaded"
    assert bounced.measured.value("illuminance") == pytest.approx(50.0)
    desk.set_aside(desk.measured[1].reading.id, "a phone was on")
    assert desk.measured[0].value("illuminance") == 1000.0
    desk.undo()
    assert desk.measured[0].value("illuminance") == pytest.approx(960.0)


def test_a_reading_beside_the_run_leaves_the_step_where_it_is(desk):
    sweep = Sweep(("lamp",), (), (100.0,), (2.0, 3.0), repeats=1, return_to_first=False)
    desk.logbook.save(*run_sheet(sweep, desk.session.id, LIGHT_METER))
    desk.reload()
    step = desk.step.step.id
    desk.read_aside(Aside.ROOM)
    type_in(desk, "0.4")
    assert desk.step.step.id == step
    assert desk.measured[0].reading.step_id is None
    assert desk.measured[0].reading.source_ids == ()
    type_in(desk, "800")
    assert desk.step.step.id != step


def test_a_third_reading_is_asked_for_when_two_lie_too_far_apart(desk, clock):
    terms = Terms(mode="fixed", level_pct=100.0, distance_m=2.0)
    desk.logbook.save(
        Step("s1", desk.session.id, 1.0, ("lamp",), terms, meter_id=LIGHT_METER.id, repeats=2, spread_stops=0.05)
    )
    desk.reload()
    _, second = type_in(desk, "1000", "1060")
    assert not second.look.in_doubt
    assert "one more" in second.look.text
    assert desk.step.required == 3
    assert again(desk, clock).step.required == 3
    (third,) = type_in(desk, "1020")
    assert "Mean of 3: 1\u202f027 lx, 1\u202f000 to 1\u202f060" in third.look.text
    assert desk.step is None  # asked only once: the rest is the lamp's own spread, and is kept
    assert desk.undo() == "taken"
    assert desk.step is not None


def dimming_run(desk: SessionDesk, *levels: float) -> None:
    terms = Terms(mode="fixed", distance_m=2.0)
    steps = [
        Step(f"s{i}", desk.session.id, float(i), ("lamp",), replace(terms, level_pct=level), meter_id=LIGHT_METER.id)
        for i, level in enumerate(levels)
    ]
    desk.logbook.save(*steps)
    desk.reload()


def test_a_doubt_is_cleared_by_what_is_read_since(desk, clock):
    """A lensed spot with its light from 2 m behind its front: 562 lx at 2 m looks wrong until 4 and 6 m are known."""
    desk.confirm(desk.propose("1000 lx at 1 m"))
    odd = desk.propose("562 lx at 2 m")
    assert odd.look.in_doubt
    kept = desk.confirm(odd, keep_in_doubt=True).measured.reading.id
    said = [desk.confirm(desk.propose(text)).look.text for text in ("250 lx at 4 m", "141 lx at 6 m")]
    cleared = again(desk, clock).of(kept).state
    assert cleared.counts
    assert not cleared.doubt
    assert not cleared.kept_in_doubt
    assert "cleared: it fits now" in " ".join(said)


def test_an_earlier_reading_is_named_when_it_is_the_odd_one(desk):
    """The right reading is taken, and the earlier one waits for a decision."""
    desk.free_terms = replace(desk.free_terms, level_pct=100.0)
    for text in ("1000 lx 100 %", "250 lx 75 %"):  # 750 was meant
        desk.confirm(desk.propose(text))
    earlier = desk.counted[1]
    right = desk.propose("500 lx 50 %")
    assert not right.look.in_doubt
    assert right.look.odd_id == earlier.reading.id
    taken = desk.confirm(right)
    assert taken.measured.state.counts
    assert "an earlier reading fits no longer: 250 lx at 75 %" in taken.look.text
    assert desk.of(earlier.reading.id).state.doubt
    assert not desk.of(earlier.reading.id).state.counts
    assert desk.undo() == "taken"  # both go together
    assert desk.of(earlier.reading.id).state.counts


def test_what_eye_and_ear_say_is_kept_as_an_opinion(desk, clock, tmp_path):
    type_in(desk, "1000")
    photo = photo_with_position(tmp_path / "shadow.jpg")
    seen = desk.observe("shadow edge", "colour fringes", "blue on the left", ("lamp",), desk.next_terms, [photo])
    back = again(desk, clock)
    assert [o.sentence for o in back.observations()] == ["shadow edge: colour fringes, blue on the left"]
    assert back.observations()[0].terms == desk.next_terms
    (kept,) = back.photos()
    assert kept.observation_id == seen.id
    for data, side in ((kept.image, 2400), (kept.thumbnail, 240)):
        with Image.open(io.BytesIO(data)) as image:
            assert image.format == "JPEG"
            assert not image.getexif()  # neither position nor anything else
            assert image.height == side  # turned upright
            assert image.width < image.height
    assert desk.undo() == "observed"
    assert desk.observations() == []
    assert desk.photos() == []
    desk.redo()
    assert len(desk.photos()) == 1


def test_a_photo_of_a_reading(desk, tmp_path):
    (taken,) = type_in(desk, "1000")
    photo = desk.add_photo(photo_with_position(tmp_path / "set.jpg"), taken.measured.reading.id)
    assert [p.id for p in desk.photos()] == [photo.id]
    assert desk.undo() == "photo added"
    assert desk.photos() == []


@pytest.mark.parametrize("content", [b"", b"not a photo", b"\xff\xd8\xff\xe0" + bytes(300)])
def test_what_is_no_photo_keeps_nothing(desk, tmp_path, content):
    path = tmp_path / "broken.jpg"
    path.write_bytes(content)
    with pytest.raises(PhotoError, match="Nothing was kept"):
        desk.observe("fan", "silent", "", ("lamp",), Terms(), [path])
    with pytest.raises(PhotoError):
        read_photo(tmp_path / "missing.png")
    assert desk.observations() == []
    assert desk.state.live_events == ()


def test_target_mode_and_a_look_after_months(desk, clock):
    desk.set_target(target_of("5600, 0.000", desk))
    desk.free_source, desk.free_terms = "lamp", Terms(mode="fixed")
    type_in(desk, "5400 K; 0.002 duv")
    desk.free_source = "other"
    type_in(desk, "3200 K; 0 duv")
    rows = bench_rows.sheet(desk, SETTINGS)
    assert rows[0].first.startswith("target 5\u202f600 K")
    assert [row.first for row in rows[1:]] == ["Sorrel", "Tansy"]
    assert rows[1].figure == "134 mired warmer, same tint"
    look = desk.keep_look("window side")
    assert len(look.reading_ids) == 2

    later = Session(new_id(), "Months later", clock())
    desk.logbook.save(later)
    new = SessionDesk(desk.logbook, later, clock)
    new.free_meter, new.free_source = LIGHT_METER.id, "lamp"
    new.set_target(new.looks()[0].target)
    type_in(new, "5300 K; 0.002 duv")
    texts = [row.figure for row in bench_rows.sheet(again(new, clock), SETTINGS)]
    assert texts[1] == "10 mired warmer, 0.0020 to green"
    assert any("+3 mired" in text for text in texts)
    new.undo()
    new.undo()
    assert new.target is None


@pytest.mark.parametrize(
    ("text", "cct", "duv"),
    [
        ("5600", 5600.0, 0.0033),
        ("5600, 0.000", 5600.0, 0.0),
        ("3200 K +0.002", 3200.0, 0.002),
        ("4300 -0.001", 4300.0, -0.001),
        ("D55", 5503.0, 0.0033),
        ("daylight 5600", 5600.0, 0.0033),
    ],
)
def test_targets_as_they_are_said(desk, text, cct, duv):
    """Daylight lies 0.0033 to the green of the Planckian at 5600 K: check value 31 (calc)."""
    found = target_of(text, desk)
    assert found.cct_k == pytest.approx(cct, abs=6.0)
    assert found.duv == pytest.approx(duv, abs=0.00015)


@pytest.mark.parametrize("text", ["", "warm", "56", "99000", "daylight 2000", "="])
def test_what_is_no_target(desk, text):
    with pytest.raises(TargetError):
        target_of(text, desk)


def test_the_last_reading_can_be_the_target(desk):
    type_in(desk, "5234 K; 0.0015 duv")
    assert target_of("=", desk) == Target(5234.0, 0.0015, "Tansy")


def test_seconds_since_the_change_and_whether_it_has_settled(desk, clock):
    type_in(desk, "1000")
    assert bench_view.since_words(desk) == ""  # nothing is known of what was before
    desk.free_terms = replace(desk.free_terms, level_pct=50.0)
    assert "since the change" in bench_view.since_words(desk)
    type_in(desk, "500", "480")
    assert "still falling" in bench_view.since_words(desk)
    (taken,) = type_in(desk, "481")
    assert "settled" in bench_view.since_words(desk)
    assert taken.measured.reading.since_change_s > 0.0
    assert EventKind.TAKEN in {e.kind for e in desk.state.live_events}


def test_a_lamp_left_on_is_no_room_light(desk):
    type_in(desk, "1000")
    desk.read_aside(Aside.ROOM)
    proposal = desk.propose("780")
    assert proposal.look.in_doubt
    assert proposal.look.cause == "lamp_still_on"
    desk.withdraw(proposal)
    assert desk.aside is Aside.ROOM  # the room is still what is to be read
    type_in(desk, "0.4")
    assert desk.aside is Aside.NONE
