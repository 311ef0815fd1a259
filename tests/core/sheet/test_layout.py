from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.grid import LineChange, Lines
from dreieck.core.sheet.layout import Headings, Layout, LineLook, LineLooks, LineRun

NUMBERS = range(1, 26)
looks = st.builds(LineLook, st.sampled_from([None, 60, 140]), st.booleans())
runs = st.builds(
    lambda first, length, look: LineRun(first, first + length, look),
    st.integers(1, 20), st.integers(0, 5), looks,
)  # fmt: skip
changes = st.builds(
    lambda axis, first, count, comes: LineChange(Lines(axis, first, count), comes),
    st.sampled_from(["row", "column"]), st.integers(1, 12), st.integers(1, 4), st.booleans(),
)  # fmt: skip


def each(found):
    return [found.at(number) for number in NUMBERS]


@given(st.lists(runs, max_size=8), changes)
def test_line_looks_are_a_list_of_looks_in_few_runs(put, change):
    model = dict.fromkeys(range(1, 60), LineLook())
    for run in put:
        model |= dict.fromkeys(range(run.first, run.last + 1), run.look)
    found = LineLooks().put(put)
    assert each(found) == [model[number] for number in NUMBERS]
    told = [look for first, last, look in found.between(3, 9) for _ in range(first, last + 1)]
    assert told == [model[number] for number in range(3, 10)]
    assert all(
        one.last + 1 < next.first or one.look != next.look for one, next in pairwise(found.runs)
    )
    assert [number for first, last in found.hidden for number in range(first, last + 1)] == [
        number for number, look in model.items() if look.hidden
    ]
    assert all(one[1] + 1 < next[0] for one, next in pairwise(found.hidden))
    for number in NUMBERS:
        ahead = found.next_shown(number, 1)
        assert all(model[at].hidden for at in range(number, ahead)) and not model[ahead].hidden
        behind = found.next_shown(number, -1)
        assert all(model[at].hidden for at in range(behind + 1, number + 1))
        assert behind == 0 or not model[behind].hidden
    after = found.after(change)
    for number in NUMBERS:
        there = change.where(number)
        assert there is None or after.at(there) == model[number]
    lines = change.lines
    if change.comes:
        coming = [after.at(number) for number in range(lines.first, lines.last + 1)]
        around = {model.get(lines.first - 1), model[lines.first]}
        assert not any(look.hidden for look in coming)
        sizes = {look.size for look in coming}
        assert sizes == ({around.pop().size} if len(around) == 1 else {None})


def test_headings_in_view_follow_lines_that_come_and_go():
    layout = Layout(headings=Headings(columns=1, rows=3))

    def after(axis, first, count, *, comes):
        return layout.after(LineChange(Lines(axis, first, count), comes)).headings

    assert after("row", 1, 2, comes=True) == Headings(1, 5)
    assert after("row", 4, 2, comes=True) == Headings(1, 3)
    assert after("row", 2, 2, comes=False) == Headings(1, 1)
    assert after("column", 1, 4, comes=False) == Headings(0, 3)
    assert after("row", 2, 40, comes=True) == Headings(1, 20)
