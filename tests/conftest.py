"""Shared set-up: no test touches the builder's own data, and every window is offscreen unless it says otherwise."""

import os
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import HealthCheck, settings

from ridgeline.files.design_file import load

settings.register_profile(
    "ci", derandomize=True, max_examples=50, deadline=None, suppress_health_check=[HealthCheck.too_slow]
)  # fmt: skip
settings.register_profile("desk", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("ci" if os.environ.get("HYPOTHESIS_PROFILE") == "ci" else "desk")


@pytest.fixture(autouse=True)
def own_data(tmp_path, monkeypatch):
    """Give every test a data folder of its own."""
    monkeypatch.setenv("RIDGELINE_DATA", str(tmp_path / "data"))


@pytest.fixture(scope="session")
def whimbrel():
    """The demo design; immutable, so one serves all tests."""
    return load("demo:whimbrel")


@pytest.fixture(scope="session")
def by_items():
    """The same plane as entered by hand: recipes and typed weights, and no part says how it is built."""
    return load(str(Path(__file__).parent / "formats" / "v3" / "whimbrel.ridge"))


@pytest.fixture(scope="session")
def qapp_offscreen():
    """The application, for readers of pictures."""
    from ridgeline.desk.app import prepare

    return prepare("light")
