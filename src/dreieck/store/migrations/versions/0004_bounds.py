"""No number of a workbook is given twice; changes tell how large they are.

The size stands before the texts, so that it is read without them.
"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"

_WORKBOOK = "id, name, is_demo, revision, done, open_sheet_id, changed"


def upgrade() -> None:
    op.create_table(
        "new_workbook",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("is_demo", sa.Boolean, nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("done", sa.Integer, nullable=False),
        sa.Column("open_sheet_id", sa.Integer),
        sa.Column("changed", sa.String, nullable=False),
        sqlite_autoincrement=True,
    )
    op.execute(f"INSERT INTO new_workbook ({_WORKBOOK}) SELECT {_WORKBOOK} FROM workbook")
    op.drop_table("workbook")
    op.rename_table("new_workbook", "workbook")
    owner = sa.ForeignKey("workbook.id", ondelete="CASCADE")
    op.create_table(
        "new_change",
        sa.Column("workbook_id", sa.Integer, owner, primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True),
        sa.Column("size", sa.Integer, nullable=False),
        sa.Column("label", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("forward", sa.String, nullable=False),
        sa.Column("backward", sa.String, nullable=False),
    )
    op.execute(
        "INSERT INTO new_change (workbook_id, number, size, label, at, forward, backward)"
        " SELECT workbook_id, number, length(forward) + length(backward), label, at, forward,"
        " backward FROM change"
    )
    op.drop_table("change")
    op.rename_table("new_change", "change")
