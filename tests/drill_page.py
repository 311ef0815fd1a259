"""A drill in the browser, answered with the keyboard alone."""

from playwright.sync_api import expect


def keys(page, *names):
    for name in names:
        page.keyboard.press(name)


def arrows(page, start, end):
    """Walk over the cells of a drill from one to another."""
    steps = end.column - start.column, end.row - start.row
    for count, (back, onward) in zip(
        steps, (("ArrowLeft", "ArrowRight"), ("ArrowUp", "ArrowDown")), strict=True
    ):
        keys(page, *[onward if count > 0 else back] * abs(count))


def answer_by_keys(page, asked):
    """Answer the question that is shown, rightly, with the keyboard alone."""
    exercise = asked.exercise
    if asked.form == "reads":
        area = exercise.shape.references[exercise.number].area(asked.landing)
        expect(page.locator("[name=cell]")).to_be_focused()
        # The cells come after the buttons and links of the question.
        while page.evaluate("document.activeElement.dataset.at") != asked.landing.text:
            keys(page, "Tab")
        arrows(page, asked.landing, area.first)
        keys(page, "Enter")
        expect(page.locator("[name=cell]")).to_have_value(area.first.text)
        page.locator("[name=cell]").focus()
    elif asked.form == "lock":
        for number in exercise.shape.distinct:
            corners = exercise.shape.references[number].corners(exercise.start)
            for axis in ("column", "row"):
                ends = corners[0].on(axis), corners[-1].on(axis)
                group = page.locator(f"[name=lock-{number}-{axis}]")
                group.first.focus()
                choices = [(False, False), (True, True)]
                if len(corners) > 1:
                    choices = [(False, False), (True, False), (False, True), (True, True)]
                keys(page, *["ArrowRight"] * choices.index(ends))
        expect(page.locator("#locked")).to_have_text(exercise.formula)
    elif asked.form == "write":
        expect(page.locator("[name=formula]")).to_be_focused()
        page.keyboard.type(exercise.formula)
    elif asked.form == "find":
        first = asked.planted.first
        page.keyboard.type(first.text)
        keys(page, "Tab", "Space", *["ArrowDown"] * asked.right, "Tab")
        page.keyboard.type(exercise.shape.text(first))
    else:
        keys(page, "Space", *["ArrowDown"] * asked.right)
    keys(page, "Enter")
