"""route.gpx as segments."""

import numpy as np
import pytest

from limpet.files.gpx import read_gpx

HEAD = (
    '<?xml version="1.0"?><gpx version="1.1" creator="t" xmlns="http://www.topografix.com/GPX/1/1">'
)


def gpx(inside):
    return f"{HEAD}{inside}</gpx>".encode()


def test_segments_keep_their_places_heights_and_times():
    data = gpx(
        '<trk><trkseg><trkpt lat="47.5" lon="-24.5"><ele>0</ele><time>2026-05-14T09:12:00Z</time></trkpt>'
        '<trkpt lat="47.6" lon="-24.4"><time>2026-05-14T11:12:10+02:00</time></trkpt></trkseg>'
        '<trkseg><trkpt lat="47.7" lon="-24.3"/></trkseg></trk>'
    )
    first, second = read_gpx(data)
    assert first.latitude_deg.tolist() == [47.5, 47.6]
    assert first.longitude_deg.tolist() == [-24.5, -24.4]
    # A height of 0 m is a height; a missing one is not known.
    assert first.altitude_m[0] == 0.0
    assert np.isnan(first.altitude_m[1])
    # 11:12:10 in a zone two hours ahead is ten seconds after 09:12:00 UTC.
    assert np.diff(first.time_s).tolist() == [10.0]
    assert second.time_s is None


def test_a_planned_route_is_one_segment_without_times():
    (only,) = read_gpx(
        gpx('<rte><rtept lat="47.5" lon="-24.5"/><rtept lat="47.6" lon="-24.5"/></rte>')
    )
    assert len(only.latitude_deg) == 2
    assert only.time_s is None


@pytest.mark.parametrize(
    ("point", "words"),
    [
        ('lat="470.5" lon="1"', "point 1 of a segment is at 470.5, 1; expected degrees on Earth"),
        ('lat="nan" lon="1"', "expected degrees on Earth"),
        ('lat="47" lon="999"', "expected degrees on Earth"),
    ],
)
def test_a_place_off_the_earth_is_refused(point, words):
    from limpet.errors import BundleError

    with pytest.raises(BundleError, match=words):
        read_gpx(gpx(f"<trk><trkseg><trkpt {point}/></trkseg></trk>"))


def test_an_infinite_height_is_refused():
    from limpet.errors import BundleError

    data = gpx('<trk><trkseg><trkpt lat="47" lon="1"><ele>inf</ele></trkpt></trkseg></trk>')
    with pytest.raises(BundleError, match=r"a height is infinite|not GPX"):
        read_gpx(data)


@pytest.mark.parametrize("value", ["north", "", "91x"])
def test_a_latitude_in_words_is_refused(value):
    from limpet.errors import BundleError

    with pytest.raises(BundleError, match="not GPX"):
        read_gpx(gpx(f'<trk><trkseg><trkpt lat="{value}" lon="1"/></trkseg></trk>'))
