"""A pack that nobody describes may hold half or twice what is usual: a forecast must not promise on it."""

from dataclasses import replace

from limpet.assumptions import UNKNOWN_PACK
from limpet.drive.inputs import inputs_of
from tests.trips import trip


def test_an_unknown_pack_is_any_pack():
    known = trip()
    unknown = replace(known, pack=replace(known.pack, rated_wh=None, taken=("rated_ah",)))
    sure, any_ = (inputs_of(asked).by_name["rated_energy_wh"] for asked in (known, unknown))
    assert sure.source == "label"
    assert sure.standard_uncertainty < 0.1 * sure.value
    assert (any_.source, any_.shape) == ("taken: no label", "lognormal")
    assert any_.standard_uncertainty == UNKNOWN_PACK.std * any_.value
