"""What a reading claims of its references, headings, places and locks, agrees with the formula."""

import re

from hypothesis import given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import Area, Cell, column_letters, column_number
from dreieck.core.values import Place
from dreieck.core.words.reading import reading

ITEMS = ["Flour", "Lentils", "Potatoes", "Cheese", "Coffee", "Rope"]
HUTS = ["Kestrel", "Larch", "Scree", "Tarn", "Ibex"]
FIRST = Cell(3, 5)
HELD = {
    "B4": "Item",
    **{f"{column_letters(3 + n)}4": hut for n, hut in enumerate(HUTS)},
    **{f"B{5 + n}": item for n, item in enumerate(ITEMS)},
    **{f"{column_letters(3 + c)}{5 + r}": str(7 * r + c + 1) for c in range(5) for r in range(6)},
}
inside = st.builds(Cell, st.integers(3, 7), st.integers(5, 10))
around = st.builds(Cell, st.integers(3, 9), st.integers(5, 12)).filter(lambda c: c.row > 4)
locks = st.sampled_from(["", "$"])


@st.composite
def references(draw):
    one = draw(inside)
    first = f"{draw(locks)}{column_letters(one.column)}{draw(locks)}{one.row}"
    if draw(st.booleans()):
        return first
    other = Cell(draw(st.integers(one.column, 7)), draw(st.integers(one.row, 10)))
    return f"{first}:{draw(locks)}{column_letters(other.column)}{draw(locks)}{other.row}"


def named(area):
    """The cells that a heading names: *Flour, Kestrel to Scree*."""
    words = re.findall(r"\w+", area)
    rows = [5 + ITEMS.index(word) for word in words if word in ITEMS]
    columns = [3 + HUTS.index(word) for word in words if word in HUTS]
    ends = min(columns, default=3), max(columns, default=7)
    return min(rows, default=5), max(rows, default=10), *ends


STEP = r"(?P<{0}>\d+) (?P<{0}_way>{1})"
BOTH = re.compile(
    rf"the cell (?:{STEP.format('rows', 'up|down')})?(?: and )?"
    rf"(?:{STEP.format('columns', 'left|right')})?"
)
NEAR = {
    "this cell itself": (0, 0), "the cell to the left": (-1, 0), "the cell to the right": (1, 0),
    "the cell above": (0, -1), "the cell below": (0, 1),
    "this column": -0, "the column to the left": -1, "the column to the right": 1,
    "this row": 0, "the row above": -1, "the row below": 1,
}  # fmt: skip


def line(said):
    """A column or row that is told, and whether it always is that one."""
    if match := re.fullmatch(r"(?:always )?(column|row) (\w+)", said):
        return (column_number(match[2]) if match[1] == "column" else int(match[2])), True
    if match := re.fullmatch(r"the (?:column|row) (\d+) (left|right|up|down)", said):
        return int(match[1]) * (-1 if match[2] in ("left", "up") else 1), False
    return NEAR[said], False


def place(said, at):
    """The column and row that are told of a cell, and which of them always is that one."""
    if match := re.fullmatch(r"always ([A-Z]+)(\d+)", said):
        return (column_number(match[1]), True), (int(match[2]), True)
    if isinstance(NEAR.get(said), tuple):
        across, down = NEAR[said]
        return (at.column + across, False), (at.row + down, False)
    if match := BOTH.fullmatch(said):
        down = int(match["rows"] or 0) * (-1 if match["rows_way"] == "up" else 1)
        across = int(match["columns"] or 0) * (-1 if match["columns_way"] == "left" else 1)
        return (at.column + across, False), (at.row + down, False)
    column, row = map(line, said.split(", "))
    return (
        (column[0] + (0 if column[1] else at.column), column[1]),
        (row[0] + (0 if row[1] else at.row), row[1]),
    )


def span_claims(said, axis, span, at):
    """Assert what is told of one axis of a range."""
    low, high = span.ordered(at)
    if said == f"{axis}s that move along":
        assert not low.locked and not high.locked and low != high
    elif match := re.fullmatch(rf"always {axis}s (\w+) to (\w+)", said):
        ends = [column_number(e) if axis == "column" else int(e) for e in match.groups()]
        assert ends == [low.at, high.at] and low.locked and high.locked
    elif match := re.fullmatch(rf"always from ({axis} \w+) to (.*)", said):
        assert line(match[1]) == (low.at, True) and line(match[2]) == (high.at, False)
    elif match := re.fullmatch(rf"from (.*) to ({axis} \w+), always", said):
        assert line(match[1]) == (low.at, False) and line(match[2]) == (high.at, True)
    else:
        assert low == high and line(said) == (low.at, low.locked)


@given(st.lists(references(), min_size=1, max_size=3), around)
def test_headings_places_and_locks_are_those_of_the_formula(texts, at):
    made = workbook(Loads={each: held for each, held in HELD.items() if each != at.text})
    shape = made.read_entry(f"=SUM({','.join(texts)})", at).content
    phrases = reading(made, Place("Loads", at), shape)
    things = [phrase.text for phrase in phrases if phrase.kind == "thing"]
    places = [phrase.text[1:-1] for phrase in phrases if phrase.kind == "where"]
    assert len(things) == len(places) == len(shape.references)
    for thing, where, reference in zip(things, places, shape.references, strict=True):
        area = reference.area(at)
        top, bottom, left, right = named(thing)
        assert Area(left, top, right, bottom) == area, thing
        if isinstance(reference, CellReference):
            parts = [(each.coordinate(base), each.locked) for each, base in
                     ((reference.column, at.column), (reference.row, at.row))]  # fmt: skip
            assert list(place(where, at)) == parts, where
            continue
        always = where.replace(", always", "; always")
        across, down = always.split(", ", 1) if always.count(", ") else always.rsplit("; ", 1)
        span_claims(across.replace("; always", ", always"), "column", reference.columns, at.column)
        span_claims(down.replace("; always", ", always"), "row", reference.rows, at.row)
