"""What to look at before anything is published: it is said where it is so, and of nothing else."""

import pytest

from even_beam.answers.intake.importing import AsSaid, import_files
from even_beam.collection.collection import Collection
from even_beam.handing_over.before_published import before_published
from even_beam.handing_over.material import Material
from even_beam.shell.settings import Settings

HEAD = "session,fixture,cct_k,dimmer_pct,configuration,distance,meter,quantity,value,unit,time\n"


@pytest.fixture
def said(tmp_path, logbook, clock):
    def of(*rows: str) -> list[str]:
        path = tmp_path / "old.csv"
        path.write_text(HEAD + "\n".join(rows))
        import_files([path], logbook, clock, AsSaid(guess=True))
        return before_published(Material(Collection(logbook), Settings(), None))

    return of


def row(lamp: str, lux: float, day: int = 3, white: int = 5600) -> str:
    evening = f"Evening {day}"
    return f"{evening},{lamp},{white},100,bare,2 m,Wall meter,illuminance,{lux},lx,2026-09-{day:02d}T19:00:00+00:00"


def test_two_readings_that_agree_of_one_evening_leave_the_meter_alone_to_be_looked_at(said):
    (line,) = said(row("Heron", 820.0), row("Heron", 822.0), row("Tansy", 410.0), row("Tansy", 412.0))
    assert line.startswith("What Wall meter can tell is assumed (levels to ±5 %")
    assert "Kit, Meters takes what the maker states" in line


def test_each_matter_has_its_line(said):
    lines = said(
        row("Heron", 820.0), row("Heron", 8220.0), row("Heron", 700.0, white=3200),
        row("Tansy", 410.0, day=4), row("Tansy", 412.0, day=4), row("Tansy", 812.0, day=9), row("Tansy", 815.0, day=9),
    )  # fmt: skip
    text = "\n".join(lines)
    assert "Heron: read once, so that nobody knows how it repeats, at bare · 3200 K" in text
    assert "disagree: no level is stated before one more is read" in text
    assert "Tansy: Two evenings disagree: 411 lx on 4 Sep 2026 and 813 lx on 9 Sep 2026, 1.0 stop apart" in text
    assert "No session has all of these lamps" in text
    assert "simulated" not in text
    assert "8\u202f220" in text or "8220" in text


def test_a_meter_of_which_something_was_stated_is_not_assumed(said, logbook):
    from dataclasses import replace

    from even_beam.bench.records import Meter

    said(row("Heron", 820.0), row("Heron", 822.0))
    (meter,) = logbook.all(Meter)
    assert meter.is_assumed
    logbook.save(replace(meter, level_tolerance=0.03))
    assert before_published(Material(Collection(logbook), Settings(), None)) == []
