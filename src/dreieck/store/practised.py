"""What was practised: answers, mastery by skill, sets that were begun."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import UTC, datetime

from fsrs import Card
from sqlalchemy.exc import IntegrityError
from sqlmodel import Session, col, select

from dreieck.core.practice.judging import Given, Verdict
from dreieck.core.practice.mastery import Mastery
from dreieck.core.practice.sets import DrillSet
from dreieck.core.practice.skills import SKILLS, SkillKey
from dreieck.store.database import Database
from dreieck.store.keys import key_for
from dreieck.store.tables import AnswerRow, MasteryRow, TakingRow, now

ANSWER_SHOWN = 3
"""After so many hints the answer was shown: what is given then is no sign of mastery."""
_MAX_LISTED = 200


@dataclass(frozen=True)
class Answered:
    """An answer that was given to a drill."""

    code: str
    skill: SkillKey
    is_right: bool
    hints: int
    mistake: str
    given: Given
    at: str


@dataclass(frozen=True)
class Taking:
    """A set of drills that somebody began, with the answers so far."""

    id: int
    person: int
    handout: int
    drills: DrillSet
    begun: str
    finished: str
    answers: tuple[Answered, ...]

    def answer(self, code: str) -> Answered | None:
        """The answer to a drill of it."""
        return next((each for each in self.answers if each.code == code), None)

    @property
    def right(self) -> int:
        """How many answers are right."""
        return sum(each.is_right for each in self.answers)

    @property
    def next(self) -> int | None:
        """The place of the first drill without an answer."""
        texts = self.drills.texts
        return next((n for n, text in enumerate(texts) if not self.answer(text)), None)


class Practised:
    """What a data file knows of practice."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def signing_key(self) -> str:
        """The key that signs results: made once for each data file."""
        return key_for(self._database, "results")

    def mastery(self, person: int) -> dict[SkillKey, Mastery]:
        """How far somebody is, by skill; all skills are there."""
        with self._database.session() as session:
            rows = session.exec(select(MasteryRow).where(MasteryRow.person == person)).all()
        known = {row.skill: _mastery(row) for row in rows}
        return {key: known.get(key, Mastery(key)) for key in SKILLS}

    def record(
        self, person: int, code: str, skill: SkillKey, verdict: Verdict, given: Given, hints: int,
        taking: int = 0,
    ) -> bool:  # fmt: skip
        """Keep an answer, and what it says of mastery; False where there was one before.

        The first answer to a code counts for mastery, in whichever set it is given.
        """
        answer = AnswerRow(
            person=person, taking=taking, code=code, skill=skill, is_right=verdict.is_right,
            hints=hints, mistake=verdict.mistake, given=json.dumps(asdict(given)),
        )  # fmt: skip
        with self._database.writing() as session:
            known = select(AnswerRow.id).where(AnswerRow.person == person, AnswerRow.code == code)
            is_first = session.exec(known).first() is None
            try:
                session.add(answer)
                session.flush()
            except IntegrityError:
                return False
            if is_first and hints < ANSWER_SHOWN:
                _count(session, person, skill, is_right=verdict.is_right)
            if taking:
                _finish(session, taking)
            session.commit()
        return True

    def begin(self, person: int, drills: DrillSet, handout: int = 0) -> int:
        """Begin a set, and return the number of the taking."""
        row = TakingRow(
            person=person, handout=handout, title=drills.title, codes=" ".join(drills.texts),
            is_test=drills.is_test,
        )  # fmt: skip
        with self._database.writing() as session:
            session.add(row)
            session.commit()
            assert row.id is not None
            return row.id

    def taking(self, person: int, id: int) -> Taking:
        """A set that somebody began. Raises KeyError where it is not theirs, or not there."""
        with self._database.session() as session:
            row = session.get(TakingRow, id)
            if row is None or row.person != person:
                raise KeyError(id)
            return _takings(session, [row])[0]

    def begun(self, person: int, handout: int) -> int | None:
        """The set that somebody began of something handed out; None where they did not yet."""
        with self._database.session() as session:
            owned = TakingRow.person == person, TakingRow.handout == handout
            last = select(TakingRow.id).where(*owned).order_by(col(TakingRow.id).desc())
            return session.exec(last).first()

    def takings(self, person: int, most: int = _MAX_LISTED) -> list[Taking]:
        """The sets that somebody began, the last one first, so many at the most."""
        with self._database.session() as session:
            rows = session.exec(
                select(TakingRow)
                .where(TakingRow.person == person)
                .order_by(col(TakingRow.id).desc())
                .limit(most)
            ).all()
            return _takings(session, rows)

    def handed_in(self, handout: int) -> list[Taking]:
        """What the members of a group did with something handed out."""
        with self._database.session() as session:
            rows = session.exec(select(TakingRow).where(TakingRow.handout == handout)).all()
            return _takings(session, rows)


def _mastery(row: MasteryRow) -> Mastery:
    card = Card.from_dict(json.loads(row.card))
    return Mastery(_skill(row.skill), row.steps, row.in_row, row.answered, row.right, card)


def _skill(text: str) -> SkillKey:
    return next(key for key in SKILLS if key == text)


def _count(session: Session, person: int, skill: SkillKey, *, is_right: bool) -> None:
    row = session.get(MasteryRow, (person, skill))
    before = _mastery(row) if row else Mastery(skill)
    after = before.answered_at(datetime.now(UTC), is_right=is_right)
    assert after.card is not None
    session.merge(
        MasteryRow(
            person=person, skill=skill, steps=after.steps, in_row=after.in_row,
            answered=after.answered, right=after.right, card=json.dumps(after.card.to_dict()),
        )
    )  # fmt: skip


def _finish(session: Session, taking: int) -> None:
    """Mark a set as finished when all of it is answered."""
    row = session.get(TakingRow, taking)
    assert row is not None
    owned = AnswerRow.person == row.person, AnswerRow.taking == taking
    answered = {*session.exec(select(AnswerRow.code).where(*owned))}
    if not row.finished and answered >= {*row.codes.split()}:
        row.finished = now()


def _takings(session: Session, rows: Sequence[TakingRow]) -> list[Taking]:
    """Sets that were begun, with their answers, which are read at once."""
    wanted = (
        select(AnswerRow)
        .where(
            col(AnswerRow.person).in_({row.person for row in rows}),
            col(AnswerRow.taking).in_({row.id for row in rows}),
        )
        .order_by(col(AnswerRow.id))
    )
    answers: dict[int | None, list[Answered]] = {row.id: [] for row in rows}
    for each in session.exec(wanted):
        answers[each.taking].append(
            Answered(
                each.code, _skill(each.skill), each.is_right, each.hints, each.mistake,
                Given(**json.loads(each.given)), each.at,
            )
        )  # fmt: skip
    return [_taking(row, answers[row.id]) for row in rows]


def _taking(row: TakingRow, answers: list[Answered]) -> Taking:
    assert row.id is not None
    drills = DrillSet.of(row.title, row.codes.split(), is_test=row.is_test)
    return Taking(row.id, row.person, row.handout, drills, row.begun, row.finished, tuple(answers))
