"""Channels of a lamp to its terms and back."""

import zipfile

import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from even_beam.cli import main
from even_beam.instruments.gdtf import read_gdtf
from even_beam.instruments.profile import ProfileError, profile_of, read_profile, said_channel

LEVEL = {"term": "level", "offset": 1, "fine": 2, "points": [[0, 0], [65535, 100]]}
WHITE = {"term": "cct", "offset": 3, "points": [[0, 2700], [255, 6500]]}
FAN = {"offset": 5, "value": 200}


def profile(*channels):
    return profile_of({"name": "lamp", "footprint": 5, "channels": list(channels)}, "lamp.json")


@given(st.floats(0.0, 100.0), st.floats(2700.0, 6500.0))
def test_what_is_set_comes_back_within_half_a_step(level, white):
    made = profile(LEVEL, WHITE, FAN)
    data, was_set = made.slots({"level": level, "cct": white})
    assert made.terms_of(data) == pytest.approx(was_set)
    assert abs(was_set["level"] - level) <= 0.5 * 100.0 / 65535 + 1e-9
    assert abs(was_set["cct"] - white) <= 0.5 * 3800.0 / 255 + 1e-9
    assert data[4] == 200


def test_bytes_are_those_of_a_hand_reckoning():
    """50 % of 65535 is 32768 (0x8000) rounded; 5600 K is (5600 - 2700) / 3800 * 255 = 194.6."""
    data, was_set = profile(LEVEL, WHITE).slots({"level": 50.0, "cct": 5600.0})
    assert data == bytes([0x80, 0x00, 195, 0, 0])
    assert was_set["cct"] == pytest.approx(2700.0 + 195 / 255 * 3800.0)


@pytest.mark.parametrize(
    ("points", "wanted", "value"),
    [
        ([[0, 100], [255, 0]], 25.0, 191),  # the other way round
        ([[0, 0], [20, 0], [255, 100]], 0.0, 0),  # a threshold: nothing below
        ([[0, 0], [20, 0], [255, 100]], 50.0, 138),
        ([[0, 0], [128, 25], [255, 100]], 62.5, 192),  # a curve of two pieces
    ],
)
def test_points_are_a_piecewise_line(points, wanted, value):
    made = profile({"term": "level", "offset": 1, "points": points})
    data, was_set = made.slots({"level": wanted})
    assert data[0] == value
    assert was_set["level"] == pytest.approx(wanted, abs=0.3)


def test_what_is_not_said_is_dark_and_at_its_lowest():
    assert profile(LEVEL, WHITE).slots({})[0] == bytes(5)
    dark = profile({"term": "level", "offset": 1, "points": [[0, 100], [255, 0]]})
    assert dark.slots({})[0][0] == 255


@pytest.mark.parametrize(
    ("content", "words"),
    [
        ({"channels": []}, "needs a list of channels"),
        ({"channels": [{"term": "level", "offset": 0, "points": [[0, 0], [1, 1]]}]}, "no place of a channel"),
        ({"channels": [{"term": "level", "offset": 1, "points": [[0, 0], [0, 1]]}]}, "must rise"),
        ({"channels": [{"term": "level", "offset": 1, "points": [[0, 0], [300, 1]]}]}, "between 0 and 255"),
        (
            {"channels": [{"term": "level", "offset": 1, "points": [[0, 0], [10, 5], [20, 3]]}]},
            "rise or fall all along",
        ),
        ({"channels": [{"term": "level", "offset": 1, "points": [[0, float("nan")], [9, 1]]}]}, "must rise"),
        ({"channels": [LEVEL, {"offset": 2, "value": 1}]}, "two channels at one place"),
        ({"channels": [LEVEL, {**LEVEL, "offset": 3, "fine": 4}]}, "two channels set one term"),
        ({"channels": [{"offset": 1, "value": 300}]}, "not between 0 and 255"),
        ({"footprint": 2, "channels": [WHITE]}, "does not hold"),
        ([], "no profile"),
    ],
)
def test_a_profile_that_cannot_be_used_says_why(content, words):
    with pytest.raises(ProfileError, match=words):
        profile_of(content, "lamp.json")


def test_a_term_beyond_its_ends_is_refused():
    with pytest.raises(ProfileError, match="cct 7000 is not between 2700 and 6500"):
        profile(LEVEL, WHITE).slots({"cct": 7000.0})
    with pytest.raises(ProfileError, match="no channel for tint"):
        profile(LEVEL).slots({"tint": 1.0})


def test_a_file_that_is_no_profile_says_so(tmp_path):
    (tmp_path / "lamp.json").write_text('{"channels": [')
    with pytest.raises(ProfileError, match=r"lamp\.json is no profile"):
        read_profile(tmp_path / "lamp.json")


