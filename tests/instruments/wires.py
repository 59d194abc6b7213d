"""Stand-ins on wires of their own: each test at its own address of this machine."""

import os
import socket
from contextlib import contextmanager
from functools import cache

import pytest

from even_beam.instruments.stand_ins.bench import StandIns, meter_of
from even_beam.instruments.stand_ins.faults import faults_of

_taken = iter(range(2, 250))


@cache
def _has_loopback() -> bool:
    """Whether this machine can speak to itself."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as one:
        try:
            one.bind(("127.0.0.1", 0))
            one.settimeout(2.0)
            one.sendto(b"x", one.getsockname())
            return one.recv(1) == b"x"
        except OSError:
            return False


def own_host() -> str:
    """An address that no other worker and no other test has."""
    if not _has_loopback():
        pytest.skip("this machine has no loopback network")
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
