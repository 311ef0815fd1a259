"""Runs the migrations over the connection that ``database`` hands in."""

from alembic import context
from sqlmodel import SQLModel

from dreieck.store import tables  # noqa: F401  # fills the metadata

context.configure(
    connection=context.config.attributes["connection"],
    target_metadata=SQLModel.metadata,
    render_as_batch=True,
)
with context.begin_transaction():
    context.run_migrations()
