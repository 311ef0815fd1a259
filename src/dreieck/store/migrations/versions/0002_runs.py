"""Cells are kept as runs down a column, as changes are: what a fill writes is one row."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "run",
        sa.Column(
            "sheet_id", sa.Integer, sa.ForeignKey("sheet.id", ondelete="CASCADE"), primary_key=True
        ),
        sa.Column("column", sa.Integer, primary_key=True),
        sa.Column("top", sa.Integer, primary_key=True),
        sa.Column("bottom", sa.Integer, nullable=False),
        sa.Column("kind", sa.Integer, nullable=False),
        sa.Column("number", sa.Float),
        sa.Column("text", sa.String),
        sa.Column("shape", sa.Integer),
        sa.Column("look", sa.String),
        sqlite_with_rowid=False,
    )
    op.execute(
        """INSERT INTO run
           SELECT sheet_id, "column", row, row, kind, number, text, shape, look FROM cell"""
    )
    op.drop_table("cell")
