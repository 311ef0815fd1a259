"""What helps while a formula is written: pointing, suggestions, previews, explanations."""

import pytest
from tables import LOADS, workbook

from dreieck.core.calculate import Calculation, dependents
from dreieck.core.exceptions import NameRefused
from dreieck.core.formula import may_point, mentions, point, re_aim
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.names import checked_name, named
from dreieck.core.values import ERROR_CODES, Error, Place
from dreieck.core.words.explain import explain
from dreieck.core.words.preview import next_reads, usual_directions
from dreieck.core.words.suggest import current_argument, suggestions

C5 = Cell.parse("C5")


@pytest.mark.parametrize(
    ("text", "there"),
    [
        ("=|", True),
        ("=B5*|", True),
        ("=SUM(|)", True),
        ("=SUM(B5,|C5)", False),
        ("=SUM(B5,|)", True),
        ("=B5|", False),
        ("=B5%|", False),
        ("=B5*|+C5", True),
        ('="a |', False),
        ('="a"&|', True),
        ("=rate|", False),
        ("B5*|", False),
        ("|=B5", False),
        ("=(|", True),
        ("=B5 * |", True),
    ],
)
def test_a_reference_may_stand_where_a_value_is_expected(text, there):
    assert may_point(text.replace("|", ""), text.index("|")) is there


def test_pointing_again_replaces_what_was_just_pointed_at():
    first = point("=SUM()", 5, Area.parse("B5"), None, None)
    assert (first.text, first.start, first.end) == ("=SUM(B5)", 5, 7)
    again = point(first.text, first.end, Area.parse("B5:C9"), "Week 1", first.start)
    assert again.text == "=SUM('Week 1'!B5:C9)"
    assert point("=", 1, Area.parse("B:B"), None, None).text == "=B:B"


@pytest.mark.parametrize(
    ("text", "index", "area", "after"),
    [
        ("=$B5*C$4", 0, "B7", "=$B7*C$4"),
        ("=$B5*C$4", 1, "D9:E9", "=$B5*D$9:E$9"),
        ("=SUM(B$4:B9)+", 0, "C5:D6", "=SUM(C$5:D6)+"),
        ("=Loads!B4", 0, "C4", "=Loads!C4"),
        ("=SUM(B:B)", 0, "C:D", "=SUM(C:D)"),
    ],
)
def test_a_reference_aimed_anew_keeps_its_locks(text, index, area, after):
    aimed = re_aim(text, C5, index, Area.parse(area))
    assert aimed.text == after
    assert mentions(after, C5)[index].end == aimed.end


def suggested(text, used=None, **sheets):
    made = workbook(**(sheets or {"Loads": {}, "Week_1": {}}))
    caret = text.index("|")
    found = suggestions(Calculation(made), text.replace("|", ""), caret, used or {})
    return [each.insert for each in found]


def test_suggestions_begin_with_the_word_and_rank_by_use():
    assert suggested("=su|")[:2] == ["SUM(", "SUMIF("]
    assert suggested("=su|", used={"SUMIFS": 3})[0] == "SUMIFS("
    assert suggested("=1+we|") == ["'Week 1'!", "WEEKDAY(", "WEEKNUM("]
    assert suggested("='we|") == ["'Week 1'!"]
    assert suggested("=av|")[0] == "AVERAGE(" and suggested("=co|")[0] == "COUNT("
    assert suggested("=av|", used={"AVEDEV": 1})[0] == "AVEDEV("
    assert suggested("=SUM(lo|)")[:3] == ["LOWER(", "Loads!", "LOOKUP("]


@pytest.mark.parametrize("text", ["su|", '="su|', "=B5 su|", "=su|m", "=SUM(B5)su|", "=$s|", "=|"])
def test_nothing_is_suggested_where_nothing_can_stand(text):
    assert suggested(text) == []


