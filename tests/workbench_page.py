"""The workbench as hands and eyes meet it: cells by address, keys, the pointer."""

from playwright.sync_api import expect


class Workbench:
    """A page of the workbench."""

    def __init__(self, page):
        self.page = page
        self.desk = page.locator("#desk-line")
        self.panel = page.locator("#panel")
        self.notice = page.locator("#notice")
        self.foot = page.locator("#foot")
        self.reading = page.locator(".reading")
        expect(self.foot).to_contain_text("!")

    def cell(self, address):
        """The box of a cell in view."""
        return self.page.locator(f'td[data-cell="{address}"]')

    def shows(self, address, text):
        expect(self.cell(address)).to_have_text(text)

    def click(self, address, **options):
        self.cell(address).click(**options)

    def keys(self, *names):
        for name in names:
            self.page.keyboard.press(name)

    def type(self, text):
        self.page.keyboard.type(text)

    def at(self, place):
        """Wait until the foot tells that this place is selected or rehearsed."""
        expect(self.foot.locator("span").first).to_have_text(place)

    def go_to(self, address):
        self.keys("Alt+KeyG")
        self.type(address)
        self.keys("Enter")

    def pull(self, start, end):
        """Pull the pointer from one box to another, step by step."""
        for position, box in enumerate((self.box(start), self.box(end))):
            x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
            self.page.mouse.move(x, y, steps=6)
            if position == 0:
                self.page.mouse.down()
        self.page.mouse.up()

    def hold_the_first(self):
        """Hold back the first picture that is asked for from now on; it comes into the list.

        What the page asks for by itself, late values, gives way to it and is let through.
        """
        held = []

        def hold(route):
            if held or "patient=true" in (route.request.post_data or ""):
                route.continue_()
            else:
                held.append(route)

        self.page.route("**/act/show", hold)
        return held

    def settle(self):
        """Wait until the page has shown all that was asked of it."""
        expect(self.page.locator("#page-state:not([data-busy])")).to_have_count(1)

    def box(self, drawn):
        """Where a thing stands once nothing is drawn anew any more."""
        self.settle()
        return drawn.bounding_box()

    @property
    def grip(self):
        return self.page.locator(".grip")

    def switch(self, letter, axis, choice):
        card = self.page.get_by_role("region", name=f"Reference {letter}")
        group = card.get_by_role("radiogroup", name=f"{axis} of {letter}")
        return group.get_by_role("radio", name=choice, exact=True)

    def chosen(self, letter, axis, choice):
        expect(self.switch(letter, axis, choice)).to_have_attribute("aria-checked", "true")

    def has_rails(self, *frames):
        """Wait until frames with these edges are drawn: left, top, right, bottom of each."""
        self.page.wait_for_function(
            """wanted => {
                 const frames = [...document.querySelectorAll(".overlay g:not(.at-start)")]
                   .map(group => [...group.querySelectorAll("line")])
                   .map(lines => lines.map(line => line.classList[0]).join(" "))
                   .filter(edges => /^((solid|free) ?){4}$/.test(edges));
                 return String(frames) === String(wanted);
               }""",
            arg=list(frames),
        )
