"""Photographs, films, waveforms and charts of one's own as files: read right, or refused with a reason."""

import io
import json

import imagecodecs
import numpy as np
import pytest
import tifffile
from PIL import Image, ImageCms
from scipy.io import wavfile

from even_beam.camera.chart import chart_24, labs_of_reflectances
from even_beam.camera.photo import linear_of_srgb
from even_beam.formats import FormatError
from even_beam.formats.chart_file import read_chart_file
from even_beam.formats.frames import rows_of
from even_beam.formats.photo_file import linear_profile, read_photograph
from even_beam.formats.waveform_file import read_waveform
from even_beam.light.rendering import subjects

COLOURS = np.linspace(0.0, 1.0, 60).reshape(4, 5, 3)


def linear_in(path):
    photo = read_photograph(path)
    return photo.decode(photo.pixels)


@pytest.mark.parametrize("name", ["p.png", "p.tif"])
@pytest.mark.parametrize("bits", [8, 16])
def test_pictures_without_a_profile_are_srgb(tmp_path, name, bits):
    full = 2**bits - 1
    stored = np.round(COLOURS * full).astype(f"uint{bits}")
    path = tmp_path / name
    if name.endswith(".png"):
        path.write_bytes(imagecodecs.png_encode(stored))
    else:
        tifffile.imwrite(path, stored, photometric="rgb")
    assert linear_in(path) == pytest.approx(linear_of_srgb(stored / full), abs=1e-12)
    assert "sRGB" in read_photograph(path).understood
    assert read_photograph(path).clipped(stored).sum() == (stored >= 0.995 * full).any(axis=-1).sum()


def test_floating_point_is_linear_light(tmp_path):
    tifffile.imwrite(tmp_path / "p.tif", (COLOURS * 1.4).astype(np.float32), photometric="rgb")
    assert linear_in(tmp_path / "p.tif") == pytest.approx(COLOURS * 1.4, abs=1e-6)


def test_a_profile_is_honoured(tmp_path):
    """A JPEG in a wide space against the colour management of another library, and a linear TIFF against itself."""
    wide = imagecodecs.cms_profile(
        "rgb", whitepoint=[0.3127, 0.329, 1.0], primaries=[0.64, 0.33, 1, 0.21, 0.71, 1, 0.15, 0.06, 1], gamma=2.2
    )
    flat = np.full((32, 32, 3), (120, 180, 90), np.uint8)
    Image.fromarray(flat).save(tmp_path / "p.jpg", quality=100, subsampling=0, icc_profile=bytes(wide))
    source = ImageCms.ImageCmsProfile(io.BytesIO(bytes(wide)))
    known = np.asarray(
        ImageCms.profileToProfile(
            Image.open(tmp_path / "p.jpg"), source, ImageCms.createProfile("sRGB"), renderingIntent=1
        )
    )
    inside = linear_in(tmp_path / "p.jpg").mean(axis=(0, 1))
    assert inside == pytest.approx(linear_of_srgb(known / 255.0).mean(axis=(0, 1)), abs=0.006)
    plain = np.asarray(Image.open(tmp_path / "p.jpg"))
    assert np.abs(inside - linear_of_srgb(plain / 255.0).mean(axis=(0, 1))).max() > 0.02
    stored = np.round(COLOURS * 65535).astype(np.uint16)
    tifffile.imwrite(
        tmp_path / "l.tif", stored, photometric="rgb", extratags=[(34675, "B", None, linear_profile(), True)]
    )
    assert linear_in(tmp_path / "l.tif") == pytest.approx(stored / 65535.0, abs=1e-5)


def test_what_the_file_says_of_its_exposure(tmp_path):
    exif = Image.Exif()
    own = exif.get_ifd(0x8769)
    own.update({33434: 1 / 50, 33437: 2.8, 34855: 800, 41986: 1, 41987: 0, 36867: "2026:11:20 18:30:00"})
    exif[0x110] = "a camera's name"
    Image.new("RGB", (20, 10)).save(tmp_path / "p.jpg", exif=exif)
    said = read_photograph(tmp_path / "p.jpg").capture
    assert said.shutter_s == pytest.approx(0.02)
    assert (said.f_number, said.iso, said.auto_exposure, said.auto_balance) == (pytest.approx(2.8), 800.0, False, True)
    assert said.stops == pytest.approx(np.log2(0.02 * 8.0 / 2.8**2))
    assert "camera" not in repr(said)
    Image.new("RGB", (20, 10)).save(tmp_path / "n.jpg")
    nothing = read_photograph(tmp_path / "n.jpg").capture
    assert nothing.stops is None and nothing.auto_exposure is None


