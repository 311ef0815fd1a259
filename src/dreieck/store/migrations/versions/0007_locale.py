"""A workbook says how numbers and dates are written in it."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.add_column("workbook", sa.Column("locale", sa.String, nullable=False, server_default=""))
