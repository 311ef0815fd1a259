"""Hypothesis strategies: cells, references and formulas as people could type them."""

from hypothesis import strategies as st

from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Cell, column_letters

columns = st.one_of(st.integers(1, 40), st.integers(1, MAX_COLUMN))
rows = st.one_of(st.integers(1, 60), st.integers(1, MAX_ROW))
cells = st.builds(Cell, columns, rows)
near_cells = st.builds(Cell, st.integers(1, 12), st.integers(1, 12))
locks = st.sampled_from(["", "$"])
sheets = st.sampled_from(["", "", "", "Loads!", "'Week 1'!", "'Hut ''Tarn'''!", "'C5'!"])


@st.composite
def corners(draw, column=columns, row=rows):
    return draw(locks) + column_letters(draw(column)) + draw(locks) + str(draw(row))


@st.composite
def reference_texts(draw, column=columns, row=rows):
    sheet = draw(sheets)
    letters = column.map(column_letters)
    kind = draw(st.sampled_from(["cell", "cell", "range", "columns", "rows"]))
    if kind == "columns":
        return f"{sheet}{draw(locks)}{draw(letters)}:{draw(locks)}{draw(letters)}"
    if kind == "rows":
        return f"{sheet}{draw(locks)}{draw(row)}:{draw(locks)}{draw(row)}"
    ends = [draw(corners(column, row)) for _ in range(1 if kind == "cell" else 2)]
    return sheet + ":".join(ends)


numbers = st.one_of(
    st.integers(0, 10**9).map(str),
    st.floats(0, 1e12, allow_nan=False).map(repr),
    st.sampled_from(["1.50", "2e3", ".5", "1E-7", "0.1"]),
)
texts = st.text(max_size=6).map(lambda text: '"' + text.replace('"', '""') + '"')
operators = st.sampled_from(["+", "-", "*", "/", "^", "&", "=", "<>", "<", ">", "<=", ">="])


def bodies(references):
    """Formulas without their ``=``, over the given references."""
    leaves = st.one_of(
        references,
        references,
        numbers,
        texts,
        st.sampled_from(["TRUE", "false", "#N/A", "rate_2", '{-1,2;"x",#N/A}']),
    )

    def grown(inner):
        return st.one_of(
            st.tuples(inner, operators, inner).map("".join),
            inner.map(lambda text: f"({text})"),
            inner.map(lambda text: f"-{text}"),
            st.tuples(references, inner).map(lambda ends: f"{ends[0]}:INDEX({ends[1]},1)"),
            st.tuples(references, st.sampled_from(["~", " ", " ! ", "~A1:B2!"]), references).map(
                "".join
            ),
            inner.map(lambda text: f"{text}%"),
            st.tuples(
                st.sampled_from(["SUM", "if", "LOG10"]), st.lists(inner, min_size=1, max_size=3)
            ).map(lambda call: f"{call[0]}({', '.join(call[1])})"),
        )

    return st.recursive(leaves, grown, max_leaves=8)


formulas = bodies(reference_texts()).map(lambda text: "=" + text)
"""Formulas whose references may lie anywhere on the sheet."""
near_formulas = bodies(reference_texts(st.integers(1, 12), st.integers(1, 12))).map(
    lambda text: "=" + text
)
"""Formulas whose references lie near the first cell, so that fills push some of them off."""
