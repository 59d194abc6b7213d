"""Every command with what a stranger, a slip or a torn disk may hand it: a clear word each time, within ten seconds and
a gigabyte, no trace of the program, nothing that a terminal obeys.

`python -m benchmarks.doors [CASES]`: the first so many of them, all when not given. Each is a process of its own.
"""

import json
import os
import struct
import subprocess
import sys
import tempfile
import time
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import NamedTuple

import numpy as np
import tifffile

from even_beam.formats import readings_table

LONGEST_S, LARGEST_MB = 10.0, 1000.0

HEAD = "session,fixture,cct_k,dimmer_pct,distance,quantity,value,unit\n"
SPECTRUM = "nm,lamp\n" + "\n".join(f"{380 + 5 * i},{1 + i}" for i in range(81))
CATASTROPHES = ("{any}" * 12 + "x{lamp}", " ".join(["{any}"] * 30) + "{lamp}{cct}", "{lamp}" + " {any}" * 40)


class Case(NamedTuple):
    """A command and its arguments, in a folder of its own; `also` are exit codes that are right, beside 1."""

    name: str
    arguments: tuple[str, ...]
    also: tuple[int, ...] = ()
    settings: str = ""


def _sheet_of_a_billion_rows(folder: Path) -> None:
    (folder / "a.xlsx").write_bytes(readings_table.workbook([{"fixture": "Tansy", "quantity": "ra", "value": "96"}]))
    packed = zipfile.ZipFile(folder / "a.xlsx")
    with zipfile.ZipFile(folder / "rows.xlsx", "w") as out:
        for name in packed.namelist():
            data = packed.read(name)
            if name.endswith("sheet1.xml"):
                for old in (b'r="2"', b'r="A2"', b'r="B2"', b'r="C2"', b'r="K2"', b'r="L2"'):
                    data = data.replace(old, old.replace(b"2", b"1000000000"))
            out.writestr(name, data)


def _texts() -> dict[str, str | bytes]:
    wide = "".join(f'<SpectralData wavelength="{380 + 5 * i}">1e308</SpectralData>' for i in range(81))
    begins = '<?xml version="1.0"?><IESTM2714 xmlns="iestm2714" version="1.0"><Header/><SpectralDistribution>'
    sound = (
        b"WAVEfmt " + struct.pack("<IHHIIHH", 16, 1, 1, 0, 0, 2, 16) + struct.pack("<4sI", b"data", 200) + bytes(200)
    )
    lamps = [{"nickname": f"L{i}", "simulated": "six-emitter colour light"} for i in range(10_000)]
    return {
        "big.cgats": "CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_ID SPECTRAL_NM380\nEND_DATA_FORMAT\nBEGIN_DATA\n"
        + "".join(f"{i} 0.123456789\n" for i in range(1_300_000)) + "END_DATA\n",
        "digits.csv": HEAD + f"Old,Tansy,5600,100,2 m,illuminance,{'9' * 60_000},lx\n",
        "digits-nm.csv": SPECTRUM.replace("385,2", f"385,{'1' * 60_000}"),
        "commas.csv": HEAD + "," * 5_000_000,
        "rows.csv": HEAD + "".join(f"Old,L{i % 20},5600,100,2 m,ra,{50 + i % 49},\n" for i in range(200_001)),
        "name5000.csv": HEAD + f"Old,{'L' * 5000},5600,100,2 m,illuminance,820,lx\n",
        "nick5M.csv": HEAD + f"Old,{'N' * 5_000_000},5600,100,2 m,illuminance,820,lx\n",
        "good.csv": HEAD + "Old,Tansy,5600,100,2 m,illuminance,820,lx\nOld,Tansy,5600,100,2 m,cct,5588,K\n",
        "escape.csv": HEAD + "Old,\x1b]0;owned\x07\x1b[31mTansy,5600,100,2 m,illuminance,820,lx\n",
        "years.csv": HEAD.strip() + ",time\n" + "".join(
            f"Old,Tansy,5600,100,2 m,ra,96,,{at}\n" for at in ("0000-00-00", "99999-01-01", "0001-01-01T00:00+23:59")
        ),
        "plan.json": json.dumps({"lamps": lamps, "protocols": ["head to head"]}),
        "wide.xml": f"{begins}<SpectralQuantity>irradiance</SpectralQuantity>{wide}</SpectralDistribution></IESTM2714>",
        "rate0.wav": b"RIFF" + struct.pack("<I", 236) + sound,
        "notes.csv": "a shopping list\n",
        "notes.pdf": "a shopping list\n",
    }  # fmt: skip


