"""What a ride says of its pack: resistance, capacity, usable energy, what is left of the label."""

from __future__ import annotations

from limpet.figures.drawn import GUESS_BELOW, FloatArray, quantity
from limpet.figures.findings import Findings
from limpet.figures.headline import Headline
from limpet.figures.parts import AtReference, PackResult
from limpet.pack import PackSpec
from limpet.quantity import Quantity
from limpet.read.stated import packs_together


def pack_figures(found: Findings, headline: Headline) -> PackResult:
    """The pack as ridden, and what it would give at 25 °C.

    Parameters
    ----------
    found : the test's findings
    headline : its share used and usable energy
    """
    pack = found.evidence.test.sheet.pack
    capacity = _capacity(found, headline.share)
    reference = _at_reference(found, capacity, headline.usable)
    return PackResult(
        resistance_ohm=_resistance(found),
        capacity_ah=capacity,
        usable_energy_wh=headline.usable,
        at_25_degc=reference,
        retained_fraction=_of_label(pack, capacity),
    )


def _of_label(pack: PackSpec, capacity: Quantity | None) -> Quantity | None:
    if capacity is None or "rated_ah" in pack.taken:
        return None
    return capacity.scaled(1 / pack.rated_ah, "1")


def _resistance(found: Findings) -> Quantity | None:
    """Of one pack, as measured: among the draws it also takes what the model of the pack lacks."""
    measured = found.evidence.resistance
    if not measured.measured:
        return None
    return Quantity.of(measured.ohm * measured.packs, "ohm", measured.std_ohm * measured.packs)


def _capacity(found: Findings, share: Quantity | None) -> Quantity | None:
    """Ah from full to cut-off as ridden, of one pack: only where charge was measured."""
    evidence, drawn_ah = found.evidence, found.drawn.capacity_ah
    charge = evidence.metered.charge
    if charge is None or share is None or drawn_ah is None or share.value < GUESS_BELOW:
        return None
    whole = found.from_full_to_end and len(evidence.ride.packs) == 1
    counted = charge.quantity.value / packs_together(evidence.test)
    return quantity(drawn_ah, "Ah", counted if whole else None)


def _at_reference(
    found: Findings, capacity: Quantity | None, usable: Quantity | None
) -> AtReference | None:
    """The capacity that was measured, and the energy with it, without what the cold took; of its label also
    without what the load left in the pack."""
    drawn, pack = found.drawn, found.evidence.test.sheet.pack
    if capacity is None or drawn.capacity_ah is None:
        return None
    assert drawn.warm_ah is not None
    assert drawn.gentle_ah is not None
    cold = found.remaining.value("cold")
    energy = None
    if usable is not None and drawn.usable_wh is not None:
        energy = quantity(drawn.usable_wh / cold, "Wh", usable.value / float(cold[0]))

    def brought(draws: FloatArray) -> Quantity:
        """About what was counted, where it was counted."""
        best = float(draws[0] / drawn.capacity_ah[0]) if drawn.capacity_ah is not None else 1.0
        return quantity(draws, "Ah", capacity.value * best)

    warm = brought(drawn.warm_ah)
    return AtReference(
        capacity_ah=warm,
        usable_energy_wh=energy,
        retained_fraction=_of_label(pack, warm),
        retained_at_low_rate=_of_label(pack, brought(drawn.gentle_ah)),
    )
