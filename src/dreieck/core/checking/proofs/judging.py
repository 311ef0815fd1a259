"""Whether a proof holds: each statement against the values of a workbook."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import TooMuchWork, current
from dreieck.core.calculate import Calculation
from dreieck.core.checking.proofs.cases import known_case
from dreieck.core.checking.proofs.looking import Looking, drawn_marks
from dreieck.core.checking.proofs.tolerance import apart, furthest, is_apart, tolerance
from dreieck.core.checking.proofs.verdict import CannotJudge, Picture, Verdict
from dreieck.core.formula import tree
from dreieck.core.functions import Speech, speech_of
from dreieck.core.functions.statements import KNOWN_CASE, problem_of
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.sheet.stated import Proof
from dreieck.core.values import Error
from dreieck.core.words.counting import many

_CELLS = 100_000
"""A proof may be as much work as a formula that stands in so many cells."""
OPEN = Verdict("open", "it is still being looked at")
"""The verdict on what there was no time to look at."""

Arguments = tuple[tree.Node, ...]
Judge = Callable[[Looking, Arguments], Verdict]
_JUDGES: dict[str, Judge] = {KNOWN_CASE: known_case}
"""What looks whether a statement holds, by its name."""


def _judges(name: str) -> Callable[[Judge], Judge]:
    """Let a function judge the statements of a name, which ``statements.toml`` tells of.

    Raises ValueError where there is one.
    """
    if name in _JUDGES:
        raise ValueError(f"Two functions judge {name}.")

    def register(judge: Judge) -> Judge:
        _JUDGES[name] = judge
        return judge

    return register


def judged(calculation: Calculation, proof: Proof) -> Verdict:
    """Whether a proof holds with the values of a workbook; in a hurry it stays open."""
    if current().hurried:
        return OPEN
    node = proof.shape.tree
    try:
        problem = problem_of(proof.shape)
        if problem:
            raise CannotJudge(problem)
        with current().formula(_CELLS):
            return _judge(Looking(calculation), node)
    except TooMuchWork:
        return Verdict("fails", "it is too much work to look at")
    except CannotJudge as failure:
        return Verdict("fails", str(failure), failure.where, failure.picture)


def _judge(looking: Looking, node: tree.Node) -> Verdict:
    if isinstance(node, tree.Call) and (judge := _JUDGES.get(node.function)):
        return judge(looking, node.arguments)
    return _true(looking, node)


def _true(looking: Looking, node: tree.Node) -> Verdict:
    """Any other formula that gives true, or a true for each cell."""
    if isinstance(node, tree.Group):
        return _true(looking, node.inner)
    if isinstance(node, tree.Binary) and node.operator == "=":
        return _agrees(looking, (node.left, node.right))
    if isinstance(node, tree.Call) and speech_of(node.function) is Speech.ALL_OF:
        with suppress(CannotJudge):
            return _all_true(looking, node.arguments)
    looked = looking.one(node)
    looked.without_errors()
    kinds = looked.cells.kinds
    if not np.all(kinds == Kind.LOGICAL):
        first = looked.first(kinds != Kind.LOGICAL)
        raise CannotJudge(f"it gives {looked.said(first)}, which is neither true nor false")
    wrong = looked.cells.payload == 0
    if not wrong.any():
        return Verdict("holds", "true" if len(wrong) == 1 else f"true for all {len(wrong):,}")
    if len(wrong) == 1:
        return Verdict("fails", "false")
    first = looked.first(wrong)
    says = f"false for {int(wrong.sum()):,} of {len(wrong):,}, first {looked.named(first)}"
    return Verdict("fails", says, looked.areas(wrong), looked.tiles(wrong))


def _all_true(looking: Looking, arguments: Arguments) -> Verdict:
    """Statements of which each has to hold; the first that does not is told."""
    found = [_true(looking, each) for each in arguments]
    wrong = next((each for each in found if each.state != "holds"), None)
    if wrong or len(found) == 1:
        return wrong or found[0]
    return Verdict("holds", f"all {len(found)} of these hold")


@_judges("ADDS.UP")
def _adds_up(looking: Looking, arguments: Arguments) -> Verdict:
    """A range adds up to a value, or to what another one adds up to."""
    parts = list(looking.all(arguments[0]))
    found = [each.numbers(needed=False)[0] for each in parts]
    wanted = [each.numbers(needed=False)[0] for each in looking.all(arguments[1])]
    if not sum(map(len, found)):
        raise CannotJudge("no number stands there to add up")
    if not sum(map(len, wanted)):
        raise CannotJudge(f"no number stands in {looking.said(arguments[1])}")
    total, goal = _sum(found), _sum(wanted)
    size = sum(float(np.abs(each).sum()) for each in [*found, *wanted])
    first = parts[0]
    says = f"comes to {first.told(total)}"
    numbers = first.drawn()
    few = [each for each in numbers if each is not None]
    wrong = (False,) * len(numbers)
    picture = Picture("sum", numbers, wrong, wanted=goal) if _sums(few, total) else None
    if abs(total - goal) <= tolerance(looking, arguments[2:], total, goal, size):
        return Verdict("holds", says, picture=picture)
    by = first.told(abs(total - goal))
    more = "too much" if total > goal else "too little"
    says = f"{says} instead of {first.told(goal)}, {by} {more}"
    areas = tuple(each for part in parts for each in part.areas(part.is_number))
    return Verdict("fails", says, areas, picture)


def _sums(few: list[float], total: float) -> bool:
    """Whether some numbers are all of a sum, and none is below 0, so that it can be drawn."""
    close = abs(sum(few) - total) <= 1e-6 * max(abs(total), 1e-300)
    return close and min(few, default=0) >= 0


def _sum(found: list[NDArray[np.float64]]) -> float:
    return float(sum(float(each.sum()) for each in found))


@_judges("AGREES")
def _agrees(looking: Looking, arguments: Arguments) -> Verdict:
    """Two ranges are equal, cell by cell."""
    one, other = looking.pair(arguments[0], arguments[1])
    wrong = is_apart(looking, one, other, arguments[2:])
    picture = Picture("pairs", one.drawn(), drawn_marks(wrong), other.drawn())
    if not wrong.any():
        if len(wrong) == 1:
            return Verdict("holds", f"both are {one.said(0)}", picture=picture)
        return Verdict("holds", f"all {len(wrong):,} pairs are equal", picture=picture)
    first = one.first(wrong)
    where = one.named(first)
    facing = f"{one.said(first)} against {other.said(first)}"
    by = furthest(one, other, wrong)
    areas = one.areas(wrong) or other.areas(wrong)
    if len(wrong) == 1:
        gap = f", {one.told(by)} apart" if by is not None else ""
        return Verdict("fails", f"{facing}{gap}", areas, picture)
    most = f", by {one.told(by)} at the most" if by is not None else ""
    count = int(wrong.sum())
    verb = "differs" if count == 1 else "differ"
    says = f"{count:,} of {len(wrong):,} {verb}{most}; first {where}: {facing}"
    return Verdict("fails", says, areas, picture)


@_judges("LIES.BETWEEN")
def _between(looking: Looking, arguments: Arguments) -> Verdict:
    """No number lies below a value, or above another one; a text lies nowhere."""
    looked = looking.one(arguments[0])
    low, high = looking.number(arguments[1]), looking.number(arguments[2])
    if low > high:
        raise CannotJudge("the smallest value that they may have is above the largest one")
    numbers, which = looked.numbers()
    wrong = looked.is_filled
    wrong[which] = apart(numbers, np.clip(numbers, low, high))
    picture = Picture("band", looked.drawn(), drawn_marks(wrong), low=low, high=high)
    if not wrong.any():
        ends = f"{looked.told(float(numbers.min()))} to {looked.told(float(numbers.max()))}"
        return Verdict("holds", f"they go from {ends}", picture=picture)
    first = looked.first(wrong)
    value = looked.cells.value(first)
    by = ""
    if isinstance(value, float):
        over = value - high if value > high else low - value
        by = f", {looked.told(over)} too {'much' if value > high else 'little'}"
    count, of = int(wrong.sum()), int(looked.is_filled.sum())
    says = (
        f"{count:,} of {of:,} {'lies' if count == 1 else 'lie'} outside;"
        f" first {looked.named(first)}: {looked.said(first)}{by}"
    )
    return Verdict("fails", says, looked.areas(wrong), picture)


@_judges("NEVER.FALLS")
def _never_falls(looking: Looking, arguments: Arguments) -> Verdict:
    return _ordered(looking, arguments, falls=True)


@_judges("NEVER.RISES")
def _never_rises(looking: Looking, arguments: Arguments) -> Verdict:
    return _ordered(looking, arguments, falls=False)


def _ordered(looking: Looking, arguments: Arguments, *, falls: bool) -> Verdict:
    """No number is smaller, or larger, than the one before it in its column, or in one row."""
    looked = looking.one(arguments[0])
    numbers, which = looked.numbers()
    texts = looked.is_filled & ~looked.is_number
    if texts.any():
        first = looked.first(texts)
        says = f"{looked.named(first)} holds {looked.said(first)}, which is no number"
        raise CannotJudge(says, *looked.areas(texts))
    height = looked.height
    line = which // height if height > 1 else np.zeros(len(which), np.intp)
    step = numbers[1:] - numbers[:-1]
    bad = (step < 0 if falls else step > 0) & (line[1:] == line[:-1])
    bad &= apart(numbers[1:], numbers[:-1])
    wrong = np.zeros(len(looked.cells), np.bool_)
    wrong[which[1:][bad]] = True
    picture = Picture("line", looked.drawn(), drawn_marks(wrong))
    if not wrong.any():
        return Verdict("holds", f"{many(len(numbers), 'number')} in order", picture=picture)
    first = looked.first(wrong)
    before = which[int(np.searchsorted(which, first)) - 1]
    verb = "falls" if falls else "rises"
    count = int(wrong.sum())
    times = "once" if count == 1 else f"{count:,} times"
    says = (
        f"{verb} {times}; first in {looked.named(first)}: {looked.said(first)}"
        f" after {looked.said(int(before))}"
    )
    return Verdict("fails", says, looked.areas(wrong), picture)


@_judges("NONE.TWICE")
def _none_twice(looking: Looking, arguments: Arguments) -> Verdict:
    """No two cells hold the same; case does not count, and what is empty neither."""
    looked = looking.one(arguments[0])
    looked.without_errors()
    filled = np.flatnonzero(looked.is_filled)
    if not len(filled):
        raise CannotJudge("nothing stands there")
    keys = np.stack([looked.cells.kinds[filled].astype(np.float64), _alike(looked.cells)[filled]])
    _, begins, entry = np.unique(keys, axis=1, return_index=True, return_inverse=True)
    earliest = filled[begins][entry.ravel()]
    wrong = np.zeros(len(looked.cells), np.bool_)
    wrong[filled] = earliest != filled
    picture = looked.tiles(wrong)
    if not wrong.any():
        return Verdict("holds", f"{len(filled):,} different", picture=picture)
    twins = dict(zip(filled.tolist(), earliest.tolist(), strict=True))
    first, count = looked.first(wrong), int(wrong.sum())
    says = (
        f"{many(count, 'cell')} {'holds' if count == 1 else 'hold'} what stands"
        f" there before; first {looked.named(first)}: {looked.said(first)},"
        f" as in {looked.named(twins[first])}"
    )
    return Verdict("fails", says, looked.areas(wrong), picture)


def _alike(cells: Cells) -> NDArray[np.float64]:
    """A number for each value, the same for those that are alike; case does not count."""
    texts = cells.kinds == Kind.TEXT
    if not texts.any():
        return cells.payload
    objects = cells.pool.objects
    seen: dict[str, int] = {}
    used = np.unique(cells.payload[texts].astype(np.intp))
    numbers = np.zeros(int(used[-1]) + 1)
    numbers[used] = [seen.setdefault(objects[at].casefold(), at) for at in used.tolist()]
    found = cells.payload.copy()
    found[texts] = numbers[found[texts].astype(np.intp)]
    return found


@_judges("NO.ERROR")
def _no_error(looking: Looking, arguments: Arguments) -> Verdict:
    """No cell shows an error."""
    looked = looking.one(arguments[0])
    wrong = looked.cells.kinds == Kind.ERROR
    if not wrong.any():
        says = f"no error in {many(len(wrong), 'cell')}"
        return Verdict("holds", says, picture=looked.tiles(wrong))
    first = looked.first(wrong)
    error = looked.cells.value(first)
    assert isinstance(error, Error)
    says = f"{many(int(wrong.sum()), 'error')}; first {looked.named(first)}: {error.code}"
    return Verdict("fails", says, looked.areas(wrong), looked.tiles(wrong))


@_judges("NO.GAP")
def _no_gap(looking: Looking, arguments: Arguments) -> Verdict:
    """No cell is empty."""
    looked = looking.one(arguments[0])
    wrong = ~looked.is_filled
    picture = looked.tiles(wrong)
    if not wrong.any():
        return Verdict("holds", f"all {len(wrong):,} are filled", picture=picture)
    count = int(wrong.sum())
    says = f"{many(count, 'cell')} {'is' if count == 1 else 'are'} empty"
    return Verdict(
        "fails", f"{says}; first {looked.named(looked.first(wrong))}", looked.areas(wrong), picture
    )
