"""The commands about files, as a shell runs them."""

import json
import os
import re
import subprocess
import sys
from pathlib import Path

import pytest
from command import run, run_apart
from packages import package

from dreieck.core.calculate import Calculation
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.editing.proving import proven
from dreieck.core.editing.stating import stated
from dreieck.files import FORMATS, Progress, Wish, write

ENTRIES = {
    "A1": "Carrying price", "B1": "1.80", "A3": "Item", "B3": "Weight", "B4": "50", "B5": "30",
    "C4": "=B4*B$1", "C5": "=B5*B$1", "C7": "=SUM(C4:C5)",
}  # fmt: skip
SLID = ENTRIES | {"C4": "=B4*B1", "C5": "=B5*B2"}
BROKEN = ENTRIES | {"C4": "=B4/B9", "C5": "=B5/B10"}
DOCS = Path(__file__).parents[2] / "docs" / "scripts.md"


@pytest.fixture
def folder(tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    for name, entries in (("good", ENTRIES), ("slid", SLID), ("broken", BROKEN)):
        workbook = typed_workbook({"Loads": entries}, {"carry_price": "Loads!$B$1"})
        for ending in ("ods", "xlsx"):
            made = write(Calculation(workbook), FORMATS[ending], Wish(), Progress())
            (tmp_path / f"{name}.{ending}").write_bytes(made.data)
    return tmp_path


def test_calc_tells_values_and_tries_others(folder):
    code, said, _ = run("calc", "good.ods", "--cell", "C7", "--cell", "carry_price")
    assert code == 0 and said == "C7           144   =SUM(C4:C5)\ncarry_price  1.8\n"
    code, said, _ = run("calc", "good.xlsx", "--set", "carry_price=2", "--cell", "C7",
                        "--json")  # fmt: skip
    assert json.loads(said)["cells"]["C7"]["value"] == 160
    code, said, _ = run("calc", "-", "--json", data=(folder / "good.ods").read_bytes())
    assert set(json.loads(said)["cells"]) == {f"Loads!{address}" for address in ENTRIES}
    code, _, beside = run("calc", "broken.ods", "--cell", "C4")
    assert code == 1 and "C4 is #DIV/0!" in beside


def test_check_exits_by_what_it_finds(folder):
    assert run("check", "good.ods")[0] == 0
    code, said, _ = run("check", "slid.ods", "good.xlsx")
    assert code == 0 and "slid.ods: Loads!C5: in doubt:" in said and "mend: " in said
    assert "good.xlsx: 2 blocks of formulas, nothing in doubt." in said
    assert run("check", "--strict", "slid.ods")[0] == 1
    assert run("check", "broken.xlsx")[0] == 1
    code, said, _ = run("check", "slid.ods", "--json")
    assert json.loads(said)["blocks"][0]["findings"][0]["rule"] == "input-slid"
    code, said, _ = run("check", "slid.ods", "broken.ods", "--json")
    assert code == 1 and set(json.loads(said)["files"]) == {"slid.ods", "broken.ods"}


def test_sarif_is_a_log_of_results(folder):
    _, said, _ = run("check", "broken.ods", "--sarif")
    log = json.loads(said)
    (one,) = log["runs"]
    rules = [rule["id"] for rule in one["tool"]["driver"]["rules"]]
    assert log["version"] == "2.1.0" and rules == sorted(rules)
    result = next(each for each in one["results"] if each["level"] == "error")
    assert rules[result["ruleIndex"]] == result["ruleId"] == "reads-empty"
    assert "ⓑ reads B9, which is empty" in result["message"]["text"]
    (location,) = result["locations"]
    assert location["physicalLocation"]["artifactLocation"]["uri"] == "broken.ods"
    assert location["logicalLocations"][0]["fullyQualifiedName"] == "Loads!C4"


def test_shift_convert_and_diff(folder):
    code, said, _ = run("shift", "slid.ods", "C5", "--json")
    landings = json.loads(said)["landings"]
    assert code == 0 and [each["formula"] for each in landings] == ["=B4*B1", "=B5*B2"]
    code, _, beside = run("convert", "slid.ods", "out.csv")
    assert code == 0 and "out.csv: 3 formulas:" in beside
    assert (folder / "out.csv").read_text().splitlines()[3] == ",50,90"
    assert run("convert", "slid.ods", "-", "--to", "json")[1].startswith("{")
    assert run("diff", "good.ods", "good.xlsx")[:2] == (0, "")
    code, said, _ = run("diff", "good.ods", "slid.xlsx")
    assert code == 1
    assert said.startswith("Loads!C4:C5: =B4*B$1 became =B4*B1, in 2 cells\n")


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["calc", "nothing.ods"], "nothing.ods cannot be read: No such file"),
        (["calc", "good.ods", "--cell", "Season!A1"], "no sheet “Season”"),
        (["calc", "good.ods", "--set", "C4"], "not a cell and its entry"),
        (["check", "."], "cannot be read"),
        (["check", "good.ods", "page.html"], "page.html: The file is XML or HTML"),
        (["shift", "good.ods", "A1"], "holds no formula"),
        (["shift", "good.ods"], "Name a cell of the block"),
        (["convert", "good.ods", "out.png"], "no format that is known here"),
        (["convert", "good.ods", "no/where.csv"], "cannot be written"),
        (["diff", "good.ods", "good.csv"], "good.csv cannot be read"),
    ],
)
def test_what_cannot_be_used_is_told_and_exits_with_2(folder, arguments, says):
    (folder / "page.html").write_text("<html></html>")
    code, said, beside = run(*arguments)
    assert (code, said) == (2, "") and says in beside and "Traceback" not in beside


