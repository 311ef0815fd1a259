"""The command ``dreieck``, run as a shell runs it, but without starting anew each time."""

import subprocess
import sys
from typing import NamedTuple

from typer.testing import CliRunner

from dreieck.cli.main import app


class Done(NamedTuple):
    """How a command ended, what it said, and what it said beside."""

    returncode: int
    stdout: str
    stderr: str


def run(*arguments, data=None):
    """Run the command in this process."""
    done = CliRunner().invoke(app, list(arguments), input=data)
    if done.exception and not isinstance(done.exception, SystemExit):
        raise done.exception
    return Done(done.exit_code, done.stdout_bytes.decode(), done.stderr_bytes.decode())


def run_apart(*arguments):
    """Run the command in a process of its own."""
    done = subprocess.run(
        [sys.executable, "-m", "dreieck.cli.main", *arguments],
        capture_output=True, text=True, timeout=60, check=False,
    )  # fmt: skip
    return Done(done.returncode, done.stdout, done.stderr)
