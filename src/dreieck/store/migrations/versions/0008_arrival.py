"""A workbook can come with a file, which says what else it held; one on its way is not shown."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.add_column(
        "workbook", sa.Column("is_coming", sa.Boolean, nullable=False, server_default=sa.false())
    )
    op.create_table(
        "arrival",
        sa.Column(
            "workbook_id",
            sa.Integer,
            sa.ForeignKey("workbook.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("report", sa.String, nullable=False),
    )