def prepared(folder: Path) -> None:
    """Every file that the cases name."""
    for name, content in _texts().items():
        (folder / name).write_bytes(content if isinstance(content, bytes) else content.encode())
    _sheet_of_a_billion_rows(folder)
    tifffile.imwrite(folder / "many.tif", np.zeros((60, 60, 500), np.uint8))
    tifffile.imwrite(folder / "plain.tif", np.zeros((60, 60, 3), np.uint8), photometric="rgb")
    (folder / "junk.csv").write_bytes(np.random.default_rng(1).bytes(3000))
    os.mkfifo(folder / "pipe.csv")
    os.mkfifo(folder / "pipe.json")
    for name in ("named", "long", "made"):
        (folder / name).mkdir()
    (folder / "named" / os.fsdecode(b"caf\xe9 5600.csv")).write_text(SPECTRUM)
    (folder / "named" / "Tansy 5600.csv").write_text(SPECTRUM.replace(",9", ",7"))
    (folder / "long" / ("a " * 100 + ".csv")).write_text(SPECTRUM)


def cases() -> Iterator[Case]:
    """All of them, in order: some use what those before made."""
    yield Case("a good table", ("import", "good.csv", "book"), (0,))
    yield Case("the same without a suffix again", ("import", "good.csv", "book"), (0,))
    for name in (
        "rows.xlsx",
        "digits.csv",
        "commas.csv",
        "rows.csv",
        "name5000.csv",
        "nick5M.csv",
        "junk.csv",
        "pipe.csv",
    ):
        yield Case(f"import {name}", ("import", name, "other.evenbeam"))
    for name in ("escape.csv", "years.csv", "named"):
        yield Case(f"import {name}", ("import", name, f"{name}.evenbeam"), (0,))
        yield Case(f"findings of {name}", ("findings", f"{name}.evenbeam"), (0,))
    for name in ("big.cgats", "digits-nm.csv", "wide.xml", "pipe.csv", "/dev/zero", "long"):
        yield Case(f"inspect {name}", ("inspect", name), (0,))
    for pattern in CATASTROPHES:
        yield Case("a pattern without end", ("import", "long", "p.evenbeam", "--map", pattern), (0,))
    yield Case("500 samples a pixel", ("chart", "many.tif", "--against", "plain.tif"))
    yield Case("a rate of nothing", ("flicker", "rate0.wav"))
    for command in ("flicker", "fade"):
        yield Case(f"{command} of a pipe", (command, "pipe.csv"))
    for name in ("plan.json", "pipe.json", "/dev/zero"):
        yield Case(f"run {name}", ("run", name, "r.evenbeam", "--simulate"))
    for name in ("k" * 40_000 + " = 1\n", ".".join("a" * 20_000) + " = 1\n", "iso = " + "9" * 50_000):
        yield Case("settings", ("findings", "book.evenbeam"), settings=name)
    yield from _wrong_numbers()
    yield from _wrong_places()


def _wrong_numbers() -> Iterator[Case]:
    for word in ("nan", "inf", "1e999", "-1", "\x00x"[1:] + "\x1b[31m"):
        yield Case(f"hue {word!r}", ("enter", "book.evenbeam", "--fixture", "Tansy", "--at", f"hue={word}", "820 lx"))
        yield Case(f"compare at {word!r}", ("compare", "book.evenbeam", "--fixtures", "Tansy", "--at", f"cct={word}"))
        yield Case(f"match {word!r}", ("match", "book.evenbeam", "--target", f"x={word};y={word}"))
        yield Case(
            f"enough {word!r}", ("enough", "book.evenbeam", f"--stop={word}", "--iso=800", "--shutter=1/50"), (2,)
        )


