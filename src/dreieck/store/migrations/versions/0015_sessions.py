"""Which browsers are signed in: whoever was has to sign in once more."""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"


def upgrade() -> None:
    op.create_table(
        "session",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("hash", sa.String, nullable=False, unique=True),
        sa.Column(
            "person",
            sa.Integer,
            sa.ForeignKey("person.id", ondelete="CASCADE"),
            nullable=False,
            index=True,
        ),
        sa.Column("at", sa.String, nullable=False),
    )
