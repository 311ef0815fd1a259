"""A page of the workbench over HTTP: keeps its state as the browser does, and acts on it."""

import json
import re
from html import unescape


class Page:
    """One open page."""

    def __init__(self, client, workbook=1, sheet=2):
        self.client = client
        self.address = f"/workbooks/{workbook}/act/"
        self.state = {"revision": 0, "sheet": sheet}
        self.act("show")

    def act(self, action, **wish):
        form = {key: value for key, value in {**self.state, **wish}.items() if value is not None}
        answer = self.client.post(self.address + action, data=form)
        assert answer.status_code == 200, answer.text
        self.answer = answer.text
        self.scene = json.loads(unescape(re.search(r'data-scene="([^"]*)"', answer.text)[1]))
        # On top of a picture only what differs of the state that was sent is told.
        kept = {name: form[name] for name in form if name in self.state}
        led = {**(kept if self.scene["since"] else {}), **self.scene["state"]}
        self.state = {**led, "revision": self.scene["revision"]}
        return self

    def write(self, address, text):
        return self.act("show", anchor=address, focus=address, writing=address, text=text)

    def enter(self, address, text, **wish):
        return self.act("enter", anchor=address, focus=address, writing=address, text=text, **wish)

    def select(self, anchor, focus=None):
        return self.act("show", anchor=anchor, focus=focus or anchor)

    def shown(self, *addresses):
        cells = {(cell["column"], cell["row"]): cell["shown"] for cell in self.scene["cells"]}
        return [cells.get((ord(address[0]) - 64, int(address[1:]))) for address in addresses]

    @property
    def html(self):
        return unescape(self.answer)

    @property
    def notice(self):
        found = re.search(r'<p class="notice [^>]*>(.*?)</p>', self.html, re.DOTALL)
        return re.sub(r"\s+", " ", found[1]).strip() if found else ""

    @property
    def text(self):
        return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", self.html))
