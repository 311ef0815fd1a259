"""Practice over HTTP: drills, hints, verdicts, sets, tests, results, one's own sheet."""

import json
import re
from html import unescape
from urllib.parse import parse_qs, urlsplit

import pytest
from laws_of_questions import right_answer

from dreieck.core.practice.catalogue import question
from dreieck.core.practice.codes import KINDS, LEVELS, Code
from dreieck.core.practice.question import CHOSEN
from dreieck.core.practice.sets import FIRST_TWELVE


def text_of(answer):
    return re.sub(r"\s+", " ", unescape(re.sub(r"<[^>]+>", " ", answer.text))).strip()


def form_of(asked, given, **more):
    """What a page sends for an answer."""
    form = {"choice": given.choice, "cell": given.cell, "formula": given.formula, **more}
    if asked.form == "lock":
        start = asked.exercise.start
        for number in asked.exercise.shape.distinct:
            reference = asked.exercise.shape.references[number]
            corners = reference.corners(start)
            held = {(False, False): "moves", (True, False): "first", (False, True): "last",
                    (True, True): "stays"}  # fmt: skip
            for axis in ("column", "row"):
                ends = corners[0].on(axis), corners[-1].on(axis)
                form[f"lock-{number}-{axis}"] = held[ends]
    return form


@pytest.mark.parametrize("level", LEVELS)
@pytest.mark.parametrize("kind", KINDS)
def test_a_drill_of_each_kind_is_asked_answered_and_explained(client, kind, level):
    code = Code(kind, level, 40 + level)
    asked, address = question(code), f"/practice/drills/{code.text}"
    page = client.get(address)
    assert page.status_code == 200
    asks = re.search(r'<p id="asks">(.*?)</p>', page.text, re.DOTALL)[1]
    told = unescape(re.sub(r'<span class="tag c\d">\w</span>|<[^>]+>', "", asks))
    assert told == re.sub("[ⓐ-ⓩ]", "", asked.asks)
    assert "Not yet." not in page.text
    answered = client.post(address, data=form_of(asked, right_answer(asked)))
    assert "Right." in text_of(answered)
    assert "The same with other numbers" in answered.text
    empty = client.post(address, data={})
    assert empty.status_code == 200
    assert asked.form == "lock" or 'role="alert"' in empty.text


def test_a_wrong_answer_is_drawn_beside_the_right_one(client):
    code = question(Code.parse("predict-2-5"))
    wrong = "E5" if code.landing.text != "E5" else "D5"
    answer = client.post("/practice/drills/predict-2-5", data={"cell": wrong})
    assert "Not yet." in answer.text
    assert f"You pointed at {wrong} ." in text_of(answer)
    assert 'class="yours"' in answer.text
    assert 'class="figure"' in answer.text
    # The same question with other numbers is what comes next.
    first = re.search(r'class="btn btn-primary" href="([^"]+)"', answer.text)[1]
    assert first == "/practice/drills/predict-2-17"


def test_hints_come_in_three_steps_and_cost_nothing(client):
    asked, address = question(Code.parse("lock-2-1")), "/practice/drills/lock-2-1"
    form = {"hints": "0"}
    for step, says in enumerate(["Which part moves", "The drawing", "The answer"], 1):
        page = client.post(address, data={**form, "wants": "hint"})
        assert says in page.text
        assert f'name="hints" value="{step}"' in page.text
        form["hints"] = str(step)
    assert asked.exercise.formula in text_of(page)
    assert 'value="hint"' not in page.text
    right = form_of(asked, right_answer(asked), hints="2")
    assert "Right." in client.post(address, data=right).text
    assert "1 of 1 right" in text_of(client.get("/practice"))
    # The answer was shown: it is no sign of mastery.
    other = question(Code.parse("lock-2-7"))
    form = form_of(other, right_answer(other), hints="3")
    assert "Right." in client.post("/practice/drills/lock-2-7", data=form).text
    assert "1 of 1 right" in text_of(client.get("/practice"))


def test_locks_show_the_formula_that_they_make(client):
    form = {"wants": "locks", "lock-0-column": "stays", "lock-1-row": "stays"}
    start = question(Code.parse("lock-2-1")).exercise
    answer = client.post("/practice/drills/lock-2-1", data=form)
    assert answer.text == start.formula
    form["lock-0-row"] = "<b>"
    assert client.post("/practice/drills/lock-2-1", data=form).text == start.formula


@pytest.mark.parametrize(
    "formula", ["=1/", "=<script>", "=" + "(" * 200, "=SUM(A1:ZZZ1000000)", "'"]
)
def test_whatever_is_typed_is_answered_and_kept_in_the_field(client, formula):
    answer = client.post("/practice/drills/write-2-2", data={"formula": formula})
    assert answer.status_code == 200
    assert "<script>" not in answer.text.split("<main")[1].split("</main")[0]
    if 'role="alert"' in answer.text:
        assert (
            unescape(re.search(r'name="formula"[^>]*value="([^"]*)"', answer.text)[1]) == formula
        )


@pytest.mark.parametrize(
    ("address", "status"),
    [
        ("/practice/drills/bake-1-1", 404), ("/practice/drills/lock-9-1", 404),
        ("/practice/begin/bake/1", 404), ("/practice/begin/lock/7", 404),
        ("/practice/skills/baking", 404), ("/practice/mistakes/old-feed", 404),
        ("/practice/sets/9/1", 404), ("/practice/sets/9/result", 404),
        ("/practice/sets/99999999999999999999/1", 422),
        ("/practice/sets/1/99999999999999999999", 404),
        ("/practice/test/1/during", 404), ("/practice/set?title=x", 422),
        ("/practice/set?title=x&drills=bake-1-1", 422), ("/practice/set/drawn?kinds=bake", 422),
        ("/workbooks/1/sheets/2/practice?at=A1", 404), ("/workbooks/1/sheets/99/practice", 404),
    ],
)  # fmt: skip
def test_what_is_not_there_is_told(client, address, status):
    answer = client.get(address)
    assert answer.status_code == status
    assert "Traceback" not in answer.text


