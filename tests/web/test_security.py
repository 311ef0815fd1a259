import pytest


def test_every_page_forbids_inline_scripts_and_other_origins(client):
    for path in ("/", "/healthz", "/nowhere", "/static/js/workbench.js"):
        policy = client.get(path).headers["content-security-policy"]
        assert "script-src 'self';" in policy and "unsafe" not in policy
    html = client.get("/workbooks/1").text
    assert "<script>" not in html and "style=" not in html and "onclick" not in html
    assert "http://" not in html.replace("http://www.w3.org", "") and "https://" not in html


@pytest.mark.parametrize(
    "headers",
    [
        {"Origin": "http://elsewhere.example"},
        {"Origin": "https://testserver"},
        {"Origin": "null"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Referer": "http://elsewhere.example/page"},
        {"Referer": "http://testserver.elsewhere.example/"},
    ],
)
def test_changes_from_other_origins_are_refused(client, headers):
    answer = client.post("/workbooks", data={"name": "Stolen"}, headers=headers)
    assert answer.status_code == 403
    assert "Stolen" not in client.get("/").text


def test_changes_from_our_own_pages_are_taken(client):
    for number, headers in enumerate((
        {"Origin": "http://testserver", "Sec-Fetch-Site": "same-origin"},
        {"Referer": "http://testserver/workbooks/1"},
        {},
    )):  # fmt: skip
        answer = client.post("/workbooks", data={"name": f"Ours {number}"}, headers=headers)
        assert answer.status_code == 200 and f"Ours {number}" in client.get("/").text


@pytest.mark.parametrize(
    "host",
    ["evil.example", "[::1].evil.example", "127.0.0.1:9100@evil.example", "127.0.0.1.", "", "::1"],
)
def test_unknown_hosts_are_refused_with_all_headers(client, host):
    answer = client.get("/", headers={"Host": host})
    assert answer.status_code == 400 and "not served here" in answer.text
    assert "content-security-policy" in answer.headers


def test_a_body_of_unknown_length_or_too_large_is_refused(client):
    chunked = {"Transfer-Encoding": "chunked", "Content-Length": "5"}
    form = {"Content-Type": "application/x-www-form-urlencoded"}
    parts = iter([b"name=", b"x"])
    assert client.post("/workbooks", content=parts, headers=form).status_code == 411
    assert client.post("/workbooks", content=b"name=", headers=form | chunked).status_code == 411
    assert client.post("/workbooks", data={"name": "x" * 2_100_000}).status_code == 413
    assert client.get("/healthz").text == "ok"


def test_half_characters_and_numbers_beyond_all_bounds_are_refused_in_words(client, page):
    kind = {"Content-Type": "application/json"}
    for body in (
        rb'{"sheets":{"S":{"A1":"\ud800"}}}',
        rb'{"sheets":{"S\ud800":{"A1":"1"}}}',
        rb'{"sheets":{"S":{"A1":"1"}},"names":{"a\ud800":"1"},"ask":["\ud800"]}',
    ):
        answer = client.post("/api/v1/evaluate", content=body, headers=kind)
        assert answer.status_code == 422 and "cannot be used" in answer.json()["error"]
    big = "9" * 30
    log = f"/workbooks/1/sheets/2/log?cell=C5&first={big}"
    for path in (f"/workbooks/{big}", f"/workbooks/{2**63}/names", log):
        assert client.get(path).status_code == 422, path
    for action, field in (
        ("show", "sheet"),
        ("show", "caret"),
        ("paste", "clip_workbook"),
        ("lock", "index"),
    ):
        answer = client.post(f"/workbooks/1/act/{action}", data={**page.state, field: big})
        assert answer.status_code == 422, field


def test_a_file_for_other_programs_holds_no_formula(client, page):
    page.enter("H5", '=C5&""').enter("C5", "-cmd|'/c calc'!A1")
    for typed in ("-cmd", " =1+1", "\uff1d1", "\u00a0@x", "+1+1"):
        page.enter("C5", "'" + typed)
        text = client.get("/workbooks/1/sheets/2/log.csv?cell=H5").text
        assert f"'{typed}" in text, typed
    page.enter("C5", "-1.5")
    assert ",-1.5," in client.get("/workbooks/1/sheets/2/log.csv?cell=H5").text


def test_one_answer_lists_so_many_moves_at_most(client):
    formula = "=SUM(" + ",".join(f"A{row}" for row in range(1, 151)) + ")"
    asked = {"formula": formula, "from": "C5", "to": "C5:C50004"}
    answer = client.post("/api/v1/shift", json=asked)
    assert answer.status_code == 422 and "250,000 moves at most" in answer.json()["error"]


@pytest.mark.logs_a_fault
def test_nobody_sees_a_stack_trace(client, monkeypatch):
    def fail(*_):
        raise RuntimeError("secret detail")

    monkeypatch.setattr(client.app.state.library, "listed", fail)
    answer = client.get("/")
    assert answer.status_code == 500
    assert "Nothing that was kept is lost" in answer.text and "secret" not in answer.text
    missing = client.get("/nowhere")
    assert missing.status_code == 404 and "no page at this address" in missing.text
