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
    files = [f"/api/v1/files/{name}" for name in ("calc", "check", "shift", "diff", "convert")]
    assert list(paths) == [
        "/api/v1/shift",
        "/api/v1/evaluate",
        "/api/v1/check",
        "/api/v1/locks",
        *files,
    ]


SHEETS = {
    "Prices": {"B3": "1.80", "B4": "12%", "B5": "=1/0", "B6": "=B5*"},
    "Loads": {"C4": "420", "B5": "0.12", "C5": "=$B5*C$4", "C6": "=C5*Prices!B5", "C7": "=rate*2",
              "C8": "=C4>1", "C9": "Flour", "C10": "=Prices!B4"},
}  # fmt: skip


def evaluated(client, **request):
    given = {"sheets": SHEETS, "names": {"rate": "Prices!$B$3"}, **request}
    return client.post("/api/v1/evaluate", json=given)


@pytest.mark.parametrize(
    ("address", "cell"),
    [
        ("Loads!C5", (50.4, "number", "50.4", "=$B5*C$4", None)),
        ("Loads!C6", ("#DIV/0!", "error", "#DIV/0!", "=C5*Prices!B5", "Prices!B5")),
        ("Prices!B6", ("#NAME?", "error", "#NAME?", "=B5*", "Prices!B6")),
        ("Loads!C7", (3.6, "number", "3.6", "=rate*2", None)),
        ("Loads!C8", (True, "logical", "TRUE", "=C4>1", None)),
        ("loads!c9", ("Flour", "text", "Flour", None, None)),
        ("Prices!B4", (0.12, "number", "12%", None, None)),
        ("C1", (None, "empty", "", None, None)),
    ],
)
def test_evaluate_answers_with_value_kind_text_formula_and_cause(client, address, cell):
    answer = evaluated(client, ask=[address]).json()["cells"][address]
    assert tuple(answer[key] for key in ("value", "kind", "shown", "formula", "cause")) == cell
    assert (answer["error"] is not None) == (cell[1] == "error")


def test_evaluate_says_what_is_wrong_and_answers_with_all_cells_if_none_is_asked(client):
    cells = evaluated(client).json()["cells"]
    assert len(cells) == sum(len(entries) for entries in SHEETS.values())
    assert "ends too early" in cells["Prices!B6"]["error"]
    assert "divisor" in cells["Loads!C6"]["error"]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"ask": ["Nowhere!A1"]}, "no sheet “Nowhere”"),
        ({"ask": ["Loads!5"]}, "not the address of a cell"),
        ({"sheets": {"Loads": {"A0": "1"}}}, "not the address of a cell"),
        ({"sheets": {}}, "sheets"),
        ({"sheets": {"a!b": {}}}, "cannot stand in the name"),
        ({"names": {"B5": "Loads!A1"}}, "“B5_” would do"),
        ({"sheets": {"Loads": {"A1": "x" * 10_001}}}, "10,000 characters"),
    ],
)
def test_what_evaluate_cannot_use_is_told(client, change, says):
    answer = evaluated(client, **change)
    assert answer.status_code == 422 and says in answer.json()["error"]


def test_likely_locks_are_proposed_with_what_speaks_against_them(client):
    table = {
        "C4": "420", "D4": "280", "E4": "315", "B5": "0.12", "B6": "0.08", "B7": "0.3",
        "C5": "=B5*C4",
    }  # fmt: skip
    asked = {"sheets": {"Loads": table}, "from": "Loads!C5", "to": "C5:E7"}
    proposals = client.post("/api/v1/locks", json=asked).json()["proposals"]
    assert proposals[0]["formula"] == "=$B5*C$4" and proposals[0]["findings"] == []
    assert "E7 reads B7 and E4" in proposals[0]["says"] and len(proposals) == 5
    assert {"heading-unread"} <= {rule for each in proposals[1:] for rule in each["findings"]}
    asked["formula"] = "=$C$4*$B$5"
    proposals = client.post("/api/v1/locks", json=asked).json()["proposals"]
    assert proposals[0]["formula"] == "=C$4*$B5"
    for wrong, said in (
        ({"from": "C6"}, "holds no formula"), ({"to": "Prices!C5:C9"}, "stay on"),
        ({"formula": "B5"}, "begin with"), ({"to": "C0"}, "is not an area"),
        ({"formula": "=B5*"}, "ends"),
    ):  # fmt: skip
        refused = client.post("/api/v1/locks", json={**asked, "formula": None} | wrong)
        assert refused.status_code == 422 and said in refused.json()["error"], wrong


def test_a_check_runs_the_proofs_that_come_with_it(client):
    asked = {"sheets": {"Loads": {"A1": "1", "A2": "2", "A3": "9"}}}
    proofs = ["=ADDS.UP(A1:A2,3)", "=NEVER.RISES(A1:A3)"]
    answer = client.post("/api/v1/check", json=asked | {"proofs": proofs}).json()
    assert [(each["holds"], each["outcome"]) for each in answer["proofs"]] == [
        (True, "comes to 3"),
        (False, "rises 2 times; first in Loads!A2: 2 after 1"),
    ]
    failing = answer["proofs"][1]
    assert failing["cells"] == ["Loads!A2", "Loads!A3"] and failing["count"] == 2
    assert failing["states"] == "=NEVER.RISES(Loads!A1:A3)"
    assert failing["says"] == "Loads!A1:A3 never rises"
    for wrong, why in ((["=ADDS.UP(A1)"], "takes cells"), (["=A1=("], "expected"), (["x"], "=")):
        refused = client.post("/api/v1/check", json=asked | {"proofs": wrong})
        assert refused.status_code == 422 and why in refused.json()["error"]
    refused = client.post("/api/v1/check", json=asked | {"proofs": ["=A1=1"] * 201})
    assert refused.status_code == 422


def test_a_check_tells_one_finding_with_its_evidence_and_what_comes_of_it(client):
    table = {
        "A1": "Price", "B1": "1.8", "B3": "kg", "B4": "50", "B5": "33", "B6": "21",
        "C4": "=B4*B1", "C5": "=B5*B2", "C6": "=B6*B3", "C7": "=SUM(C4:C6)",
    }  # fmt: skip
    answer = client.post("/api/v1/check", json={"sheets": {"Loads": table}}).json()
    (found,) = [each for block in answer["blocks"] for each in block["findings"]]
    assert found["causes"] == [
        "C5 is 0", "C6 shows #VALUE!", "C7 fails because of them",
    ]  # fmt: skip
    assert "C6 reads text by ⓑ where a number is needed" in found["because"]
    assert found["mends"][0]["after"] == "=B4*B$1" and answer["findings"] == []
