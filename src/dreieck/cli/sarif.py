"""Findings in the Static Analysis Results Interchange Format (OASIS SARIF 2.1.0)."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from importlib.metadata import version
from typing import Any
from urllib.parse import quote

from dreieck.api.check import FindingAnswer
from dreieck.core.checking.findings import told

_LEVELS = {"broken": "error", "doubt": "warning", "note": "note"}
_SCHEMA = (
    "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"
)


def sarif_log(found: Mapping[str, Sequence[FindingAnswer]]) -> str:
    """The findings in files as one log."""
    used = sorted({each.rule for findings in found.values() for each in findings})
    driver = {
        "name": "Dreieck",
        "version": version("dreieck"),
        "rules": [{"id": each, "shortDescription": {"text": _described(each)}} for each in used],
    }
    results = [_result(name, each, used) for name, findings in found.items() for each in findings]
    run = {"tool": {"driver": driver}, "results": results}
    return json.dumps({"$schema": _SCHEMA, "version": "2.1.0", "runs": [run]}, indent=2)


def _described(rule: str) -> str:
    """What is so where a rule finds something."""
    said = told()[rule].raised if rule in told() else f"a {rule} fails"
    return f"{said[:1].upper()}{said[1:]}."


def _result(name: str, finding: FindingAnswer, rules: list[str]) -> dict[str, Any]:
    mends = "".join(f" Mend: {each.says}: {each.after}" for each in finding.mends[:1])
    address = "stdin" if name == "-" else quote(name.replace("\\", "/"))
    location: dict[str, Any] = {"physicalLocation": {"artifactLocation": {"uri": address}}}
    if finding.cells:
        places = [{"fullyQualifiedName": cell, "kind": "cell"} for cell in finding.cells[:20]]
        location["logicalLocations"] = places
    answered = {"kind": "external", "justification": finding.meant}
    return {
        "ruleId": finding.rule,
        "ruleIndex": rules.index(finding.rule),
        "level": _LEVELS[finding.state],
        "message": {"text": f"{', '.join(finding.cells[:3])}: {finding.says}{mends}"},
        "locations": [location],
        **({"suppressions": [answered]} if finding.meant else {}),
    }