def test_what_is_left_out_is_told_beside(folder):
    (folder / "x.xlsx").write_bytes(package("open_xml"))
    code, _, beside = run("calc", "x.xlsx", "--cell", "C5")
    assert code == 0 and "x.xlsx: 1 picture" in beside


def blocks(kind):
    return re.findall(rf"```{kind}\n(.*?)```", DOCS.read_text(), re.DOTALL)


def test_the_hook_and_the_script_of_the_docs_check_a_repository(folder):
    tools = str(Path(sys.executable).parent)
    environment = os.environ | {
        "PATH": f"{tools}:{os.environ['PATH']}", "HOME": str(folder),
        "GIT_AUTHOR_NAME": "Ida", "GIT_AUTHOR_EMAIL": "ida@example.org",
        "GIT_COMMITTER_NAME": "Ida", "GIT_COMMITTER_EMAIL": "ida@example.org",
    }  # fmt: skip

    def shell(script):
        return subprocess.run(
            ["bash", "-c", script], cwd=folder, env=environment, capture_output=True, text=True,
            timeout=300, check=False,
        )  # fmt: skip

    (config,) = blocks("yaml")
    (folder / ".pre-commit-config.yaml").write_text(config)
    nightly = blocks("sh")[-1]
    for name in ("broken.ods", "broken.xlsx", "slid.ods", "slid.xlsx", "good.xlsx"):
        (folder / name).rename(folder / f"{name}.kept")
    assert shell("git init -q . && git add -A && pre-commit run --all-files").returncode == 0
    assert shell(nightly).returncode == 0
    (folder / "broken.ods.kept").rename(folder / "broken.ods")
    refused = shell("git add -A; pre-commit run --all-files")
    assert refused.returncode == 1 and "broken.ods: Loads!C4" in refused.stdout
    assert shell(nightly).returncode == 1
    assert json.loads((folder / "findings.sarif").read_text())["runs"][0]["results"]


