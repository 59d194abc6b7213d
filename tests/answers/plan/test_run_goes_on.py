"""A run on the command line that was broken off goes on where it was; a polite signal ends it at a step."""

import json
import signal
import subprocess
import sys

from click.testing import CliRunner

from even_beam.cli import main
from even_beam.logbook.store import Logbook


def _plan(tmp_path):
    plan = tmp_path / "plan.json"
    lamps = [{"nickname": "Tansy", "simulated": "six-emitter colour light"}]
    plan.write_text(json.dumps({"name": "Spring", "lamps": lamps, "protocols": ["head to head"]}), encoding="utf-8")
    return plan, tmp_path / "book.evenbeam"


def _readings(book) -> list[int]:
    logbook = Logbook.open_to_read(book)
    found = [len(logbook.readings(session.id)) for session in logbook.sessions()]
    logbook.close()
    return found


def test_it_stops_at_a_step_goes_on_and_begins_anew_when_asked(tmp_path):
    plan, book = _plan(tmp_path)
    command = [sys.executable, "-m", "even_beam", "run", str(plan), str(book), "--simulate"]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, encoding="utf-8")
    first = [process.stdout.readline() for _ in range(2)]
    process.send_signal(signal.SIGTERM)
    rest = process.communicate(timeout=60)[0].splitlines()
    assert process.returncode == 0
    assert "stopped before" in rest[-1]
    confirmed = len(first) + len(rest) - 1
    assert _readings(book) == [confirmed]

    done = CliRunner().invoke(main, ["run", str(plan), str(book), "--simulate"])
    assert done.exit_code == 0, done.output
    assert f"{confirmed} readings, " in done.output.splitlines()[0]
    (whole,) = _readings(book)
    assert whole == confirmed + len(done.output.splitlines()) - 1

    again = CliRunner().invoke(main, ["run", str(plan), str(book), "--simulate", "--anew"])
    assert again.exit_code == 0
    assert _readings(book) == [whole, whole]
