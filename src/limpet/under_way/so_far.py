"""What was recorded of a ride up to a moment."""

from __future__ import annotations

from dataclasses import replace

from limpet.evidence.model import RangeTest


def last_record_s(test: RangeTest) -> float:
    """When the last record of a test was made [s]; 0 of none."""
    times = [test.entries[-1].time_s] if test.entries else []
    if test.samples is not None and len(test.samples):
        times.append(float(test.samples["time_s"][-1]))
    return max(times, default=0.0)


def so_far(test: RangeTest, until_s: float) -> RangeTest:
    """A test as it stood at a moment; how it ended is not known yet.

    Parameters
    ----------
    until_s : what was recorded later is left out [s since the start]
    """
    if until_s >= last_record_s(test):
        return test
    samples = test.samples
    if samples is not None:
        samples = samples.filter(samples["time_s"] <= until_s)
        samples = samples if len(samples) else None
    return replace(
        test,
        sheet=replace(test.sheet, ending=None),
        samples=samples,
        entries=tuple(entry for entry in test.entries if entry.time_s <= until_s),
        route_gpx=None,
    )
