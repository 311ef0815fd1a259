"""Making a question, the median of all sorts, against a bare request's round trip."""

from __future__ import annotations

import statistics
import time
from pathlib import Path
from tempfile import TemporaryDirectory

from campaign.server import Server

from dreieck.core.practice.catalogue import question, variants
from dreieck.core.practice.codes import KINDS, LEVELS, Code

ASKED = 3.0
TITLE = "make a question / bare request"
_ROUNDS = 3


def measure() -> float:
    """How many times longer a question takes."""
    codes = [
        Code(kind, level, number + turn * len(variants(kind, level)))
        for turn in range(_ROUNDS)
        for kind in KINDS
        for level in LEVELS
        for number in range(len(variants(kind, level)))
    ]
    made: list[float] = []
    bare: list[float] = []
    with TemporaryDirectory() as folder:
        server = Server(Path(folder) / "data.db")
        for code in codes:
            begun = time.perf_counter()
            question(code)
            made.append(time.perf_counter() - begun)
            begun = time.perf_counter()
            server.ask("GET", "/healthz")
            bare.append(time.perf_counter() - begun)
        server.stop()
    return statistics.median(made) / statistics.median(bare)
