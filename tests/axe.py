"""What axe finds wrong with a page for people with assistive technology."""

from pathlib import Path

AXE = Path(__file__).parents[1] / "node_modules" / "axe-core" / "axe.min.js"


def violations(page):
    page.evaluate(AXE.read_text())
    found = page.evaluate("axe.run(document, { resultTypes: ['violations'] })")
    return [(each["id"], each["nodes"][0]["html"]) for each in found["violations"]]