def _wrong_places() -> Iterator[Case]:
    for length in (230, 244, 250, 256, 5000):
        yield Case(f"a name of {length}", ("import", "good.csv", "x" * length + ".evenbeam"), (0,))
    label = ("label", "book.evenbeam", "--size", "12mm", "--out")
    yield Case("a label over a logbook", (*label, "book.evenbeam"), (2,))
    yield Case("a label over another's", (*label, "notes.pdf"))
    yield Case("a label into a pipe", (*label, "pipe.csv"), (2,))
    for out in ("notes.csv", "notes.v2", "no/where.csv", "/dev/full", "made"):
        yield Case(f"a table to {out}", ("export", "book.evenbeam", "--to", "csv", out), (0, 2))
    yield Case("open data into a file", ("export", "book.evenbeam", "--to", "folder", "notes.csv"))
    for name in ("notes.csv", "pipe.csv", "/dev/zero", "made", "nothing.evenbeam"):
        for command in ("findings", "check", "sentences"):
            yield Case(f"{command} of {name}", (command, name))


def tried(case: Case, folder: Path, run: Callable[[list[str], dict[str, str]], tuple[int, bytes, float]]) -> str:
    """What is wrong with how a command ended; empty where nothing is."""
    settings = folder / "config" / "even-beam" / "settings.toml"
    settings.parent.mkdir(parents=True, exist_ok=True)
    settings.write_text(case.settings)
    surroundings = {"XDG_CONFIG_HOME": str(folder / "config"), "XDG_STATE_HOME": str(folder / "state")}
    began = time.monotonic()
    code, told, megabytes = run(list(case.arguments), surroundings)
    took = time.monotonic() - began
    words = told.decode("utf-8", "replace")
    wrong = [
        f"exit {code}" if code not in {1, *case.also} else "",
        "a trace" if "Traceback" in words else "",
        "unexpected" if "unexpected happened" in words else "",
        "an escape" if "\x1b" in words else "",
        "no word" if not words.strip() else "",
        f"{took:.1f} s" if took > LONGEST_S else "",
        f"{megabytes:.0f} MB" if megabytes > LARGEST_MB else "",
    ]
    found = ", ".join(filter(None, wrong))
    return f"{case.name}: {found}: {words.strip()[-200:]}" if found else ""


def as_process(folder: Path) -> Callable[[list[str], dict[str, str]], tuple[int, bytes, float]]:
    """Runs a command as a process in the folder."""

    def run(arguments: list[str], surroundings: dict[str, str]) -> tuple[int, bytes, float]:
        with tempfile.TemporaryFile() as told:
            process = subprocess.Popen(
                [sys.executable, "-m", "even_beam", *arguments],
                stdout=told, stderr=told, stdin=subprocess.DEVNULL, cwd=folder, env=os.environ | surroundings,
            )  # fmt: skip
            end = time.monotonic() + 3.0 * LONGEST_S
            while True:
                ended, status, used = os.wait4(process.pid, os.WNOHANG)
                if ended:
                    break
                if time.monotonic() > end:
                    process.kill()
                time.sleep(0.02)
            process.returncode = os.waitstatus_to_exitcode(status)
            told.seek(0)
            return process.returncode, told.read(), used.ru_maxrss / 1024.0

    return run


if __name__ == "__main__":
    most = int(sys.argv[1]) if len(sys.argv) > 1 else None
    with tempfile.TemporaryDirectory() as name:
        place = Path(name)
        prepared(place)
        asked = list(cases())[:most]
        faults = [wrong for case in asked if (wrong := tried(case, place, as_process(place)))]
    print(f"{len(asked)} commands, {len(faults)} faults")
    for line in faults:
        print(f"  {line}")
    sys.exit(1 if faults else 0)
