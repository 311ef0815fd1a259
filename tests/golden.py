"""Texts that are kept word for word; ``KEEP=1 pytest …`` writes them anew, to be read as diffs."""

import os
import re
from pathlib import Path

ROOT = Path(__file__).parent


def kept_in(path):
    """The texts of a file, by their names."""
    found = re.findall(r"^## (.*)\n((?:(?!## ).*\n)*)", (ROOT / path).read_text(), re.MULTILINE)
    return dict(found)


def is_kept(path, name, text):
    """Assert that a text is the one that is kept in a file under a name."""
    kept = kept_in(path)
    if os.environ.get("KEEP"):
        kept[name] = text
        (ROOT / path).write_text("".join(f"## {each}\n{kept[each]}" for each in sorted(kept)))
    assert text == kept.get(name, "")


class Told:
    """What is told in a test, sentence by sentence, kept together under the name of the test."""

    def __init__(self, path, name):
        self.path, self.name = path, name
        self.kept = kept_in(path).get(name, "").splitlines()
        self.told = []

    def __call__(self, sentence):
        self.told.append(sentence)
        if not os.environ.get("KEEP"):
            assert self.told == self.kept[: len(self.told)]

    def ends(self):
        """Assert that no more is kept than was told."""
        is_kept(self.path, self.name, "".join(f"{each}\n" for each in self.told))