@pytest.mark.parametrize("turn", range(1, 9))
def test_pictures_stand_upright(tmp_path, turn):
    """By the other library's own turning."""
    exif = Image.Exif()
    exif[274] = turn
    picture = Image.fromarray(np.arange(2 * 3 * 3, dtype=np.uint8).reshape(2, 3, 3) * 14)
    picture.save(tmp_path / "p.png", exif=exif)
    from PIL import ImageOps

    known = np.asarray(ImageOps.exif_transpose(Image.open(tmp_path / "p.png")))
    assert (read_photograph(tmp_path / "p.png").pixels == known).all()


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("p.tif", b"no picture at all", "cannot be read"),
        ("p.jpg", b"\xff\xd8\xff\xe0 torn", "cannot be read"),
        ("p.png", b"\x89PNG\r\n\x1a\n torn", "cannot be read"),
        ("p.png", b"", "empty"),
        ("p.bmp", b"BM", "TIFF, PNG or JPEG"),
        ("p.dng", b"II*\0", "rawpy"),
    ],
)
def test_what_is_no_photograph_is_refused(tmp_path, name, content, words):
    (tmp_path / name).write_bytes(content)
    with pytest.raises(FormatError, match=words):
        read_photograph(tmp_path / name)


def test_values_that_are_none_are_refused(tmp_path):
    tifffile.imwrite(tmp_path / "n.tif", np.full((4, 4, 3), np.nan, np.float32), photometric="rgb")
    tifffile.imwrite(tmp_path / "i.tif", np.ones((4, 4, 3), np.int32), photometric="rgb")
    for name in ("n.tif", "i.tif"):
        with pytest.raises(FormatError):
            read_photograph(tmp_path / name)


# --- waveforms

T = np.arange(400) / 1000.0
LIGHT = 1.0 + 0.5 * np.sin(2.0 * np.pi * 50.0 * T)


@pytest.mark.parametrize(
    ("heading", "scale", "separator", "comma"),
    [
        ("time s,light", 1.0, ",", False),
        ("t [ms];light", 1e3, ";", True),
        ("Zeit in µs\tLicht", 1e6, "\t", False),
        ("", 1.0, " ", False),
        ("# a note\ntime,light,temperature", 1.0, ",", False),
    ],
)
def test_tables_of_time_and_light(tmp_path, heading, scale, separator, comma):
    rows = [
        (f"{t * scale:.9g}", f"{v:.9g}", *(["21"] if "temperature" in heading else []))
        for t, v in zip(T, LIGHT, strict=True)
    ]
    text = "\n".join(separator.join(one.replace(".", ",") if comma else one for one in row) for row in rows)
    (tmp_path / "w.csv").write_text(f"{heading}\n{text}\n" if heading else text)
    wave = read_waveform(tmp_path / "w.csv")
    assert wave.rate_hz == pytest.approx(1000.0, rel=1e-6)
    assert wave.light == pytest.approx(LIGHT, rel=1e-6)
    assert wave.steady_part


@pytest.mark.parametrize(
    ("content", "words"),
    [
        ("time,light\n" + "".join(f"{i},1\n" for i in range(70)) + "x,3\n", "line 72"),
        ("time,light\n" + "".join(f"{i},1\n" for i in range(70)) + "71,nan\n", "line 72"),
        ("time,light\n" + "".join(f"{i},1\n" for i in range(70)) + "71\n", "columns"),
        ("time,light\n" + "0,1\n" * 100, "go on"),
        ("time,light\n" + "".join(f"{i},-1\n" for i in range(100)), "zero or negative"),
        ("hello", "no line"),
        ("time,light\n0,1\n1,1\n", "too few"),
    ],
)
def test_what_is_no_waveform_is_refused(tmp_path, content, words):
    (tmp_path / "w.csv").write_text(content)
    with pytest.raises(FormatError, match=words):
        read_waveform(tmp_path / "w.csv")


def test_sound_files(tmp_path):
    """A sound card loses the mean of the light, unless it plainly did not."""
    path, swing = (
        tmp_path / "w.wav",
        np.round(9000 * np.sin(2.0 * np.pi * 100.0 * np.arange(9600) / 48_000)).astype(np.int16),
    )
    wavfile.write(path, 48_000, swing)
    lost = read_waveform(path)
    assert not lost.steady_part and lost.rate_hz == 48_000.0
    given = read_waveform(path, mean=0.5)
    assert given.steady_part and given.light.mean() == pytest.approx(0.5)
    assert np.ptp(given.light) == pytest.approx(18000 / 32768, rel=1e-3)
    wavfile.write(path, 48_000, (swing + 12_000).astype(np.int16))
    assert read_waveform(path).steady_part
    wavfile.write(path, 48_000, np.stack([swing, swing], axis=1))
    assert any("first channel" in said for said in read_waveform(path).warnings)
    wavfile.write(path, 48_000, (swing.astype(np.int32) * 4).clip(-32768, 32767).astype(np.int16))
    assert any("cut off" in said for said in read_waveform(path).warnings)
    path.write_bytes(b"RIFF torn")
    with pytest.raises(FormatError, match="WAV"):
        read_waveform(path)


# --- charts of one's own


