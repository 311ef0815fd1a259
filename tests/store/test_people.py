"""Who signs in: names as they are compared, passphrases as they are kept."""

import sqlite3
from contextlib import closing

import pytest

from dreieck.core.exceptions import DreieckError
from dreieck.store import Database, NameTaken, People, Sessions, name_key
from dreieck.store.sessions import MAX_SESSIONS

WORDS = "four odd words"


@pytest.fixture
def people(path, quick_passphrases):
    database = Database(path)
    yield People(database)
    database.close()


def test_who_signed_up_signs_in_by_the_name_however_it_is_written(people, path):
    ada = people.sign_up("  Ada  Tarn ", WORDS)
    assert (ada.name, ada.id, people.count()) == ("Ada Tarn", 1, 1)
    for name in ("Ada Tarn", "ADA tarn", " ada \t tarn", "ａｄａ tarn"):
        assert people.sign_in(name, WORDS) == ada
    for name, words in (("Ada Tarn", WORDS + "s"), ("Ben", WORDS), ("Ada Tarn", "")):
        assert people.sign_in(name, words) is None
    assert people.person(ada.id) == ada and people.person(ada.id + 1) is None
    with closing(sqlite3.connect(path)) as data, data:
        (kept,) = data.execute("SELECT hash FROM person").fetchone()
    assert kept.startswith("$argon2id$") and WORDS not in kept


def test_one_name_is_one_person(people):
    people.sign_up("Ada Hill", WORDS)
    # Letters of other alphabets, and an I for an l, look the same.
    for name in ("ADA hill", "Аda Hill", "Ada Hi1l", "Ada  Ηill", "ＡＤＡ hill"):
        with pytest.raises(NameTaken):
            people.sign_up(name, WORDS)
    assert people.count() == 1
    for name in ("Adam Hill", "Ada Hall", "Áda Hill", "Åda Hill", "Ada Hii"):
        people.sign_up(name, WORDS)
    assert name_key(" Ｓtraße ") == "strasse"


@pytest.mark.parametrize(
    ("name", "words", "says"),
    [
        ("", WORDS, "1 to 40 characters"),
        ("   ", WORDS, "1 to 40 characters"),
        ("x" * 41, WORDS, "1 to 40 characters"),
        ("a\u200eb", WORDS, "1 to 40 characters"),
        ("Ada", "nine char", "10 to 200 characters"),
        ("Ada", "abcd" * 51, "10 to 200 characters"),
        ("Ada", "aabbccaabb", "guessed too easily"),
        ("Wardens of Larch", "WARDENS of larch", "guessed too easily"),
    ],
)
def test_names_and_passphrases_that_will_not_do_are_refused(people, name, words, says):
    with pytest.raises(DreieckError, match=says):
        people.sign_up(name, words)
    assert people.count() == 0


def test_the_longest_and_the_shortest_will_do(people):
    people.sign_up("x" * 40, "abcd abcd ")
    longest = people.sign_up("y", "abcd" * 50)
    assert people.sign_in("y", "abcd" * 50) == longest


def test_another_passphrase_ends_the_old_one(people):
    ada = people.sign_up("Ada", WORDS)
    assert people.person(ada.id) == ada
    now = people.change(ada.id, "quite other words")
    assert now == ada == people.person(ada.id)
    assert people.sign_in("Ada", WORDS) is None
    assert people.sign_in("Ada", "quite other words") == now
    with pytest.raises(DreieckError, match="10 to 200"):
        people.change(ada.id, "short")
    with pytest.raises(KeyError):
        people.change(ada.id + 5, "quite other words")


def test_the_key_of_cookies_stays_with_the_data_file(people):
    again = People(people._database)
    assert people.cookie_key == again.cookie_key and len(people.cookie_key) > 20


def test_a_browser_is_signed_in_until_its_session_ends(people, path):
    ada, ben = (people.sign_up(name, WORDS).id for name in ("Ada", "Ben"))
    sessions = Sessions(people._database)
    here, there, other = (sessions.begin(who) for who in (ada, ada, ben))
    # Another server on the same file knows them, too; the file itself tells no token.
    again = Sessions(people._database)
    tokens = (here, there, other, "", "x")
    assert [again.who(each) for each in tokens] == [ada, ada, ben, None, None]
    with closing(sqlite3.connect(path)) as data:
        assert here not in "".join(data.iterdump())
    sessions.end(here)
    assert [sessions.who(each) for each in (here, there)] == [None, ada]
    assert Sessions(people._database).who(here) is None
    sessions.end_all(ada)
    assert [sessions.who(each) for each in (there, other)] == [None, ben]
    first, *later = (sessions.begin(ada) for _ in range(MAX_SESSIONS + 1))
    assert sessions.who(first) is None and {sessions.who(each) for each in later} == {ada}
