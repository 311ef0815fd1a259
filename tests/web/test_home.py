import re
from html import unescape

from dreieck.core.functions import every


def listed(client):
    return re.findall(r'class="shelf-name" href="[^"]*">([^<]*)', client.get("/").text)


def test_a_workbook_is_made_renamed_and_deleted_with_a_question(client):
    made = client.post("/workbooks", data={"name": "Winter plan"}, follow_redirects=False)
    assert made.headers["location"] == "/workbooks/2"
    assert "Sheet 1" in client.get("/workbooks/2").text
    answer = client.post("/workbooks/2/rename", data={"name": "Winter <b>"}).text
    assert "Winter &lt;b&gt;" in answer
    question = client.get("/workbooks/1/question").text
    assert "Delete “Hut supplies”?" in question
    assert re.search(r"4 sheets with \d{3} filled cells,\s+and 0 changes", question)
    client.post("/workbooks/1/delete")
    assert listed(client) == ["Winter &lt;b&gt;"]
    assert "deleted already" in client.post("/workbooks/1/delete").text
    assert client.get("/workbooks/1/question").status_code == 404


def test_a_refused_name_is_told_and_kept_in_the_field(client):
    answer = client.post("/workbooks", data={"name": "x" * 90}).text
    assert "80 characters" in answer and "x" * 90 in answer
    assert "needs a name" in client.post("/workbooks/1/rename", data={"name": " "}).text
    assert listed(client) == ["Hut supplies"]


def test_the_demo_is_started_again_after_naming_what_is_lost(client, page):
    assert "Nothing of yours is lost" in client.get("/demo/question").text
    page.enter("C4", "500")
    assert "your 1 change in it" in client.get("/demo/question").text
    started = client.post("/demo", headers={"HX-Request": "true"})
    assert started.headers["HX-Redirect"] == "/workbooks/2"
    # No number is given twice: an older page of the demo acts on nothing.
    assert client.post("/workbooks/1/act/undo", data=page.state).status_code == 404
    assert listed(client) == ["Hut supplies"]


def test_the_guide_tells_keys_and_every_function(client):
    text = unescape(client.get("/guide").text)
    assert "Alt + C" in text
    for function in every():
        assert f'id="{function.name}"' in text and function.examples[0][0] in text
        assert f"<td>{function.purpose}</td>" in text
    assert "<html" not in client.get("/guide/keys").text
