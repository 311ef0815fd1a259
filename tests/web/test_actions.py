"""Keys, buttons, scripts and actions name each other rightly."""

import re
from pathlib import Path

import pytest

import dreieck.web
from dreieck.core.checking.findings.rules import rule
from dreieck.core.functions.registry import function
from dreieck.web.workbench.actions import ACTIONS, effects
from dreieck.web.workbench.actions.context import action
from dreieck.web.workbench.commands import COMMANDS
from dreieck.web.workbench.keys import KEYS, for_browser, for_foot
from dreieck.web.workbench.page_state import Asked, PageState

WEB = Path(dreieck.web.__file__).parent
SCRIPTS = "\n".join(path.read_text() for path in sorted(WEB.glob("static/js/*.js")))
OFFERING = "\n".join(path.read_text() for path in sorted(WEB.glob("workbench/actions/*.py")))
TEMPLATES = "\n".join(path.read_text() for path in sorted(WEB.glob("templates/*.html")))


def own_acts():
    """What the page knows how to do of itself."""
    script = (WEB / "static/js/acts.js").read_text()
    acts = re.search(r"OWN_ACTS = \{\n(.*?)^\};", script, re.M | re.S)
    return set(re.findall(r'^  "?([a-z-]+)"?(?:: |,)', acts[1], re.MULTILINE))


def test_every_button_key_and_script_asks_for_an_action_that_there_is():
    asked = set(re.findall(r'data-(?:action|form|choose)"?[=:] ?"([a-z-]+)"', TEMPLATES))
    asked |= set(re.findall(r'\bpast\("([a-z-]+)"', TEMPLATES))
    asked |= set(re.findall(r'\bchoices\("[^"]+", "([a-z-]+)"', TEMPLATES))
    asked |= set(re.findall(r'\b(?:act|actNow|actLatest|perform)\("([a-z-]+)"', SCRIPTS))
    asked |= set(re.findall(r'\bOffer\(.*"([a-z-]+)", asks\)', OFFERING))
    asked |= {each.action for each in (*KEYS, *COMMANDS) if each.action}
    assert asked <= set(ACTIONS) | {"{{ action }}"}
    assert set(ACTIONS) - asked <= {"show"}


def test_every_wish_of_a_key_or_command_is_one_of_its_action():
    for each in (*KEYS, *COMMANDS):
        if each.action:
            wish = ACTIONS[each.action].wish
            assert set(each.wish) <= set(wish.model_fields), each
            wish.model_validate(each.wish)


def test_no_wish_says_what_the_state_of_the_page_says_already():
    told = {*PageState.model_fields, *Asked.model_fields}
    for name, each in ACTIONS.items():
        assert not set(each.wish.model_fields) & told, name


def test_every_own_act_of_a_key_button_or_command_is_known_to_the_page():
    asked = {each.act for each in (*KEYS, *COMMANDS) if each.act}
    asked |= set(re.findall(r'data-act"?[=:] ?"([a-z-]+)"', TEMPLATES))
    assert asked == own_acts()


def test_the_page_is_told_what_actions_do_to_its_state():
    told = effects()
    assert set(told) == {"moves", "rehearses", "rewrites"}
    assert "go-to" in told["moves"] and "enter" not in told["moves"]
    assert "stretch" in told["rehearses"]
    assert {"lock", "point-at", "move-frame", "write-rule"} <= set(told["rewrites"])


def test_no_two_keys_mean_the_same_press():
    presses = [(key["code"], key["modifiers"]) for key in for_browser()]
    assert len(presses) == len(set(presses))
    assert all(key.does for key in KEYS)
    assert all(for_foot(when) for when in ("selecting", "writing", "rehearsing", "checking"))


def test_what_is_there_already_is_not_registered_anew():
    def undo(context):
        """Another one."""

    for register, name in (
        (lambda: action()(undo), "actions undo"),
        (lambda: rule("loop"), "rules loop"),
        (lambda: function("SUM"), "functions SUM"),
    ):
        with pytest.raises(ValueError, match=f"There are two {name}."):
            register()
