"""Sequences nobody thought of: how many, from how long, and on which logbook."""

import os

import pytest
from hypothesis import HealthCheck, settings


@pytest.fixture(scope="session")
def sequences():
    """Settings of a campaign: SEQUENCES=1000 of them where asked, a handful in the tests."""
    count = int(os.environ.get("SEQUENCES", "6"))
    return settings(
        max_examples=count, stateful_step_count=25, deadline=None, database=None, print_blob=True,
        derandomize="SEQUENCES" not in os.environ, suppress_health_check=list(HealthCheck),
    )  # fmt: skip


@pytest.fixture(scope="session")
def qapp():
    from redline_bore.app import application

    return application()
