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
    [{"Origin": "http://elsewhere.example"}, {"Origin": "null"}, {"Sec-Fetch-Site": "cross-site"}],
)
def test_changes_from_other_origins_are_refused(client, headers):
    answer = client.post("/workbooks", data={"name": "Stolen"}, headers=headers)
    assert answer.status_code == 403
    assert "Stolen" not in client.get("/").text


def test_changes_from_our_own_pages_are_taken(client):
    headers = {"Origin": "http://testserver", "Sec-Fetch-Site": "same-origin"}
    answer = client.post("/workbooks", data={"name": "Ours"}, headers=headers)
    assert answer.status_code == 200 and "Ours" in client.get("/").text


def test_unknown_hosts_and_bodies_too_large_are_refused(client):
    assert client.get("/", headers={"Host": "evil.example"}).status_code == 400
    assert client.post("/workbooks", data={"name": "x" * 2_100_000}).status_code == 413
    assert client.get("/healthz").text == "ok"


def test_nobody_sees_a_stack_trace(client, monkeypatch):
    def fail(*_):
        raise RuntimeError("secret detail")

    monkeypatch.setattr(client.app.state.library, "listed", fail)
    answer = client.get("/")
    assert answer.status_code == 500
    assert "Nothing that was kept is lost" in answer.text and "secret" not in answer.text
    missing = client.get("/nowhere")
    assert missing.status_code == 404 and "no page at this address" in missing.text
