"""First tables."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "workbook",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("is_demo", sa.Boolean, nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("done", sa.Integer, nullable=False),
        sa.Column("open_sheet_id", sa.Integer),
        sa.Column("changed", sa.String, nullable=False),
    )
    op.create_table(
        "sheet",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("workbook_id", sa.Integer, _owner("workbook"), nullable=False, index=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("position", sa.Integer, nullable=False),
        sa.Column("widths", sa.String, nullable=False),
        sqlite_autoincrement=True,
    )
    op.create_table(
        "shape",
        sa.Column("workbook_id", sa.Integer, _owner("workbook"), primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True),
        sa.Column("formula", sa.String, nullable=False),
        sa.Column("column", sa.Integer, nullable=False),
        sa.Column("row", sa.Integer, nullable=False),
    )
    op.create_table(
        "cell",
        sa.Column("sheet_id", sa.Integer, _owner("sheet"), primary_key=True),
        sa.Column("column", sa.Integer, primary_key=True),
        sa.Column("row", sa.Integer, primary_key=True),
        sa.Column("kind", sa.Integer, nullable=False),
        sa.Column("number", sa.Float),
        sa.Column("text", sa.String),
        sa.Column("shape", sa.Integer),
        sa.Column("look", sa.String),
        sqlite_with_rowid=False,
    )
    op.create_table(
        "change",
        sa.Column("workbook_id", sa.Integer, _owner("workbook"), primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True),
        sa.Column("label", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("forward", sa.String, nullable=False),
        sa.Column("backward", sa.String, nullable=False),
    )


def _owner(table: str) -> sa.ForeignKey:
    return sa.ForeignKey(f"{table}.id", ondelete="CASCADE")
