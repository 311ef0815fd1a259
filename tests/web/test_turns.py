"""No request holds up another one, or itself for ever; and none is refused without words."""

import errno
import os
import re
import threading
import time
from urllib.parse import urlencode

import pytest
from web_page import Page

from dreieck.core.budget import WorkEnded
from dreieck.core.calculate import calculation
from dreieck.core.exceptions import SheetError
from dreieck.store import lock
from dreieck.web import bodies, turns
from dreieck.web.bodies import Arrivals
from dreieck.web.turns import Lanes, RequestBudget

HEAVY = "=DSUM(J20:ZZ1000000,1,J20:ZZ1000000)"


@pytest.fixture
def no_time(monkeypatch):
    """There is next to no time for any request."""
    monkeypatch.setattr(turns, "LONGEST", 0.8)
    monkeypatch.setattr(turns, "DRAWING", 0.1)
    monkeypatch.setattr(turns, "PATIENT", 0.1)


def test_what_takes_too_long_ends_in_words(client, no_time):
    asked = {"sheets": {"S": {"A1": HEAVY}}}
    for name in ("evaluate", "check"):
        answer = client.post(f"/api/v1/{name}", json=asked)
        assert answer.status_code == 503 and "longer than" in answer.json()["error"]


def test_a_page_shows_what_is_known_and_asks_for_the_rest(page, no_time, monkeypatch):
    monkeypatch.setattr(calculation, "MAX_IN_VAIN", 0.25)
    page.enter("H5", "=1+1").enter("H6", HEAVY)
    assert page.scene["unfinished"] and page.shown("H5", "H6") == ["2", "…"]
    for _ in range(40):
        if page.scene["unfinished"]:
            page.act("show", patient=True)
    assert not page.scene["unfinished"] and page.shown("H5", "H6") == ["2", "#WORK!"]
    page.select("H6")
    assert "would take too long" in page.text
    assert page.act("undo").shown("H6") == [None]


def test_side_pages_are_drawn_with_what_is_known(client, page, no_time, monkeypatch):
    monkeypatch.setattr(calculation, "MAX_IN_VAIN", 100)
    page.enter("H6", HEAVY)
    for path in ("map", "log?cell=H6"):
        answer = client.get(f"/workbooks/1/sheets/2/{path}")
        assert answer.status_code == 200 and "still being worked out" in answer.text
    assert client.get("/workbooks/1/sheets/2/four-ways?cell=H6").status_code == 200
    own = {"C3": HEAVY, "cell": "C3", "to": "C3:C5"}
    assert client.post("/four-ways", data=own).status_code == 200


def test_work_ends_for_a_client_that_has_gone_and_when_the_time_is_up():
    budget = RequestBudget(Lanes(1))
    budget.watch()
    budget.gone = True
    with pytest.raises(WorkEnded) as ended:
        budget.watch()
    assert not ended.value.by_clock
    late = RequestBudget(Lanes(1))
    late.ends = 0.0
    with pytest.raises(WorkEnded) as ended:
        late.watch()
    assert ended.value.by_clock


def test_long_work_waits_for_a_lane_and_leaves_it():
    lanes = Lanes(1)
    one, other = RequestBudget(lanes), RequestBudget(lanes)
    for budget in (one, other):
        budget._begun -= 1
    one.watch()
    waits = threading.Thread(target=other.watch)
    waits.start()
    time.sleep(0.2)
    assert waits.is_alive()
    one.leave()
    waits.join(timeout=10)
    assert not waits.is_alive()
    other.leave()
    assert lanes.free.acquire(blocking=False)


