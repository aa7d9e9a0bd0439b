"""Exercises are played with stations judged when they are asked for, as on a long trace: only what marks them asks."""

import pytest


@pytest.fixture(autouse=True)
def judged_when_asked(monkeypatch):
    monkeypatch.setattr("vessel.api.stations.routes._LONG", 0)