@pytest.mark.parametrize(
    ("text", "name", "index"),
    [
        ("=ROUND(|", "ROUND", 0),
        ("=ROUND(SUM(B5,C5),|", "ROUND", 1),
        ("=ROUND(SUM(B5,|", "SUM", 1),
        ("=IF((B5+1)*2>3,|", "IF", 1),
        ("=IF(NOSUCH(1,|", "IF", 0),
    ],
)
def test_the_current_argument_is_told(text, name, index):
    found = current_argument(text.replace("|", ""), text.index("|"))
    assert (found.function.name, found.index) == (name, index)
    assert current_argument("=SUM(B5)+", 9) is None


def test_what_will_be_read_next_is_told_in_the_usual_direction():
    sheet = workbook(Loads=LOADS).sheets[0]
    assert usual_directions(sheet, C5) == ("down", "right")
    assert usual_directions(sheet, Cell.parse("F9")) == ("down",)
    mixed, locked = (each.reference for each in mentions("=$B5*$G$1", C5))
    assert next_reads(mixed, C5, "down") == "$B6, $B7 …"
    assert next_reads(mixed, C5, "right") == "always $B5"
    assert next_reads(locked, C5, "down") == "always $G$1"


def test_who_reads_a_cell_directly_and_over_others():
    filled = {f"C{row}": f"=B{row}*$B$1+C{row - 1}" for row in range(2, 12)}
    made = workbook(
        Loads={"B1": "2", "B5": "1", **filled, "E1": "=SUM(C2:C11)"},
        Prices={"A1": "=Loads!E1", "A2": "=SUM(Loads!$B:$B)"},
    )
    rate = dependents(Calculation(made), Place("Loads", Cell.parse("B1")))
    assert {(sheet, area.text) for sheet, area in rate.direct} == {
        ("Loads", "C2:C11"),
        ("Prices", "A2"),
    }
    assert (rate.direct_count, rate.further, rate.all_counted) == (11, 2, True)
    one = dependents(Calculation(made), Place("Loads", Cell.parse("B5")))
    assert (one.direct_count, one.further) == (2, 8)
    assert dependents(Calculation(made), Place("Prices", Cell.parse("A1"))).direct_count == 0


def test_readers_by_blocks_are_the_readers_by_cells():
    entries = {f"C{row}": f"=SUM(B$3:B{row})+D{row + 1}" for row in range(3, 9)}
    entries |= {f"D{row}": f"=$A{row}+SUM($A$2:A3)" for row in range(4, 8)}
    made = workbook(Loads=entries)
    calculation = Calculation(made)
    for target in Area.parse("A1:D9").cells():
        expected = {
            cell
            for cell, shape in made.sheets[0].filled(Area.parse("A1:D9"))
            for reference in shape.references
            if (reference.area(cell) or Area(0, 0, 0, 0)).holds(target)
        }
        found = dependents(Calculation(made), Place("Loads", target))
        direct = {cell for _, area in found.direct for cell in area.cells()}
        assert direct == expected, target.text
        assert found.direct_count == len(expected)
    assert calculation.value("Loads", Cell.parse("C3")) == 0.0


def test_every_error_is_explained():
    for code in ERROR_CODES:
        said = explain(Error(code, "why"))
        assert said.means[-1] == "." and said.mend[-1] in ".?" and said.why == "why"


@pytest.mark.parametrize(
    ("name", "proposal"),
    [("B5", "B5_"), ("true", "true_"), ("2nd rate", "_2nd_rate"), ("carry rate", "carry_rate"),
     ("", "rate"), ("x" * 70, "x" * 62), ("kg/night", "kg_night")],
)  # fmt: skip
def test_a_refused_name_gets_one_that_would_do(name, proposal):
    with pytest.raises(NameRefused) as refused:
        checked_name(name)
    assert refused.value.proposal == proposal
    assert checked_name(proposal) == proposal


def test_names_stand_for_what_they_say_and_never_for_themselves():
    made = workbook(Loads={"B4": "2", "B5": "3", "C5": "=rate*2", "D5": "=ring+1"})
    for name, says in (("rate", "Loads!$B$5"), ("ring", "=ring+1")):
        made.names[name] = named(name, says)
    calculation = Calculation(made)
    assert calculation.value("Loads", C5) == 6.0
    assert calculation.value("Loads", Cell.parse("D5")).code == "#LOOP!"
