"""What is written comes back as it was."""

import pytest
from effort import share
from hypothesis import given
from random_workbooks import differences, workbooks

from dreieck.core.calculate import Calculation
from dreieck.core.sheet.stated import SORTS
from dreieck.files import FORMATS, Progress, Wish, read, write


def there_and_back(workbook, name):
    made = write(Calculation(workbook), FORMATS[name], Wish(), Progress())
    for sort in () if FORMATS[name].holds_stated else SORTS:
        left = {each.what: each.count for each in made.left_out}
        assert left.get(sort[:-1], 0) == len(getattr(workbook, sort))
        setattr(workbook, sort, ())
    return read(made.data, "x" + FORMATS[name].ending).workbook


@pytest.mark.parametrize("name", ["json", "ods", "xlsx"])
@given(workbook=workbooks())
@share(0.6)
def test_a_workbook_comes_back_as_it_was(name, workbook):
    assert differences(workbook, there_and_back(workbook, name)) == []
