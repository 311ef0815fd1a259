"""Keys, buttons, scripts and actions name each other rightly."""

import re
from pathlib import Path

import dreieck.web
from dreieck.web.workbench.actions import ACTIONS, effects
from dreieck.web.workbench.keys import KEYS, for_browser, for_foot

WEB = Path(dreieck.web.__file__).parent
SCRIPTS = "\n".join(path.read_text() for path in sorted(WEB.glob("static/js/*.js")))
TEMPLATES = "\n".join(path.read_text() for path in sorted(WEB.glob("templates/*.html")))


def own_acts(script):
    """What a script knows how to do of itself."""
    acts = re.search(
        r"OWN_ACTS = \{\n(.*?)^\};", (WEB / "static/js" / script).read_text(), re.M | re.S
    )
    return set(re.findall(r'^  "?([a-z-]+)"?(?:: |,)', acts[1], re.MULTILINE))


def test_every_button_key_and_script_asks_for_an_action_that_there_is():
    asked = set(re.findall(r'data-(?:action|form)"?[=:] ?"([a-z-]+)"', TEMPLATES))
    asked |= set(re.findall(r'\bpast\("([a-z-]+)"', TEMPLATES))
    asked |= set(re.findall(r'\b(?:act|actNow|actLatest|perform)\("([a-z-]+)"', SCRIPTS))
    asked |= {key.action for key in KEYS if key.action}
    assert asked <= set(ACTIONS) | {"{{ action }}"}
    assert set(ACTIONS) - asked <= {"show"}


def test_every_wish_of_a_key_is_one_of_its_action():
    for key in KEYS:
        if key.action:
            wish = ACTIONS[key.action].wish
            assert set(key.wish) <= set(wish.model_fields), key
            wish.model_validate(key.wish)


def test_every_own_act_of_a_key_or_button_is_known_to_the_page():
    assert {key.act for key in KEYS if key.act} == own_acts("keyboard.js")
    assert set(re.findall(r'data-act"?[=:] ?"([a-z-]+)"', TEMPLATES)) <= own_acts("workbench.js")


def test_the_page_is_told_what_actions_do_to_its_state():
    told = effects()
    assert set(told) == {"moves", "rehearses", "rewrites"}
    assert "go-to" in told["moves"] and "enter" not in told["moves"]
    assert "stretch" in told["rehearses"]
    assert told["rewrites"] == ["lock", "point-at", "move-frame"]


def test_no_two_keys_mean_the_same_press():
    presses = [(key["code"], key["modifiers"]) for key in for_browser()]
    assert len(presses) == len(set(presses))
    assert all(key.does for key in KEYS)
    assert all(for_foot(when) for when in ("selecting", "writing", "rehearsing", "checking"))
