"""What `findings --json` and `compare --json` print has the keys that docs/file-format.md names, and plain values
only."""

import json
import math
import re
from pathlib import Path

import pytest
from click.testing import CliRunner

from even_beam.cli import main

DOCS = (Path(__file__).parents[1] / "docs" / "file-format.md").read_text(encoding="utf-8")


def printed(*arguments: object) -> dict:
    result = CliRunner().invoke(main, [str(a) for a in arguments])
    assert result.exit_code == 0, result.output
    return json.loads(result.output, parse_constant=lambda name: pytest.fail(f"{name} is no JSON"))


def documented(heading: str) -> set[str]:
    """The words between back ticks of a section."""
    section = DOCS.split(f"## `{heading}`")[1].split("\n## ")[0]
    return set(re.findall(r"[a-z][a-z0-9_]+", " ".join(re.findall(r"`([^`]*)`", section))))


def keys_of(value: object) -> set[str]:
    """Every key, but for those of figures and series, which are names of quantities."""
    if isinstance(value, list):
        return set().union(*(keys_of(item) for item in value)) if value else set()
    if isinstance(value, dict):
        return set(value).union(
            *(
                keys_of(item)
                for name, item in value.items()
                if name not in {"figures", "series", "parts", "level_parts", "texts", "common", "beyond_reference"}
            )
        )
    return set()


def test_every_key_of_findings_is_documented(demo):
    found = printed("findings", demo, "--json")
    assert keys_of(found) <= documented("findings --json")
    assert {"findings", "claims", "verdicts", "rows"} <= set(found["fixtures"][0])


def test_every_key_of_a_comparison_is_documented(demo):
    found = printed("compare", demo, "--fixtures", "Tansy,Burdock,Yarrow", "--json")
    assert keys_of(found) <= documented("compare --json")
    assert found["reference"] == "Tansy" and len(found["entries"]) == 3


@pytest.mark.parametrize(
    "arguments",
    [
        ("match", "--target", "cct=5600", "--gels", "all"),
        ("match", "--target", "fixture=North window"),
        ("mix", "--fixtures", "Tansy@cct=5600,Burdock@cct=3200", "--target", "cct=4300"),
        ("enough", "--stop", "8", "--iso", "400", "--shutter", "1/50"),
    ],
)
def test_every_key_of_a_match_is_documented(demo, arguments):
    command, *rest = arguments
    found = printed(command, demo, *rest, "--json")
    terms = {"mode", "cct", "tint", "hue", "saturation", "configuration", "zoom", "level", "angle", "turn", "distance"}
    terms |= {"plane"}
    assert keys_of(found) - terms <= documented(f"{command} --json")


def test_a_finding_is_whole(demo):
    for fixture in printed("findings", demo, "--json")["fixtures"]:
        for finding in fixture["findings"]:
            assert finding["sentence"] and finding["readings"], finding["name"]
            assert finding["uncertainty"] is None or finding["uncertainty"] >= 0.0
            lengths = {len(values) for values in finding["series"].values()}
            assert len(lengths) <= 1, finding["name"]
            assert finding["value"] is None or math.isfinite(finding["value"])


def test_the_readings_named_are_those_of_the_logbook(demo):
    import sqlite3

    known = {row[0] for row in sqlite3.connect(demo).execute("SELECT id FROM reading")}
    found = printed("findings", demo, "--json")
    named = {i for fixture in found["fixtures"] for finding in fixture["findings"] for i in finding["readings"]}
    assert named and named <= known
    compared = printed(
        "compare", demo, "--fixtures", "Tansy,Burdock", "--at", "cct=3200,level=100,distance=3 m", "--json"
    )
    assert {i for entry in compared["entries"] for i in entry["readings"]} <= known
    assert compared["at"] == {"cct_k": 3200.0, "level_pct": 100.0, "distance_m": 3.0}


@pytest.mark.parametrize("terms", ["warmth=3", "cct=", "cct", "distance=soon", "level=-5"])
def test_terms_that_cannot_be_are_refused(demo, terms):
    result = CliRunner().invoke(main, ["compare", str(demo), "--fixtures", "Tansy", "--at", terms])
    assert result.exit_code != 0 and "Traceback" not in result.output


def test_the_order_asked_is_the_order_given(demo):
    names = [e["fixture"] for e in printed("compare", demo, "--fixtures", "yarrow, Tansy", "--json")["entries"]]
    assert names == ["Yarrow", "Tansy"]
