"""The files of the pages: addresses that change with them, kept for good, compressed."""

import re
from pathlib import Path

from dreieck.core.grid import LAST
from dreieck.web import static_files
from dreieck.web.static_files import address, modules, version

SCRIPTS = Path(static_files.__file__).parent / "static" / "js"


def test_what_a_page_names_is_there_kept_for_good_and_compressed(client):
    page = client.get("/workbooks/1/sheets/2").text
    named = set(re.findall(r'"(/static/[^"]+)"', page))
    assert len(named) > 40 and all(f"/{version()}/" in each for each in named)
    for each in named:
        answer = client.get(each)
        assert answer.status_code == 200, each
        assert "immutable" in answer.headers["cache-control"]
    answer = client.get(address("js/workbench.js"))
    assert answer.headers["content-encoding"] == "gzip" and "import" in answer.text
    plain = client.get(address("js/workbench.js"), headers={"accept-encoding": "identity"})
    assert plain.text == answer.text and "content-encoding" not in plain.headers


def test_an_older_address_still_leads_to_the_file_which_is_not_kept(client):
    for path in ("/static/0123456789ab/css/base.css", "/static/css/base.css"):
        answer = client.get(path)
        assert answer.status_code == 200 and answer.headers["cache-control"] == "no-cache"
    assert client.get("/static/0123456789ab/css/none.css").status_code == 404
    assert client.get(address("../app.py")).status_code == 404


def test_all_scripts_that_a_script_needs_are_announced():
    named = {each.rsplit("/", 1)[1] for each in modules("workbench.js")}
    assert {"workbench.js", "exchange.js", "adopting.js", "drifting.js"} <= named
    assert "tables.js" not in named


def test_the_page_knows_the_end_of_a_sheet_as_the_core_does():
    script = (SCRIPTS / "address.js").read_text()
    assert f"LAST = [{LAST['column']}, {LAST['row']}]" in script
    for other in SCRIPTS.glob("*.js"):
        assert other.name == "address.js" or not re.search(r"18278|1000000", other.read_text())
