"""A sheet keeps how it is laid out, widths of columns among it, in one place.

A text that was typed as one on purpose is told from a cell that is for text.
"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    op.add_column("sheet", sa.Column("layout", sa.String, nullable=False, server_default="{}"))
    connection = op.get_bind()
    sheets = connection.execute(sa.text("SELECT id, widths FROM sheet WHERE widths <> '{}'"))
    for id, widths in sheets.fetchall():
        values = {"id": id, "layout": json.dumps(_layout(json.loads(widths).items()))}
        connection.execute(sa.text("UPDATE sheet SET layout = :layout WHERE id = :id"), values)
    op.drop_column("sheet", "widths")
    op.execute("UPDATE run SET look = 'typed-text' || substr(look, 5) WHERE look LIKE 'text %'")
    for direction in ("forward", "backward"):
        _rewrite_changes(connection, direction)
        for role in ("plain", "title", "heading", "input"):
            op.execute(
                f"UPDATE change SET {direction} = replace({direction},"
                f""" '"text  {role}"', '"typed-text  {role}"')"""
            )


def _layout(widths: Any) -> dict[str, Any]:
    runs = [[int(column), int(column), width, False] for column, width in sorted(widths)]
    return {"columns": runs} if runs else {}


def _rewrite_changes(connection: sa.Connection, direction: str) -> None:
    """Say widths as layouts. Those of single columns that were deleted are forgotten."""
    changes = connection.execute(
        sa.text(
            f"SELECT workbook_id, number, {direction} FROM change"
            f""" WHERE {direction} LIKE '%"widths":%'"""
        )
    )
    for workbook_id, number, text in changes.fetchall():
        edits = json.loads(text)
        for edit in edits:
            layout = _layout(edit.pop("widths", ()))
            if layout and edit["edit"] == "AddSheet":
                edit["layout"] = layout
        values = {
            "workbook_id": workbook_id,
            "number": number,
            "text": json.dumps(edits, separators=(",", ":")),
        }
        connection.execute(
            sa.text(
                f"UPDATE change SET {direction} = :text"
                " WHERE workbook_id = :workbook_id AND number = :number"
            ),
            values,
        )
