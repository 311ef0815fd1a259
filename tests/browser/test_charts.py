"""A chart is drawn, chosen, moved, sized, read and handed out, by pointer and by keyboard."""

import re

import pytest
from playwright.sync_api import expect


@pytest.fixture
def season(bench):
    bench.page.get_by_role("link", name="Season", exact=True).click()
    """The sheet with a chart of its first weeks alone."""
    bench.at("Season!A1")
    bench.keys("Alt+KeyQ")
    expect(bench.page.locator(".chart")).to_be_focused()
    bench.keys("Delete")
    expect(bench.page.locator(".chart")).to_have_count(0)
    bench.go_to("A3:B9")
    bench.at("Season!A3:B9")
    bench.keys("Alt+KeyP")
    expect(bench.page.locator(".chart")).to_have_count(1)
    return bench


def mark(bench, number):
    """A column of the chart, by its place from the left."""
    return bench.page.locator('.chart svg path[fill="#167a86"]').nth(number)


def stands(bench, place):
    expect(bench.page.get_by_label("stands over")).to_have_value(place)


def test_a_mark_leads_to_its_cell_and_follows_what_is_typed_there(season):
    expect(mark(season, 1)).to_be_visible()
    before = season.box(mark(season, 1))
    mark(season, 1).click()
    season.at("Season!B5")
    season.type("20")
    season.keys("Enter")
    assert season.box(mark(season, 1))["height"] < before["height"] / 2


def test_a_chart_is_moved_sized_and_changed_by_the_pointer(season):
    figure, panel = season.page.locator(".chart"), season.panel
    stands(season, "F3:J13")
    season.pull(figure.locator("text").first, season.cell("E6"))
    expect(figure).to_be_focused()
    stands(season, re.compile(r"[B-E]\d+:[F-I]\d+"))
    season.pull(figure.locator(".chart-corner"), season.cell("H15"))
    stands(season, re.compile(r".*:H15"))
    panel.get_by_role("button", name="areas").click()
    expect(figure).to_have_attribute("aria-label", "Chart Guests week by week: areas")
    panel.get_by_label("title", exact=True).fill("Beds in use")
    panel.get_by_label("title", exact=True).press("Enter")
    expect(figure).to_contain_text("Beds in use")
    panel.get_by_role("button", name="Rather each row").click()
    expect(panel.get_by_role("columnheader", name="Week 3")).to_be_visible()


def test_a_chart_is_chosen_moved_sized_and_deleted_by_keyboard(season):
    figure = season.page.locator(".chart")
    expect(figure).to_be_focused()
    season.keys("ArrowDown", "Shift+ArrowLeft")
    stands(season, "F4:I14")
    season.keys("Escape")
    expect(season.panel.get_by_label("stands over")).to_have_count(0)
    season.at("Season!A3:B9")
    season.keys("Alt+KeyQ")
    expect(figure).to_be_focused()
    # The table says the same, and each number leads to its cell.
    season.panel.get_by_role("button", name="163").focus()
    season.keys("Enter")
    season.at("Season!B8")
    season.keys("Alt+KeyQ")
    expect(figure).to_be_focused()
    season.keys("Delete")
    expect(figure).to_have_count(0)
    season.keys("Control+KeyZ")
    expect(figure).to_have_count(1)


def test_a_chart_is_handed_out_as_a_picture(season):
    for name, starts in (("SVG", b"<svg"), ("PNG", b"\x89PNG")):
        with season.page.expect_download() as handed:
            season.panel.get_by_role("button", name=name).click()
        assert handed.value.suggested_filename == f"Guests week by week.{name.lower()}"
        content = handed.value.path().read_bytes()
        assert content.startswith(starts) and len(content) > 2000
