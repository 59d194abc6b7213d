"""Broken and hostile input at every door: only the project's own errors, none that takes long or much memory.

`python -m benchmarks.fuzz [SECONDS] [SEED]`. Every door gets sound samples, mutated: bytes flipped, cut, doubled,
joined, numbers of thousands of digits, brackets thousands deep, cells of nonsense. A new seed each time unless one is
given.
"""

import gc
import io
import json
import random
import sqlite3
import sys
import tempfile
import time
import tracemalloc
from collections import Counter
from collections.abc import Callable, Sequence
from contextlib import closing
from dataclasses import dataclass, field
from pathlib import Path

import imagecodecs
import numpy as np
import tifffile
from PIL import Image
from scipy.io import wavfile

from benchmarks.drawn_lines import ASKING_ALL, drawn, joined, means
from even_beam.answers.camera.charts import read_chart_photo
from even_beam.answers.camera.fading import fade_file, fade_json
from even_beam.answers.camera.flickering import flicker_file, flicker_json
from even_beam.answers.compare.as_json import comparison
from even_beam.answers.findings.terms_text import TermsTextError, terms_of
from even_beam.answers.findings.witness import UnknownFixtureError, Witness
from even_beam.answers.intake.importing import import_files
from even_beam.answers.intake.session_folder import keep_session, read_session
from even_beam.answers.match.as_json import match
from even_beam.answers.match.target_text import TargetTextError, target_of
from even_beam.answers.match.together import enough_of
from even_beam.answers.match.view import spoken, stop_of
from even_beam.answers.plan.run_plan import read_plan
from even_beam.answers.plan.view import PlanError
from even_beam.answers.spectrum.beams import beam_figures
from even_beam.bench.exposure import Exposure, ExposureError
from even_beam.bench.limits import ImpossibleError
from even_beam.bench.planning.protocols import ProtocolError, expand, protocols_of
from even_beam.bench.records import Meter, Terms
from even_beam.bench.tolerances import ToleranceError, set_of
from even_beam.camera.chart import chart_24
from even_beam.camera.errors import CameraError
from even_beam.camera.shutter import FilmExposure
from even_beam.collection.collection import Collection
from even_beam.desk.kit import lamp_line, limit_line, meter_line
from even_beam.desk.kit.lamp_form import FormError, LampForm, claims_of
from even_beam.desk.kit.meter_form import MeterForm, meter_of
from even_beam.desk.kit.own_subjects import grid_of
from even_beam.desk.kit.subject_file import subjects_in
from even_beam.formats import FormatError, cgats, delimited, read_spectra, readings_table, spectra_json, tm27
from even_beam.formats.chart_file import read_chart_file
from even_beam.formats.session_data import written
from even_beam.handing_over.folder import data_of
from even_beam.instruments.simulated_camera import Scene, photograph, white_signal
from even_beam.known.matching.power import SupplyError, supply_of
from even_beam.known.matching.sums import sum_of
from even_beam.light import SpectrumError, daylight
from even_beam.logbook import LogbookError
from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook
from even_beam.said import Situation, understand
from even_beam.shell.settings import SettingsError, load
from even_beam.words.entry import EntryError
from tests.logbook.killed import an_evening, killed, levels_in

OURS = (
    EntryError, ExposureError, ImpossibleError, ProtocolError, ToleranceError, FormatError, SpectrumError, LogbookError,
    TermsTextError, UnknownFixtureError, PlanError, SettingsError, TargetTextError, SupplyError, CameraError,
    FormError,
)  # fmt: skip
"""What a door may raise."""

LONGEST_S, LARGEST_MB = 2.0, 500.0

_WORDS = (
    "1e999", "nan", "-inf", "9" * 5000, "[" * 3000, "{" * 3000, "\x00", "\ufeff", "=1+1", "-0", "1/0", "5594 K", "spot",
    "½ green", "at 25 ft", "1 ft right", "null", "true", "\"", "\n", ";", ",", "\t", "%", "é", "0x10", "١٢٣", "1_000",
    "1.600", "16 00", "CRI 96", "SSI 84 P3200", "f/22 and nine tenths", "255/255", "iso 800", "180° at 24 fps",
)  # fmt: skip


