"""Names, each with the shape that it stands for."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    op.create_table(
        "name",
        sa.Column(
            "workbook_id",
            sa.Integer,
            sa.ForeignKey("workbook.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("key", sa.String, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("shape", sa.Integer, nullable=False),
    )
