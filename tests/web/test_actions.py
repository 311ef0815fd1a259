"""Keys, buttons, scripts and actions name each other rightly."""

import re
from pathlib import Path

import dreieck.web
from dreieck.web.workbench.actions import ACTIONS
from dreieck.web.workbench.keys import KEYS, for_browser, for_foot

WEB = Path(dreieck.web.__file__).parent
SCRIPTS = "\n".join(path.read_text() for path in sorted(WEB.glob("static/js/*.js")))
TEMPLATES = "\n".join(path.read_text() for path in sorted(WEB.glob("templates/*.html")))


def test_every_button_and_script_asks_for_an_action_that_there_is():
    asked = set(re.findall(r'data-(?:action|form)="([a-z-]+)"', TEMPLATES))
    asked |= set(re.findall(r'\b(?:act|actNow|actLatest|toSheet)\("([a-z-]+)"', SCRIPTS))
    assert asked <= set(ACTIONS)
    assert set(ACTIONS) - asked <= {"show"}


def test_every_key_of_the_table_is_handled_by_the_browser():
    handled = set(re.findall(r'^  "([a-z-]+)": \(\) =>', SCRIPTS, re.MULTILINE))
    assert {key["action"] for key in for_browser()} == handled


def test_no_two_keys_mean_the_same_press():
    presses = [(key["code"], key["modifiers"]) for key in for_browser()]
    assert len(presses) == len(set(presses))
    assert all(key.does for key in KEYS)
    assert all(for_foot(when) for when in ("selecting", "writing", "rehearsing", "checking"))


def test_every_own_act_of_a_button_is_known_to_the_page():
    own = set(re.findall(r'data-act="([a-z-]+)"', TEMPLATES))
    known = re.search(r"OWN_ACTS = \{(.*?)\};", SCRIPTS, re.DOTALL)[1]
    assert all(re.search(rf"\b{act}\b", known) for act in own)
