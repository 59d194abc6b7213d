"""The server that all tests of a worker share."""

import itertools

import pytest

from tests.hubs.server import Server, programs

_NUMBERS = itertools.count()


@pytest.fixture(scope="session")
def server():
    if programs() is None:
        pytest.skip("PostgreSQL is not installed; make test installs it when root")
    own = Server()
    own.start()
    yield own
    own.close()


@pytest.fixture(params=["folder", "server"])
def address(request, tmp_path):
    """An empty hub of either kind."""
    if request.param == "folder":
        return str(tmp_path / "hub")
    return request.getfixturevalue("server").database(f"hub_{next(_NUMBERS)}")
