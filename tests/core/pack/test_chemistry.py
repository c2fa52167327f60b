"""A chemistry is in every table that asks for one."""

import pytest

from limpet.pack import curve_family
from limpet.pack.chemistry import CHEMISTRIES, FACTS
from limpet.pack.said import understood
from limpet.pack.warmth import ENERGY_WH_PER_KG
from limpet.words import CHOICES


@pytest.mark.parametrize("chemistry", CHEMISTRIES)
def test_every_chemistry_stands_in_every_table(chemistry):
    """What a new one needs beside its facts; the page's own start values have a test of theirs."""
    facts = FACTS[chemistry]
    assert facts.lowest_v < facts.floor_v < facts.nominal_v
    assert facts.label_v < facts.full_v < facts.highest_v
    assert facts.capacity_at[-1] == (25.0, 1.0)
    assert ENERGY_WH_PER_KG[chemistry] > 0
    assert facts.floor_v < curve_family(chemistry).mean_v < facts.full_v
    assert understood(CHOICES["chemistry"][chemistry]).values["chemistry"] == chemistry
