"""Peak memory while files of 100,000 cells are read, against their values as a list of numbers.

Measured as what a process of its own takes at most, for libraries keep trees outside of Python.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
from pathlib import Path

from bench.tables import COLUMNS, ROWS, written

ASKED = 8.0
TITLE = "peak memory while reading, the worst format / the values as numbers"
_NUMBER = 32
"""So many bytes a number takes in a list."""
_MEASURE = """
import ctypes, gc, sys
from pathlib import Path
from dreieck.files import read
name, small, large = sys.argv[1:]
def told(what):
    lines = Path("/proc/self/status").read_text().splitlines()
    return next(int(line.split()[1]) * 1024 for line in lines if line.startswith(what))
read(Path(small).read_bytes(), name)
data = Path(large).read_bytes()
gc.collect()
ctypes.CDLL(None).malloc_trim(0)
Path("/proc/self/clear_refs").write_text("5")
before = told("VmRSS")
read(data, name)
print(told("VmHWM") - before)
"""


def measure() -> float:
    """How many times as many bytes are taken at most."""
    return max(map(_taken, ("csv", "ods", "xlsx"))) / (ROWS * COLUMNS * _NUMBER)


def _taken(name: str) -> int:
    with tempfile.TemporaryDirectory() as folder:
        paths = [Path(folder) / size for size in ("small", "large")]
        for path, rows in zip(paths, (20, ROWS), strict=True):
            path.write_bytes(written(name, rows))
        command = [sys.executable, "-c", _MEASURE, f"x.{name}", *map(str, paths)]
        return int(subprocess.run(command, capture_output=True, check=True).stdout)