@pytest.mark.parametrize(
    "address",
    ["/practice/next", "/practice/begin/find/3", "/practice/skills/corners",
     "/practice/mistakes/shape-break"],
)  # fmt: skip
def test_who_wants_to_practise_is_led_to_a_drill(client, address):
    led = client.get(f"{address}?of=1", follow_redirects=False)
    assert led.status_code == 303
    page = client.get(led.headers["location"])
    assert page.status_code == 200
    assert 'href="/workbooks/1/sheets/2"' in page.text


def begin(client, link):
    asked = parse_qs(urlsplit(link).query)
    form = {name: values[0] for name, values in asked.items()}
    begun = client.post("/practice/sets", data=form, follow_redirects=False)
    return begun.headers["location"].rpartition("/")[0]


def answer_all(client, home, codes, wrong=()):
    for place, code in enumerate(codes, 1):
        asked = question(Code.parse(code))
        form = form_of(asked, right_answer(asked))
        if place in wrong:
            form |= {"choice": "0", "cell": "A1", "formula": "=1", "lock-0-row": "stays"}
            if asked.form in CHOSEN:
                form["choice"] = str((asked.right + 1) % len(asked.choices))
        answered = client.post(f"{home}/{place}", data=form)
        assert answered.status_code == 200
    return answered


def test_the_first_twelve_are_begun_answered_and_handed_in(client):
    page = client.get("/practice")
    link = unescape(re.search(r'href="(/practice/set\?[^"]+)"', page.text)[1])
    shown = client.get(link)
    assert "12 drills" in text_of(shown)
    file = client.get(link.replace("/set?", "/set/file?"))
    opened = client.post(
        "/practice/set/open", files={"file": ("drills.json", file.content)}, follow_redirects=False
    )
    assert opened.headers["location"] == link
    home = begin(client, link)
    assert client.get(f"{home}/result.json").status_code == 409
    told = answer_all(client, home, FIRST_TWELVE.texts, wrong=(3,))
    assert "The result" in told.text
    result = client.get(f"{home}/result")
    assert "11 of 12 right" in text_of(result)
    # An answer stands as it was given.
    asked = question(FIRST_TWELVE.codes[2])
    again = client.post(f"{home}/3", data=form_of(asked, right_answer(asked)))
    assert "Not yet." in again.text
    assert "11 of 12 right" in text_of(client.get(f"{home}/result"))
    handed = client.get(f"{home}/result.json?who=Ada")
    checked = client.post("/practice/results", files={"file": ("r.json", handed.content)})
    assert "It is as Dreieck signed it here." in text_of(checked)
    assert "Ada: 11 of 12 right" in text_of(checked)
    edited = json.loads(handed.content)
    edited["answers"][2]["right"] = True
    checked = client.post("/practice/results", files={"file": ("r.json", json.dumps(edited))})
    assert "It is not as it was signed here" in text_of(checked)
    refused = client.post("/practice/results", files={"file": ("r.json", b"nothing")})
    assert refused.status_code == 422
    assert "This is not a result of drills" in text_of(refused)


def test_a_test_tells_what_was_right_at_its_end_and_is_compared(client):
    codes = {}
    for which, wrong in (("before", (2, 3)), ("after", (4,))):
        led = client.get(f"/practice/test/5/{which}", follow_redirects=False)
        link = led.headers["location"]
        codes[which] = parse_qs(urlsplit(link).query)["drills"][0].split(",")
        home = begin(client, link)
        asked = question(Code.parse(codes[which][0]))
        first = client.get(f"{home}/1")
        assert "A hint" not in first.text
        answered = client.post(f"{home}/1", data=form_of(asked, right_answer(asked)))
        assert "Right." not in answered.text
        assert "2 of 10" in answered.text
        assert "right</b>" not in client.get(f"{home}/result").text
        result = answer_all(client, home, codes[which], wrong)
        assert f"{10 - len(wrong)} of 10 right" in text_of(result)
    assert "8 of 10 in “Test before” before" in text_of(result)
    assert codes["before"] != codes["after"]


def test_one_practises_on_a_block_of_ones_own_sheet(client, page):
    page.select("E8")
    page.act("show", step="check")
    assert "/workbooks/1/sheets/2/practice?at=E8" in page.html
    address = "/workbooks/1/sheets/2/practice?at=E8&seed=0"
    asked = client.get(address)
    assert "It is filled over C5:F10" in text_of(asked)
    told = [client.post(address, data={"choice": n}) for n in range(4)]
    assert sum("Right." in each.text for each in told) == 1
    before = page.shown("E8")
    assert page.act("show").shown("E8") == before
    locks = "/workbooks/1/sheets/2/practice?at=E8&seed=2"
    assert client.post(locks, data={"wants": "locks"}).text == "=B5*C4"


def test_a_finding_leads_to_drills_about_its_mistake(broken):
    broken.select("C8")
    broken.act("show", step="check")
    assert "Practise this mistake" in broken.html
    rules = re.findall(r"/practice/mistakes/([a-z-]+)\?of=1", broken.html)
    for rule in rules:
        led = broken.client.get(f"/practice/mistakes/{rule}", follow_redirects=False)
        assert led.headers["location"].startswith("/practice/drills/find-")
