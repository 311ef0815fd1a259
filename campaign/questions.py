"""A million questions from a million seeds keep the laws of questions."""

from __future__ import annotations

import sys
from concurrent.futures import ProcessPoolExecutor
from itertools import islice
from os import cpu_count
from pathlib import Path

from campaign.server import LostError
from dreieck.core.practice.codes import KINDS, LEVELS, Code

COUNT = 1_000_000
"""So many questions in a whole run."""
_STRIDE = 997
_THOROUGH = 50
"""One of so many questions is looked at in all respects."""
_CHUNK = 500


def run(_: Path, share: float) -> str:
    """Check so large a share of all questions. Raises LostError for one that breaks a law."""
    chunks = range(round(COUNT * share / _CHUNK))
    with ProcessPoolExecutor(cpu_count()) as pool:
        done = 0
        for wrong in pool.map(_check_chunk, chunks):
            if wrong:
                raise LostError(wrong)
            done += _CHUNK
            if done % 50_000 == 0:
                print(f"  {done:,} questions", flush=True)
    return f"{done:,} questions, none of which breaks a law"


def _check_chunk(chunk: int) -> str:
    """What is wrong with the questions of a chunk, or nothing."""
    sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))
    from laws_of_questions import check, check_lightly  # noqa: PLC0415

    for number in range(chunk * _CHUNK, (chunk + 1) * _CHUNK):
        code = _code(number)
        try:
            (check if number % _THOROUGH == 0 else check_lightly)(code)
        except Exception as fault:
            return f"{code.text}: {fault!r}"
    return ""


def _code(number: int) -> Code:
    """The code with a number: kinds and levels in turn, seeds far apart."""
    sorts = [(kind, level) for kind in KINDS for level in LEVELS]
    kind, level = next(islice(sorts, number % len(sorts), None))
    return Code(kind, level, number * _STRIDE)
