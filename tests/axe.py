"""What axe finds wrong with a page for people with assistive technology."""

from pathlib import Path

AXE = Path(__file__).parents[1] / "node_modules" / "axe-core" / "axe.min.js"
# Where rows are all alike, the first ones tell of all.
ALIKE = ".functions tr:nth-child(n+4), .listing tr:nth-child(n+6)"
CELLS = "#grid tr:nth-child(n+12)"
# By night other colours hold, and nothing else.
SCHEMES = {"light": {}, "dark": {"runOnly": ["color-contrast"]}}


def violations(page, part="html"):
    """What is wrong with a part of a page, by day and by night."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE.read_text())
    page.locator(ALIKE).evaluate_all("rows => rows.forEach(row => row.remove())")
    found = []
    for scheme, options in SCHEMES.items():
        page.emulate_media(color_scheme=scheme, reduced_motion="reduce")
        told = page.evaluate(
            "([where, options]) => axe.run(where, { resultTypes: ['violations'], ...options })",
            [{"include": [part], "exclude": [CELLS]}, options],
        )
        found += [(scheme, each["id"], each["nodes"][0]["html"]) for each in told["violations"]]
    page.emulate_media(color_scheme="light")
    return found
