"""Revisions: which page asked for a change, by which piece, and which places it touched."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"


def upgrade() -> None:
    op.create_table(
        "revision",
        sa.Column(
            "workbook_id",
            sa.Integer,
            sa.ForeignKey("workbook.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("number", sa.Integer, primary_key=True),
        sa.Column("page", sa.String, nullable=False),
        sa.Column("piece", sa.Integer, nullable=False),
        sa.Column("steps", sa.String, nullable=False),
    )
    op.create_index("ix_revision_piece", "revision", ["page", "piece"])
