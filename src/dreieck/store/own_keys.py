"""The keys that a person has given to what the workbench does."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy import delete
from sqlmodel import col, select

from dreieck.store.database import Database
from dreieck.store.tables import OwnKeyRow


class OwnKeys:
    """The keys of all persons: by what they do, as text; no text for no key."""

    def __init__(self, database: Database) -> None:
        self._database = database
        # Every act of a page asks for them.
        self._known: dict[int, dict[str, str]] = {}

    def of(self, person: int) -> dict[str, str]:
        """The keys of a person that are not the usual ones."""
        if person not in self._known:
            with self._database.session() as session:
                rows = session.exec(select(OwnKeyRow).where(OwnKeyRow.person == person))
                self._known[person] = {row.name: row.keys for row in rows}
        return self._known[person]

    def keep(self, person: int, keys: Mapping[str, str]) -> None:
        """Keep these in place of all that a person had."""
        with self._database.writing() as session:
            session.execute(delete(OwnKeyRow).where(col(OwnKeyRow.person) == person))
            session.add_all(
                OwnKeyRow(person=person, name=name, keys=said) for name, said in keys.items()
            )
            session.commit()
        self._known[person] = dict(keys)
