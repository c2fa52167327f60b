"""Tracks of every format: the same fixes out of each, and what is odd said."""

import io
import json
import re
import struct
import zipfile
from datetime import datetime, timedelta, timezone
from itertools import pairwise

import gpxpy
import numpy as np
import pytest
from geographiclib.geodesic import Geodesic

from limpet.errors import BundleError
from limpet.foreign.kinds import told
from limpet.foreign.track import (
    as_gpx,
    jumps,
    samples_of,
    without_ends,
    without_jumps,
    without_place,
)
from limpet.foreign.tracks import read_track

BEGAN = datetime(2026, 5, 14, 9, 12, tzinfo=timezone.utc)
#: Fixes of a made-up way on Skerrow: latitude, longitude, height, seconds.
FIXES = [(61.2 + 0.0004 * k, -7.4 + 0.0002 * (k % 7), 20.0 + k / 2, 5.0 * k) for k in range(60)]


def when(seconds):
    return (BEGAN + timedelta(seconds=seconds)).strftime("%Y-%m-%dT%H:%M:%SZ")


def gpx(fixes=FIXES, extra="", timed=True):
    points = "".join(
        f'<trkpt lat="{a:.7f}" lon="{b:.7f}"><ele>{h:.1f}</ele>{f"<time>{when(t)}</time>" if timed else ""}{extra}</trkpt>'
        for a, b, h, t in fixes
    )
    return f'<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{points}</trkseg></trk></gpx>'.encode()


def tcx():
    points = "".join(
        f"<Trackpoint><Time>{when(t)}</Time><Position><LatitudeDegrees>{a:.7f}</LatitudeDegrees><LongitudeDegrees>{b:.7f}</LongitudeDegrees>"
        f"</Position><AltitudeMeters>{h:.1f}</AltitudeMeters><HeartRateBpm><Value>120</Value></HeartRateBpm></Trackpoint>"
        for a, b, h, t in FIXES
    )
    return (
        '<?xml version="1.0"?><TrainingCenterDatabase>'
        f'<Activities><Activity Sport="Biking"><Lap><Track>{points}</Track></Lap></Activity></Activities></TrainingCenterDatabase>'
    ).encode()


def kml(timed):
    if timed:
        whens = "".join(f"<when>{when(t)}</when>" for *_, t in FIXES)
        coords = "".join(f"<gx:coord>{b:.7f} {a:.7f} {h:.1f}</gx:coord>" for a, b, h, _ in FIXES)
        body = f"<gx:Track>{whens}{coords}</gx:Track>"
    else:
        coords = " ".join(f"{b:.7f},{a:.7f},0" for a, b, *_ in FIXES)
        body = f"<LineString><coordinates>{coords}</coordinates></LineString>"
    return (
        '<?xml version="1.0"?><kml xmlns="urn:made-up:kml" xmlns:gx="urn:made-up:more">'
        f"<Document><Placemark>{body}</Placemark></Document></kml>"
    ).encode()


def geojson():
    # RFC 7946, 3.1.1: longitude stands first.
    line = {
        "type": "LineString",
        "coordinates": [[round(b, 7), round(a, 7), h] for a, b, h, _ in FIXES],
    }
    said = {"coordTimes": [when(t) for *_, t in FIXES], "colour": "green"}
    return json.dumps(
        {
            "type": "FeatureCollection",
            "features": [{"type": "Feature", "properties": said, "geometry": line}],
        }
    ).encode()


def nmea():
    def sentence(body):
        check = 0
        for mark in body:
            check ^= ord(mark)
        return f"${body}*{check:02X}"

    def angle(value, wide, letters):
        size = abs(value)
        return f"{int(size):0{wide}d}{(size - int(size)) * 60:08.5f},{letters[value < 0]}"

    lines = []
    for a, b, h, t in FIXES:
        moment = BEGAN + timedelta(seconds=t)
        clock = moment.strftime("%H%M%S.00")
        place = f"{angle(a, 2, 'NS')},{angle(b, 3, 'EW')}"
        lines.append(sentence(f"GPRMC,{clock},A,{place},10.0,0.0,{moment:%d%m%y},,"))
        lines.append(sentence(f"GPGGA,{clock},{place},1,08,0.9,{h:.1f},M,0.0,M,,"))
    lines.insert(7, "$GPRMC,broken*00")
    return "\r\n".join(lines).encode()


