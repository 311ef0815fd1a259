"""The rule about formulas that rest on old outside figures."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.editing.feeding import codes_in
from dreieck.core.words.counting import both, quoted


@rule("old-feed")
def old_feed(subject: Subject) -> Iterator[Finding]:
    """A formula uses an outside figure that is old, or could not be asked for again."""
    workbook = subject.calculation.workbook
    shapes = [subject.shape]
    shapes += [
        workbook.names[key].shape
        for key in subject.name_keys
        if key in workbook.names
    ]  # fmt: skip
    feeds = [feed for code in codes_in(*shapes) if (feed := workbook.feeds.get(code.casefold()))]
    old = [feed for feed in feeds if feed.last and feed.is_old()]
    if not old:
        return
    told = both([f"{quoted(feed.code)} is of {feed.last.at[:10]}" for feed in old if feed.last])
    problems = [feed.problem for feed in old if feed.problem]
    yield Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"It rests on an old outside figure: {told}.",
        " ".join(problems) or "Refresh it on the page of feeds, or fix it as an input.",
    )
