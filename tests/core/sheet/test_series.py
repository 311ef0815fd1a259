"""What counts on is the same for one cell and for many."""

from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.sheet.series import Months, Names, Numbered, Steps

steps = st.decimals(-1000, 1000, places=3).map(float)
series = st.one_of(
    st.builds(Steps, steps, steps),
    st.builds(Steps, st.floats(-1e12, 1e12), st.floats(-1e6, 1e6)),
    st.builds(Months, st.integers(-600_000, 2_900_000).map(float), st.integers(-30, 30),
              st.booleans()),
    st.builds(Names, st.integers(0, 3), st.integers(0, 6), st.integers(0, 11), st.just("small")),
    st.builds(Numbered, st.just("Week "), st.just(""), st.integers(0, 99), steps.map(int),
              st.integers(0, 4), st.sampled_from([None, "", "capitals"])),
)  # fmt: skip


@given(series, st.integers(-500, 5000), st.integers(1, 40))
def test_many_values_are_those_at_each_position(each, position, count):
    found = each.cells(position, count).values()
    assert found == [each.value(at) for at in range(position, position + count)]
