"""What is sent again is done once, and who edits another cell is not refused."""

import threading

import pytest
from effort import every
from fastapi.testclient import TestClient
from web_page import Page

from dreieck.web.app import create_app
from dreieck.web.settings import Settings

PAGE = "0l1x8k2abcdef012345"


def piece(number, page=PAGE):
    return {"piece": f"{page}.{number}"}


def back(page):
    """How many changes can be taken back."""
    count = 0
    while "Taken back" in page.act("undo").notice:
        count += 1
    return count


def test_the_same_piece_twice_is_done_once_and_answered_alike(page):
    rows = {"anchor": "A5", "focus": "A5", "axis": "row"}
    before = dict(page.state)
    first = page.act("insert-lines", **rows, **piece(1)).answer
    page.state = before
    assert page.act("insert-lines", **rows, **piece(1)).answer == first
    page.state = before
    other = page.act("insert-lines", **rows, **piece(1), picture=99)
    assert other.shown("A6") == ["Flour"]
    assert back(page) == 1


def test_it_is_known_after_a_restart_what_was_done(demo_data):
    settings = Settings(data=demo_data, demo=True, hosts=["testserver"])
    with TestClient(create_app(settings)) as client:
        page = Page(client)
        page.enter("G5", "7", **piece(1))
        before = dict(page.state)
        page.enter("G6", "8", **piece(2))
    with TestClient(create_app(settings)) as client:
        again = Page(client)
        again.state = before
        again.enter("G6", "8", **piece(2))
        again.state = dict(before)
        # What the page itself did since its revision is no change of others.
        again.enter("G7", "=G5+G6", **piece(3))
        assert again.shown("G5", "G6", "G7") == ["7", "8", "15"]
        assert back(Page(client)) == 3


def test_an_entry_into_another_cell_than_the_one_that_changed_is_taken(client):
    mine, theirs = Page(client), Page(client)
    theirs.enter("G5", "1")
    mine.enter("G6", "2")
    theirs.act("clear", anchor="H1", focus="H9")
    assert (mine.notice, mine.shown("G5", "G6")) == ("", ["1", "2"])


@pytest.mark.parametrize(
    ("theirs", "mine", "told"),
    [
        ("G6", "2", "G6 was changed elsewhere while you write into it: it holds 1 now."),
        ("C4", "=B6*C4", "C4, which this reads, was changed elsewhere"),
        ("D9", "=SUM(C5:F10)", "C5:F10, which this reads, was changed elsewhere"),
    ],
)
def test_what_touches_the_entry_is_told_first_and_it_is_taken_then(client, theirs, mine, told):
    page, other = Page(client), Page(client)
    other.enter(theirs, "1")
    page.enter("G6", mine)
    assert page.notice.startswith(told) and page.scene["refused"]
    assert page.state["text"] == mine
    page.enter("G6", mine)
    assert page.notice == "" and page.state["text"] is None


def test_a_fill_over_a_cell_that_changed_is_told_first(client):
    page, other = Page(client), Page(client)
    page.write("G5", "=C5").act("rehearse", to="G5:G9")
    other.enter("G7", "1")
    page.act("land")
    assert page.notice.startswith("G7 was changed elsewhere while this fill of G5:G9")
    assert page.act("land").shown("G7") == ["126"]


def test_taking_back_is_for_who_has_seen_what_was_done(client):
    page, other = Page(client), Page(client)
    other.enter("G5", "1")
    assert page.act("undo").notice.startswith("This workbook was changed elsewhere")
    assert page.act("undo").notice.startswith("Taken back: entry in G5")


CLIENTS = every(6, 30)


def test_many_at_once_lose_nothing(client):
    pages = [Page(client) for _ in range(CLIENTS)]

    def work(number):
        for count in range(10):
            cell = f"{'HIJKLMNOPQ'[count]}{20 + number}"
            pages[number].enter(cell, f"{number}.{count}", **piece(count + 1, f"{PAGE}{number}"))
            assert pages[number].notice == ""

    threads = [threading.Thread(target=work, args=(number,)) for number in range(CLIENTS)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    page = pages[0].act("show", top=20, left=8, height=1000, width=2000)
    assert len([cell for cell in page.scene["cells"] if cell["column"] >= 8]) == 10 * CLIENTS
