"""Charts in photographs against what was photographed, and against colour-science."""

import colour
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from even_beam.camera.chart import ColourChart, Patch, chart_24, grey_wedge
from even_beam.camera.chart_comparison import difference, read_chart
from even_beam.camera.chart_finder import find_corners
from even_beam.camera.errors import CameraError
from even_beam.camera.evenness import evenness
from even_beam.camera.photo import Capture, Photograph, lab_of_linear, linear_of_lab, linear_of_srgb
from even_beam.camera.sampling import homography, project, sample
from even_beam.formats.photo_file import read_photograph
from even_beam.instruments.simulated_camera import patch_truth, white_signal
from even_beam.light import WAVELENGTH_NM, daylight, planckian
from even_beam.light.adaptation import srgb_of_linear
from even_beam.light.colour_difference import ciede2000
from even_beam.light.subjects import in_order
from tests.camera.photographed import scene, shot

FLASH = daylight(5600.0)


def photo_of(linear, **said) -> Photograph:
    return Photograph("p", np.asarray(linear, np.float64), lambda p: np.asarray(p, np.float64), 1.0, **said)


def charted(path, at):
    return read_chart(read_photograph(path), chart_24(), at.corners)


def painted(chart: ColourChart, colours, width=600, light=lambda x, y: 1.0, frame=0.05) -> tuple[Photograph, list]:
    """A chart straight from the front, painted pixel by pixel."""
    height = int(width / chart.aspect)
    left, top = 40, 30
    picture = np.full((height + 60, width + 80, 3), frame)
    for patch, own in zip(chart.patches, colours, strict=True):
        x0, x1 = (left + width * (patch.x + s * patch.width / 2.0) for s in (-1, 1))
        y0, y1 = (top + height * (patch.y + s * patch.height / 2.0) for s in (-1, 1))
        picture[round(y0) : round(y1), round(x0) : round(x1)] = own
    y, x = np.mgrid[0 : picture.shape[0], 0 : picture.shape[1]]
    picture = picture * np.asarray(light((x - left) / width, (y - top) / height))[..., None] * np.ones(3)
    corners = [(left, top), (left + width, top), (left + width, top + height), (left, top + height)]
    return photo_of(picture), corners


# --- the chart itself


def test_the_reference_values_are_those_that_are_published():
    """Against every table of such a chart in colour-science, each under its own white: other charts of the same kind,
    so within 3 CIEDE2000 on the mean and 7 at the most."""
    tables = [t for t in colour.CCS_COLOURCHECKERS.values() if next(iter(t.data)) == "dark skin" and len(t.data) == 24]
    assert len(tables) >= 3
    for known in tables:
        labs = colour.XYZ_to_Lab(np.array([colour.xyY_to_XYZ(v) for v in known.data.values()]), known.illuminant)
        apart = ciede2000(chart_24().labs, labs)
        assert apart.mean() < 3.0
        assert apart.max() < 7.0


