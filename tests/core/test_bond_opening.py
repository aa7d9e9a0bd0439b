"""One bond opened at a time: whose bond it was and what the current did decide what that says."""

import pytest

from vessel.core.base.errors import BadInput
from vessel.core.hookup.bond_opening import BondOpened


@pytest.mark.parametrize(
    ("own", "after", "says"),
    [
        (True, 0.0, "for"),
        (True, 0.003, "for"),
        (True, 0.009, "against"),
        (False, 0.009, "for"),
        (False, 0.014, "for"),  # it takes over what the other took
        (False, 0.001, "against"),
        (True, 0.005, "cannot"),
        (False, 0.005, "cannot"),
    ],
)
def test_what_the_current_says(own, after, says):
    assert BondOpened(own, 0.01, after).says == says


def test_without_current_before_it_says_nothing():
    with pytest.raises(BadInput) as refused:
        BondOpened(True, 0.0, 0.0)
    assert refused.value.field == "before_a"
