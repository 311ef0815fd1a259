"""What is needed for the step at hand is seen whole, at the sizes that people have."""

import pytest
from playwright.sync_api import expect

SIZES = [(1024, 700), (1280, 800), (1920, 1080)]


def seen_whole(page, selector):
    """Whether all that matches lies inside the window and is not covered by something else."""
    return page.locator(selector).evaluate_all(
        """boxes => boxes.length > 0 && boxes.every(box => {
             const r = box.getBoundingClientRect();
             const top = document.elementFromPoint(r.x + r.width / 2, r.y + r.height / 2);
             return r.width > 0 && r.x >= 0 && r.y >= 0 && r.right <= innerWidth + 1
               && r.bottom <= innerHeight + 1 && (box.contains(top) || top?.contains(box));
           })"""
    )


@pytest.mark.parametrize("size", SIZES, ids=lambda size: f"{size[0]}x{size[1]}")
def test_nothing_that_is_needed_is_hidden(open_bench, context, size):
    bench = open_bench()
    bench.page.set_viewport_size({"width": size[0], "height": size[1]})
    bench.settle()
    for needed in ("#desk-line", ".sheets a", "[data-view]", "#history button", ".steps button"):
        assert seen_whole(bench.page, needed), needed
    bench.click("C5")
    bench.type("=B5*C4")
    bench.settle()
    for needed in (".card-ref .pill button", ".reading", ".line-button", ".ends"):
        assert seen_whole(bench.page, needed), needed
    bench.keys(*["Alt+ArrowRight"] * 3, *["Alt+ArrowDown"] * 5)
    bench.at("Loads!C5:F10")
    bench.settle()
    for needed in (
        ".card-ref .pill button",
        ".panel .row-buttons button",
        ".finding .mend button",
    ):
        assert seen_whole(bench.page, needed), needed
    bench.page.locator(".finding .mend button").click()
    bench.settle()
    for needed in (".panel .row-buttons button", ".tile", ".listing"):
        assert seen_whole(bench.page, needed), needed
    bench.keys("Enter")
    bench.at("Loads!C5:F10")
    bench.settle()
    for needed in (".landing-line button", ".tile", ".foot .keys"):
        assert seen_whole(bench.page, needed), needed


def test_many_sheets_leave_the_grid_and_the_views_in_place(bench):
    bench.page.set_viewport_size({"width": 1024, "height": 700})
    for number in range(1, 6):
        bench.page.get_by_role("button", name="Add a sheet").click()
        bench.at(f"Sheet {number}!A1")
    bench.settle()
    for needed in (".sheets [aria-current]", "[data-view]", "#history button", ".steps button"):
        assert seen_whole(bench.page, needed), needed


def test_colour_is_never_alone_and_texts_have_contrast(bench):
    bench.click("E8")
    expect(bench.panel.locator(".listing .tag")).to_have_text(["a", "b"])
    expect(bench.page.locator(".overlay .letter text")).to_have_text(["a", "b"])
    ratios = bench.page.evaluate(
        """() => {
             const parse = c => c.match(/[\\d.]+/g).map(Number);
             const light = ([r, g, b]) => [r, g, b].map(v => v / 255)
               .map(v => v <= 0.03928 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
               .reduce((sum, v, i) => sum + v * [0.2126, 0.7152, 0.0722][i], 0);
             const under = el => { for (; el; el = el.parentElement) {
               const c = parse(getComputedStyle(el).backgroundColor);
               if (c.length === 3 || c[3] === 1) return c; } return [255, 255, 255]; };
             return [...document.querySelectorAll("body *")]
               .filter(el => [...el.childNodes].some(n => n.nodeType === 3 && n.data.trim()))
               .filter(el => el.checkVisibility() && !el.closest("svg, script, .line-chips"))
               .map(el => {
                 const [a, b] = [parse(getComputedStyle(el).color), under(el)].map(light);
                 const ratio = (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
                 return [ratio, el.textContent.trim()];
               });
           }"""
    )
    poor = [(round(ratio, 2), text) for ratio, text in ratios if ratio < 4.5]
    assert len(ratios) > 60 and poor == []


def test_where_the_bar_has_no_room_the_pages_fold_into_a_menu(bench):
    page = bench.page
    sweeps = page.get_by_role("link", name="Sweeps")
    expect(sweeps).to_be_visible()
    page.set_viewport_size({"width": 1024, "height": 700})
    expect(sweeps).to_be_hidden()
    button = page.get_by_role("button", name="Pages")
    button.focus()
    page.keyboard.press("Enter")
    expect(sweeps).to_be_visible()
    page.keyboard.press("Escape")
    expect(sweeps).to_be_hidden()
    button.click()
    sweeps.click()
    expect(page.get_by_role("heading", name="Sweeps", level=1)).to_be_visible()
