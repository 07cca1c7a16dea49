"""No request that can be written ends in an accident; see `tests/load/fuzz.py`. The bench sends many more."""

from __future__ import annotations

import random
import zlib

import pytest

from aretane.settings import Settings
from aretane.store.club import scope_of
from tests.conftest import Client
from tests.load import fuzz


@pytest.fixture(scope="module")
def world(app, database, tmp_path_factory):
    """A club of its own, whose things may be removed."""
    from aretane.web.app import create_app

    own = Settings(tmp_path_factory.mktemp("fuzz"), room=10**18, judges=False)  # its files are no other test's
    made = create_app(own, database, lambda db: scope_of(db, "Fuzz Lane Club", "A coach of random words"))
    yield fuzz.World(Client(made))
    made.extensions["aretane"].house.close()


@pytest.mark.parametrize("route", fuzz.routes(), ids=" ".join)
def test_no_request_ends_in_an_accident(world, route):
    good = fuzz.send(world.client, route, world.good(route))
    refused = fuzz.REFUSED.get(route)
    assert good.status_code == refused if refused else 200 <= good.status_code < 300, good.text
    dice = random.Random(zlib.crc32(" ".join(route).encode()))
    sent = [fuzz.spoilt(world, route, dice) for _ in range(5)]
    for one in [*sent, *fuzz.generated(world, route, 4)]:
        assert fuzz.trouble(fuzz.send(world.client, route, one)) is None, one
