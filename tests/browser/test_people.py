"""Several people in the browser: a leader, a member, what is handed out and in."""

import pytest
from axe import violations
from drill_page import answer_by_keys
from playwright.sync_api import expect

from dreieck.core.practice.catalogue import question
from dreieck.core.practice.codes import Code

from .conftest import Server

WORDS = "four odd words of {}"


@pytest.fixture
def server(demo_data):
    running = Server(demo_data, "--people")
    yield running
    running.stop()


@pytest.fixture
def come_in(chromium, server):
    """Sign somebody up in a browser of their own."""
    opened = []

    def signed_up(name):
        context = chromium.new_context(base_url=server.address)
        opened.append(context)
        page = context.new_page()
        page.goto("/practice")
        # Who is not signed in is asked to, and then led on.
        page.get_by_label("name").fill(name)
        page.get_by_label("passphrase").fill(WORDS.format(name))
        page.get_by_role("button", name="Sign up as somebody new").click()
        expect(page).to_have_url(f"{server.address}/practice")
        expect(page.get_by_role("link", name=name)).to_be_visible()
        return page

    yield signed_up
    for context in opened:
        context.close()


def hand_out(page):
    page.get_by_label("title").fill("Monday")
    page.get_by_label("its link, or codes of drills").fill("lock-2-1, predict-2-5")
    page.get_by_role("button", name="Hand it out").first.click()
    expect(page.get_by_role("link", name="Monday")).to_be_visible()
    page.get_by_label("each member gets a copy of").select_option(label="Hut supplies")
    page.get_by_role("button", name="Hand it out").last.click()
    expect(page.get_by_role("link", name="Hut supplies")).to_be_visible()


def test_a_group_from_its_code_to_what_was_mistaken(come_in):
    ada, ben = come_in("Ada"), come_in("Ben")
    ada.get_by_role("link", name="Groups").click()
    ada.get_by_label("its title").fill("Autumn course")
    ada.get_by_role("button", name="Make it").click()
    code = ada.locator(".join-code").inner_text()
    hand_out(ada)
    ben.get_by_role("link", name="Groups").click()
    ben.get_by_label("the code that its leader gave you").fill(code)
    ben.keyboard.press("Enter")
    expect(ben.get_by_role("heading", name="Autumn course")).to_be_visible()
    ben.locator(".handed-out", has_text="Monday").get_by_role("button", name="Begin").click()
    # The first one as it is, with nothing locked, is not right; the second one is.
    ben.get_by_role("button", name="Answer", exact=True).click()
    expect(ben.locator("#verdict h2")).to_have_text("Not yet.")
    ben.get_by_role("link", name="Next").click()
    answer_by_keys(ben, question(Code.parse("predict-2-5")))
    ben.get_by_role("link", name="The result").click()
    expect(ben.locator(".result-count")).to_have_text("1 of 2 right")
    ben.get_by_role("link", name="Groups").click()
    ben.get_by_role("link", name="Autumn course").click()
    handed = ben.locator(".handed-out", has_text="Hut supplies")
    handed.get_by_role("button", name="Take a copy").click()
    expect(ben.locator("#active-cell")).to_be_attached()
    ben.goto("/groups/1")
    ben.get_by_role("button", name="Hand it in").click()
    expect(ben.get_by_role("button", name="Take it back")).to_be_visible()
    ada.reload()
    row = ada.get_by_role("row", name="Ben")
    expect(row).to_contain_text("1 of 2 right")
    expect(row).to_contain_text("handed in")
    assert violations(ada) == []
    ada.get_by_role("link", name="Monday").click()
    expect(ada.get_by_label("What was mistaken")).to_contain_text("a column went along")
    assert violations(ada) == []
    ada.get_by_role("link", name="lock-2-1").click()
    expect(ada.locator(".overlay .count")).to_have_count(1)
    assert violations(ada) == []
    ada.goto("/groups/1/handouts/2")
    ada.get_by_role("link", name="Ben").click()
    expect(ada.locator(".shared-line")).to_contain_text("handed in by Ben")
    ada.get_by_role("link", name="Loads").click()
    expect(ada.locator("h1")).to_contain_text("Loads")
    assert violations(ada) == []


def test_a_link_shares_a_workbook(come_in):
    ada, ben = come_in("Ada"), come_in("Ben")
    ada.get_by_role("link", name="Workbooks").click()
    ada.get_by_role("link", name="Hut supplies").click()
    expect(ada.locator("[data-cell=A1]")).to_be_visible()
    ada.get_by_role("button", name="Files …").click()
    ada.get_by_role("link", name="Share it with others by a link").click()
    ada.get_by_role("button", name="Make a link to copy it").click()
    link = ada.get_by_label("a link to copy it").input_value()
    assert violations(ada) == []
    ben.goto(link)
    ben.get_by_role("button", name="Copy it to my workbooks").click()
    expect(ben.locator("#active-cell")).to_be_attached()
    ben.get_by_role("link", name="Ben", exact=True).click()
    expect(ben.get_by_role("heading", name="Ben")).to_be_visible()
    assert violations(ben) == []
    ben.get_by_role("button", name="Sign out").click()
    expect(ben.get_by_role("heading", name="Sign in")).to_be_visible()
    assert violations(ben) == []
