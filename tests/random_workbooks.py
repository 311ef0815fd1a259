"""Random workbooks, and what of two of them differs."""

from hypothesis import strategies as st

from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.chart import Chart, Source
from dreieck.core.sheet.content import Unreadable
from dreieck.core.sheet.layout import Headings, Layout, LineLook, LineLooks, Rule
from dreieck.core.sheet.names import named
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.stated import SORTS, STANDS, Answer, Proof, Sweep
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import Look
from dreieck.core.values.style import Edges, Style

FORMULAS = (
    "=$B5*C$4", "=SUM(C5:C9)", "=Loads!B4+'Hut 2'!$C$5", "=IF(A1>=2,\"a;b[.A1]\",TRUE)",
    "=rate*1.50", "=COUNT(1:1)+SUM($B:C)", "={1,\"x\";TRUE,#N/A}", "=A1~B2:C3", "=A1:C3 B2",
    "=A1:C3!B2", "=SUM((A1~B1),1e5)", "=-A1^2%", "=#REF!+1", "=TRUE()", "=IF(A1,,0)", "=Hut(A1)",
    "=\"it's \"\"so\"\"\"&A1<>B1", "=IFS(A1=1,2)", "=FORMULA(A1)", "=(A1+B1)*2", "=SUM(C1:$C5)",
)  # fmt: skip
NAMES = {
    "rate": "Loads!$B$3", "left_of": "A1", "items": "Loads!$A$7:$A$12", "share": "0.25",
    "all_of_it": "Loads!B:B", "by_row": "$C5",
}  # fmt: skip
PROOFS = ("=ADDS.UP(Loads!B2:B9,100%)", '=Loads!$A$1<>"a<b"&rate', "=NO.GAP('Hut 2'!B:B)")
cells = st.builds(Cell, st.integers(1, 12), st.integers(1, 25))
edges = st.sampled_from(["none", "none", "none", "thin", "thick", "double"])
tones = st.sampled_from(["gentian", "larch", "lake", "rose", "moss", "plum", "slate", "broken"])
inks = st.one_of(st.just("none"), tones)
styles = st.builds(
    Style, st.booleans(), st.booleans(), st.sampled_from(["small", "usual", "large", "huge"]),
    st.sampled_from(["usual", "left", "middle", "right", "spanning"]),
    st.sampled_from(["middle", "top", "bottom"]), st.booleans(), inks, inks,
    st.builds(Edges, edges, edges, edges, edges),
)  # fmt: skip
forms = st.sampled_from([
    "general", "text", "typed-text", "percent", "grouped", "number", "scientific", "date", "time",
    "datetime", "duration", "currency:EUR", "currency:CAD",
])  # fmt: skip
looks = st.one_of(
    st.just(Look()),
    st.builds(
        Look, forms, st.one_of(st.none(), st.integers(0, 5)),
        st.sampled_from(["plain", "title", "heading", "input", "result"]),
        st.one_of(st.just(Style()), styles),
    ),
)  # fmt: skip
texts = st.one_of(
    st.text("abc =+-@'\"<&>é_x0041_\t\n ", max_size=12), st.text(max_size=8),
    st.sampled_from(["=1+1", "=(", "TRUE", "12", "#N/A", " a  b ", "", "a\nb", "_x000D_"]),
).filter(lambda text: all(c in "\t\n" or c.isprintable() for c in text))  # fmt: skip


@st.composite
def formulas(draw, at):
    return Shape.parse(draw(st.sampled_from(FORMULAS)), Cell(5, 5)).landed(at)


@st.composite
def contents(draw, at):
    return draw(
        st.one_of(
            st.floats(allow_nan=False, allow_infinity=False).map(lambda x: x + 0.0),
            st.integers(-50_000, 50_000).map(float), texts, st.booleans(), formulas(at),
            st.sampled_from(["=)", "=1+", "=A1 1"]).map(Unreadable), st.none(),
        )
    )  # fmt: skip


@st.composite
def areas(draw):
    first = draw(cells)
    return Area(first.column, first.row, first.column + draw(st.integers(0, 3)),
                first.row + draw(st.integers(0, 6)))  # fmt: skip


