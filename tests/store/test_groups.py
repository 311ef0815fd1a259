"""Groups as they are kept: who is in them, what is handed out and in, what links lead to."""

import pytest

from dreieck.core.exceptions import DreieckError
from dreieck.core.practice.sets import DrillSet
from dreieck.store import Database, Groups, Handout, Library, NewSheet
from dreieck.store import groups as module
from dreieck.store.groups import Copied, Member, Share
from dreieck.store.tables import PersonRow

SET = DrillSet.of("Monday", ["lock-2-1", "predict-2-5"], is_test=True)


class House:
    """A data file with three people: Ada leads, Ben and Cora learn."""

    def __init__(self, path):
        self.library = Library(Database(path))
        self.groups = Groups(self.library._database)
        with self.library._database.session() as session:
            rows = [PersonRow(name=name, key=name.casefold(), hash="x")
                    for name in ("Ada", "Ben", "Cora")]  # fmt: skip
            session.add_all(rows)
            session.commit()
            self.ada, self.ben, self.cora = (row.id for row in rows)
        self.course = self.groups.make(self.ada, "  Autumn   course ")
        self.code = self.groups.group(self.ada, self.course).code


@pytest.fixture
def house(path):
    opened = House(path)
    yield opened
    opened.library.close()


def test_a_group_is_told_to_its_leader_and_less_of_it_to_its_members(house):
    for person in (house.cora, house.ben, house.cora, house.ada):
        assert house.groups.join(person, f" {house.code.upper()} ") == house.course
    for_ada, for_ben = (house.groups.group(each, house.course) for each in (house.ada, house.ben))
    assert (for_ada.title, for_ada.leads, for_ben.leads) == ("Autumn course", True, False)
    assert for_ada.members == (Member(house.ben, "Ben"), Member(house.cora, "Cora"))
    assert (for_ben.code, for_ben.members) == ("", ()) and len(for_ada.code) == 10
    assert for_ada.leader == for_ben.leader == Member(house.ada, "Ada")
    assert house.groups.of(house.ben) == [for_ben] and house.groups.of(house.ada) == [for_ada]
    house.groups.leave(house.ben, house.course)
    house.groups.leave(house.ben, house.course)
    assert house.groups.of(house.ben) == []
    assert house.groups.led(house.ada, house.course).members == (Member(house.cora, "Cora"),)
    with pytest.raises(KeyError):
        house.groups.group(house.ben, house.course)
    with pytest.raises(KeyError):
        house.groups.led(house.cora, house.course)


def test_a_group_without_its_leader_says_no_name(house):
    house.groups.join(house.ben, house.code)
    with house.library._database.session() as session:
        group = session.get(module.GroupRow, house.course)
        group.leader = 99
        session.commit()
    assert house.groups.group(house.ben, house.course).leader == Member(99, "")


@pytest.mark.parametrize("title", ["", "   ", "x" * 81, "a\u0000b"])
def test_a_group_needs_a_title_that_can_be_read(house, title):
    with pytest.raises(DreieckError, match="at most 80"):
        house.groups.make(house.ada, title)


def test_groups_and_their_members_are_bounded(house, monkeypatch):
    monkeypatch.setattr(module, "MAX_GROUPS", 2)
    monkeypatch.setattr(module, "MAX_MEMBERS", 1)
    assert house.groups.make(house.ada, "x" * 80) != house.course
    with pytest.raises(DreieckError, match="You lead 2 groups"):
        house.groups.make(house.ada, "One more")
    house.groups.make(house.ben, "His own")
    house.groups.join(house.ben, house.code)
    with pytest.raises(DreieckError, match="1 members; it is full"):
        house.groups.join(house.cora, house.code)
    house.groups.join(house.ben, house.code)
    with pytest.raises(DreieckError, match="No group has this code"):
        house.groups.join(house.cora, house.code[:-1])


def test_drills_and_workbooks_are_handed_out_the_newest_first_and_taken_back(house):
    workbook = house.library.create("Loads", [NewSheet("Loads")])
    drills = house.groups.hand_out(house.ada, house.course, SET, "not this title")
    table = house.groups.hand_out(house.ada, house.course, workbook, "The loads")
    house.groups.join(house.ben, house.code)
    newest, oldest = house.groups.group(house.ben, house.course).handouts
    assert newest == Handout(table, house.course, "The loads", None, workbook, newest.at)
    assert (oldest.id, oldest.title, oldest.workbook) == (drills, "Monday", 0)
    assert oldest.drills == SET and oldest.drills.is_test and newest.at
    group = house.groups.group(house.ada, house.course)
    assert group.handout(drills) == oldest
    with pytest.raises(KeyError):
        group.handout(table + 7)
    for refused in (
        lambda: house.groups.hand_out(house.ben, house.course, SET, ""),
        lambda: house.groups.take_back(house.ben, house.course, drills),
        lambda: house.groups.take_back(house.ada, house.course, table + 7),
        lambda: house.groups.delete(house.ben, house.course),
    ):
        with pytest.raises(KeyError):
            refused()
    house.library.delete(workbook)
    assert house.groups.group(house.ada, house.course).handout(table).workbook == 0
    house.groups.take_back(house.ada, house.course, drills)
    assert [each.id for each in house.groups.group(house.ada, house.course).handouts] == [table]
    house.groups.delete(house.ada, house.course)
    assert house.groups.of(house.ada) == house.groups.of(house.ben) == []


def test_copies_are_remembered_and_handed_in(house):
    workbooks = [house.library.create(name, [NewSheet("Loads")]) for name in ("One", "Two")]
    handout = house.groups.hand_out(house.ada, house.course, workbooks[0], "The loads")
    other = house.groups.hand_out(house.ada, house.course, workbooks[0], "The same")
    assert house.groups.copied(handout) == {}
    with pytest.raises(KeyError):
        house.groups.hand_in(handout, house.ben, is_done=True)
    house.groups.keep_copy(handout, house.ben, workbooks[1])
    assert house.groups.copied(handout) == {house.ben: Copied(house.ben, workbooks[1], False)}
    house.groups.hand_in(handout, house.ben, is_done=True)
    assert house.groups.copied(handout)[house.ben].is_done
    house.groups.hand_in(handout, house.ben, is_done=False)
    assert not house.groups.copied(handout)[house.ben].is_done
    assert house.groups.copied(other) == {}


def test_links_are_found_again_by_what_they_allow_and_end_together(house):
    one, other = (house.library.create(name, [NewSheet("Loads")]) for name in ("One", "Two"))
    reading, copying = (house.groups.share(one, may_copy=each) for each in (False, True))
    assert reading != copying and house.groups.share(one, may_copy=False) == reading
    kept = house.groups.share(other, may_copy=True)
    assert house.groups.shared(copying) == Share(copying, one, True)
    assert house.groups.shared(reading) == Share(reading, one, False)
    assert {each.token for each in house.groups.shares(one)} == {reading, copying}
    house.groups.withdraw(one)
    assert house.groups.shares(one) == [] and house.groups.shared(kept).workbook == other
    with pytest.raises(KeyError):
        house.groups.shared(reading)
