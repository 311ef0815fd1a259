import pytest
from tables import result

from dreieck.core.functions import every


@pytest.mark.parametrize("function", every(), ids=lambda function: function.name)
def test_each_example_gives_what_it_says(function):
    formula, value = function.example
    assert result(formula) == value
    assert formula.startswith(f"={function.name}(")
    assert function.purpose.endswith(".") and function.words
