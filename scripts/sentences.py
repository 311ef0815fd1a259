"""All that the product says, one line each: ``make sentences``.

Read them aloud from time to time. Texts come out of the templates, the scripts of the pages, and
the code; what is put in when they are shown stands as ``{…}``.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from html.parser import HTMLParser
from pathlib import Path

SOURCE = Path(__file__).parent.parent / "src" / "dreieck"
_READ_ALOUD = ("title", "aria-label", "placeholder", "alt")
_SCRIPT_TEXT = re.compile(r'"((?:[^"\\\n]|\\.)*)"|`((?:[^`\\]|\\.)*)`')
_NO_TEXT = re.compile(r"[\\<>=$#@]|\(\?|^[^A-Za-z“]*$")


def sentences() -> Iterator[tuple[str, str]]:
    """Where something is said, and what."""
    for path in sorted(SOURCE.rglob("*.py")):
        yield from ((path.name, said) for said in _of_code(path.read_text("utf-8")))
    for path in sorted(SOURCE.glob("web/templates/*.html")):
        yield from ((path.name, said) for said in _of_template(path.read_text("utf-8")))
    for path in sorted(SOURCE.glob("web/static/js/*.js")):
        for plain, inserted in _SCRIPT_TEXT.findall(path.read_text("utf-8")):
            said = re.sub(r"\$\{[^}]*\}", "{…}", plain or inserted)
            if _is_said(said) and " " in said:
                yield path.name, said


def _of_code(code: str) -> Iterator[str]:
    tree = ast.parse(code)
    silent = set(_silent(tree))
    for node in ast.walk(tree):
        if id(node) in silent:
            continue
        if isinstance(node, ast.JoinedStr):
            silent.update(id(each) for each in ast.walk(node))
            said = "".join(
                str(each.value) if isinstance(each, ast.Constant) else "{…}"
                for each in node.values
            )
        elif isinstance(node, ast.Constant) and isinstance(node.value, str):
            said = node.value
        else:
            continue
        if " " in said.strip() and _is_said(said):
            yield " ".join(said.split())


def _silent(tree: ast.AST) -> Iterator[int]:
    """What nobody reads but those who write the code: docstrings, logs, patterns."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            yield id(node.value)
        if isinstance(node, ast.Call):
            called = ast.unparse(node.func)
            if called.startswith(("log.", "re.", "text", "op.", "sa.")):
                yield from (id(each) for part in node.args for each in ast.walk(part))


def _is_said(text: str) -> bool:
    return bool(re.search("[a-z]{2}", text)) and not _NO_TEXT.search(text)


class _Shown(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.found: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.found += [value for name, value in attrs if name in _READ_ALOUD and value]

    def handle_data(self, data: str) -> None:
        self.found.append(data)


def _of_template(text: str) -> Iterator[str]:
    text = re.sub(r"\{#.*?#\}", "", text, flags=re.DOTALL)
    logic = " ".join(re.findall(r"\{[{%].*?[%}]\}", text, re.DOTALL))
    for quoted in re.findall(r'"([^"{}<>=]* [^"{}<>=]*)"', logic):
        said = " ".join(quoted.split())
        is_code = "~" in said or said.startswith((",", "if ")) or said.endswith((",", " else"))
        if _is_said(said) and not is_code:
            yield said
    text = re.sub(r"\{%.*?%\}", " ", text, flags=re.DOTALL)
    parser = _Shown()
    parser.feed(re.sub(r"\{\{.*?\}\}", "{…}", text, flags=re.DOTALL))
    for each in parser.found:
        said = " ".join(each.split())
        if said and _is_said(said):
            yield said


if __name__ == "__main__":
    for place, said in sorted(set(sentences())):
        print(f"{place}: {said}")
