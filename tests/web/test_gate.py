"""Beyond this machine only those come in who have the key."""

import shutil

import pytest
from fastapi.testclient import TestClient

from dreieck.web import gate
from dreieck.web.app import create_app
from dreieck.web.settings import Settings

KEY = "four-huts"
PAGES = ("/", "/workbooks/1", "/guide", "/four-ways", "/nowhere", "/api/v1/openapi.json")


@pytest.fixture
def shared(made_data, tmp_path):
    data = shutil.copy(made_data / "demo", tmp_path / "shared.db")
    settings = Settings(data=data, demo=True, host="0.0.0.0", key=KEY)
    with TestClient(create_app(settings), base_url="http://192.0.2.7:8765") as opened:
        yield opened


def test_without_the_key_every_page_and_interface_says_what_to_do(shared):
    for path in PAGES:
        answer = shared.get(path, follow_redirects=False)
        assert answer.status_code == 401 and "key" in answer.text, path
        assert "content-security-policy" in answer.headers
    told = shared.post("/api/v1/evaluate", json={"sheets": {"S": {"A1": "1"}}})
    assert told.status_code == 401 and "Bearer" in told.json()["error"]
    assert shared.post("/workbooks", data={"name": "x"}).status_code == 401
    assert shared.get("/healthz").text == "ok"
    assert shared.get("/static/css/base.css").status_code == 200


def test_the_address_with_the_key_signs_a_browser_in(shared):
    answer = shared.get(f"/key/{KEY}?to=/workbooks/1", follow_redirects=False)
    assert answer.status_code == 303 and answer.headers["location"] == "/workbooks/1"
    assert "httponly" in answer.headers["set-cookie"].lower()
    assert KEY not in answer.headers["set-cookie"]
    assert shared.get("/workbooks/1").status_code == 200
    shared.cookies.clear()
    shared.cookies.set(gate.COOKIE, "in.abc.def")
    assert shared.get("/").status_code == 401
    typed = shared.post("/key", data={"key": f" {KEY} "}, follow_redirects=False)
    assert typed.status_code == 303 and typed.headers["location"] == "/"
    elsewhere = shared.get(f"/key/{KEY}?to=//evil.example", follow_redirects=False)
    assert elsewhere.headers["location"] == "/"


def test_scripts_send_the_key_along(shared):
    asked = {"sheets": {"S": {"A1": "=1+1"}}}
    for key, status in ((KEY, 200), ("wrong", 401)):
        header = {"Authorization": f"Bearer {key}"}
        assert shared.post("/api/v1/evaluate", json=asked, headers=header).status_code == status


def test_wrong_tries_slow_down(shared, monkeypatch):
    now = [0.0]
    monkeypatch.setattr(gate.time, "monotonic", lambda: now[0])
    for _ in range(3):
        assert shared.get("/key/wrong").status_code == 401
    assert shared.get(f"/key/{KEY}").status_code == 429
    assert "Wait 1 seconds" in shared.get("/").text
    now[0] += 1.1
    assert shared.get("/key/wrong").status_code == 401
    now[0] += 1.1
    assert shared.get(f"/key/{KEY}").status_code == 429
    now[0] += 1.1
    assert shared.get(f"/key/{KEY}", follow_redirects=False).status_code == 303
    assert shared.get("/").status_code == 200


def test_a_key_is_made_up_beyond_this_machine_and_none_is_needed_on_it(tmp_path):
    keys = []
    for number, host in enumerate(("0.0.0.0", "192.0.2.7", "127.0.0.1", "localhost", "::1")):
        app = create_app(Settings(data=tmp_path / f"{number}.db", host=host))
        keys.append(app.state.keyring.key)
        app.state.library.close()
    assert all(len(key) > 20 for key in keys[:2]) and keys[0] != keys[1]
    assert keys[2:] == ["", "", ""]


def test_hosts_told_by_number_are_known_where_others_may_come(shared, client):
    for host, status in (("192.0.2.9", 401), ("[2001:db8::1]:80", 401), ("evil.example", 400)):
        assert shared.get("/", headers={"Host": host}).status_code == status
    assert client.get("/", headers={"Host": "192.0.2.9"}).status_code == 400
