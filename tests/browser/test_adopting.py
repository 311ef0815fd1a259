"""What a page takes of an answer that comes when the hands have gone on: the rules alone.

The module touches no page, so it is asked as it stands, with made-up answers.
"""

import pytest

SENT = {"sheet": 2, "home": 0, "anchor": "C5", "focus": "C5", "inner": "", "also": "",
        "left": 1, "top": 1, "writing": "", "text": None, "flipped": False, "fresh": False,
        "source": "", "target": "", "landing": "", "values": "", "step": ""}  # fmt: skip
WRITING = {**SENT, "writing": "C5", "text": "=B5"}
LED = {**SENT, "sheet": 3, "anchor": "A9", "focus": "A9", "top": 4}
REHEARSED = {**SENT, "writing": "C5", "text": "=$B5", "source": "C5", "target": "C5:C9"}
FILL = {key: REHEARSED[key] for key in ("source", "target", "landing", "values", "step")}
PLACE = {key: LED[key] for key in ("sheet", "home", "anchor", "focus", "inner", "left", "top")}


def case(*, does=(), sent=SENT, now=SENT, led=LED, insists=False, **times):
    """Asked at time 3, sent at 3; ``times`` are what the hands did when, ``now`` among them."""
    return {
        "request": {"asked": 3, "sent": 3},
        "does": {effect: effect in does for effect in ("moves", "rehearses", "rewrites")},
        "sent": sent,
        "now": now,
        "times": {"now": 3, "begun": 0, "selected": 0, "ended": 0, **times},
        "answer": {"insists": insists, "state": led},
    }


def went_on(**given):
    """The same, and the hands have gone on since."""
    when = {key: given.pop(key) for key in ("begun", "selected", "ended") if key in given}
    made = case(**given)
    made["times"] |= {"now": 5, **when}
    return made


def waited(**given):
    """The same, but asked before something else that the hands did before it was sent."""
    made = case(**given)
    made["request"]["sent"] = made["times"]["now"] = 4
    return made


CHOSEN = {**SENT, "anchor": "G10", "focus": "G10"}


CASES = {
    "a move that waited, and another cell was chosen meanwhile: it stays chosen": (
        waited(does=["moves"], selected=4, sent=CHOSEN, now=CHOSEN),
        {"whole": True, "changes": {**LED, "anchor": "G10", "focus": "G10"}},
    ),
    "a move that waited, and was chosen before: all is taken": (
        waited(does=["moves"], selected=3), {"whole": True, "changes": LED},
    ),
    "nothing happened since: all is taken": (case(), {"whole": True, "changes": LED}),
    "the hands went on: nothing is taken": (went_on(), {"changes": {}, "lost": False}),
    "the server insists: all is taken": (
        went_on(insists=True), {"whole": True, "changes": LED},
    ),
    "the server insists, but something is written by now: what was sent is told": (
        went_on(insists=True, sent=WRITING, now={**WRITING, "text": "=B52"}),
        {"changes": {}, "lost": True},
    ),
    "a move, and nothing is written: its place is taken": (
        went_on(does=["moves"]), {"changes": PLACE},
    ),
    "a move, but another cell was chosen since: its sheet is taken": (
        went_on(does=["moves"], selected=4), {"changes": {"sheet": 3, "home": 0}},
    ),
    "a move, and an entry was begun since: it goes into the cell of the move": (
        went_on(does=["moves"], begun=4, now={**WRITING, "fresh": True}),
        {"changes": {**PLACE, "writing": "A9", "over": ""}},
    ),
    "a move, and an entry begun before goes on: it stays where it is": (
        went_on(does=["moves"], begun=2, now={**WRITING, "fresh": True}),
        {"changes": {}, "lost": False},
    ),
    "a move, and an entry was begun at once: not even then all is taken": (
        case(does=["moves"], begun=4, now={**WRITING, "fresh": True}),
        {"changes": {**PLACE, "writing": "A9", "over": ""}},
    ),
    "a rehearsal began while nothing more was typed: its formula is taken too": (
        went_on(does=["rehearses"], sent=WRITING, now=WRITING, led=REHEARSED),
        {"changes": {**FILL, "text": "=$B5", "writing": "C5", "flipped": False}},
    ),
    "a rehearsal began while more was typed: that stays": (
        went_on(does=["rehearses"], sent=WRITING, now={**WRITING, "text": "=B52"}, led=REHEARSED),
        {"changes": FILL},
    ),
    "a rehearsal was dropped since: it does not come back": (
        went_on(does=["rehearses"], ended=4, sent=WRITING, now=WRITING, led=REHEARSED),
        {"changes": {}, "lost": False},
    ),
}  # fmt: skip


@pytest.fixture(scope="module")
def adoption(chromium, shared_server):
    page = chromium.new_page(base_url=shared_server.address)
    page.goto("/guide")
    yield lambda given: page.evaluate(
        "async given => (await import('/static/js/adopting.js')).adoption(given)", given
    )
    page.close()


@pytest.mark.parametrize("name", CASES)
def test_a_late_answer_is_taken_as_far_as_it_fits(adoption, name):
    given, expected = CASES[name]
    assert adoption(given) == expected
