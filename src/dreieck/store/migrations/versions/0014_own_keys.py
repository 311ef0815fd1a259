"""Keys that a person has given to what the workbench does."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"


def upgrade() -> None:
    op.create_table(
        "own_key",
        sa.Column("person", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, primary_key=True),
        sa.Column("keys", sa.String, nullable=False),
    )
