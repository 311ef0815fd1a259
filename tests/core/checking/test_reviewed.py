"""What a reviewer would say of whole tables: sound ones, mistaken ones, and mistakes planted."""

from collections import Counter

import pytest
from effort import every
from golden import is_kept
from planted import planted
from reviewed import examples, findings, in_doubt, is_found, is_mended, tables, written

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.blocks import blocks
from dreieck.core.checking.findings import rules, told
from dreieck.core.checking.likely import likely_locks
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Locks, never_moves

EXAMPLES = examples()
SOUND = tables("sound.txt")
MISTAKEN = tables("mistaken.txt") + [each for each in EXAMPLES.values() if each.wrong]


@pytest.mark.parametrize("table", SOUND, ids=lambda table: table.name)
def test_a_sound_table_is_left_alone(table):
    assert in_doubt(table.made()) == []


@pytest.mark.parametrize("table", MISTAKEN, ids=lambda table: table.name)
def test_a_mistake_is_one_finding_whose_first_mend_is_right(table):
    told = in_doubt(table.made())
    assert [each.rule for each in told[1:]] == []
    assert is_found(table, told)
    assert is_mended(table, told)
    assert told[0].because
    is_kept("core/checking/tables/told.txt", table.name, written(told[0]))


@pytest.mark.parametrize("rule", EXAMPLES)
def test_the_example_of_a_rule_raises_it_until_it_is_mended(rule):
    made = EXAMPLES[rule].made()
    found = next(each for each in findings(made) if each.rule == rule)
    assert bool(found.mends) == bool(told()[rule].mend)
    for edit in found.mends[0].edits if found.mends else ():
        edit.apply(made)
    assert not found.mends or rule not in {each.rule for each in findings(made)}


def test_what_is_told_of_rules_and_what_is_registered_belong_together(monkeypatch):
    assert told().keys() - EXAMPLES.keys() == {"old-feed", "reads-hidden", "chart-misses"}
    monkeypatch.delitem(rules.BLOCK_RULES, "loop")
    with pytest.raises(ValueError, match="told or registered alone: loop"):
        rules.looks.__wrapped__()


@pytest.mark.law
def test_of_mistakes_planted_anywhere_nearly_all_are_found_and_mended():
    planted_ones, found, mended = Counter(), Counter(), Counter()
    for table in SOUND[:: every(12, 4)]:
        for kind, number, changed in planted(table.made()):
            made = table.made()
            sheet, before = made.sheets[number], Calculation(made)
            held = {cell: before.value(sheet.name, cell) for cell in changed}
            for cell, content in changed.items():
                sheet.put(cell, content, sheet.look(cell))
            after = Calculation(made)
            if all(after.value(sheet.name, cell) == value for cell, value in held.items()):
                continue
            told = in_doubt(made)
            planted_ones[kind] += 1
            found[kind] += bool(told) and any(told[0].holds(cell) for cell in changed)
            for edit in told[0].mends[0].edits if told and told[0].mends else ():
                edit.apply(made)
            right = Calculation(made)
            mended[kind] += all(right.value(sheet.name, c) == value for c, value in held.items())
    for kind, count in planted_ones.items():
        assert count > 5 and found[kind] >= 0.75 * count, (kind, count, found[kind])
    assert found.total() >= 0.9 * planted_ones.total()
    assert mended.total() >= 0.88 * planted_ones.total()


@pytest.mark.law
@pytest.mark.parametrize("locked", [False, True], ids=["nothing locked", "all locked"])
def test_the_locks_of_a_table_are_the_likeliest(locked):
    asked = first = 0
    for table in SOUND[:: every(9, 3)]:
        for number, sheet in enumerate(table.made().sheets):
            for block in (
                each for each in blocks(sheet) if each.size > 2 and len(each.parts) == 1
            ):
                made, start, shape = table.made(), block.start, block.shape
                if all(never_moves(each) for each in shape.references):
                    continue
                for cell in block.cells():
                    made.sheets[number].put(cell, None, sheet.look(cell))
                for index, each in enumerate(shape.references):
                    locks = tuple(Locks(locked, locked) for _ in each.corners(start))
                    shape = shape.with_reference(index, each.with_locks(start, locks))
                found = likely_locks(
                    Calculation(made), made.sheets[number], start, shape, block.area
                )
                alike = [_reads_alike(Shape.parse(f.formula, start), block) for f in found]
                assert any(alike), (table.name, block.shape.text(start))
                asked += 1
                first += alike[0]
    assert asked > every(15, 40) and first >= 0.95 * asked


def _reads_alike(shape, block):
    pairs = list(zip(shape.references, block.shape.references, strict=True))
    return all(
        one.area(cell) == other.area(cell) for one, other in pairs for cell in block.cells()
    )
