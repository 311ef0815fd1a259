"""People on one server: who owns a workbook, groups, what is handed out, links that share."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"


def upgrade() -> None:
    op.add_column("workbook", sa.Column("owner", sa.Integer, nullable=False, server_default="0"))
    op.create_table(
        "person",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("key", sa.String, nullable=False, unique=True),
        sa.Column("hash", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
    )
    op.create_table(
        "share",
        sa.Column("token", sa.String, primary_key=True),
        sa.Column(
            "workbook_id",
            sa.Integer,
            sa.ForeignKey("workbook.id", ondelete="CASCADE"),
            nullable=False,
            index=True,
        ),
        sa.Column("may_copy", sa.Boolean, nullable=False),
        sa.Column("at", sa.String, nullable=False),
    )
    op.create_table(
        "learning_group",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("title", sa.String, nullable=False),
        sa.Column("code", sa.String, nullable=False, unique=True),
        sa.Column("leader", sa.Integer, nullable=False, index=True),
    )
    op.create_table(
        "membership",
        sa.Column(
            "group_id",
            sa.Integer,
            sa.ForeignKey("learning_group.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("person", sa.Integer, primary_key=True, index=True),
    )
    op.create_table(
        "handout",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column(
            "group_id",
            sa.Integer,
            sa.ForeignKey("learning_group.id", ondelete="CASCADE"),
            nullable=False,
            index=True,
        ),
        sa.Column("title", sa.String, nullable=False),
        sa.Column("codes", sa.String, nullable=False),
        sa.Column("is_test", sa.Boolean, nullable=False),
        sa.Column("workbook_id", sa.Integer, nullable=False),
        sa.Column("at", sa.String, nullable=False),
    )
    op.create_table(
        "handed_in",
        sa.Column(
            "handout",
            sa.Integer,
            sa.ForeignKey("handout.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("person", sa.Integer, primary_key=True),
        sa.Column(
            "workbook_id",
            sa.Integer,
            sa.ForeignKey("workbook.id", ondelete="CASCADE"),
            nullable=False,
        ),
        sa.Column("is_done", sa.Boolean, nullable=False),
        sa.Column("at", sa.String, nullable=False),
    )
