"""Several people on one server: each sees and changes their own, and nothing else."""

import re
import sqlite3
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from html import unescape

import pytest
from fastapi.testclient import TestClient

from dreieck.web.app import create_app
from dreieck.web.settings import Settings
from dreieck.web.signed_in import COOKIE
from dreieck.web.workbench.actions import ACTIONS

SECRET = "Beacon plans"
WORDS = "four odd words of {}"


@pytest.fixture
def path(demo_data):
    return demo_data


@pytest.fixture
def app(path, quick_passphrases, monkeypatch):
    # However slow the machine is, no try comes after its pause.
    monkeypatch.setattr("dreieck.web.gate._FIRST_PAUSE", 50.0)
    return create_app(Settings(data=path, demo=True, hosts=["testserver"], people=True))


@pytest.fixture
def come_in(app):
    """Sign somebody up, with a browser of their own."""
    opened = []

    def signed_up(name):
        client = TestClient(app, raise_server_exceptions=False)
        client.headers["accept"] = "text/html"
        opened.append(client)
        answer = client.post("/sign-up", data={"name": name, "passphrase": WORDS.format(name)})
        assert answer.status_code == 200
        return client

    with TestClient(app):
        yield signed_up
    for client in opened:
        client.close()


def text_of(answer):
    return re.sub(r"\s+", " ", unescape(re.sub(r"<[^>]+>", " ", answer.text))).strip()


class Things:
    """Something of each kind that belongs to one person."""

    def __init__(self, ada):
        led = ada.post("/workbooks", data={"name": SECRET}, follow_redirects=False)
        self.workbook = int(led.headers["location"].rpartition("/")[2])
        shown = ada.get(f"/workbooks/{self.workbook}")
        self.sheet = int(re.search(r"/sheets/(\d+)", str(shown.url))[1])
        form = {"anchor": "A1", "focus": "A1", "writing": "A1", "text": "Ada's own",
                "sheet": self.sheet, "revision": 0}  # fmt: skip
        assert ada.post(f"/workbooks/{self.workbook}/act/enter", data=form).status_code == 200
        begun = ada.post(
            "/practice/sets", data={"title": SECRET, "drills": "lock-1-1,find-1-0"},
            follow_redirects=False,
        )  # fmt: skip
        self.taking = int(begun.headers["location"].split("/")[3])
        made = ada.post("/groups", data={"title": SECRET}, follow_redirects=False)
        self.group = int(made.headers["location"].rpartition("/")[2])
        ada.post(f"/groups/{self.group}/hand-out", data={"title": SECRET, "drills": "lock-1-1"})
        shown = ada.get(f"/groups/{self.group}").text
        self.handout = int(re.search(r"/handouts/(\d+)", shown)[1])
        self.code = re.search(r'join-code">(\w+)', shown)[1]
        file = {"file": ("plan.csv", b"1,2\n3,4\n")}
        held = ada.post("/files", files=file).text
        self.token = re.search(r"/files/([\w-]+)/", held)[1]


def every_route(app):
    """All addresses of the application, with their methods."""
    for included in app.routes:
        router = getattr(included, "original_router", None)
        for route in router.routes if router else [included]:
            for method in sorted((getattr(route, "methods", None) or set()) - {"HEAD"}):
                yield method, route.path


def filled(path, things):
    """An address with the numbers of somebody's own things in it."""
    known = {
        "workbook_id": things.workbook, "sheet_id": things.sheet, "taking_id": things.taking,
        "group_id": things.group, "handout_id": things.handout, "token": things.token,
        "member": 1, "place": 1, "number": 1, "format": "json", "name": "json", "code": "lock-1-1",
    }  # fmt: skip
    return re.sub(r"\{(\w+)(:\w+)?\}", lambda part: str(known.get(part[1], 1)), path)


OWNED = ("{workbook_id}", "{taking_id}", "{group_id}", "{handout_id}", "/files/{token}")


def dump(path):
    """All that the data file holds of the first person, and of nobody."""
    with closing(sqlite3.connect(path)) as data, data:
        return [line for line in data.iterdump() if "lock-2-" not in line]


