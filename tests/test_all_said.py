"""What the product says holds no word of its inside; ``make sentences`` lists all of it."""

import importlib.util
import re
from functools import cache
from pathlib import Path

from dreieck.core.checking.findings import told
from dreieck.web.workbench.actions import ACTIONS
from dreieck.web.workbench.page_state import PageState

TEMPLATES = Path(__file__).parent.parent / "src" / "dreieck" / "web" / "templates"
SCRIPT = Path(__file__).parent.parent / "scripts" / "sentences.py"
INNER = {
    "null", "NaN", "exception", "traceback", "dict", "tuple", "boolean",
    "string", "callback", "node", "regex", "enum", "payload", "shape_break",
}  # fmt: skip


@cache
def all_said():
    spec = importlib.util.spec_from_file_location("sentences", SCRIPT)
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return sorted(set(module.sentences()))


def test_no_inner_word_is_said():
    said = all_said()
    assert len(said) > 1500
    fields = {name for name in PageState.model_fields if "_" in name}
    names = {name for name in (*told(), *ACTIONS) if "-" in name}
    for place, text in said:
        words = set(re.findall(r"[A-Za-z_-]+", text))
        inner = words & (INNER | fields | names)
        assert not inner, (place, text)


def test_one_deed_has_one_word():
    leaving = re.compile(
        r"\b(discard|cancel|abort|dismiss|give it up|leave it|let it go|never mind)\b",
        re.IGNORECASE,
    )
    assert [said for said in all_said() if leaving.search(said[1])] == []
    written = re.compile(r"<button[^>]*>\s*(Keep[^<{]*?)\s*<")
    kept = {
        each for page in TEMPLATES.glob("*.html") for each in written.findall(page.read_text())
    }
    assert kept <= {"Keep it", "Keep them", "Keep and run it", "Keep in view"}


def test_texts_of_pages_scripts_and_code_are_all_among_them():
    said = {text for _, text in all_said()}
    for known in (
        "Name the selection",
        "Keep the entry (Enter)",
        "The working is copied as text.",
        "There is nothing to undo.",
        "{…} differs now from {…}.",
    ):
        assert known in said
