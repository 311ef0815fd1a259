"""What a proof reads follows everything that moves, as formulas do."""

from hypothesis import given
from hypothesis import strategies as st
from tables import apply, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing import naming, sheets
from dreieck.core.editing.cutting import cut_to
from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.editing.proving import proven
from dreieck.core.editing.stating import stated
from dreieck.core.formula.tree import Lost, walk
from dreieck.core.grid import Area, Cell, Lines
from dreieck.core.sheet.content import Unreadable

lines = st.tuples(
    st.sampled_from([inserted, deleted]),
    st.builds(Lines, st.sampled_from(["row", "column"]), st.integers(1, 9), st.integers(1, 3)),
)
moved = st.sampled_from(["A1:B2", "B2:C5", "A1:F9", "C3"])
moves = st.tuples(st.just(cut_to), moved, st.just("H3"))
references = st.sampled_from(["B2:B5", "$B$2:B5", "C3", "A1:D4", "B:B", "3:3", "$C$2"])


@given(reads=references, steps=st.lists(st.one_of(lines, moves), max_size=5))
def test_a_proof_reads_what_a_formula_on_another_sheet_reads(reads, steps):
    made = workbook(
        Loads={f"{c}{r}": str(r) for c in "ABCDEF" for r in range(1, 10)},
        Other={"A1": f"=SUM(Loads!{reads})"},
    )
    home = made.sheets[0]
    apply(made, [proven(made, stated(f"=NO.GAP({reads})", home))])
    for way, what, *to in steps:
        if way is cut_to:
            edits = cut_to(Calculation(made), home, Area.parse(what), home, Cell.parse(to[0]))
        else:
            edits = way(made, home, what)
        apply(made, list(edits))
    apply(made, sheets.renamed(made, home, "Weights"))
    formula = made.sheets[1].content(Cell(1, 1))
    assert not isinstance(formula, Unreadable)
    one, other = (
        [str(each) if isinstance(each, Lost) else each.area(Cell(1, 1)) for each in _leaves(shape)]
        for shape in (formula, made.proofs[0].shape)
    )
    assert one == other


def _leaves(shape):
    return [n for n in walk(shape.tree) if isinstance(n, Lost) or n in shape.references]


def test_names_in_proofs_are_renamed_and_written_out_and_all_comes_back():
    made = workbook(Loads={"A1": "2", "B1": "2"})
    apply(made, naming.given(made, "rate", "Loads!$A$1"))
    apply(made, [proven(made, stated("=rate=B1", made.sheets[0]))])
    apply(made, naming.renamed(made, "rate", "price"))
    assert made.proofs[0].text == "=price=Loads!B1"
    back = apply(made, naming.deleted(made, "price", keep_addresses=True))
    assert made.proofs[0].text == "=Loads!$A$1=Loads!B1"
    apply(made, back)
    assert made.proofs[0].text == "=price=Loads!B1"