def test_check_tells_the_proofs_of_a_file_and_those_that_are_asked_for(folder):
    workbook = typed_workbook({"Loads": ENTRIES}, {})
    for text in ("=ADDS.UP(B4:B5,80)", "=NEVER.RISES(B4:B5)"):
        proven(workbook, stated(text, workbook.sheets[0])).apply(workbook)
    for ending in ("ods", "json"):
        name = f"proven.{ending}"
        made = write(Calculation(workbook), FORMATS[ending], Wish(), Progress())
        (folder / name).write_bytes(made.data)
        code, said, _ = run("check", name)
        assert code == 0 and said.endswith(f"{name}: 2 of 2 proofs hold.\n")
        code, said, _ = run("check", name, "--proof", "=ADDS.UP(C4:C5,C7,1%)", "--proof", "=B4<50")
        assert code == 1 and f"{name}: proof fails: Weight, row 4" not in said
        assert "B4 is less than 50: false\n    =Loads!B4<50\n" in said.replace("Weight", "B4")
        assert said.endswith(f"{name}: 3 of 4 proofs hold.\n")
        code, said, _ = run("check", name, "--proof", "=B4<50", "--json")
        proofs = json.loads(said)["proofs"]
        assert code == 1 and [each["holds"] for each in proofs] == [True, True, False]
        code, said, _ = run("check", name, "--proof", "=B4<50", "--sarif")
        (result,) = json.loads(said)["runs"][0]["results"]
        assert code == 1 and result["ruleId"] == "proof" and result["level"] == "error"
    code, _, told = run("check", "good.ods", "--proof", "=1=1")
    assert code == 2 and "=1=1: It reads no cell" in told


def test_a_sweep_of_a_file_is_printed_and_the_input_that_fits_is_found(folder):
    asked = ("sweep", "good.ods", "=SWEEP(OVER(carry_price,1,2,0.5),C7,C4:C5)")
    code, said, _ = run(*asked)
    assert code == 0 and said.splitlines() == [
        "carry_price,Loads!C7,Loads!C4,Loads!C5", "1,80,50,30", "1.5,120,75,45", "2,160,100,60",
    ]  # fmt: skip
    code, said, _ = run(*asked, "--json")
    told = json.loads(said)
    assert code == 0 and told["results"][0]["values"] == [80, 120, 160]
    assert told["results"][0]["pattern"] == "grows steadily, by 40 from one to the next"
    assert told["inputs"][0] == {
        "cell": "Loads!B1", "label": "carry_price", "values": [1, 1.5, 2],
    }  # fmt: skip
    code, said, told = run(*asked, "--solve", "100")
    assert (code, said, told) == (0, "1.25\n", "One input gives that.\n")
    code, said, told = run(*asked, "--solve", "999")
    assert code == 1 and said == "" and "it goes from 80 to 160" in told
    for wrong, why in (("=SUM(C7)", "is written SWEEP"), ("=(", "expected"), ("x", "begins")):
        code, _, told = run("sweep", "good.ods", wrong)
        assert code == 2 and why in told
    assert run(*asked, "--solve", "many")[0] == 2


def test_a_file_is_not_written_over_by_itself_nor_left_half_written(folder):
    (folder / "in.csv").write_text("Item,Weight\nFlour,3\n")
    (folder / "same.csv").symlink_to("in.csv")
    for target in ("in.csv", "same.csv", "./in.csv"):
        code, _, said = run("convert", "in.csv", target)
        assert code == 2 and "is the file that is read" in said
    assert (folder / "in.csv").read_text() == "Item,Weight\nFlour,3\n"
    (folder / "out.ods").write_bytes(b"before")
    code, _, said = run("convert", "in.csv", "missing/out.ods")
    assert code == 2 and "cannot be written" in said
    assert run("convert", "in.csv", "out.ods").returncode == 0
    assert (folder / "out.ods").read_bytes().startswith(b"PK")
    assert sorted(each.name for each in folder.glob("*out*")) == ["out.ods"]


def test_half_characters_lead_to_no_stack_trace(folder):
    half = b"_xD800_Item_xD83D__xDE00_"
    strings = {"xl/sharedStrings.xml": lambda data: data.replace(b"Item", half)}
    (folder / "half.xlsx").write_bytes(package("open_xml", strings))
    assert "\ufffdItem\U0001f600" in run_apart("calc", "half.xlsx").stdout
    for command, formula in ((b"eval", b'="\xff"'), (b"shift", b"=\xed\xa0\x80")):
        told = run_apart(command, formula, "--from", "A1", "--to", "A2")
        assert "Traceback" not in told.stderr and told.returncode == 2
