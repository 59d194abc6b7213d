"""The connection to a server is cut in the middle, wherever that is: nothing is lost, and nothing there twice."""

import random

import pytest

from even_beam.hubs import UnreachableError
from tests.answers.sharing.benches import Bench
from tests.hubs.cutting_proxy import CuttingProxy
from tests.hubs.test_sharing import shared, until_quiet


@pytest.fixture
def proxy(server):
    made = CuttingProxy(server.folder / ".s.PGSQL.5432")
    yield made
    made.close()


def test_cut_at_any_byte_it_is_told_and_goes_on(server, proxy, tmp_path):
    chance = random.Random(4)
    direct = server.database("cut")
    through = f"postgresql://bench@127.0.0.1:{proxy.port}/cut?sslmode=disable"
    benches = [Bench(tmp_path / f"{name}.evenbeam") for name in ("a", "b")]
    shared(benches[0], direct)
    cut = 0
    for turn in range(14):
        bench = benches[turn % 2]
        session = bench.session(f"Evening {turn}")
        bench.read(session, bench.lamp(f"Lamp {turn}"), *(float(level) for level in range(1, 12)))
        proxy.cut_after = chance.randrange(500, 40_000)
        try:
            shared(bench, through)
        except UnreachableError as error:
            cut += 1
            assert "does not answer" in str(error)
    assert 4 <= cut <= 14, "some were cut, wherever that was"
    proxy.cut_after = None
    until_quiet(benches, through)
    until_quiet(benches, direct)
    assert benches[0].everything() == benches[1].everything()
    assert len(benches[0].rows("reading")) == len(benches[0].rows("value")) == 14 * 11