@pytest.mark.parametrize(
    ("said", "written"),
    [
        ("channel 1-2 level 0-100 %", LEVEL),
        ("channel 3 white 2700-6500 K", WHITE),
        ("Channel 3 cct 2700 to 6500", WHITE),
        ("channel 5 = 200", FAN),
    ],
)
def test_a_channel_as_people_say_it(said, written):
    assert profile_of({"channels": [written]}, "x").channels[0] == said_channel(said)


def test_a_channel_that_is_not_understood_says_how():
    with pytest.raises(ProfileError, match="say “channel 1-2 level 0-100 %”"):
        said_channel("the first one dims")


def gdtf(tmp_path, channels):
    """A GDTF file by the words of the standard (DIN SPEC 15800:2022, 10.6): modes, channels, functions."""
    text = f"""<?xml version="1.0" encoding="UTF-8"?>
<GDTF DataVersion="1.2"><FixtureType Name="Bench light" ShortName="B" LongName="Bench light" Manufacturer="None"
 FixtureTypeID="00000000-0000-0000-0000-000000000001"><Geometries><Geometry Name="Body" Model=""/></Geometries>
<DMXModes><DMXMode Name="Short" Geometry="Body"><DMXChannels>{channels}</DMXChannels></DMXMode>
<DMXMode Name="Long" Geometry="Body"><DMXChannels>{channels}</DMXChannels></DMXMode></DMXModes></FixtureType></GDTF>"""
    path = tmp_path / "lamp.gdtf"
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr("description.xml", text)
    return path


def gdtf_channel(offset, attribute, functions):
    made = "".join(
        f'<ChannelFunction Name="f{n}" Attribute="{attribute}" DMXFrom="{start}" PhysicalFrom="{low}"'
        f' PhysicalTo="{high}" Default="{default}"/>'
        for n, (start, low, high, default) in enumerate(functions)
    )
    return (
        f'<DMXChannel DMXBreak="1" Offset="{offset}" Geometry="Body"><LogicalChannel Attribute="{attribute}">{made}'
        "</LogicalChannel></DMXChannel>"
    )


def test_a_profile_from_gdtf_of_three_shapes(tmp_path):
    eight = gdtf_channel("1", "Dimmer", [("0/1", 0, 1, "0/1")])
    sixteen = gdtf_channel("1,2", "Dimmer", [("0/1", 0, 1, "0/1")]) + gdtf_channel(
        "3", "CTC", [("0/1", 2700, 6500, "0/1")]
    )
    pieces = gdtf_channel("1", "CTC", [("0/1", 3200, 3200, "0/1"), ("10/1", 3200, 5600, "0/1")]) + gdtf_channel(
        "2", "Fan", [("0/1", 0, 1, "200/1")]
    )
    made = read_gdtf(gdtf(tmp_path, eight))
    assert made.limits == {"level": (0.0, 100.0)} and made.slots({"level": 100.0})[0] == b"\xff"
    made = read_gdtf(gdtf(tmp_path, sixteen), "Long")
    assert made.limits == {"level": (0.0, 100.0), "cct": (2700.0, 6500.0)}
    assert made.slots({"level": 50.0, "cct": 6500.0})[0] == bytes([0x80, 0x00, 255])
    made = read_gdtf(gdtf(tmp_path, pieces))
    assert made.limits["cct"] == (3200.0, 5600.0)
    assert made.slots({"cct": 5600.0})[0] == bytes([255, 200])
    with pytest.raises(ProfileError, match="no mode “Wide”; there are Short, Long"):
        read_gdtf(gdtf(tmp_path, eight), "Wide")


def test_what_is_no_gdtf_says_so(tmp_path):
    (tmp_path / "lamp.gdtf").write_text("no archive")
    with pytest.raises(ProfileError, match=r"lamp\.gdtf is no GDTF file"):
        read_gdtf(tmp_path / "lamp.gdtf")


def test_a_profile_is_written_as_it_is_said(tmp_path):
    said = ["channel 1-2 level 0-100 %", "channel 3 white 2700-6500 K", "channel 5 = 200"]
    found = CliRunner().invoke(main, ["profile", str(tmp_path / "tansy"), *said])
    assert found.exit_code == 0 and "5 channels, which set level 0 to 100, cct 2700 to 6500" in found.output
    assert read_profile(tmp_path / "tansy.json").slots({"level": 50.0, "cct": 5600.0})[0] == bytes(
        [128, 0, 195, 0, 200]
    )
    again = CliRunner().invoke(main, ["profile", str(tmp_path / "other"), "channel 1 level 0-100", "channel 1 = 3"])
    assert again.exit_code == 1 and "two channels at one place" in again.output
    path = gdtf(tmp_path, gdtf_channel("1", "Dimmer", [("0/1", 0, 1, "0/1")]))
    found = CliRunner().invoke(main, ["profile", str(tmp_path / "from"), "--gdtf", str(path), "--mode", "Long"])
    assert found.exit_code == 0 and read_profile(tmp_path / "from.json").name == "Bench light, Long"
    assert CliRunner().invoke(main, ["profile", str(tmp_path / "none")]).exit_code == 2
