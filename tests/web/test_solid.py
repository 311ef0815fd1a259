"""Whatever is kept can be shown, checked, looked at on every page, filled and taken back."""

from effort import share
from hypothesis import HealthCheck, given
from hypothesis import strategies as st
from web_page import Page

REFERENCES = st.sampled_from(
    ["A1", "$C$3", "D$4", "A1:B3", "B:B", "4:4", "$A$1:A1", "Nope!A1", "Nope!A1:B2", "Season!B4",
     "ZZZ1000000", "A1:ZZZ1000000", "rate", "unknown", "ring_a", "#REF!", "Nope!#REF!", "by_place"]
)  # fmt: skip
VALUES = st.sampled_from(["1", "0", "-2.5", "1E300", '"x"', '"Ke*"', "TRUE", "{1,2;3,4}", "#N/A"])
FUNCTIONS = st.sampled_from(
    ["SUM", "IF", "INDEX", "OFFSET", "INDIRECT", "VLOOKUP", "COUNTIF", "SUMIF", "SUMPRODUCT",
     "ROW", "COLUMNS", "IFERROR", "CHOOSE", "NONE", "DSUM", "RANK", "AND", "REPT", "SEARCH"]
)  # fmt: skip


def _grown(inner):
    return st.one_of(
        st.tuples(inner, st.sampled_from("+-*/^&=<:"), inner).map("".join),
        inner.map(lambda text: f"({text})"),
        st.tuples(FUNCTIONS, st.lists(inner, max_size=4)).map(
            lambda call: f"{call[0]}({','.join(call[1])})"
        ),
    )


FORMULAS = st.recursive(st.one_of(REFERENCES, VALUES), _grown, max_leaves=8)
CELLS = st.sampled_from(["A1", "C3", "C5", "C12", "H5", "AA30"])
PAGES = (
    "sheets/2/map", "names", "lift", "sheets/2/log?cell={}", "sheets/2/four-ways?cell={}",
    "names/rewrite?way=in", "names/rewrite?way=out", "sheets/2/text?area=A1:K30",
    "sheets/2/question",
)  # fmt: skip


def typed(page):
    """What the first cells hold."""
    page.act("show", left=1, top=1, anchor="A1", focus="A1")
    return {(c["column"], c["row"]): c["typed"] for c in page.scene["cells"]}


# Each example is a whole session.
@share(0.1, HealthCheck.function_scoped_fixture)
@given(entries=st.lists(st.tuples(CELLS, FORMULAS), min_size=1, max_size=4))
def test_whatever_is_kept_can_be_shown_everywhere_and_taken_back(client, entries):
    page = Page(client)
    before = typed(page)
    for name, says in (
        ("rate", "0.1"),
        ("ring_a", "ring_b"),
        ("ring_b", "ring_a"),
        ("by_place", "A1+Nope!B1"),
    ):
        page.act("give-name", to=name, says=says)
    for cell, formula in entries:
        page.enter(cell, f"={formula}")
        page.select(cell).act("show", step="check")
        page.act("rehearse", to=f"{cell}:AB31").act("advise").act("advise")
        page.act("show", source="", target="")
        page.write("H9", f"={formula}").act("show", writing="", text=None)
        for path in PAGES:
            answer = client.get(f"/workbooks/1/{path.format(cell)}")
            assert answer.status_code < 500, (path, entries, answer.text)
    while "Taken back" in page.act("undo").notice:
        pass
    assert typed(page) == before
