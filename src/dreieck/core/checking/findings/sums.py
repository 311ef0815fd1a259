"""Rules about what a sum counts twice, and what a chain of cells leaves out."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.totalling import added, summed, terms
from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.mends import refilled, stretched
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, Reference, moving
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell
from dreieck.core.grid.areas import cells_of, joined
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import says
from dreieck.core.tables.labels import label
from dreieck.core.words.counting import listed

_MOST_CELLS = 100_000
_MOST_TOTALS = 60
_WIDEST_GAP = 2
"""So many cells may part a list from its sum."""


@rule("counts-total")
def counts_total(subject: Subject) -> Iterator[Finding]:
    """A range holds totals beside what they are the totals of."""
    for use in subject.range_uses:
        counts = has(use.function, Trait.COUNTS) or not has(use.function, Trait.SUMMARISES)
        sheet, area = subject.sheet_of(use.reference), use.reference.area(subject.start)
        if use.how != "total" or counts or not sheet or not area or area.size > _MOST_CELLS:
            continue
        if _is_halved(subject.shape.tree):
            continue
        found = _totals_within(sheet, area)
        if found:
            yield _twice(subject, use, sheet, area, found)


def _is_halved(node: tree.Node) -> bool:
    """Whether a sum is halved, since all of it is counted twice on purpose."""
    halves = isinstance(node, tree.Binary) and node.operator == "/"
    return halves and isinstance(node, tree.Binary) and node.right == tree.Number(2.0)


def _totals_within(sheet: Sheet, area: Area) -> dict[Cell, list[Area]]:
    """The cells of an area that are sums of others of it, and of which ones."""
    found: dict[Cell, list[Area]] = {}
    for cell, shape in sheet.formulas(area):
        parts = [each for each in summed(shape, cell) if each.within(area)]
        if parts and not any(each.holds(cell) for each in parts) and _in_line(cell, parts):
            found[cell] = parts
    return found


def _in_line(cell: Cell, parts: list[Area]) -> bool:
    """Whether a total stands in the line that it adds up, and adds several cells of it."""
    if sum(part.size for part in parts) < 2:
        return False
    around = parts[0]
    for part in parts[1:]:
        around = around.around(part)
    same_column = around.left <= cell.column <= around.right
    same_row = around.top <= cell.row <= around.bottom
    return same_column or same_row


def _twice(
    subject: Subject, use: Use, sheet: Sheet, area: Area, found: dict[Cell, list[Area]]
) -> Finding:
    totals = joined([Area.of(cell) for cell in found])
    parts = joined(dict.fromkeys(part for each in found.values() for part in each))
    one = len(found) == 1
    mends = tuple(_only_parts(subject, use, sheet, area, found))
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} takes {listed(parts)} twice: {subject.tag(use.number)} reads"
        f" {subject.address(use.reference, subject.start)}, and in it {listed(totals)}"
        f" {'is their sum' if one else 'are their sums'} already.",
        "What is counted twice makes a sum too large, and pulls a mean aside.",
        use.number,
        mends,
        (f"{listed(totals)} {'adds' if one else 'add'} up {listed(parts)}",),
    )


def _only_parts(
    subject: Subject, use: Use, sheet: Sheet, area: Area, found: dict[Cell, list[Area]]
) -> Iterator[Mend]:
    """Read what is left without totals at the end, or the totals alone, or the parts alone."""
    for axis in AXES:
        low, high = area.on(axis)
        last = high
        while last > low and _all_totals(sheet, area.spanning(axis, last, last), found):
            last -= 1
        rest = area.spanning(axis, low, last)
        if last < high and not any(rest.holds(cell) for cell in found):
            yield stretched(subject, use, axis, 0, last - high)
            return
    begin = _behind_its_twin(subject, sheet, area, found)
    if begin:
        yield stretched(subject, use, "row", area.top - begin, 0)
    cells = list(found)
    whole = isinstance(subject.shape.tree, tree.Call) and len(subject.shape.references) == 1
    if not whole or len(cells) > _MOST_TOTALS:
        return
    covered = {*cells, *cells_of(tuple(part for each in found.values() for part in each))}
    if has(use.function, Trait.TOTALS) and all(cell in covered for cell, _ in sheet.filled(area)):
        outer = [c for c in cells if not any(p.holds(c) for ps in found.values() for p in ps)]
        areas = joined([Area.of(cell) for cell in outer])
        yield _with_arguments(subject, use, areas, "add the totals alone")
    elif area.width == 1 or area.height == 1:
        others = [Area.of(cell) for cell, _ in sheet.filled(area) if cell not in found]
        yield _with_arguments(subject, use, joined(others), "leave the totals out")


def _behind_its_twin(
    subject: Subject, sheet: Sheet, area: Area, found: dict[Cell, list[Area]]
) -> int | None:
    """The row from which a subtotal adds, if one before it is labelled the same."""
    last = max(found, key=lambda cell: cell.row)
    told = label(subject.calculation, subject.sheet, subject.start, "row")
    if area.width > 1 or not told or label(subject.calculation, sheet, last, "row") != told:
        return None
    rows = (cell.row for cell, _ in sheet.filled(area._replace(top=last.row + 1)))
    return next(rows, None) if last.row < area.bottom else None


def _all_totals(sheet: Sheet, line: Area, found: dict[Cell, list[Area]]) -> bool:
    """Whether a line at the end of a range holds totals, and no numbers beside them."""
    filled = list(sheet.filled(line))
    return bool(filled) and all(cell in found or isinstance(c, str) for cell, c in filled)


def _with_arguments(subject: Subject, use: Use, areas: tuple[Area, ...], says: str) -> Mend:
    """Summarise some areas instead of the range."""
    arguments = tuple(moving(area, subject.start, use.reference.sheet) for area in areas)
    return refilled(subject, Shape.of(tree.Call(use.function, arguments)), says)


@rule("adds-twice")
def adds_twice(subject: Subject) -> Iterator[Finding]:
    """A chain of ``+`` takes a cell twice, by itself or in a total that it adds too."""
    shape, start = subject.shape, subject.start
    parts = terms(shape.tree)
    if len(parts) < 2:
        return
    seen: dict[tree.Node, int] = {}
    for index, term in enumerate(parts):
        if isinstance(term, CellReference) and term in seen and len(parts) > 2:
            yield _same_cell(subject, term)
            return
        seen[term] = index
    areas = [_areas(subject, term) for term in parts]
    for term in parts:
        if isinstance(term, CellReference) and _is_within(subject, term, parts):
            yield _again_in_range(subject, term, parts)
            return
    for term in parts:
        area = term.area(start) if isinstance(term, CellReference) else None
        sheet = subject.sheet_of(term) if isinstance(term, CellReference) else None
        if not area or sheet is not subject.sheet:
            continue
        inner = summed(sheet.content(area.first), area.first)
        again = [
            common
            for other, each in zip(parts, areas, strict=True)
            if other is not term
            for one in each
            for two in inner
            if (common := one.common(two))
        ]
        if again and isinstance(term, CellReference):
            yield _total_again(subject, term, joined(again))
            return


def _is_within(subject: Subject, term: CellReference, parts: list[tree.Node]) -> bool:
    """Whether a cell that is added stands in a range whose sum is added as well."""
    area = term.area(subject.start)
    sums = (_areas(subject, part) for part in parts if isinstance(part, tree.Call))
    if area is None or term.sheet:
        return False
    return any(area.within(e) for each in sums for e in each)


def _again_in_range(subject: Subject, term: CellReference, parts: list[tree.Node]) -> Finding:
    rest = [part for part in parts if part is not term]
    read = subject.address(term, subject.start)
    number = subject.shape.references.index(term)
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} adds {read} twice: by itself, and in the range that it adds up.",
        "What is counted twice makes the sum too large.",
        number,
        (refilled(subject, _chained(rest), f"leave {read} out"),),
        (f"{read} is one of the cells of the range",),
    )


def _areas(subject: Subject, term: tree.Node) -> list[Area]:
    """What a term of a chain adds up."""
    if isinstance(term, CellReference):
        area = term.area(subject.start)
        return [area] if area and not term.sheet else []
    if isinstance(term, tree.Call) and has(term.function, Trait.TOTALS):
        found = (r.area(subject.start) for r in tree.references(term) if not r.sheet)
        return [area for area in found if area]
    return []


def _same_cell(subject: Subject, term: CellReference) -> Finding:
    """A cell that is added twice; another one is missing where the chain has one gap."""
    shape, start = subject.shape, subject.start
    numbers = [n for n, each in enumerate(shape.references) if each == term]
    read = subject.address(term, start)
    gap = _left_out(subject, tuple(dict.fromkeys(added(shape))))
    mends = []
    if len(gap) == 1:
        wanted = moving(Area.of(gap[0]), start, term.sheet)
        later = next((n for n in numbers if _before(gap[0], shape.references, n, start)), None)
        changed = shape.with_reference(numbers[-1] if later is None else later, wanted)
        mends.append(refilled(subject, changed, f"read {gap[0].text} in place of it"))
    rest = terms(shape.tree)
    rest.reverse()
    rest.remove(term)
    rest.reverse()
    mends.append(refilled(subject, _chained(rest), f"add {read} once"))
    missing = f", and {gap[0].text} is left out" if len(gap) == 1 else ""
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{start.text} adds {read} twice{missing}.",
        "A number that is counted twice makes the sum too large.",
        numbers[-1],
        tuple(mends),
        (f"{read} stands in the formula more than once",),
    )


def _before(gap: Cell, references: tuple[Reference, ...], number: int, start: Cell) -> bool:
    """Whether a missing cell comes right after the reference before this one."""
    area = references[number - 1].area(start) if number else None
    return area is not None and area.first in (gap.step("row", -1), gap.step("column", -1))


def _chained(parts: list[tree.Node]) -> Shape:
    """The sum of parts as a chain."""
    node = parts[0]
    for part in parts[1:]:
        node = tree.Binary("+", node, part)
    return Shape.of(node)


def _total_again(subject: Subject, term: CellReference, again: tuple[Area, ...]) -> Finding:
    """A total that is added to what it is the total of."""
    rest = [part for part in terms(subject.shape.tree) if part is not term]
    read = subject.address(term, subject.start)
    number = next(n for n, each in enumerate(subject.shape.references) if each == term)
    mends = [refilled(subject, _chained(rest), f"leave {read} out")]
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} takes {listed(again)} twice: {read}, which it adds too, is"
        f" {'its' if sum(a.size for a in again) == 1 else 'their'} sum already.",
        "What is counted twice makes the sum too large.",
        number,
        tuple(mends),
        (f"{read} adds up {listed(again)}",),
    )


@rule("chain-misses")
def chain_misses(subject: Subject) -> Iterator[Finding]:
    """A chain of ``+`` leaves one cell of a list out."""
    cells = added(subject.shape)
    if len(set(cells)) < max(len(cells), 2):
        return
    missing = _totals_left_out(subject, cells)
    if not missing and len(cells) > 2:
        missing = _left_out(subject, cells)
    told = label(subject.calculation, subject.sheet, subject.start, "row")
    if not missing or 2 * len(missing) > len(cells) or says(told, "part"):
        return
    area = joined([Area.of(cell) for cell in missing])
    wanted = [moving(Area.of(cell), subject.start, cells[0].sheet) for cell in missing]
    order = sorted([*cells, *wanted], key=lambda each: _place(each, subject.start))
    changed = _chained(list(order))
    if isinstance(subject.shape.tree, tree.Call):
        changed = Shape.of(tree.Call(subject.shape.tree.function, tuple(order)))
    mend = refilled(subject, changed, f"add {listed(area)} too")
    yield Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} adds {len(cells)} cells of a list, but not {listed(area)}.",
        "A number of the same list is left out, so the sum misses it.",
        None,
        (mend,),
        (f"{listed(area)} stands in one line with what is added",),
    )


def _place(reference: Reference, start: Cell) -> tuple[int, int]:
    area = reference.area(start)
    return (area.top, area.left) if area else (0, 0)


def _left_out(subject: Subject, cells: tuple[CellReference, ...]) -> list[Cell]:
    """The numbers in line with cells that are added, of the same sort, that are not."""
    areas = [each.area(subject.start) for each in cells]
    sheets = {each.sheet for each in cells}
    if None in areas or len(sheets) > 1 or not cells:
        return []
    read = [area.first for area in areas if area]
    sheet = subject.sheet_of(cells[0])
    axis = next((a for a in AXES if len({c.on(CROSSING[a]) for c in read}) == 1), None)
    if sheet is None or axis is None:
        return []
    places = sorted(cell.on(axis) for cell in read)
    first, last = places[0], places[-1]
    line = Area.of(read[0])
    behind = last + 1
    # Numbers between the chain and its own formula belong to it too.
    own = subject.start.on(axis)
    while (
        sheet is subject.sheet and behind < own and _is_alike(sheet, read[0], line, axis, behind)
    ):
        behind += 1
    end = behind - 1 if own - _WIDEST_GAP <= behind <= own and behind - 1 > last else last
    between = [at for at in range(first, end + 1) if at not in places]
    if len(between) > len(places):
        return []
    left = (line.spanning(axis, at, at).first for at in between)
    return [
        cell
        for cell in left
        if _is_alike(sheet, read[0], line, axis, cell.on(axis))
        and not says(label(subject.calculation, sheet, cell, axis), "memo")
        and not _has_a_use(subject, sheet, cell)
    ]


def _has_a_use(subject: Subject, sheet: Sheet, cell: Cell) -> bool:
    """Whether a formula that nobody filled reads a cell by itself: it is paid, say, not summed."""
    for reader in subject.calculation.read_map().reading(sheet.name, Area.of(cell)):
        areas = [each.area(reader.area.first) for each in reader.patch.shape.references]
        if reader.patch.area.size == 1 and areas == [Area.of(cell)]:
            return True
    return False


def _totals_left_out(subject: Subject, cells: tuple[CellReference, ...]) -> list[Cell]:
    """The totals in line with totals that are added, before the formula, that nothing reads."""
    sheet, start = subject.sheet, subject.start
    read = [area.first for each in cells if (area := each.area(start)) and not each.sheet]
    if len(read) < len(cells) or any(not summed(sheet.content(c), c) for c in read):
        return []
    axis = next((a for a in AXES if len({c.on(CROSSING[a]) for c in read}) == 1), None)
    if axis is None or read[0].on(CROSSING[axis]) != start.on(CROSSING[axis]):
        return []
    line = Area.of(read[0]).spanning(axis, min(c.on(axis) for c in read), start.on(axis) - 1)
    return [
        cell
        for cell, shape in sheet.formulas(line)
        if cell not in read and summed(shape, cell)
        and not any(part.holds(other) for part in summed(shape, cell) for other in read)
        and not any(subject.calculation.read_map().reading(sheet.name, Area.of(cell)))
    ]  # fmt: skip


def _is_alike(sheet: Sheet, one: Cell, line: Area, axis: Axis, at: int) -> bool:
    """Whether a cell of a line holds a number, or a formula, where another one does."""
    held, other = sheet.content(one), sheet.content(line.spanning(axis, at, at).first)
    if isinstance(held, Shape):
        return isinstance(other, Shape) and other.plain is held.plain
    return isinstance(other, float)