def mutated(data: bytes, rng: random.Random) -> bytes:
    """A sample with one to five things done to it."""
    out = bytearray(data)
    for _ in range(rng.randint(1, 5)):
        place = rng.randrange(len(out) + 1)
        what = rng.randrange(7)
        if what == 0 and out:
            out[min(place, len(out) - 1)] = rng.randrange(256)
        elif what == 1:
            del out[place : place + rng.randint(1, 40)]
        elif what == 2:
            out[place:place] = rng.choice(_WORDS).encode("utf-8", "surrogatepass")
        elif what == 3:
            out[place:place] = out[max(0, place - 30) : place] * rng.randint(1, 20)
        elif what == 4:
            out = out[:place]
        elif what == 5:
            out += out[: rng.randint(0, 200)]
        else:
            out[place:place] = bytes(rng.randrange(256) for _ in range(rng.randint(1, 12)))
    return bytes(out)


_LEAVES = (
    None,
    True,
    -1,
    1e308,
    "nan",
    "",
    "x" * 3000,
    [],
    {},
    [[]],
    {"a": []},
    "5 ft",
    [1, "2"],
    "\x00",
    -0.0,
    10**400,
)


def bent(data: bytes, rng: random.Random) -> bytes:
    """A JSON document that is still one, with leaves and branches of another kind in it."""

    def bend(value: object, chance: float) -> object:
        if rng.random() < chance:
            return rng.choice(_LEAVES)
        if isinstance(value, dict):
            return {rng.choice(["x", key]) if rng.random() < 0.05 else key: bend(v, chance) for key, v in value.items()}
        if isinstance(value, list):
            return [bend(item, chance) for item in value] * rng.choice((1, 1, 1, 2, 0))
        return value

    return json.dumps(bend(json.loads(data), rng.choice((0.03, 0.1, 0.3)))).encode()


@dataclass
class Outcome:
    """What came of one door: sound, refused by an error of ours, and what must not be."""

    counts: Counter[str] = field(default_factory=Counter)
    faults: list[str] = field(default_factory=list)
    longest_s: float = 0.0
    largest_mb: float = 0.0


Door = tuple[str, Callable[[bytes, Path], object], Sequence[bytes]]


def _line(data: bytes, folder: Path) -> object:
    text = data.decode("utf-8", "replace")
    terms = Terms(cct_k=5600.0, level_pct=100.0, distance_m=3.0)
    return understand(text, Situation(("illuminance", "cct", "duv", "ra"), terms))


def _file(suffix: str) -> Callable[[bytes, Path], object]:
    def read(data: bytes, folder: Path) -> object:
        path = folder / f"mutated{suffix}"
        path.write_bytes(data)
        return read_spectra(path)

    return read


def _table(suffix: str) -> Callable[[bytes, Path], object]:
    def read(data: bytes, folder: Path) -> object:
        path = folder / f"table{suffix}"
        path.write_bytes(data)
        book = folder / "into.evenbeam"
        book.unlink(missing_ok=True)
        logbook = Logbook.create(book)
        try:
            return import_files([path], logbook, _now)
        finally:
            logbook.close()

    return read


def _now() -> "object":
    from datetime import UTC, datetime

    return datetime(2026, 11, 25, tzinfo=UTC)


def _plan(data: bytes, folder: Path) -> object:
    path = folder / "plan.json"
    path.write_bytes(data)
    return read_plan(path)


def _protocols(data: bytes, folder: Path) -> object:
    try:
        content = json.loads(data)
    except (ValueError, RecursionError):
        return None
    found = protocols_of(content)
    return [expand(protocol, Terms()) for protocol in found]


def _tolerances(data: bytes, folder: Path) -> object:
    try:
        content = json.loads(data)
    except (ValueError, RecursionError):
        return None
    return set_of(content) if isinstance(content, dict) else None


def _settings(data: bytes, folder: Path) -> object:
    path = folder / "settings.toml"
    path.write_bytes(data)
    return load(path)