def fit():
    """An activity by the protocol's own layout: header, one definition, records, checksum (from memory)."""

    def checksum(data):
        table = (0x0000, 0xCC01, 0xD801, 0x1400, 0xF001, 0x3C00, 0x2800, 0xE401, 0xA001, 0x6C00, 0x7800, 0xB401, 0x5000, 0x9C01, 0x8801, 0x4400)  # fmt: skip
        crc = 0
        for byte in data:
            for half in (byte & 15, byte >> 4):
                crc = ((crc >> 4) & 0x0FFF) ^ table[crc & 15] ^ table[half]
        return crc

    fields = ((253, 4, 0x86), (0, 4, 0x85), (1, 4, 0x85), (2, 2, 0x84), (3, 1, 0x02))
    body = struct.pack("<BBBHB", 0x40, 0, 0, 20, len(fields))
    body += b"".join(struct.pack("<BBB", *each) for each in fields)
    since_1989 = (BEGAN - datetime(1989, 12, 31, tzinfo=timezone.utc)).total_seconds()
    for a, b, h, t in FIXES:
        semi = [round(each * 2**31 / 180) for each in (a, b)]
        body += struct.pack("<BIiiHB", 0, int(since_1989 + t), *semi, round((h + 500) * 5), 120)
    head = struct.pack("<BBHI4s", 14, 0x20, 2132, len(body), b".FIT")
    head += struct.pack("<H", checksum(head))
    return head + body + struct.pack("<H", checksum(head + body))


def kmz():
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        archive.writestr("doc.kml", kml(True))
    return buffer.getvalue()


MADE = {
    "gpx": gpx(),
    "tcx": tcx(),
    "kml": kml(True),
    "kmz": kmz(),
    "geojson": geojson(),
    "nmea": nmea(),
    "fit": fit(),
}


@pytest.mark.parametrize("form", sorted(MADE))
def test_every_format_gives_the_same_fixes(form):
    assert told(f"way.{form}", MADE[form]).form == form
    track = read_track(f"way.{form}", MADE[form], form)
    assert track.is_timed
    assert track.started_at == BEGAN
    frame = samples_of(track)
    truth = np.array(FIXES)
    near = {"nmea": 2e-6}.get(form, 2e-7)
    assert frame["latitude_deg"].to_numpy() == pytest.approx(truth[:, 0], abs=near)
    assert frame["longitude_deg"].to_numpy() == pytest.approx(truth[:, 1], abs=near)
    assert frame["altitude_m"].to_numpy() == pytest.approx(truth[:, 2], abs=0.11)
    assert frame["time_s"].to_numpy() == pytest.approx(truth[:, 3])


def test_a_watchs_heart_rate_is_left_aside_by_name():
    assert read_track("way.fit", fit(), "fit").aside == ("heart_rate",)


def test_an_activity_that_broke_off_is_kept_as_far_as_it_goes_and_says_so():
    whole = read_track("way.fit", fit(), "fit")
    assert "track_damaged" not in [notice.code for notice in whole.notices]
    for damaged in (fit()[:-30], fit()[:-1] + bytes([fit()[-1] ^ 1])):
        found = read_track("way.fit", damaged, "fit")
        assert 0 < found.fixes <= whole.fixes
        assert "track_damaged" in [notice.code for notice in found.notices]


def test_a_track_is_as_long_as_an_independent_geodesic_says():
    track = read_track("way.gpx", gpx(), "gpx")
    steps = [Geodesic.WGS84.Inverse(a[0], a[1], b[0], b[1])["s12"] for a, b in pairwise(FIXES)]
    assert track.length_m == pytest.approx(sum(steps), rel=1e-4)


