"""Commands at the same moment, and a run whose file is taken away: nothing that was confirmed is lost."""

import json
import subprocess
import sys
from pathlib import Path

from even_beam.logbook.integrity import check
from even_beam.logbook.store import Logbook
from tests.logbook.killed import levels_in

EVEN_BEAM = [sys.executable, "-m", "even_beam"]


def test_three_imports_at_once_into_one_new_logbook_all_get_in(tmp_path):
    for number in range(3):
        rows = "".join(f"Evening {number},Lamp {n},5600,illuminance,{100 * number + n + 1},lx\n" for n in range(20))
        (tmp_path / f"{number}.csv").write_text("session,fixture,cct_k,quantity,value,unit\n" + rows)
    begun = [
        subprocess.Popen([*EVEN_BEAM, "import", f"{n}.csv", "book"], cwd=tmp_path, stderr=subprocess.PIPE, text=True)
        for n in range(3)
    ]
    told = [process.communicate(timeout=60)[1] for process in begun]
    assert [process.returncode for process in begun] == [0, 0, 0], told
    path = tmp_path / "book.evenbeam"
    assert sorted(levels_in(path)) == sorted(100.0 * number + n + 1 for number in range(3) for n in range(20))
    assert check(path).sound
    assert not list(tmp_path.glob(".even-beam-*"))


def test_a_run_whose_file_is_taken_away_says_where_its_readings_are(tmp_path):
    plan, path = tmp_path / "plan.json", tmp_path / "book.evenbeam"
    lamps = [{"nickname": "Tansy", "simulated": "six-emitter colour light"}]
    plan.write_text(json.dumps({"lamps": lamps, "protocols": ["head to head"]}))
    process = subprocess.Popen(
        [*EVEN_BEAM, "run", str(plan), str(path), "--simulate"],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
    )
    confirmed = 0
    while confirmed < 5:
        confirmed += process.stdout.readline().strip()[:1].isdigit()
    path.unlink()
    out, err = process.communicate(timeout=60)
    confirmed += sum(line.strip()[:1].isdigit() for line in out.splitlines())
    assert process.returncode == 1
    rescued = Path(err.split(" is kept in ")[1].split(". Go on")[0])
    assert rescued == tmp_path / "book (rescued).evenbeam"
    book = Logbook.open(rescued)
    assert sum(len(book.readings(session.id)) for session in book.sessions()) >= confirmed
    book.close()
    assert check(rescued).sound