def _mapping(data: bytes, folder: Path) -> object:
    try:
        content = json.loads(data)
    except (ValueError, RecursionError):
        return None
    return delimited.Mapping.from_content(content) if isinstance(content, dict) else None


def _terms(data: bytes, folder: Path) -> object:
    return terms_of(data.decode("utf-8", "replace"), {"hand": "m"}, {"tuesday": "s"})


def _target(data: bytes, folder: Path) -> object:
    text = data.decode("utf-8", "replace")
    said = spoken(text, ["Tansy"])
    if said.startswith("fixture="):
        return said
    collection = Collection(Logbook.open_to_read(folder / "sound.evenbeam"))
    try:
        return target_of(said, collection, Witness(collection))
    finally:
        collection.logbook.close()


def _stop(data: bytes, folder: Path) -> object:
    text = data.decode("utf-8", "replace")
    return sum_of(text) or stop_of(text, 340.0)


def _supply(data: bytes, folder: Path) -> object:
    return supply_of(data.decode("utf-8", "replace"))


BEAM = "IES:LM-63-2019\r\n[TEST] a walk\r\nTILT=NONE\r\n1 -1 1 3 1 1 2 0 0 0\r\n1 1 0\r\n0 45 90\r\n0\r\n900 300 0\r\n"


def _beam(data: bytes, folder: Path) -> object:
    path = folder / "beam.ies"
    path.write_bytes(data)
    return beam_figures(path)


def _photograph(suffix: str) -> Callable[[bytes, Path], object]:
    def act(data: bytes, folder: Path) -> object:
        path = folder / f"photo{suffix}"
        path.write_bytes(data)
        return read_chart_photo(path, chart_24())

    return act


def _waveform(suffix: str) -> Callable[[bytes, Path], object]:
    def act(data: bytes, folder: Path) -> object:
        path = folder / f"wave{suffix}"
        path.write_bytes(data)
        return flicker_json(flicker_file(path, [FilmExposure(24.0, 1 / 48, 0.015)]))

    return act


def _fade(data: bytes, folder: Path) -> object:
    path = folder / "fade.csv"
    path.write_bytes(data)
    return fade_json(fade_file(path))


def _subject(data: bytes, folder: Path) -> object:
    path = folder / "subject.csv"
    path.write_bytes(data)
    return [grid_of(one) for one in subjects_in(path, ["petal"])]


def _said(data: bytes, folder: Path) -> object:
    """A line said in the Kit: of a lamp, of a meter, of limits."""
    text, refused = data.decode("utf-8", "replace"), []
    for read in (
        lambda: claims_of(lamp_line.changed(text, LampForm("Tansy")), "model"),
        lambda: meter_of(meter_line.changed(text, MeterForm("Meter")), Meter("meter", "")),
        lambda: limit_line.words_of(text, {"ra": 90.0}),
    ):
        try:
            read()
        except FormError as error:
            refused.append(error)
    if len(refused) == 3:
        raise refused[0]
    return text


def _chart(data: bytes, folder: Path) -> object:
    path = folder / "chart.json"
    path.write_bytes(data)
    return read_chart_file(path)


def _pictures() -> dict[str, bytes]:
    """A small photograph of the chart in each format."""
    flash = daylight(5600.0)
    at = Scene(240, 160, ((30.0, 24.0), (208.0, 28.0), (204.0, 134.0), (34.0, 130.0)))
    pixels = photograph(flash, white_signal(flash), at, 1)
    tiff, jpeg = io.BytesIO(), io.BytesIO()
    tifffile.imwrite(tiff, pixels, photometric="rgb")
    Image.fromarray((pixels >> 8).astype(np.uint8)).save(jpeg, "JPEG")
    return {".tif": tiff.getvalue(), ".jpg": jpeg.getvalue(), ".png": bytes(imagecodecs.png_encode(pixels))}


def _wave() -> tuple[bytes, bytes]:
    """Two tenths of a second of flicker, as a table and as a sound."""
    t = np.arange(1600) / 8000.0
    light = 1.0 + 0.5 * np.sin(2.0 * np.pi * 100.0 * t)
    table = "time s,light\n" + "\n".join(f"{a:.6f},{b:.5f}" for a, b in zip(t, light, strict=True))
    sound = io.BytesIO()
    wavfile.write(sound, 8000, np.round(9000 * (light - 1.0)).astype(np.int16))
    return table.encode(), sound.getvalue()