def test_a_chart_of_ones_own(tmp_path):
    reflectance = subjects()[1][:24]
    patches = [
        {
            "name": f"own {i}", "x": 0.1 + 0.2 * i, "y": 0.5, "width": 0.1, "height": 0.5, "grey": i < 3,
            "wavelength_nm": list(range(380, 781, 5)), "reflectance": reflectance[18 + i][::5].tolist(),
        }
        for i in range(4)
    ]  # fmt: skip
    patches.append(
        {"name": "petal", "x": 0.9, "y": 0.5, "width": 0.1, "height": 0.5, "lab": [60, 40, -10], "skin": True}
    )
    (tmp_path / "c.json").write_text(json.dumps({"name": "mine", "aspect": 5, "patches": patches}))
    chart = read_chart_file(tmp_path / "c.json")
    assert (chart.name, chart.columns, len(chart.patches)) == ("mine", 0, 5)
    assert chart.patches[4].lab == (60.0, 40.0, -10.0) and chart.patches[4].skin
    assert chart.labs[:4] == pytest.approx(labs_of_reflectances(reflectance[18:22]), abs=0.02)
    assert chart.labs[:4] == pytest.approx(chart_24().labs[18:22], abs=0.02)


BRIGHT = {"x": 0, "y": 0, "width": 1, "height": 1, "wavelength_nm": [1], "reflectance": [3]}
PATCH = {"x": 0.5, "y": 0.5, "width": 0.1, "height": 0.1, "lab": [50, 0, 0], "grey": True}


@pytest.mark.parametrize(
    ("content", "words"),
    [
        ("{", "no JSON"),
        ("[]", "list of “patches”"),
        (json.dumps({"patches": [PATCH]}), "fewer than 3 greys"),
        (json.dumps({"patches": [{**PATCH, "x": "a"}]}), "patch 1: “x”"),
        (json.dumps({"patches": [PATCH, {**PATCH, "width": 3}]}), "patch 2"),
        (json.dumps({"patches": [{**PATCH, "lab": [1, 2]}]}), "L\\*"),
        (
            json.dumps(
                {"patches": [{"x": 0, "y": 0, "width": 1, "height": 1, "wavelength_nm": [1], "reflectance": [3]}]}
            ),
            "between 0 and 1",
        ),
    ],
)
def test_charts_that_are_wrong_name_the_patch(tmp_path, content, words):
    (tmp_path / "c.json").write_text(content)
    with pytest.raises(FormatError, match=words):
        read_chart_file(tmp_path / "c.json")


# --- films


def test_a_folder_of_frames_and_a_film(tmp_path):
    av = pytest.importorskip("av")
    levels = 120 + 40 * np.sin(2.0 * np.pi * np.arange(24) / 8.0)
    folder = tmp_path / "frames"
    folder.mkdir()
    for i, level in enumerate(levels):
        Image.new("RGB", (64, 48), (round(level),) * 3).save(folder / f"f{i:03}.png")
    rows = rows_of(folder, (0.25, 0.25, 0.75, 0.75))
    assert rows.shape == (24, 24)
    assert rows.mean(axis=1) == pytest.approx(linear_of_srgb(np.round(levels) / 255.0), abs=1e-6)
    with av.open(str(tmp_path / "f.mkv"), "w") as film:
        stream = film.add_stream("ffv1", rate=24)
        stream.width, stream.height, stream.pix_fmt = 64, 48, "gray"
        for level in levels:
            for packet in stream.encode(
                av.VideoFrame.from_ndarray(np.full((48, 64), round(level), np.uint8), format="gray")
            ):
                film.mux(packet)
        for packet in stream.encode():
            film.mux(packet)
    assert rows_of(tmp_path / "f.mkv").mean(axis=1) == pytest.approx(rows.mean(axis=1), abs=0.01)
    (folder / "f100.png").write_bytes((folder / "f000.png").read_bytes())
    Image.new("RGB", (32, 48)).save(folder / "f200.png")
    assert len(rows_of(folder)) == 26  # its rows are as many
    Image.new("RGB", (64, 24)).save(folder / "f300.png")
    with pytest.raises(FormatError, match="another size"):
        rows_of(folder)
    (tmp_path / "t.mp4").write_bytes(b"torn")
    with pytest.raises(FormatError, match="cannot be read"):
        rows_of(tmp_path / "t.mp4")
    with pytest.raises(FormatError, match="a film"):
        rows_of(tmp_path / "t.txt")
    with pytest.raises(FormatError, match="area"):
        rows_of(folder, (0.5, 0.0, 0.2, 1.0))


@pytest.mark.parametrize("brackets", ["[" * 100_000, '{"patches": ' + "[" * 100_000])
def test_brackets_thousands_deep_are_no_chart(brackets, tmp_path):
    path = tmp_path / "deep.json"
    path.write_text(brackets)
    with pytest.raises(FormatError, match="is no JSON"):
        read_chart_file(path)