@given(st.lists(st.floats(0.0, 1.0), min_size=3, max_size=3))
def test_srgb_and_lab_are_those_of_colour_science(rgb):
    linear = np.array(rgb)
    assert srgb_of_linear(linear) == pytest.approx(colour.models.eotf_inverse_sRGB(linear), abs=1e-6)
    assert linear_of_srgb(linear) == pytest.approx(colour.models.eotf_sRGB(linear), abs=1e-6)
    xyz = linear @ np.array(colour.models.RGB_COLOURSPACE_sRGB.matrix_RGB_to_XYZ).T
    known = colour.XYZ_to_Lab(xyz, colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"])
    assert lab_of_linear(linear) == pytest.approx(known, abs=0.06)  # the library's matrix is rounded to four figures
    assert linear_of_lab(lab_of_linear(linear)) == pytest.approx(linear, abs=1e-9)


def test_patches_are_named_by_their_colour_and_told_in_the_order_of_subjects():
    """No row of the chart is a row of what is told, and every patch is told once; steps of a wedge stay as they are."""
    names = [patch.name for patch in chart_24().patches]
    order = in_order(names)
    assert sorted(order) == list(range(24))
    told = [names[k] for k in order]
    assert told[:3] == ["deep skin", "fair skin", "deep red"] and told[-1] == "black"
    assert told != names and told[:6] != names[:6]
    wedge = [patch.name for patch in grey_wedge().patches]
    assert in_order(wedge) == list(range(len(wedge)))


def test_the_wedge_falls_by_half_a_stop_a_step():
    y = grey_wedge().linear[:, 1]
    assert np.log2(y[:-1] / y[1:]) == pytest.approx(0.15 * np.log2(10.0), abs=1e-9)


def test_the_middle_greys_are_in_the_middle():
    assert {chart_24().patches[i].name for i in chart_24().middle_greys} == {"grey 6.5", "grey 5", "grey 3.5"}
    assert [grey_wedge().patches[i].name for i in grey_wedge().middle_greys] == ["step 7", "step 6", "step 5"]


def test_a_chart_without_greys_is_refused():
    with pytest.raises(CameraError, match="fewer than 3 greys"):
        ColourChart("mine", 1.0, (Patch("a", 0.5, 0.5, 0.2, 0.2, (50.0, 0.0, 0.0), grey=True),))


# --- finding it


def test_it_is_found_wherever_it_lies():
    """The 100 seeded photographs of `benchmarks/chart_photos.py`, the first sixteen."""
    found = 0
    for seed in range(16):
        at = scene(seed)
        light = planckian(3200.0) if seed % 2 else FLASH
        photo = photo_of(_picture(at, light, light, seed))
        try:
            corners = np.array(find_corners(photo, chart_24()))
        except CameraError:
            continue
        pitch = np.hypot(*np.subtract(at.corners[1], at.corners[0])) / 6.0
        found += np.abs(corners - at.corners).max() < 0.12 * pitch
    assert found >= 15


def _picture(at, light, balance, seed):
    from even_beam.instruments.simulated_camera import photograph

    return photograph(light, white_signal(balance), at, seed) / 65535.0


def test_no_chart_is_found_where_there_is_none():
    rng = np.random.default_rng(3)
    for picture in (np.full((300, 400, 3), 0.3), rng.uniform(0.0, 1.0, (300, 400, 3))):
        with pytest.raises(CameraError, match="place its corners"):
            find_corners(photo_of(picture), chart_24())
    board = np.indices((300, 400)).sum(axis=0) // 30 % 2 * 0.6 + 0.1
    with pytest.raises(CameraError, match="place its corners"):
        find_corners(photo_of(np.repeat(board[..., None], 3, axis=2)), chart_24())


def test_a_wedge_is_placed_by_hand():
    with pytest.raises(CameraError, match="place its corners"):
        find_corners(photo_of(np.zeros((100, 200, 3))), grey_wedge())


@given(st.lists(st.tuples(st.floats(-0.15, 0.15), st.floats(-0.15, 0.15)), min_size=4, max_size=4))
def test_a_homography_takes_corners_to_corners_and_lines_to_lines(moved):
    unit = np.array([[0, 0], [1, 0], [1, 1], [0, 1]])
    quad = (unit + np.array(moved)) * [300.0, 200.0] + 50.0
    matrix = homography(quad)
    assert project(matrix, unit.astype(float)) == pytest.approx(quad, abs=1e-2)
    line = project(matrix, np.stack([np.linspace(0, 1, 5), np.full(5, 0.3)], axis=1))
    first, rest = line[-1] - line[0], line[1:-1] - line[0]
    assert first[0] * rest[:, 1] - first[1] * rest[:, 0] == pytest.approx(0.0, abs=0.5)


@pytest.mark.parametrize(
    "corners",
    [
        [(0, 0), (0, 100), (100, 100), (100, 0)],  # against the clock
        [(0, 0), (100, 100), (100, 0), (0, 100)],  # crossed
        [(0, 0), (50, 0), (100, 0), (0, 100)],  # three in a line
        [(0, 0), (1, 0), (float("nan"), 1), (0, 1)],
    ],
)
def test_corners_that_no_chart_has_are_refused(corners):
    with pytest.raises(CameraError):
        homography(corners)


# --- its patches


@pytest.mark.parametrize("seed", [3, 8, 21, 30])
def test_patches_are_what_was_photographed(tmp_path, seed):
    """Within 0.5 CIEDE2000 of the truth on the mean, from four directions."""
    at = scene(seed)
    photo = read_photograph(shot(tmp_path / "p.tif", FLASH, FLASH, at, seed))
    reading = read_chart(photo, chart_24(), at.corners)
    truth = np.clip(patch_truth(FLASH, white_signal(FLASH), at.exposure), 0.0, 1.0)
    good = reading.sampled.good
    seen = reading.sampled.linear * (truth[good].mean() / reading.sampled.linear[good].mean())
    apart = ciede2000(lab_of_linear(seen[good]), lab_of_linear(truth[good]))
    assert good.sum() >= 22
    assert apart.mean() < 0.5


@given(st.integers(0, 23), st.floats(0.6, 1.4), st.floats(0.6, 1.4))
@settings(max_examples=20)
def test_a_colour_that_is_painted_is_read(place, red, blue):
    chart = chart_24()
    colours = np.clip(chart.linear * [red, 1.0, blue], 0.0, 0.98)
    photo, corners = painted(chart, colours)
    sampled = sample(photo, chart, corners)
    assert sampled.linear[place] == pytest.approx(colours[place], abs=1e-9)
    assert not any(sampled.skipped)


def test_what_speaks_against_a_patch_is_said():
    chart = chart_24()
    photo, corners = painted(chart, chart.linear * 0.9)
    picture = np.array(photo.pixels)
    rng = np.random.default_rng(1)
    places = [(int(40 + 600 * p.x), int(30 + 600 / chart.aspect * p.y)) for p in chart.patches]
    x, y = places[0]
    picture[y - 40 : y + 40, x - 40 : x + 40, 1] = 1.0
    x, y = places[4]
    picture[y - 40 : y + 40, x - 40 : x + 40] = np.abs(rng.normal(0.004, 0.01, (80, 80, 3)))
    x, y = places[8]
    picture[y - 40 : y + 40, x : x + 40] *= 0.6
    x, y = places[12]
    picture[y - 2 : y + 2, x - 2 : x + 2] = 1.0  # dust is no reason
    said = sample(photo_of(picture), chart, corners).skipped
    assert "clipped" in said[0] and "noisy" in said[4] and "shadow" in said[8]
    assert sum(map(bool, said)) == 3
    outside = [(x + 400, y) for x, y in corners]
    assert any("outside" in why for why in sample(photo_of(picture), chart, outside).skipped)


# --- how it was lit


def test_the_light_over_the_chart_is_told_by_its_frame_and_corrected():
    chart = chart_24()
    colours = np.clip(chart.linear, 0.01, 0.9)
    falling = lambda x, y: np.exp2(-0.5 * x - 0.2 * y)  # noqa: E731
    photo, corners = painted(chart, colours, light=falling)
    reading = read_chart(photo, chart, corners)
    assert reading.light is not None and reading.light.from_frame
    places = np.array([[p.x, p.y] for p in chart.patches])
    truth = falling(*places.T)
    assert reading.light.share == pytest.approx(truth.min() / truth.max(), abs=0.01)
    assert reading.sampled.linear == pytest.approx(colours * falling(0.5, 0.5), rel=0.02)


def test_a_chart_without_a_frame_tells_by_its_greys_and_is_not_corrected():
    chart = chart_24()
    colours = np.clip(chart.linear, 0.01, 0.9)
    photo, corners = painted(chart, colours, light=lambda x, y: np.exp2(-0.5 * x))
    picture, flat = np.array(photo.pixels), painted(chart, colours)[0].pixels
    is_frame = (flat == 0.05).all(axis=-1)
    picture[is_frame] = np.random.default_rng(2).uniform(0.01, 0.5, (is_frame.sum(), 1))
    plain = sample(photo_of(picture), chart, corners)
    light = evenness(photo_of(picture), chart, corners, plain)
    assert light is not None and not light.from_frame
    reach = np.ptp([p.x for p in chart.patches if p.grey])
    assert light.share == pytest.approx(np.exp2(-0.5 * reach), abs=0.02)
    reading = read_chart(photo_of(picture), chart, corners)
    assert reading.sampled.linear == pytest.approx(plain.linear)


def test_a_patch_in_a_shadow_is_left_out():
    chart = chart_24()

    def light(x, y):
        return np.where((x > 0.82) & (y < 0.5), 0.4, 1.0)

    photo, corners = painted(chart, np.clip(chart.linear, 0.01, 0.9), light=light)
    said = read_chart(photo, chart, corners).sampled.skipped
    assert "shadow" in said[5] and "shadow" in said[11]
    assert not said[0] and not said[23]


# --- against the benchmark


@given(st.floats(0.3, 1.1), st.floats(0.75, 1.3), st.floats(0.75, 1.3))
@settings(max_examples=15)
def test_a_balance_takes_away_what_is_only_a_cast(level, red, blue):
    """Channels scaled: nothing is left once balanced, and the level is that of the greys' luminance."""
    chart = chart_24()
    base = np.clip(chart.linear, 0.005, 0.6) * 0.6
    lamp, corners = painted(chart, base * level * np.array([red, 1.0, blue]))
    known, _ = painted(chart, base)
    off = difference(read_chart(lamp, chart, corners), read_chart(known, chart, corners))
    assert off.mean_balanced == pytest.approx(0.0, abs=1e-6)
    assert np.nanmax(off.balanced) < 1e-5
    y = np.array([0.2126729, 0.7151522, 0.0721750]) @ np.array([red, 1.0, blue]) * level
    assert off.level_stops == pytest.approx(np.log2(y), abs=0.01)


@pytest.mark.parametrize(
    ("scale", "axis", "sign"), [((1, 1, 0.8), 1, 1), ((1, 1, 1.25), 1, -1), ((1, 0.9, 1), 0, 1), ((1, 1.1, 1), 0, -1)]
)
def test_a_cast_has_its_direction(scale, axis, sign):
    """Less blue is yellower (b* up), less green more magenta (a* up)."""
    chart = chart_24()
    base = np.clip(chart.linear, 0.005, 0.6) * 0.6
    lamp, corners = painted(chart, base * np.array(scale))
    known, _ = painted(chart, base)
    off = difference(read_chart(lamp, chart, corners), read_chart(known, chart, corners))
    assert np.sign(off.cast[axis]) == sign
    assert abs(off.cast[axis]) > 2.0


def test_as_shot_is_what_colour_science_says():
    chart = chart_24()
    base, lamp = np.clip(chart.linear, 0.01, 0.5), np.clip(chart.linear * [1.2, 1.0, 0.8] + 0.01, 0.01, 0.55)
    first, corners = painted(chart, lamp)
    second, _ = painted(chart, base)
    off = difference(read_chart(first, chart, corners), read_chart(second, chart, corners))
    greys = list(chart.middle_greys)
    weights = np.array([0.2126729, 0.7151522, 0.0721750])
    wanted = (chart.linear[greys] @ weights).mean()
    labs = []
    for one in (lamp, base):
        linear = one * (wanted / (one[greys] @ weights).mean())
        xyz = linear @ colour.models.RGB_COLOURSPACE_sRGB.matrix_RGB_to_XYZ.T
        labs.append(colour.XYZ_to_Lab(xyz, colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]))
    known = colour.delta_E(labs[0], labs[1], method="CIE 2000")
    assert off.as_shot == pytest.approx(known, abs=0.05)


