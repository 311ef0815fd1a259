"""The pages of sweeps: kept, run in parts, out of date, put on a sheet, solved."""

import re
from html import unescape

import pytest
from web_page import Page

from dreieck.web import sweeping

SWEEPS = "/workbooks/1/sweeps"


def text(answer):
    assert answer.status_code == 200, answer.text
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", unescape(answer.text)))


def revision(client):
    return client.app.state.library.open(1).revision


def post(client, at="", **form):
    return client.post(SWEEPS + at, data={"revision": revision(client), **form})


def test_the_sweeps_of_the_demo_are_run_seen_and_out_of_date_after_a_change(client):
    assert "reserve and carry_price" in text(client.get(SWEEPS))
    told = text(client.get(SWEEPS + "/1"))
    assert "over reserve; 7 runs" in told and "grows steadily, by 172.33" not in told
    assert "grows steadily, by 172.3253 from one to the next" in told
    assert "30% 4,480.46 172.33 1.0400" in told
    assert "pale is 2,855.54, dark 5,632.85" in text(client.get(SWEEPS + "/2"))
    page = Page(client, sheet=1)
    page.act("dress", name="bold", anchor="A1", focus="A1")
    assert "Out of date" not in text(client.get(SWEEPS + "/1"))
    page.enter("B7", "2")
    assert "Out of date" in text(client.get(SWEEPS + "/1"))
    assert 'role="alert"' in post(client, "/1/sheet").text
    assert "Out of date" not in text(post(client, "/1/run"))


def test_a_sweep_is_laid_out_for_an_input_kept_by_fields_or_as_written_and_deleted(client):
    laid = client.get(SWEEPS + "?input=Prices!B4").text
    assert 'value="30%"' in laid and "Prices!F13" in laid
    assert "<b>x" not in client.get(SWEEPS + "?input=<b>x").text
    kept = post(client, input="Prices!B4", values="0.1, 0.2", results="Prices!F13")
    assert "2 runs" in text(kept)
    drawn = post(client, **{"input": "Prices!B4", "from": "0%", "to": "10%", "count": "20",
                            "results": "Season!C15"})  # fmt: skip
    assert "20 runs" in text(drawn) and "does not answer" in text(drawn)
    two = {"input": "reserve", "from": "0", "to": "1", "step": "0.5", "results": "Prices!F13",
           "input_2": "Loads!C4", "values_2": "Season!B4:B6"}  # fmt: skip
    assert "9 runs" in text(post(client, **two))
    assert "3 runs" in text(post(client, states="=SWEEP(OVER(Season!B4,1,3,1),Season!C4:C15)"))
    assert "step by step" in text(client.get(SWEEPS + "/6"))
    for form, why in (
        ({}, "which input"), ({"input": "B4", "values": "1,2"}, "which results"),
        ({"input": "B4", "results": "C4"}, "from where to where"),
        ({"input": "B4", "from": "1", "to": "2", "results": "C4"}, "by which steps"),
        ({"states": "=SWEEP(<b>"}, "expected"), ({"delete": "77"}, "no longer there"),
    ):  # fmt: skip
        refused = post(client, **form)
        assert why in text(refused) and 'role="alert"' in refused.text
    assert "<b>x" not in post(client, states="=SWEEP(<b>x").text
    assert "=SWEEP(OVER(Season!B4,1,3,1)" in client.get(SWEEPS + "?change=6").text
    changed = post(client, number=6, states="=SWEEP(OVER(Season!B4,1,4,1),Season!C15)")
    assert str(changed.url).endswith("/sweeps/6") and "4 runs" in text(changed)
    post(client, delete=6)
    assert client.get(SWEEPS + "/6").status_code == 404


def test_what_came_out_goes_to_a_sheet_as_formulas_as_values_and_as_csv(client):
    assert client.get(SWEEPS + "/2/text").status_code == 404
    client.get(SWEEPS + "/2")
    lines = client.get(SWEEPS + "/2/text").text.splitlines()
    assert lines[:2] == ["reserve,carry_price,Prices!F13", "0,1,2855.538"] and len(lines) == 64
    sheet = post(client, "/2/sheet", formulas="yes")
    number = int(re.search(r"/sheets/(\d+)", str(sheet.url))[1])
    page = Page(client, sheet=number).select("C5")
    assert page.scene["text"].startswith("=SUM(Prices!$B$7*(SUM(Loads!$C$5:$F$5)*(1+$A5))")
    assert page.shown("A5", "B3", "C5") == ["5%", "1.00", "3,192.23"]
    page.act("undo")
    post(client, "/1/run")
    assert post(client, "/1/sheet").status_code == 200


def test_the_input_for_a_result_is_found_and_put_in(client):
    client.get(SWEEPS + "/1")
    asked = {"result": "0", "wanted": "4000", "low": "0%", "high": "30%"}
    answer = post(client, "/1/solve", **asked)
    assert "One input gives that. Put 16.05956873% in" in text(answer)
    assert "goes from" in text(post(client, "/1/solve", **asked | {"wanted": "1"}))
    assert "is no number" in text(post(client, "/1/solve", **asked | {"low": "x"}))
    value = re.search(r'name="put" value="([^"]+)"', answer.text)[1]
    for wrong in ("x", "nan", "inf", "=B4"):
        assert "is no number" in text(post(client, "/1/solve", put=wrong))
    post(client, "/1/solve", put=value)
    assert Page(client, sheet=1).shown("F13") == ["4,000.00"]


@pytest.fixture
def hasty(monkeypatch):
    monkeypatch.setattr(sweeping, "SECONDS", 0.0)


def test_a_long_sweep_goes_on_from_request_to_request_and_can_be_stopped(client, hasty):
    answer = post(client, states="=SWEEP(OVER(Prices!B4,0,1,0.0002),Prices!F13)")
    assert "Running: 2,048 of 5,001 runs" in text(answer) and "hx-get" in answer.text
    assert "Running: 4,096 of 5,001" in text(client.get(SWEEPS + "/3"))
    stopped = post(client, "/3/stop")
    assert "Stopped after 4,096" in text(stopped) and "hx-get" not in stopped.text
    assert "Stopped after 4,096" in text(client.get(SWEEPS + "/3"))
    post(client, "/3/run")
    for _ in range(2):
        told = text(client.get(SWEEPS + "/3"))
    assert "5,001 runs" in told and "the first 200; CSV has all" in told
    # What changes meanwhile lets it begin anew.
    post(client, "/3/run")
    Page(client, sheet=1).enter("B7", "2")
    assert "Running: 2,048" in text(client.get(SWEEPS + "/3"))
    assert client.get(SWEEPS + "/3/text").status_code == 404


def test_a_sweep_whose_cells_are_gone_says_so(client):
    client.get(SWEEPS + "/1")
    Page(client, sheet=1).act("delete-sheet", index=1)
    assert "cannot be run" in text(client.get(SWEEPS)) and client.get(SWEEPS + "/1").is_success
