"""Practice: answers, mastery by skill, sets that were begun; secrets of the data file."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    op.create_table(
        "secret",
        sa.Column("name", sa.String, primary_key=True),
        sa.Column("value", sa.String, nullable=False),
    )
    op.create_table(
        "mastery",
        sa.Column("person", sa.Integer, primary_key=True),
        sa.Column("skill", sa.String, primary_key=True),
        sa.Column("steps", sa.Integer, nullable=False),
        sa.Column("in_row", sa.Integer, nullable=False),
        sa.Column("answered", sa.Integer, nullable=False),
        sa.Column("right", sa.Integer, nullable=False),
        sa.Column("card", sa.String, nullable=False),
    )
    op.create_table(
        "taking",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("person", sa.Integer, nullable=False, index=True),
        sa.Column("handout", sa.Integer, nullable=False, index=True),
        sa.Column("title", sa.String, nullable=False),
        sa.Column("codes", sa.String, nullable=False),
        sa.Column("is_test", sa.Boolean, nullable=False),
        sa.Column("begun", sa.String, nullable=False),
        sa.Column("finished", sa.String, nullable=False),
    )
    op.create_table(
        "answer",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("person", sa.Integer, nullable=False),
        sa.Column("taking", sa.Integer, nullable=False),
        sa.Column("code", sa.String, nullable=False),
        sa.Column("skill", sa.String, nullable=False),
        sa.Column("is_right", sa.Boolean, nullable=False),
        sa.Column("hints", sa.Integer, nullable=False),
        sa.Column("mistake", sa.String, nullable=False),
        sa.Column("given", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
        sa.UniqueConstraint("person", "taking", "code"),
    )
