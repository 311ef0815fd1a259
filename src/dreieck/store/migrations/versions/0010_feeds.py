"""Feeds: outside figures by code, with what is known of them as JSON."""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    op.create_table(
        "feed",
        sa.Column(
            "workbook_id",
            sa.Integer,
            sa.ForeignKey("workbook.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("key", sa.String, primary_key=True),
        sa.Column("feed", sa.String, nullable=False),
    )