def test_no_address_shows_or_changes_what_belongs_to_another(app, come_in, path):
    things = Things(come_in("Ada"))
    ben = come_in("Ben")
    before = dump(path)
    paths = list(every_route(app))
    assert len(paths) > 100
    asked = 0
    for method, route in paths:
        if "{workbook_id}/act/{action}" in route:
            addresses = [route.replace("{action}", action) for action in ACTIONS]
        else:
            addresses = [route]
        for address in addresses:
            if not any(part in address for part in OWNED):
                continue
            asked += 1
            form = {"sheet": things.sheet, "revision": 1, "text": "Ben was here", "writing": "A1",
                    "anchor": "A1", "focus": "A1", "name": "Ben's", "may": "copy"}  # fmt: skip
            sent = {"data": form} if method == "POST" else {}
            answer = ben.request(method, filled(address, things), **sent)
            is_refused = answer.status_code in (403, 404, 422)
            # For whoever it is not theirs, it is not there.
            assert is_refused or re.search("been deleted|was stopped", answer.text), address
            assert SECRET not in answer.text, address
            assert "Ada" not in answer.text, address
    assert asked > 150
    assert dump(path) == before


def test_what_is_everybodys_shows_nothing_of_others(app, come_in):
    things = Things(come_in("Ada"))
    ben = come_in("Ben")
    for method, route in every_route(app):
        if method == "GET" and not any(part in route for part in OWNED):
            answer = ben.get(filled(route, things) + f"?of={things.workbook}")
            assert SECRET not in answer.text, route
            assert answer.status_code < 500, route


def test_numbers_that_are_too_large_lead_nowhere(app, come_in):
    ada = come_in("Ada")
    for method, route in every_route(app):
        if any(part in route for part in ("{group_id}", "{handout_id}", "{taking_id}")):
            address = re.sub(r"\{\w+\}", "9" * 25, route)
            assert ada.request(method, address).status_code in (404, 422), route


def test_who_is_not_signed_in_is_asked_to(app, come_in):
    things = Things(come_in("Ada"))
    stranger = TestClient(app, headers={"accept": "text/html"})
    for method, route in every_route(app):
        address = filled(route, things)
        if re.fullmatch(r"/(sign-in|sign-up|key.*|static.*|healthz)", address):
            continue
        answer = stranger.request(method, address, follow_redirects=False)
        assert answer.status_code == (303 if method == "GET" else 401)
        if method == "GET":
            assert answer.headers["location"].startswith("/sign-in?to=/")
    assert stranger.get("/api/v1/openapi.json", headers={"accept": "*/*"}).status_code == 401
    shown = stranger.get(f"/workbooks/{things.workbook}")
    assert SECRET not in shown.text
    assert "Sign in" in shown.text


def test_forms_do_not_lead_to_what_is_anothers(come_in):
    things = Things(come_in("Ada"))
    ben = come_in("Ben")
    own = int(ben.post("/workbooks", data={"name": "Mine"}).url.path.split("/")[2])
    sheet = int(re.search(r"/sheets/(\d+)", str(ben.get(f"/workbooks/{own}").url))[1])
    paste = {"sheet": sheet, "revision": 0, "anchor": "B2", "focus": "B2", "text": "plain",
             "clip_workbook": things.workbook, "clip_sheet": things.sheet, "clip_area": "A1",
             "clip_revision": 1, "how": "all"}  # fmt: skip
    answer = ben.post(f"/workbooks/{own}/act/paste", data=paste)
    assert "Ada's own" not in answer.text
    led = ben.post("/groups", data={"title": "Bens"}, follow_redirects=False).headers["location"]
    refused = ben.post(f"{led}/hand-out", data={"workbook": things.workbook})
    assert refused.status_code == 404
    assert SECRET not in ben.get(led).text


def test_the_first_one_takes_over_what_was_there(come_in):
    ada, ben = come_in("Ada"), come_in("Ben")
    assert "Hut supplies" in ada.get("/").text
    assert "Hut supplies" not in text_of(ben.get("/")).replace("The demo, Hut supplies", "")
    # Each starts a demo of their own, and no other one ends.
    ben.post("/demo")
    assert ada.get("/workbooks/1").status_code == 200
    assert ada.get("/data-file").status_code == 403


@pytest.mark.parametrize(
    ("name", "passphrase", "says"),
    [
        ("", "four odd words", "A name has 1 to 40 characters"),
        ("x" * 41, "four odd words", "A name has 1 to 40 characters"),
        ("Cleo", "short", "A passphrase has 10 to 200 characters"),
        ("Cleo", "aaaaaaaaaaaaa", "guessed too easily"),
        ("Cleopatra the Old", "cleopatra the old", "guessed too easily"),
    ],
)
def test_a_name_or_passphrase_that_will_not_do_is_told(come_in, app, name, passphrase, says):
    come_in("Ada")
    client = TestClient(app)
    answer = client.post("/sign-up", data={"name": name, "passphrase": passphrase})
    assert answer.status_code == 422
    assert says in text_of(answer)


