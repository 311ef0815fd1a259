"""Shortcuts that somebody has given to what the workbench does."""

import json
import re
from html import unescape

import pytest
from web_page import Page

from dreieck.web.pages.keys import understood
from dreieck.web.workbench.keys import CHANGEABLE, for_browser


@pytest.mark.parametrize(
    ("typed", "said"),
    [
        ("alt+c", "Alt + C"),
        ("shift + ALT + 7", "Alt + Shift + 7"),
        ("f8", "F8"),
        ("Ctrl + space", "Ctrl + Space"),
        (" ", ""),
    ],
)
def test_a_shortcut_is_understood_however_it_is_typed(typed, said):
    assert understood(typed) == (said, "")


@pytest.mark.parametrize(
    ("typed", "why"),
    [
        ("x", "types a character"),
        ("Shift + X", "types a character"),
        ("Ctrl + C", "need this one"),
        ("Ctrl + Enter", "Say it like"),
        ("Alt + Alt + C", "Say it like"),
        ("Hyper + C", "Say it like"),
    ],
)
def test_one_that_cannot_be_taken_is_told(typed, why):
    assert why in understood(typed)[1]


def told(client):
    """The keys that the workbench of the browser looks for, by what they do."""
    page = client.get("/workbooks/1/sheets/2").text
    found = json.loads(unescape(re.search(r'data-keys="([^"]*)"', page)[1]))
    return {each["act"] or each["action"]: each for each in found}


def test_every_shortcut_can_be_told_apart():
    assert len({key.name for key in CHANGEABLE}) == len(CHANGEABLE)


def test_another_key_or_none_holds_everywhere_until_the_usual_ones_are_back(client):
    other = {"next-view": "Ctrl + Shift + 7", "name": ""}
    assert "The keys are kept." in client.post("/keys", data=other).text
    held = told(client)
    assert (held["next-view"]["key"], held["next-view"]["modifiers"]) == ("7", "ctrl shift")
    assert "name" not in held
    commands = client.get("/workbooks/1/sheets/2/commands").text
    assert "<kbd>Ctrl + Shift + 7</kbd>" in commands and "<kbd>Alt + N</kbd>" not in commands
    assert "Alt + N" not in Page(client).select("B4").html.partition("<footer")[2]
    assert "Ctrl + Shift + 7" in client.get("/guide/keys").text
    client.post("/keys", data={"usual": "yes"})
    assert told(client) == {each["act"] or each["action"]: each for each in for_browser()}


def test_what_collides_is_told_and_nothing_is_kept(client):
    before = told(client)
    answer = client.post("/keys", data={"next-view": "Alt + N"})
    assert answer.status_code == 422
    assert "Asks for this, too: name the selection." in answer.text
    assert told(client) == before
