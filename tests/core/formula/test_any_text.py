"""Whatever is typed behind a ``=`` is a formula, or is refused with the place and a reason."""

import pytest
from formulas import formulas, near_cells
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import Shape, may_point, mentions, parse
from dreieck.core.formula.tokens import TokenKind, tokenise
from dreieck.core.grid import Cell

C5 = Cell.parse("C5")
PIECES = [
    "B5", "$C$4", "B4:B9", "B:B", "4:6", "Loads!", "'Week 1'!", "'", '"', '"kg"', "(", ")", "{",
    "}", ",", ";", ":", "~", "!", " ", "+", "-", "*", "/", "^", "&", "=", "<>", "<", "%", "1",
    ".5", "1E", "1e5", "SUM(", "IF(", "rate_2", "TRUE", "#REF!", "#N/A", "#", "@", "é", "\n", "\t",
    "\u00a0", "ß", "😀", "$", "R1C1", "A0", "AAAA1", "A1000001",
]  # fmt: skip
any_text = st.one_of(
    st.lists(st.sampled_from(PIECES), max_size=12).map("".join), st.text(max_size=20)
)


def changed(text, at, what, piece):
    """A formula with a small slip of the fingers."""
    at %= len(text) + 1
    if what == "cut":
        return text[:at]
    return text[:at] + (piece if what == "put in" else "") + text[at + (what == "left out") :]


slips = st.builds(
    changed, formulas, st.integers(0, 60), st.sampled_from(["cut", "put in", "left out"]),
    st.sampled_from(PIECES),
)  # fmt: skip


@given(st.one_of(any_text.map(lambda text: "=" + text), slips))
def test_a_text_is_read_and_printed_or_refused_at_a_place_in_it(text):
    if not text.startswith("="):
        assert mentions(text, C5) == []
        return
    try:
        parsed = parse(text, C5)
    except FormulaError as problem:
        assert 0 <= problem.position <= len(text) and problem.length >= 0
        assert problem.position + problem.length <= len(text) + 1
        assert str(problem).strip()
    else:
        printed = Shape.of(parsed.tree).text(C5)
        assert parse(printed, C5).tree == parsed.tree
        assert parse(printed, C5).brackets_added == 0


@given(st.one_of(any_text.map(lambda text: "=" + text), slips))
def test_references_are_found_in_their_places_in_whatever_is_typed(text):
    end = 0
    for mention in mentions(text, C5):
        assert end <= mention.start < mention.end <= len(text)
        end = mention.end
    for caret in range(len(text) + 1):
        assert may_point(text, caret) in (True, False)


@given(formulas, near_cells)
def test_tokens_follow_each_other_and_leave_nothing_but_space_out(text, at):
    end = 1
    for token in tokenise(text, at):
        if token.kind is TokenKind.END:
            continue
        assert text[end : token.start].strip() == ""
        end = token.end
    assert text[end:].strip() == ""


@pytest.mark.parametrize(
    ("text", "yes"),
    [
        ("=", True), ("=B5*", True), ("=SUM(", True), ("=SUM(B5,", True), ("=B5", False),
        ("=1+2", False), ('="kg', False), ("=SUM(B5)", False), ("=IF(B5>", True), ("=-", True),
        ("=B5:", True), ("=B4~", True), ("kg", False), ("", False),
    ],
)  # fmt: skip
def test_where_a_reference_could_stand_one_may_point(text, yes):
    assert may_point(text, len(text)) is yes