@pytest.mark.parametrize("exposure", [0.35, 0.6])
def test_exposure_changes_no_difference(exposure):
    chart = chart_24()
    base = np.clip(chart.linear, 0.01, 0.8)
    lamp, corners = painted(chart, base * [0.9, 1.0, 0.7] * exposure)
    known, _ = painted(chart, base)
    darker, _ = painted(chart, base * 0.5)
    whole = difference(read_chart(lamp, chart, corners), read_chart(known, chart, corners))
    half = difference(read_chart(lamp, chart, corners), read_chart(darker, chart, corners))
    assert half.as_shot == pytest.approx(whole.as_shot, abs=1e-6)
    assert half.level_stops == pytest.approx(whole.level_stops + 1.0, abs=1e-6)


def test_lamps_come_in_their_true_order(tmp_path):
    """Lamps with bands missing: the order of the truth computed from the spectra, by the photographs."""
    at = scene(5, turned=False)
    lamps = [
        FLASH * (1.0 - deep * np.exp(-0.5 * ((WAVELENGTH_NM - 640.0) / 22.0) ** 2)) for deep in (0.0, 0.35, 0.7, 0.95)
    ]
    known = charted(shot(tmp_path / "b.tif", FLASH, FLASH, at), at)
    means = [
        difference(charted(shot(tmp_path / "l.tif", lamp, FLASH, at, k), at), known)
        for k, lamp in enumerate(lamps, start=1)
    ]
    found = [one.mean_balanced for one in means]
    assert found == sorted(found)
    truth = [_truth(lamp) for lamp in lamps]
    assert found == pytest.approx(truth, abs=0.35)


