"""A workbook has a seed from which the numbers follow that are drawn by chance."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.add_column("workbook", sa.Column("seed", sa.Integer, nullable=False, server_default="0"))
