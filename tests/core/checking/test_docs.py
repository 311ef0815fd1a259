"""The documentation of findings tells what the records of the rules do."""

import os
from pathlib import Path

from dreieck.core.checking.findings import told

DOCS = Path("docs/findings.md")
HEAD = "| rule | raised when | mend |\n|---|---|---|\n"


def test_the_table_of_rules_is_made_from_their_records():
    before, _, rest = DOCS.read_text().partition(HEAD)
    after = rest[rest.index("\n\n") :]
    rows = "\n".join(
        f"| `{rule}` | {each.raised} | {each.mend or '–'} |" for rule, each in told().items()
    )
    if os.environ.get("KEEP"):
        DOCS.write_text(before + HEAD + rows + after)
    assert rows == DOCS.read_text().partition(HEAD)[2].partition("\n\n")[0]
