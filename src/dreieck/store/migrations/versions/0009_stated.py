"""Proofs and sweeps, each with the shape of its statement, in their order."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.create_table(
        "stated",
        sa.Column(
            "workbook_id",
            sa.Integer,
            sa.ForeignKey("workbook.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("sort", sa.String, primary_key=True),
        sa.Column("position", sa.Integer, primary_key=True),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("shape", sa.Integer, nullable=False),
    )