def test_one_signs_in_and_out(app, come_in):
    come_in("Ada")
    client = TestClient(app, headers={"accept": "text/html"})
    form = {"name": " ada", "passphrase": WORDS.format("Ada"), "to": "/practice?of=1"}
    answer = client.post("/sign-in", data=form, follow_redirects=False)
    assert (answer.status_code, answer.headers["location"]) == (303, "/practice?of=1")
    assert "httponly" in answer.headers["set-cookie"].lower()
    assert client.get("/account").status_code == 200
    kept = client.cookies[COOKIE]
    client.post("/sign-out")
    assert "Sign in" in text_of(client.get("/account"))
    # What the browser kept is worth nothing any more, whoever has it.
    thief = TestClient(app, cookies={COOKIE: kept}, headers={"accept": "text/html"})
    assert thief.get("/account", follow_redirects=False).status_code == 303
    for elsewhere in ("//other.example", "https://other.example", "/\\other", "nowhere"):
        answer = client.post("/sign-in", data={**form, "to": elsewhere}, follow_redirects=False)
        assert answer.headers["location"] == "/"


def test_wrong_tries_are_slowed_and_tell_nothing(app, come_in):
    come_in("Ada")
    client = TestClient(app)
    told = set()
    for name in ("Ada", "Nobody"):
        for _ in range(3):
            answer = client.post("/sign-in", data={"name": name, "passphrase": "not the words"})
            assert answer.status_code == 401
            told.add(re.sub(name, "", text_of(answer)))
        # Even who knows the words has to wait now.
        right = {"name": name, "passphrase": WORDS.format("Ada")}
        slowed = client.post("/sign-in", data=right)
        assert slowed.status_code == 429
        assert "Wait" in text_of(slowed)
    assert len(told) == 1
    # Others are not held up by that.
    other = client.post("/sign-in", data={"name": "Ben", "passphrase": "not the words"})
    assert other.status_code == 401


def test_many_tries_at_once_are_no_way_round(app, come_in):
    come_in("Ada")
    with ThreadPoolExecutor(20) as pool:
        tried = {"name": "Ada", "passphrase": "not the words"}
        answers = pool.map(lambda _: TestClient(app).post("/sign-in", data=tried), range(20))
        assert sorted(each.status_code for each in answers) == [401] * 3 + [429] * 17


def test_a_right_try_of_ones_own_frees_nobody_elses(app, come_in):
    come_in("Ada")
    own = {"name": "Ben", "passphrase": WORDS.format("Ben")}
    come_in("Ben")
    client = TestClient(app)
    for number in range(40):
        client.post("/sign-in", data={"name": f"nobody {number}", "passphrase": "not the words"})
        if number % 10 == 0:
            assert client.post("/sign-in", data=own, follow_redirects=False).status_code == 303
    last = client.post("/sign-in", data={"name": "nobody 99", "passphrase": "not the words"})
    assert last.status_code == 429


def test_wrong_tries_of_strangers_keep_nobody_out(app, come_in):
    ada = come_in("Ada")
    ada.post("/sign-out")
    stranger = TestClient(app)
    for _ in range(9):
        stranger.post("/sign-in", data={"name": "Ada", "passphrase": "not the words"})
    right = {"name": "Ada", "passphrase": WORDS.format("Ada")}
    assert stranger.post("/sign-in", data=right).status_code == 429
    assert ada.post("/sign-in", data=right, follow_redirects=False).status_code == 303
    # A browser that is known is not free to guess, nor is it known for anybody else.
    guesses = [ada.post("/sign-in", data={**right, "passphrase": "no"}) for _ in range(4)]
    assert [each.status_code for each in guesses] == [401, 401, 401, 429]
    assert TestClient(app).post("/sign-in", data=right).status_code == 429


def test_signing_up_tells_no_more_than_signing_in(app, come_in):
    come_in("Ada")
    for name in ("Ada", "\u0410da"):
        client = TestClient(app)
        tried = {"name": name, "passphrase": "not the words"}
        up, at = (client.post(path, data=tried) for path in ("/sign-up", "/sign-in"))
        assert (up.status_code, up.text) == (at.status_code, at.text)
        assert "do not belong together" in text_of(up)
    # Who did sign up before, and does it once more, is in.
    right = {"name": "Ada", "passphrase": WORDS.format("Ada")}
    assert client.post("/sign-up", data=right, follow_redirects=False).status_code == 303


