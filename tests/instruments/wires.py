"""Stand-ins on wires of their own: each test at its own address of this machine."""

import os
from contextlib import contextmanager

from even_beam.instruments.stand_ins.bench import StandIns, meter_of
from even_beam.instruments.stand_ins.faults import faults_of

_taken = iter(range(2, 250))


def own_host() -> str:
    """An address that no other worker and no other test has."""
    worker = int(os.environ.get("PYTEST_XDIST_WORKER", "gw0").removeprefix("gw")) + 1
    return f"127.{100 + worker}.{os.getpid() % 250 + 1}.{next(_taken)}"


@contextmanager
def stand_ins(folder, lamps=None, meters=("spectrometer",), faults=(), **more):
    named = dict(map(meter_of, meters))
    lamps = lamps or {"Tansy": "six-emitter colour light"}
    made = StandIns(folder, lamps, named, faults_of(faults), host=own_host(), **more)
    made.start()
    try:
        yield made
    finally:
        made.close()
