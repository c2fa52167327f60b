"""A label's excess: evenly within its span, and a few past its edge."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.stats import norm

from limpet.assumptions import LABEL
from limpet.uncertain.input import Input

EXCESS = Input(
    name="label", value=LABEL.value, standard_uncertainty=LABEL.std, source="x", shape="soft_top"
)


def test_some_packs_give_more_than_any_edge_and_none_less_than_its_label():
    """The packs of the trade that gave 1.12 to 1.135 of their label lie where one in twenty does, and not past all."""
    drawn = EXCESS.drawn(norm.ppf((np.arange(20_000) + 0.5) / 20_000))
    assert np.median(drawn) == pytest.approx(1.065, abs=1e-4)
    assert drawn.min() == pytest.approx(1.0, abs=1e-3)
    assert 0.03 < (drawn > 1.13).mean() < 0.10
    assert (drawn > 1.20).mean() < 0.003
    # No cap: a score further out is always a larger pack, so that readings can move it there.
    assert (np.diff(drawn) > 0).all()


def test_below_its_edge_it_is_the_even_spread():
    even = Input(
        name="label", value=1.065, standard_uncertainty=LABEL.std, source="x", shape="rectangular"
    )
    scores = np.linspace(-4, 1, 20)
    assert EXCESS.drawn(scores) == pytest.approx(even.drawn(scores))
