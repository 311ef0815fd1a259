"""Finding and replacing: what is listed, what is shown before, what is made as one action."""

import re

import pytest


def listed(client, **asked):
    answer = client.get("/workbooks/1/sheets/2/found", params=asked)
    text = re.sub(r"<[^>]+>", " ", answer.text)
    return answer.status_code, re.sub(r"\s+", " ", text)


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        ({"sought": "$B5"}, "4 places found Loads!C5 =$B5*C$4 Loads!D5"),
        ({"sought": "50.4", "within": "values"}, "1 place found Loads!C5 50.4"),
        ({"sought": "flour", "where": "all"}, "4 places found Prices!A7 Flour Loads!A5 Flour"),
        ({"sought": "flour", "case": "true"}, "nothing found"),
        ({"sought": "Flo", "whole": "true"}, "nothing found"),
        ({"sought": "1", "where": "selection", "selected": "C4:C4,D4"}, "nothing found"),
        ({"like": "D7"}, "1 place found Loads!C5:F10 =$B5*C$4"),
        ({"sought": "C$4", "preview": "true", "replacement": "$C$4"}, "=$B5*C$4 → =$B5*$C$4"),
        ({"sought": "*C$4", "preview": "true", "replacement": "*("}, "stays:"),
    ],
)
def test_what_is_found_is_listed(page, asked, said):
    status, text = listed(page.client, **asked)
    assert status == 200 and said in text


def test_what_cannot_be_looked_for_is_told(page):
    nowhere = {"sought": "x", "where": "selection", "selected": "?"}
    for asked, said in (
        ({}, "Say what is to be found"),
        ({"like": "C4"}, "holds no formula"),
        (nowhere, "is not an area"),
    ):
        status, text = listed(page.client, **asked)
        assert status == 422 and said in text
    assert "Replace all" in page.client.get("/workbooks/1/sheets/2/find").text


def test_replacing_is_one_action(page, tells):
    page.act("replace-all", sought="C$4", replacement="$C$4")
    tells(page.notice)
    assert page.act("go-to", to="C7").scene["text"] == "=$B7*$C$4"
    page.act("undo")
    assert page.act("go-to", to="C7").scene["text"] == "=$B7*C$4"
    page.act("replace-all", sought="Flour", replacement="Meal", where="all")
    tells(page.notice)
    page.act("replace-all", sought="*C$4", replacement="*(")
    tells(page.notice)
    page.act("replace-all", sought="nowhere", replacement="x")
    tells(page.notice)
