"""Keys that a data file makes for itself, once each: they sign what is given away."""

from __future__ import annotations

from secrets import token_urlsafe

from dreieck.store.database import Database
from dreieck.store.tables import SecretRow


def key_for(database: Database, purpose: str) -> str:
    """The key for a purpose, such as ``results``."""
    with database.session() as session:
        row = session.get(SecretRow, purpose)
        if row is None:
            row = SecretRow(name=purpose, value=token_urlsafe(32))
            session.add(row)
            session.commit()
        return row.value