def _session(data: bytes, folder: Path) -> object:
    """Open data of a stranger, taken into a logbook of its own."""
    path = folder / "session.json"
    path.write_bytes(data)
    book = folder / "taken.evenbeam"
    book.unlink(missing_ok=True)
    logbook = Logbook.create(book)
    try:
        return keep_session(read_session(path), logbook)
    finally:
        logbook.close()


def _handed_over(folder: Path) -> bytes:
    """The sound logbook as open data."""
    path = folder / "sound.evenbeam"
    path.write_bytes(sound_logbook(folder))
    logbook = Logbook.open_to_read(path)
    try:
        collection = Collection(logbook)
        return written(data_of(collection, collection.sessions))
    finally:
        logbook.close()


def _logbook(data: bytes, folder: Path) -> object:
    path = folder / "bent.evenbeam"
    path.write_bytes(data)
    logbook = Logbook.open_to_read(path)
    try:
        collection = Collection(logbook)
        names = [lamp.name for lamp in collection.lamps()][:3]
        witness = Witness(collection)
        for entrant in witness.entrants(names) if names else []:
            witness.findings(entrant)
        if names:
            match(collection, "cct=5600", names)
            enough_of(collection, witness.entrants(names), 4.0, Exposure(800.0, 0.02))
        return comparison(collection, names) if names else None
    finally:
        logbook.close()


def _log(data: bytes, folder: Path) -> object:
    """A killed logbook whose log is torn: what was in the file stays, and what came after it comes in order."""
    path = folder / "torn.evenbeam"
    for left in folder.glob("torn*"):
        left.unlink()
    path.write_bytes((folder / "killed.evenbeam").read_bytes())
    path.with_name("torn.evenbeam-wal").write_bytes(data)
    Logbook.open(path).close()
    found = levels_in(path)
    assert found, "nothing is left"
    assert found == [800.0, 810.0, 820.0, 830.0][: len(found)], f"torn into {found}"
    assert check(path).sound, "torn into something damaged"
    return found


def _killed_log(folder: Path) -> bytes:
    path = killed(an_evening(folder / "killed.evenbeam", "own", [800.0]), [810.0, 820.0, 830.0])
    log = path.with_name("killed.evenbeam-wal")
    return log.read_bytes()


def sound_logbook(folder: Path) -> bytes:
    """A small logbook with readings of two lamps."""
    table = folder / "sound.csv"
    rows = [f"Tansy,5600,{level},2 m,illuminance,{8 * level},lx" for level in (100, 50, 25)]
    rows += [f"Sorrel,5600,{level},2 m,illuminance,{7 * level},lx" for level in (100, 50, 25)]
    table.write_text("fixture,cct_k,dimmer_pct,distance,quantity,value,unit\n" + "\n".join(rows), encoding="utf-8")
    path = folder / "sound.evenbeam"
    path.unlink(missing_ok=True)
    logbook = Logbook.create(path)
    import_files([table], logbook, _now)
    logbook.close()
    return path.read_bytes()


