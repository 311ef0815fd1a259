"""Changes the code in small ways, one at a time, and tells which changes no test notices.

``python scripts/mutants.py SEED`` takes a sample of all such changes by a seed. Those that do
not matter stand with the reason in ``scripts/harmless_mutants.toml``: unnoticed, they do not
count.
"""

from __future__ import annotations

import json
import random
import re
import subprocess
import sys
import tomllib
from collections import Counter
from functools import cache
from pathlib import Path

SAMPLE = 300
WANTED = 85
"""So many percent have to be caught."""
NONE = "none"
"""No change has this name: asked for it, all changes are only made and counted."""
_SURVIVED, _NOT_TESTED = 0, 33
_HARMLESS = Path(__file__).parent / "harmless_mutants.toml"


def main(seed: int) -> int:
    """Try a sample; the exit code tells whether enough of it was caught."""
    run(NONE, check=False)
    names = sorted(verdicts())
    sample = random.Random(seed).sample(names, min(SAMPLE, len(names)))
    run(*sample)
    found = verdicts()
    unnoticed = [name for name in sample if found[name] in (_SURVIVED, _NOT_TESTED)]
    survivors = [name for name in unnoticed if not is_harmless(name)]
    for name in survivors:
        print(changed(name))
    by_module = Counter(name.partition(".x")[0] for name in survivors)
    for module, count in by_module.most_common():
        print(f"{count:4}  {module}")
    harmless = len(unnoticed) - len(survivors)
    matter = len(sample) - harmless
    caught = 100 * (matter - len(survivors)) / matter
    print(
        f"seed {seed}: of {len(sample)} changes {harmless} are listed as harmless;"
        f" {caught:.1f} % of the others were caught, {WANTED} are wanted"
    )
    return 0 if caught >= WANTED else 1


def run(*names: str, check: bool = True) -> None:
    """Let the tests run over changes with these names."""
    mutmut = Path(sys.executable).parent / "mutmut"
    done = subprocess.run([mutmut, "run", *names], check=False, capture_output=True, text=True)
    if check and done.returncode:
        sys.exit(done.stdout[-3000:] + done.stderr[-3000:])


def verdicts() -> dict[str, int | None]:
    """The names of all changes, with the exit code of the tests where they ran."""
    found: dict[str, int | None] = {}
    for path in Path("mutants").rglob("*.meta"):
        found |= json.loads(path.read_text())["exit_code_by_key"]
    return found


@cache
def changed(name: str) -> str:
    """A change as a diff."""
    mutmut = Path(sys.executable).parent / "mutmut"
    shown = subprocess.run([mutmut, "show", name], check=True, capture_output=True, text=True)
    return shown.stdout


def is_harmless(name: str) -> bool:
    """Whether a change is listed as one that does not matter."""
    function = name.rpartition("__mutmut")[0]
    new = "".join(line for line in changed(name).splitlines(keepends=True) if line[0] == "+")
    return any(
        function.endswith(each.get("function", "")) and re.search(each["becomes"], new)
        for each in tomllib.loads(_HARMLESS.read_text())["harmless"]
    )


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1])))