def test_what_goes_out_is_read_by_another_parser_and_comes_back():
    track = read_track("way.gpx", gpx(), "gpx")
    again = as_gpx(track, "Out & back")
    parsed = gpxpy.parse(again.decode())
    assert parsed.tracks[0].name == "Out & back"
    assert len(parsed.tracks[0].segments[0].points) == len(FIXES)
    back = read_track("way.gpx", again, "gpx")
    assert samples_of(back).equals(samples_of(track))


def test_extras_are_left_aside_by_name():
    track = read_track("way.tcx", tcx(), "tcx")
    assert track.aside == ("HeartRateBpm",)
    assert "HeartRateBpm" in track.notices[-1].message
    extra = "<extensions><hr>120</hr><cad>80</cad></extensions>"
    assert read_track("way.gpx", gpx(extra=extra), "gpx").aside == ("cad", "hr")
    assert read_track("way.geojson", geojson(), "geojson").aside == ("colour",)


def test_a_line_on_a_map_is_a_plan_and_its_noughts_are_no_heights():
    track = read_track("way.kml", kml(False), "kml")
    assert not track.is_timed
    assert np.isnan(track.segments[0].altitude_m).all()
    with pytest.raises(BundleError, match="no times"):
        samples_of(track)


def test_fixes_without_place_or_out_of_order_are_left_out_and_counted():
    fixes = [*FIXES[:10], (0.0, 0.0, 0.0, 51.0), *FIXES[10:20], FIXES[5], *FIXES[20:]]
    track = read_track("way.gpx", gpx(fixes), "gpx")
    assert track.fixes == len(FIXES)
    assert {notice.code for notice in track.notices} == {"fixes_without_place", "fixes_backwards"}


def test_a_leap_to_another_continent_is_found_and_can_be_left_out():
    fixes = [*FIXES[:30], (-33.9, 18.4, 5.0, 148.0), *FIXES[30:]]
    track = read_track("way.gpx", gpx(fixes), "gpx")
    assert jumps(track)[0] > 5_000_000
    shorter = without_jumps(track)
    assert jumps(shorter) == []
    assert shorter.fixes == len(FIXES)
    assert jumps(read_track("way.gpx", gpx(), "gpx")) == []


def test_ends_and_home_are_cut_off():
    track = read_track("way.gpx", gpx(), "gpx")
    cut = without_ends(track, 300, 300)
    assert cut.length_m == pytest.approx(track.length_m - 600, abs=100)
    assert cut.segments[0].latitude_deg[0] > FIXES[5][0]
    middle = FIXES[30]
    parted = without_place(track, middle[0], middle[1], 400)
    assert len(parted.segments) == 2
    with pytest.raises(BundleError, match="cut less"):
        without_ends(track, 5000, 5000)


@pytest.mark.parametrize(
    ("form", "data", "said"),
    [
        ("tcx", b"<TrainingCenterDatabase>", "no XML"),
        (
            "tcx",
            b'<!DOCTYPE a [<!ENTITY b "c">]><TrainingCenterDatabase>&b;</TrainingCenterDatabase>',
            "document type",
        ),
        ("kml", b"<kml><Point/></kml>", "no line"),
        ("geojson", b'{"type": "Point", "coordinates": [1, 2]}', "no line"),
        ("nmea", b"$GPRMC,1,V*00\n", "no fix|damaged"),
        ("fit", b"\x0e\x10\x00\x00\x05\x00\x00\x00.FITxx", "damaged|no records"),
        ("gpx", b"<gpx><metadata/></gpx>", "no track"),
    ],
)
def test_what_is_no_track_is_refused_with_a_sentence(form, data, said):
    with pytest.raises(BundleError, match=said):
        read_track(f"way.{form}", data, form)


def test_a_track_whose_clock_stood_still_is_a_way_without_times():
    times = re.sub(rb"<time>[^<]*</time>", b"<time>1901-12-13T20:45:52Z</time>", gpx())
    found = read_track("way.gpx", times, "gpx")
    assert found.fixes == read_track("way.gpx", gpx(), "gpx").fixes
    assert all(segment.time_s is None for segment in found.segments)
    assert "fixes_still_clock" in [notice.code for notice in found.notices]