def nonsense_cells(data: bytes, folder: Path, rng: random.Random) -> bytes:
    """A logbook that is a sound database, with cells of nonsense in it."""
    path = folder / "cells.evenbeam"
    path.write_bytes(data)
    with closing(sqlite3.connect(path)) as base:
        tables = [row[0] for row in base.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        for _ in range(rng.randint(1, 4)):
            table = rng.choice([t for t in tables if not t.startswith(("sqlite", "alembic"))])
            columns = [row[1] for row in base.execute(f"PRAGMA table_info({table})")]
            value = rng.choice((None, "nonsense", 1e999, -1, b"\xff\xfe", "{", "[1,", "2026-99-99", "", 10**15))
            try:
                base.execute(f"UPDATE {table} SET {rng.choice(columns)} = ? WHERE rowid % 3 = 0", (value,))
            except sqlite3.Error:
                continue
        base.commit()
    return path.read_bytes()


def doors(folder: Path) -> list[Door]:
    """Every door with its samples."""
    grid = np.arange(380, 781, 5)
    text = "nm;W/m2/nm\n" + "\n".join(f"{w};{1.0 + w / 1000:.4f}" for w in grid)
    spectrum = delimited.read(text.encode(), "lamp")
    (folder / "s.xlsx").write_bytes(
        readings_table.workbook([{"fixture": "Tansy", "quantity": "illuminance", "value": "820"}])
    )
    table = b"session,fixture,cct_k,quantity,value,unit\nOld,Tansy,5600,illuminance,820,lx\nOld,Tansy,5600,ra,96,\n"
    lines = [word.encode() for word in _WORDS] + [b"820 lx 50 % at 3 m", b"1600; 5547 K; 0.0006; 96", b"about 1.6k"]
    sets = json.dumps({"name": "mine", "purpose": "x", "limits": {"ra": 90.0}}).encode()
    axes = {"whites_k": [3200, 5600], "levels_pct": [100, 50], "distances": ["2 m", "10 ft"],
            "zooms": ["flood", "spot"],
            "angles_deg": [0, 15], "repeats": 2, "spread_stops": 0.1, "cautions": ["eyes"], "again_after_min": [5, 10],
            "configurations": ["bare", "reflector"], "tints": ["0"], "hues_deg": [0, 120], "saturation_pct": 100,
            "together": False, "quantities": ["illuminance"], "by_hand": True, "mode": "CCT"}  # fmt: skip
    wave, sound = _wave()
    patch = {"name": "a", "x": 0.2, "y": 0.5, "width": 0.1, "height": 0.5, "lab": [50, 0, 0], "grey": True}
    protocols = json.dumps({"protocols": [{"name": "p", "answers": "how bright", **axes}]}).encode()
    return [
        ("line", _line, lines),
        (
            "spectrum, text",
            _file(".csv"),
            [text.encode(), text.replace(";", ",").encode(), text.replace(".", ",").encode()],
        ),
        ("spectrum, JSON", _file(".json"), [spectra_json.write(spectrum).encode()]),
        ("spectrum, XML", _file(".xml"), [tm27.write(spectrum).encode()]),
        ("spectrum, CGATS", _file(".cgats"), [cgats.write(spectrum).encode()]),
        ("table", _table(".csv"), [table, b"Lamp,Dist ft,FC\nTansy,10,100\n", b"time,lux\n0,1\n1,2\n2,3\n"]),
        ("workbook", _table(".xlsx"), [(folder / "s.xlsx").read_bytes()]),
        ("plan", _plan, [b'{"lamps": ["Tansy"], "protocols": ["dimmer"], "whites": "5600"}']),
        ("protocols", _protocols, [protocols]),
        ("tolerances", _tolerances, [sets]),
        ("settings", _settings, [b'theme = "paper"\niso = 800\nshutter_s = 0.02\nwhite_bands_k = [3200, 4500]\n']),
        ("mapping", _mapping, [json.dumps(delimited.Mapping().as_content()).encode()]),
        ("terms", _terms, [b"cct=5600;level=100;distance=10 ft;zoom=flood", b"meter=hand,session=tuesday"]),
        ("target", _target, [b"5600 +0.002", b"x=0.33;y=0.34", b"white=D55", b"cct=3200;duv=-0.001", b"look=one"]),
        ("stop", _stop, [b"f/4; ISO 800; 1/50", b"ISO 640 1/30 to ISO 12800 1/250", b"50 lx 8 h", b"80 nits"]),
        ("supply", _supply, [b"16 A 230 V", b"98 Wh", b"2 x 26 V 12 Ah"]),
        ("beam", _beam, [BEAM.encode()]),
        *((f"photograph {suffix}", _photograph(suffix), [picture]) for suffix, picture in _pictures().items()),
        ("waveform", _waveform(".csv"), [wave]),
        ("sound", _waveform(".wav"), [sound]),
        ("fade", _fade, [("s,light\n" + "\n".join(f"{i / 50},{max(0, 90 - i)}" for i in range(120))).encode()]),
        ("subject", _subject, [("nm,petal\n" + "\n".join(f"{380 + 10 * i},0.5" for i in range(41))).encode()]),
        ("said", _said, [b"97 Ra; 46k lx at 1 m; frame 45 EUR", b"level 4 %; C 340; ratios only", b"Ra 95; no R9"]),
        ("chart", _chart, [json.dumps({"aspect": 3, "patches": [patch] * 4}).encode()]),
        ("session", _session, [_handed_over(folder)]),
        ("logbook", _logbook, [sound_logbook(folder)]),
        ("log", _log, [_killed_log(folder)]),
    ]


def fuzz(seconds: float, seed: int) -> dict[str, Outcome]:
    """Every door in turn until the time is over."""
    rng = random.Random(seed)
    found: dict[str, Outcome] = {}
    end = time.monotonic() + seconds
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        every = doors(folder)
        while time.monotonic() < end:
            for door, act, samples in every:
                sample = rng.choice(samples)
                if door == "logbook" and rng.random() < 0.5:
                    data = nonsense_cells(sample, folder, rng)
                elif (
                    sample[:1] in b"{["
                    and rng.random() < 0.7
                    and door not in {"line", "terms", "target", "stop", "supply"}
                ):
                    data = bent(sample, rng)
                else:
                    data = mutated(sample, rng)
                _try(found.setdefault(door, Outcome()), act, data, folder)
    return found


def _try(outcome: Outcome, act: Callable[[bytes, Path], object], data: bytes, folder: Path) -> None:
    measure = sum(outcome.counts.values()) % 20 == 0  # tracing memory slows everything tenfold
    if measure:
        tracemalloc.start()
    began = time.monotonic()
    try:
        act(data, folder)
        outcome.counts["understood"] += 1
    except OURS:
        outcome.counts["refused"] += 1
    except Exception as error:
        outcome.counts["fault"] += 1
        outcome.faults.append(f"{type(error).__name__}: {error} for {data[:80]!r}")
    took = time.monotonic() - began
    if measure:
        outcome.largest_mb = max(outcome.largest_mb, tracemalloc.get_traced_memory()[1] / 1e6)
        tracemalloc.stop()
    else:
        outcome.longest_s = max(outcome.longest_s, took)
        if took > LONGEST_S:
            outcome.faults.append(f"took {took:.1f} s for {data[:80]!r}")
    gc.collect(0)


LINES, MOST_ASKED = 2000, 0.1


def lines_said(seed: int) -> int:
    """Lines as people say them, drawn anew: print how many were asked about and how many understood otherwise than
    meant; the latter, and all where too many are asked, are faults."""
    draw = random.Random(seed)
    asked, wrong = 0, []
    for _ in range(LINES):
        pieces = drawn(draw)
        line = joined(pieces, draw)
        try:
            said = understand(line, ASKING_ALL)
        except EntryError as error:
            wrong.append(f"{line}: {error}")
            continue
        asked += bool(said.choices)
        if not said.choices and not means(said, pieces):
            wrong.append(f"{line}: {said.written}")
    print(f"lines: {asked} of {LINES} asked about, {len(wrong)} understood otherwise than meant")
    for line in wrong[:5]:
        print(f"  {line}")
    return len(wrong) + (asked > MOST_ASKED * LINES)


def report(seconds: float, seed: int) -> int:
    """Print what came of each door; how many faults there were."""
    print(f"seed {seed}")
    faults = lines_said(seed)
    for door, outcome in fuzz(seconds, seed).items():
        counts = ", ".join(f"{count} {name}" for name, count in sorted(outcome.counts.items()))
        print(f"{door}: {counts}; longest {outcome.longest_s:.2f} s, most memory {outcome.largest_mb:.0f} MB")
        for fault in outcome.faults[:5]:
            print(f"  {fault[:300]}")
        faults += len(outcome.faults) + (outcome.largest_mb > LARGEST_MB)
    return faults


if __name__ == "__main__":
    wanted = float(sys.argv[1]) if len(sys.argv) > 1 else 120.0
    sys.exit(
        1 if report(wanted, int(sys.argv[2]) if len(sys.argv) > 2 else random.SystemRandom().randrange(10**6)) else 0
    )