def test_an_account_goes_with_all_that_is_in_it(app, come_in, path):
    come_in("Zoe")
    things = Things(ada := come_in("Ada"))
    ben = come_in("Ben")
    ben.post("/groups/join", data={"code": things.code})
    shown = text_of(ada.get("/account"))
    assert "1 workbook, 0 answers of practice and 1 group that you lead" in shown
    wrong = ada.post("/account/delete", data={"passphrase": "not the words"})
    assert (wrong.status_code, "passphrase is not right" in wrong.text) == (422, True)
    kept = ada.cookies[COOKIE]
    gone = ada.post("/account/delete", data={"passphrase": WORDS.format("Ada")})
    assert "is deleted, with all that was in it" in text_of(gone)
    for cookies in ({}, {COOKIE: kept}):
        client = TestClient(app, cookies=cookies, headers={"accept": "text/html"})
        assert client.get("/account", follow_redirects=False).status_code == 303
    left = "".join(dump(path))
    assert SECRET not in left and "Ada" not in left and "Ben" in left
    assert ben.get(f"/groups/{things.group}").status_code == 404


def test_a_name_written_in_another_way_is_no_new_try(app, come_in):
    come_in("Ada")
    client = TestClient(app)
    for name in ("Ada", " ada ", "A\uff44A"):
        answer = client.post("/sign-in", data={"name": name, "passphrase": "not the words"})
        assert answer.status_code == 401
    answer = client.post("/sign-in", data={"name": "ADA", "passphrase": WORDS.format("Ada")})
    assert answer.status_code == 429


def test_a_cookie_that_was_changed_or_is_outdated_lets_nobody_in(app, come_in):
    ada = come_in("Ada")
    cookie = ada.cookies[COOKIE]
    # The last character of a signature has bits that tell nothing: one before it is changed.
    changed = cookie[:-9] + ("x" if cookie[-9] != "x" else "y") + cookie[-8:]
    for forged in (changed, cookie.partition(".")[0], "1", "", "x" * 5_000):
        client = TestClient(app, cookies={COOKIE: forged}, headers={"accept": "text/html"})
        assert client.get("/account", follow_redirects=False).status_code == 303
    other = TestClient(app, cookies={COOKIE: cookie}, headers={"accept": "text/html"})
    assert other.get("/account", follow_redirects=False).status_code == 200
    words = {"old": WORDS.format("Ada"), "passphrase": "other words altogether"}
    refused = ada.post("/account/passphrase", data={**words, "old": "wrong"})
    assert refused.status_code == 422
    assert ada.post("/account/passphrase", data=words).status_code == 200
    assert other.get("/account", follow_redirects=False).status_code == 303
    assert ada.get("/account", follow_redirects=False).status_code == 200


def test_a_workbook_is_shared_to_read_or_to_copy(come_in):
    ada, ben = come_in("Ada"), come_in("Ben")
    home = "/workbooks/1/share"
    ada.post(home, data={"may": "read"})
    link = re.search(r"(/shared/[\w-]+)", ada.get(home).text)[1]
    shown = ben.get(link)
    assert "shared by Ada to read" in text_of(shown)
    assert "Guest-nights" in shown.text
    assert "=$B5*C$4" in ben.get(f"{link}?sheet=2&show=formulas").text
    assert ben.post(f"{link}/copy").status_code == 403
    ada.post(home, data={"may": "copy"})
    links = re.findall(r"(/shared/[\w-]+)", ada.get(home).text)
    copying = next(each for each in links if each != link)
    copied = ben.post(f"{copying}/copy")
    assert copied.status_code == 200
    assert copied.url.path.startswith("/workbooks/2")
    assert ada.get("/workbooks/2").status_code == 404
    ada.post(home, data={"may": "nothing"})
    assert ben.get(link).status_code == 404
    assert ben.get(copying).status_code == 404