def test_two_workbooks_paste_from_each_other_at_once(client):
    client.post("/workbooks", data={"name": "Other"})
    library = client.app.state.library
    sheets = {id: library.open(id).workbook.sheets[0].id for id in (1, 2)}
    pages = [Page(client, id, sheets[id]) for id in (1, 2)]
    pages[1].enter("A1", "7")
    both = threading.Barrier(2)

    def paste(page, source):
        for _ in range(5):
            both.wait()
            page.select("J1").act(
                "paste", clip_workbook=source, clip_sheet=sheets[source], clip_area="A1:A3"
            )

    jobs = [threading.Thread(target=paste, args=(pages[n], 2 - n), daemon=True) for n in (0, 1)]
    for job in jobs:
        job.start()
    for job in jobs:
        job.join(timeout=60)
    assert not any(job.is_alive() for job in jobs)
    assert pages[0].shown("J1") == ["7"] and "Pasted" in pages[0].notice


def test_a_workbook_in_other_hands_is_told(client, page, monkeypatch):
    monkeypatch.setattr(lock, "WAIT", 0.05)
    held, free = threading.Event(), threading.Event()

    def hold():
        with client.app.state.library.open(1).lock:
            held.set()
            free.wait()

    other = threading.Thread(target=hold)
    other.start()
    held.wait()
    answer = client.post("/workbooks/1/act/show", data=page.state)
    assert answer.status_code == 503 and "busy with other work" in answer.text
    free.set()
    other.join()
    assert page.act("show").scene["revision"] == 1


def test_bodies_are_bounded_by_what_they_are_for(client, page, tells):
    long = "\n".join("x" * 5000 for _ in range(500))
    assert len(urlencode({"pasted": long})) > turns.MAX_BODY
    page.select("J1").act("paste", pasted=long)
    assert page.notice.startswith("Pasted into J1:J500")
    for path, size in (("show", turns.MAX_BODY), ("paste", turns.MAX_PASTE)):
        answer = client.post(f"/workbooks/1/act/{path}", data={"text": "x" * size})
        assert answer.status_code == 413 and "bytes" in answer.text
    page.act("paste", pasted='"' + "x" * 200_000)
    tells(page.notice)


def test_an_entry_that_is_written_follows_what_others_do(page, second_page):
    page.write("G6", "=C5*Prices!$B$3+$C$4")
    second_page.act("insert-lines", anchor="A5", focus="A5", axis="row")
    page.act("show")
    assert page.state["writing"] == "G7" and page.scene["text"] == "=C6*Prices!$B$3+$C$4"
    assert page.state["caret"] <= len(page.scene["text"]) and page.notice == ""
    second_page.enter("G7", "12")
    page.act("show")
    assert page.notice.startswith("G7 was changed elsewhere while you write into it: it holds 12")
    page.act("enter")
    assert page.notice == "" and page.shown("G7")[0] not in (None, "12")


def test_what_is_copied_selected_and_rehearsed_follows_too(page, second_page, tells):
    page.select("D6", "E7").act("show", copied="2 C5:D6", also="A1:A2")
    copied_at = page.scene["revision"]
    second_page.act("insert-lines", anchor="B1", focus="B1", axis="column")
    page.act("show")
    state = page.state
    assert (state["anchor"], state["focus"], state["also"]) == ("E6", "F7", "A1:A2")
    assert state["copied"] == "2 D5:E6"
    page.select("J5").act(
        "paste", clip_workbook=1, clip_sheet=2, clip_area="C5", clip_revision=copied_at
    )
    assert page.scene["text"] == "=$C5*J$4"
    second_page.act("show")
    second_page.act("delete-lines", anchor="D1", focus="D1", axis="column")
    page.act("paste", clip_workbook=1, clip_sheet=2, clip_area="C5", clip_revision=copied_at)
    page.act("paste", clip_workbook=1, clip_sheet=2, clip_area="C5", clip_revision=copied_at)
    tells(page.notice)


def test_a_row_deleted_under_the_hands_is_told_and_nothing_typed_is_lost(page, second_page, tells):
    page.write("G6", "12")
    second_page.act("delete-lines", anchor="A6", focus="A6", axis="row")
    page.act("show")
    tells(page.notice)
    assert page.state["text"] == "12"


