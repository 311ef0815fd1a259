"""Texts that are kept word for word; ``KEEP=1 pytest …`` writes them anew, to be read as diffs."""

import os
import re
from pathlib import Path


def is_kept(path, name, text):
    """Assert that a text is the one that is kept in a file under a name."""
    path = Path(__file__).parent / path
    kept = dict(re.findall(r"^## (.*)\n((?:(?!## ).*\n)*)", path.read_text(), re.MULTILINE))
    if os.environ.get("KEEP"):
        kept[name] = text
        path.write_text("".join(f"## {each}\n{kept[each]}" for each in sorted(kept)))
    assert text == kept.get(name, "")