def test_a_group_is_led_joined_and_hands_in(come_in):
    ada, ben, cleo = come_in("Ada"), come_in("Ben"), come_in("Cleo")
    group = ada.post("/groups", data={"title": "Monday"}, follow_redirects=False)
    home = group.headers["location"]
    code = re.search(r'join-code">(\w+)', ada.get(home).text)[1]
    assert ben.post("/groups/join", data={"code": "nothing"}).status_code == 422
    ben.post("/groups/join", data={"code": f" {code.upper()} "})
    ada.post(f"{home}/hand-out", data={"title": "Two", "drills": "lock-1-1 find-1-0"})
    ada.post(f"{home}/hand-out", data={"drills": "/practice/set?title=Linked&drills=lock-1-1"})
    ada.post(f"{home}/hand-out", data={"workbook": 1})
    bad = ada.post(f"{home}/hand-out", data={"title": "Bad", "drills": "bake-1-1"})
    assert bad.status_code == 422
    assert "is no code of a drill" in text_of(bad)
    shown = ben.get(home)
    # A member sees neither the code nor who else is there.
    assert code not in shown.text
    handouts = sorted(set(re.findall(rf"{home}/handouts/(\d+)/begin", shown.text)), key=int)
    two, _, book = (f"{home}/handouts/{each}" for each in handouts)
    cleo.post("/groups/join", data={"code": code})
    begun = ben.post(f"{two}/begin", follow_redirects=False).headers["location"]
    ben.post(begun, data={"lock-1-column": "moves", "lock-1-row": "moves"})
    assert "1 of 2 answered" in text_of(ada.get(home))
    assert "lock-1-1 Lock, level 1 0 of 1" in text_of(ada.get(two))
    assert "a row went along that should stay" in text_of(ada.get(two))
    drawn = ada.get(f"{two}/drills/1")
    assert 'class="count"' in drawn.text
    assert "0 of 1 answer right" in text_of(drawn)
    for who in (ben, cleo):
        assert who.get(two).status_code == 404
        assert who.get(f"{two}/drills/1").status_code == 404
        assert who.post(f"{two}/take-back").status_code == 404
        assert who.post(f"{home}/delete").status_code == 404
    copy = ben.post(f"{book}/begin").url.path
    assert copy.startswith("/workbooks/2")
    # Until it is handed in, it is Ben's alone.
    assert ada.get(f"{book}/of/2").status_code == 404
    ben.post(f"{book}/hand-in", data={"done": "yes"})
    assert "handed in by Ben" in text_of(ada.get(f"{book}/of/2"))
    found = text_of(ada.get(book))
    assert "1 To mend!" in found
    assert cleo.get(f"{book}/of/2").status_code == 404
    ben.post(f"{book}/hand-in", data={"done": "no"})
    assert ada.get(f"{book}/of/2").status_code == 404
    ada.post(f"{home}/members/2/remove")
    assert ben.get(home).status_code == 404
    assert ben.get(begun).status_code == 200
    cleo.post(f"{home}/members/3/remove")
    assert cleo.get(home).status_code == 404
    ada.post(f"{home}/delete")
    assert ada.get(home).status_code == 404


def test_without_the_switch_nobody_signs_in(client):
    for address in (
        "/sign-in",
        "/account",
        "/groups",
        "/groups/1",
        "/shared/x",
        "/workbooks/1/share",
    ):
        assert client.get(address).status_code == 404
    page = client.get("/workbooks/1")
    assert "Groups" not in page.text
    assert client.get("/data-file").status_code == 200


def test_a_clock_that_is_set_back_signs_nobody_out(app, come_in, monkeypatch):
    ada = come_in("Ada")
    for jump, status in ((-86_400, 200), (29 * 86_400, 200), (31 * 86_400, 303)):
        now = time.time() + jump
        with monkeypatch.context() as clock:
            clock.setattr("itsdangerous.timed.time.time", lambda now=now: now)
            assert ada.get("/account", follow_redirects=False).status_code == status


def test_nobody_keeps_more_than_one_may(come_in, monkeypatch):
    ada, ben = come_in("Ada"), come_in("Ben")
    assert "1 of 300 workbooks are kept" in text_of(ada.get("/account"))
    monkeypatch.setattr("dreieck.store.quota.MAX_WORKBOOKS", 2)
    ada.post("/workbooks", data={"name": "Second"})
    refused = ada.post("/workbooks", data={"name": "Third"})
    assert "You have 2 workbooks here, as many as one can have" in text_of(refused)
    copied = ada.post("/workbooks/1/copy", data={"name": "Third"})
    assert copied.status_code == 422 and "as many as one can have" in copied.text
    assert (
        ben.post("/workbooks", data={"name": "First"}, follow_redirects=False).status_code == 303
    )
    ada.post("/workbooks/2/delete")
    monkeypatch.setattr("dreieck.store.quota.MAX_SPACE", 100)
    refused = ada.post("/workbooks", data={"name": "Third"})
    assert "Your workbooks take 0 MB here" in text_of(refused)