def test_older_side_pages_are_brought_up_to_date_before_their_edit(client, page):
    old = {"revision": page.scene["revision"]}
    page.enter("C4", "500")
    names = client.post(
        "/workbooks/1/names/give", data={**old, "name": "nights", "says": "Loads!$C$4"}
    ).text
    assert "changed elsewhere" in names and 'value="nights"' in names
    page.act("show")
    fresh = {"revision": page.scene["revision"]}
    give = {**fresh, "name": "nights", "says": "Loads!$C$4"}
    assert "stands for" in client.post("/workbooks/1/names/give", data=give).text
    renamed = client.post("/workbooks/1/names/nights/rename", data={**fresh, "to": "stays"}).text
    assert "changed elsewhere" in renamed and "What was typed: stays" in renamed
    way = {**fresh, "cell": "C5", "to": "C5:F10", "formula": "=$B$5*C$4"}
    ways = client.post("/workbooks/1/sheets/2/four-ways", data=way)
    assert "changed elsewhere" in ways.text and "Take this one" in ways.text
    lift = {**fresh, "chosen": "0.1 2 C5:F10", "sheet": "2", "cell": "B14", "make": "yes"}
    assert client.post("/workbooks/1/lift", data=lift).status_code == 200
    assert page.act("show").shown("C5", "B14") == ["60.0", None]


def test_of_one_who_asks_few_large_bodies_come_at_once():
    class Ada:
        id = 1

    arrivals = Arrivals()
    scope = {"type": "http", "headers": [], "client": ("192.0.2.1", 1)}
    begun = [arrivals.begin(scope, 2_000_000) for _ in range(bodies.OF_ONE)]
    with pytest.raises(bodies.TooManyError):
        arrivals.begin(scope, 2_000_000)
    arrivals.begin(scope, 900_000).close()
    others = [
        arrivals.begin(scope | {"state": {"person": Ada}}, 2_000_000),
        arrivals.begin(scope | {"client": ("192.0.2.2", 1)}, 2_000_000),
    ]
    begun.pop().close()
    begun.append(arrivals.begin(scope, 2_000_000))
    for number in range(bodies.OF_ALL - len(begun) - len(others)):
        begun.append(arrivals.begin(scope | {"client": (f"host {number}", 1)}, 2_000_000))
    with pytest.raises(bodies.TooManyError):
        arrivals.begin(scope | {"client": ("one more", 1)}, 2_000_000)


def test_a_page_that_cannot_be_drawn_offers_to_take_back(client, page, monkeypatch):
    page.enter("H5", "7")

    def fails(*_, **__):
        raise SheetError("It cannot be drawn.")

    with monkeypatch.context() as broken:
        broken.setattr("dreieck.web.workbench.routes.scene", fails)
        asked = client.post(
            "/workbooks/1/act/show", data=page.state, headers={"HX-Request": "true"}
        )
        assert asked.status_code == 422 and "It cannot be drawn." in asked.text
        back = re.search(r'class="way-back" href="([^"]+)"', asked.text)[1]
        shown = client.get(back).text
        assert "entry in H5" in shown
        revision = re.search(r'name="revision" value="(\d+)"', shown)[1]
        stale = client.post(back, data={"revision": 0}, follow_redirects=False)
        assert stale.headers["location"] == back
        taken = client.post(back, data={"revision": revision}, follow_redirects=False)
        assert taken.headers["location"] == "/workbooks/1"
        assert "Nothing was done" in client.get(back).text
    assert page.act("show").shown("H5") == [None]


def no_room(*_, **__):
    raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))


@pytest.mark.logs_a_fault
def test_where_there_is_no_room_for_a_while_it_is_told(client, monkeypatch):
    """The disk for what is held for a moment may be full, too."""
    with monkeypatch.context() as full:
        full.setattr(bodies.SpooledTemporaryFile, "write", no_room)
        answer = client.post("/workbooks", data={"name": "Plans"})
        assert answer.status_code == 503 and "cannot be held here: No space left" in answer.text
    monkeypatch.setattr("openpyxl.worksheet._writer.create_temporary_file", no_room)
    answer = client.get("/workbooks/1/files/xlsx")
    assert answer.status_code == 422 and "cannot be made here: No space left" in answer.text
