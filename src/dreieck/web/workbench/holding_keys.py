"""The keys that hold for who asks."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Request

from dreieck.store import OwnKeys
from dreieck.web.answers import ThePerson
from dreieck.web.workbench.keys import Key, held_by


def _own_keys(request: Request) -> OwnKeys:
    own: OwnKeys = request.app.state.own_keys
    return own


TheOwnKeys = Annotated[OwnKeys, Depends(_own_keys)]
"""What all persons have changed."""


def _keys(own: TheOwnKeys, person: ThePerson) -> tuple[Key, ...]:
    return held_by(own.of(person))


TheKeys = Annotated[tuple[Key, ...], Depends(_keys)]
