"""Every kind meets every other: carried out without one standing in another's wood, or refused with a reason."""

import pytest

from support.pairs import met


@pytest.mark.parametrize("seed", range(3))
def test_pairs_of_kinds(seed: int) -> None:
    count, wrong = met(seed, 40)
    assert count["carried out"] > 5
    assert not wrong, wrong[:5]
