"""Sets of drills and results of them as JSON files; docs/practice.md tells what they hold."""

from __future__ import annotations

import hmac
import json
from hashlib import sha256
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from dreieck.core.exceptions import DreieckError
from dreieck.core.practice.sets import MAX_DRILLS, DrillSet

MAX_BYTES = 200_000
"""So large a file of this kind can be."""


class SetFile(BaseModel):
    """A set of drills."""

    model_config = ConfigDict(extra="forbid")

    format: Literal["drills"] = "drills"
    version: Literal[1] = 1
    title: str = Field(max_length=200)
    drills: list[str] = Field(max_length=MAX_DRILLS)
    test: bool = False


class AnswerFile(BaseModel):
    """One answer of a result."""

    model_config = ConfigDict(extra="forbid")

    drill: str = Field(max_length=40)
    right: bool
    hints: int
    mistake: str = Field(max_length=40)
    choice: int
    cell: str = Field(max_length=1_000)
    formula: str = Field(max_length=2_000)
    at: str = Field(max_length=40)


class ResultFile(BaseModel):
    """What somebody answered to a set, with the signature of who kept it."""

    model_config = ConfigDict(extra="forbid")

    format: Literal["drill-results"] = "drill-results"
    version: Literal[1] = 1
    who: str = Field(max_length=80)
    title: str = Field(max_length=200)
    test: bool
    begun: str = Field(max_length=40)
    finished: str = Field(max_length=40)
    answers: list[AnswerFile] = Field(max_length=MAX_DRILLS)
    signature: str = Field(default="", max_length=100)

    @property
    def right(self) -> int:
        """How many answers are right."""
        return sum(answer.right for answer in self.answers)


def set_text(drills: DrillSet) -> str:
    """A set as a file."""
    held = SetFile(title=drills.title, drills=drills.texts, test=drills.is_test)
    return held.model_dump_json(indent=1)


def read_set(data: bytes) -> DrillSet:
    """The set in a file. Raises DreieckError."""
    held = _read(data, SetFile, "a set of drills")
    return DrillSet.of(held.title, held.drills, is_test=held.test)


def signed(result: ResultFile, key: str) -> str:
    """A result as a file that tells whether it was changed since."""
    held = result.model_copy(update={"signature": _signature(result, key)})
    return held.model_dump_json(indent=1)


def read_result(data: bytes, key: str) -> tuple[ResultFile, bool]:
    """The result in a file, and whether it is as it was signed. Raises DreieckError."""
    result = _read(data, ResultFile, "a result of drills")
    told, right = result.signature.encode("utf-8", "replace"), _signature(result, key).encode()
    return result, hmac.compare_digest(told, right)


def _signature(result: ResultFile, key: str) -> str:
    """The signature of all that a result says, however it is spaced."""
    said = json.dumps(result.model_dump(exclude={"signature"}), sort_keys=True)
    return hmac.new(key.encode(), said.encode(), sha256).hexdigest()


def _read(data: bytes, model: type[Any], what: str) -> Any:
    if len(data) > MAX_BYTES:
        raise DreieckError(f"This file is too large for {what}.")
    try:
        return model.model_validate_json(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(map(str, first["loc"]))
        reason = f"{where}: {first['msg']}" if where else first["msg"]
        raise DreieckError(f"This is not {what} ({reason}).") from None