@st.composite
def lines(draw):
    runs, at = [], 0
    for _ in range(draw(st.integers(0, 3))):
        first = at + draw(st.integers(1, 4))
        at = first + draw(st.integers(0, 2))
        size = draw(st.one_of(st.none(), st.integers(12, 400)))
        runs.append((first, at, LineLook(size, draw(st.booleans()))))
    return LineLooks.of(runs)


@st.composite
def charts(draw, number, home):
    area = Area(2, 3, 4, 9)
    source = draw(st.sampled_from([None, "Loads"])) if home != "Loads" else None
    kinds = ["columns", "bars", "stacked", "lines", "areas", "points"]
    return Chart(
        number, draw(st.sampled_from(kinds)), (Source(source, area),),
        draw(st.sampled_from(["column", "row"])), True, draw(st.booleans()), draw(areas()),
        draw(st.sampled_from(["", "Guests & more"])), draw(st.sampled_from(["", "Week"])),
        draw(st.sampled_from(["", "kg"])),
    )  # fmt: skip


@st.composite
def layouts(draw, home):
    rules = []
    for area in draw(st.lists(areas(), max_size=2)):
        shape = Shape.parse(draw(st.sampled_from(["=E5>2", "=$A5=E$1"])), Cell(5, 5))
        rules.append(Rule(area, shape.landed(area.first), draw(tones)))
    drawn = [draw(charts(number, home)) for number in range(1, draw(st.integers(0, 2)) + 1)]
    headings = Headings(draw(st.integers(0, 3)), draw(st.integers(0, 3)))
    return Layout(draw(lines()), draw(lines()), headings, tuple(rules), tuple(drawn))


@st.composite
def workbooks(draw):
    workbook = Workbook("Hut supplies")
    for number, name in enumerate(["Loads", "Hut 2", "Añejo's (3)"][: draw(st.integers(1, 3))], 1):
        sheet = Sheet(number, name)
        for cell in draw(st.lists(cells, max_size=14, unique=True)):
            content = draw(contents(cell))
            bottom = cell.row + draw(st.sampled_from([0, 0, 0, 3]))
            sheet.put_run(Run(cell.column, cell.row, bottom, content, draw(looks)))
        sheet.layout = draw(layouts(name))
        workbook.sheets.append(sheet)
    for name, says in NAMES.items():
        if draw(st.booleans()):
            made = named(name, says, Cell(2, 2))
            workbook.names[made.key] = made
    stated = draw(st.lists(st.sampled_from(PROOFS), unique=True))
    workbook.proofs = tuple(
        Proof(number, Shape.parse(text, STANDS)) for number, text in enumerate(stated, 3)
    )
    swept = draw(st.sampled_from(["", "=SWEEP(OVER('Hut 2'!$B$2,0%,1,0.5),Loads!C4:C9)"]))
    workbook.sweeps = (Sweep(2, Shape.parse(swept, STANDS)),) if swept else ()
    meant = draw(st.sampled_from(["", '=MEANT(Loads!C4:C9,"all-same","a <third> each")']))
    workbook.answers = (Answer(1, Shape.parse(meant, STANDS)),) if meant else ()
    return workbook


def differences(one, other):
    """What differs between two workbooks, as a list of lines."""
    found = []
    if [sheet.name for sheet in one.sheets] != [sheet.name for sheet in other.sheets]:
        return [f"sheets {[s.name for s in one.sheets]} {[s.name for s in other.sheets]}"]
    for sheet, twin in zip(one.sheets, other.sheets, strict=True):
        mine, theirs = _held(sheet), _held(twin)
        for cell in sorted(mine.keys() | theirs.keys()):
            if mine.get(cell) != theirs.get(cell):
                found.append(f"{sheet.name}!{cell.text} {mine.get(cell)} {theirs.get(cell)}")
        for part in Layout.__slots__:
            before, after = getattr(sheet.layout, part), getattr(twin.layout, part)
            if before != after:
                found.append(f"{sheet.name} {part} {before} {after}")
    if {k: (n.name, n.shape) for k, n in one.names.items()} != {
        k: (n.name, n.shape) for k, n in other.names.items()
    }:
        found.append(f"names {one.names} {other.names}")
    for sort in SORTS:
        if one.stated(sort) != other.stated(sort):
            found.append(f"{sort} {one.stated(sort)} {other.stated(sort)}")
    return found


def _held(sheet):
    return {
        cell: (type(run.content), run.content, run.look)
        for run in sheet.all_runs()
        for cell in run.area.cells()
    }
