import logging
import os
import sys

import pytest
from hypothesis import settings

# These machines are noisy: no test has a time limit.
settings.register_profile("dreieck", deadline=None)
settings.load_profile("dreieck")

if "MUTANT_UNDER_TEST" in os.environ:
    # Each call goes through another one there.
    sys.setrecursionlimit(10_000)


@pytest.fixture(autouse=True)
def no_fault_is_logged(request, caplog):
    """What is caught so that nobody is held up is a fault all the same."""
    yield
    faults = [r for r in caplog.get_records("call") if r.levelno >= logging.ERROR]
    if not request.node.get_closest_marker("logs_a_fault"):
        assert [record.getMessage() for record in faults] == []
