"""Practice in the browser: by keys alone, by the pointer alone, on a phone."""

import re

import pytest
from drill_page import answer_by_keys, keys
from playwright.sync_api import expect

from dreieck.core.practice.catalogue import question
from dreieck.core.practice.codes import Code
from dreieck.core.practice.sets import FIRST_TWELVE


@pytest.fixture
def page(context):
    opened = context.new_page()
    faults = []
    opened.on("pageerror", lambda fault: faults.append(str(fault)))
    opened.on("console", lambda told: told.type == "error" and faults.append(told.text))
    yield opened
    assert faults == []


def test_the_first_twelve_by_keys_alone(page, server):
    page.goto(server.address + "/practice")
    page.get_by_role("link", name="The first twelve").focus()
    keys(page, "Enter")
    expect(page.get_by_role("button", name="Begin")).to_be_focused()
    keys(page, "Enter")
    for place, code in enumerate(FIRST_TWELVE.codes, 1):
        expect(page.locator("h1")).to_contain_text(f"{place} of 12")
        answer_by_keys(page, question(code))
        # Who has the keys is led on, and hears the verdict with the link.
        onward = page.get_by_role("link", name="Next" if place < 12 else "The result")
        expect(onward).to_be_focused()
        assert onward.get_attribute("aria-describedby") == "verdict"
        expect(page.locator("#verdict h2")).to_have_text("Right.")
        keys(page, "Enter")
    expect(page.locator(".result-count")).to_have_text("12 of 12 right")


def test_a_wrong_answer_by_the_pointer_and_then_the_same_again(page, server):
    asked = question(Code.parse("write-2-2")).exercise
    page.goto(server.address + "/practice/drills/write-2-2")
    formula = page.locator("[name=formula]")
    reads = [reference.area(asked.start).first.text for reference in asked.shape.references]
    page.locator(f"[data-at={reads[0]}]").click()
    expect(formula).to_have_value(f"={reads[0]}")
    formula.press_sequentially("*")
    page.locator(f"[data-at={reads[1]}]").click()
    expect(formula).to_have_value(f"={reads[0]}*{reads[1]}")
    page.get_by_role("button", name="A hint").click()
    expect(page.locator(".drill-hints li")).to_have_count(1)
    # What was typed is still there.
    expect(formula).to_have_value(f"={reads[0]}*{reads[1]}")
    page.get_by_role("button", name="Show the drawing").click()
    expect(page.locator(".underlay .figure")).to_have_count(2)
    page.get_by_role("button", name="Answer", exact=True).click()
    expect(page.locator("#verdict h2")).to_have_text("Not yet.")
    expect(page.locator(".overlay .yours")).to_have_count(1)
    page.get_by_role("link", name="The same with other numbers").click()
    expect(page).to_have_url(re.compile("/practice/drills/write-2-8$"))
    expect(page.locator("[name=formula]")).to_have_value("")


def test_cells_that_are_pointed_at_go_to_the_field_used_last(page, server):
    page.goto(server.address + "/practice/drills/find-2-0")
    page.locator("[data-at=C7]").click()
    expect(page.locator("[name=cell]")).to_have_value("C7")
    expect(page.locator("[data-at=C7]")).to_have_attribute("aria-selected", "true")
    page.locator("[name=formula]").click()
    page.locator("[data-at=B7]").click()
    expect(page.locator("[name=formula]")).to_have_value("=B7")
    expect(page.locator("[name=cell]")).to_have_value("C7")


@pytest.mark.parametrize("code", ["explain-2-1", "find-3-0", "sheet-3-2", "lock-3-1", "range-2-3"])
def test_on_a_phone_nothing_is_cut(page, server, code):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{server.address}/practice/drills/{code}")
    wide = page.evaluate("document.querySelector('main').scrollWidth - innerWidth")
    assert wide <= 0
    page.get_by_role("button", name="Answer", exact=True).scroll_into_view_if_needed()
    box = page.get_by_role("button", name="Answer", exact=True).bounding_box()
    assert box["x"] + box["width"] <= 390
    page.goto(f"{server.address}/practice")
    assert page.evaluate("document.querySelector('main').scrollWidth - innerWidth") <= 0


def test_an_answer_given_without_a_line_is_sent_when_it_is_back(bench):
    bench.click("E8")
    bench.page.get_by_role("link", name="Practise on it").click()
    page = bench.page
    page.locator("[name=choice]").first.check()
    page.context.set_offline(True)
    page.get_by_role("button", name="Answer", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("What you entered is still here")
    page.context.set_offline(False)
    expect(page.locator("#verdict")).to_be_visible()


def test_from_the_workbench_to_a_drill_about_its_block_and_back(bench):
    bench.click("E8")
    bench.page.get_by_role("link", name="Practise on it").click()
    page = bench.page
    expect(page.locator("#asks")).to_contain_text("It is filled over C5:F10")
    answer_choices = page.locator("[name=choice]")
    answer_choices.first.check()
    page.get_by_role("button", name="Answer", exact=True).click()
    expect(page.locator("#verdict")).to_be_visible()
    page.get_by_role("link", name="Another question about it").click()
    expect(page.locator("#asks")).to_contain_text("Point at it")
    page.get_by_role("link", name="Back to the sheet").click()
    bench.at("Loads!E8")
