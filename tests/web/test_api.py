import pytest


def test_shift_lists_every_landing_with_its_references(client):
    request = {"formula": "=$B5*C$4", "from": "C5", "to": "C5:F10"}
    landings = client.post("/api/v1/shift", json=request).json()["landings"]
    assert len(landings) == 24
    (landing,) = [each for each in landings if each["cell"] == "E8"]
    assert landing["formula"] == "=$B8*E$4"
    first = landing["references"][0]
    corners = first.pop("corners")
    assert first == {
        "tag": "a", "start": "$B5", "here": "$B8", "columns": 0, "rows": 3,
        "column_locked": True, "row_locked": False,
    }  # fmt: skip
    assert corners == [{"columns": 0, "rows": 3, "column_locked": True, "row_locked": False}]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"formula": "=B5*"}, "ends too early"),
        ({"formula": "B5"}, "begin with"),
        ({"formula": "=" + "(" * 10_000}, "10,000 characters"),
        ({"from": "C0"}, "not the address of a cell"),
        ({"to": "C5:C2000000"}, "beyond the last row"),
        ({"to": "A1:Z10000"}, "lists 50,000 at most"),
        ({"tu": "C5"}, "tu"),
    ],
)
def test_what_cannot_be_used_is_told(client, change, says):
    request = {"formula": "=$B5*C$4", "from": "C5", "to": "C5:F10", **change}
    answer = client.post("/api/v1/shift", json=request)
    assert answer.status_code == 422 and says in answer.json()["error"]


def test_the_interface_is_described(client):
    paths = client.get("/api/v1/openapi.json").json()["paths"]
    assert list(paths) == ["/api/v1/shift"]