def _truth(lamp) -> float:
    linear = [np.clip(patch_truth(light, white_signal(FLASH), 0.7), 0.0, 1.0) for light in (lamp, FLASH)]
    greys = list(chart_24().middle_greys)
    wanted = (chart_24().linear[greys] @ [0.2126729, 0.7151522, 0.0721750]).mean()
    first, second = (lab_of_linear(one * wanted / one[greys].mean(axis=0)) for one in linear)
    return float(ciede2000(first, second).mean())


# --- what the file says of its exposure


def of(level=1.0, **said):
    chart = chart_24()
    photo, corners = painted(chart, np.clip(chart.linear, 0.01, 0.8) * level)
    return read_chart(photo_of(photo.pixels, capture=Capture(**said)), chart, corners)


MANUAL = {"shutter_s": 0.02, "f_number": 4.0, "iso": 800.0, "auto_exposure": False}


def test_settings_are_reckoned_with():
    off = difference(of(0.5, **{**MANUAL, "shutter_s": 0.01}), of(**MANUAL))
    assert off.level_stops == pytest.approx(0.0, abs=1e-6)
    assert any("1.00 stop less" in said for said in off.warnings)
    alike = difference(of(0.5, **MANUAL), of(**MANUAL))
    assert alike.level_stops == pytest.approx(-1.0, abs=1e-6)
    assert not any("stop" in said for said in alike.warnings)


def test_automatic_exposure_is_not_compared():
    auto = {**MANUAL, "auto_exposure": True}
    off = difference(of(0.5, **{**auto, "shutter_s": 0.01}), of(**auto))
    assert off.level_stops is None
    assert any("automatic and differs" in said for said in off.warnings)
    assert difference(of(0.5, **auto), of(**auto)).level_stops == pytest.approx(-1.0, abs=1e-6)
    unsaid = difference(of(0.5, auto_exposure=True), of())
    assert unsaid.level_stops is None
    balance = difference(of(auto_balance=True), of())
    assert any("white balance was automatic" in said for said in balance.warnings)


def test_frames_of_one_lamp_say_what_they_scatter_by(tmp_path):
    at = scene(5, turned=False)
    frames = [charted(shot(tmp_path / "f.tif", FLASH, FLASH, at, k), at) for k in (1, 2, 3)]
    off = difference(frames[0], frames[1], frames[1:])
    assert off.scatter[1] is not None and 0.0 < off.scatter[1] < 0.3
    assert difference(frames[0], frames[1]).scatter == (None, None)
