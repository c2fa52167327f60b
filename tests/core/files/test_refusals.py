"""What a bundle may not contain, line by line of the format's table; each fault in its place."""

import io
import stat
import zipfile

import pytest

from limpet.errors import BundleError
from limpet.files import read_bundle, read_files
from limpet.files.archive import files_of_zip
from tests.strategies import minimal

SAMPLES = b"time_s,voltage_v,current_a\n0,54.0,1\n1,53.9,2\n2,53.8,3\n"
ENTRIES = b"time_s,kind,trip_m\n0,start,0\n600,end,3000\n"


def refusal(files):
    with pytest.raises(BundleError) as caught:
        read_files(files)
    return [str(fault) for fault in caught.value.faults]


def test_the_least_bundles_are_accepted():
    assert read_files({"test.json": minimal(), "samples.csv": SAMPLES}).samples.height == 3
    assert len(read_files({"test.json": minimal(), "entries.csv": ENTRIES}).entries) == 2


@pytest.mark.parametrize(
    ("changes", "expected"),
    [
        ({"title": ""}, 'test.json:1:24: title is empty; give it a name'),
        ({"vehicle": {}}, "vehicle.kind is missing and needed; add it"),
        ({"vehicle": {"kind": "bicycl"}}, 'vehicle.kind is "bicycl", expected one of kick_scooter, '),
        ({"vehicle": {"kind": "bicycl"}}, "did you mean bicycle?"),
        ({"vehicle": {"kind": "trike", "mass_kg": -24}}, "vehicle.mass_kg is -24, expected above 0"),
        ({"vehicle": {"kind": "trike", "mass_kg": "24"}}, 'is "24", expected a number without quotes'),
        ({"pack": {"chemistry": "nmc", "series": 0, "rated_ah": 1}}, "pack.series is 0, expected at least 1"),
        ({"pack": {"chemistry": "xyz", "series": 1, "rated_ah": 1}}, "nmc, nca, lfp, lmo, lead_acid_agm, lead_acid_flooded"),
        (
            {"pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14, "full_v": 546.0}},
            "pack.full_v is 546 V, which 13 cells of nmc in series cannot have",
        ),
        (
            {"pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14, "full_v": 50, "cutoff_v": 52}},
            "pack.cutoff_v is 52 V, not below full_v 50 V",
        ),
        ({"bundle": 2}, "bundle is 2, expected one of 1"),
        ({"started_at": "yesterday"}, 'started_at is "yesterday", expected a time like'),
        ({"rider": []}, "rider is [], expected an object"),
    ],
)  # fmt: skip
def test_a_faulty_sheet_is_refused(changes, expected):
    found = refusal({"test.json": minimal(**changes), "samples.csv": SAMPLES})
    assert any(expected in fault for fault in found), found


def test_a_fault_in_json_stands_at_its_line_and_column():
    text = (
        b'{\n  "bundle": 1,\n  "title": "x",\n  "vehicle": {"kind": "moped",\n    "mass_kg": -3},\n'
    )
    text += b'  "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14}\n}'
    assert refusal({"test.json": text, "samples.csv": SAMPLES}) == [
        "test.json:5:16: vehicle.mass_kg is -3, expected above 0; check the unit"
    ]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        (b'{"bundle": 1,', "test.json:1:14: not JSON"),
        (b'{"bundle": 1,\n "title": NaN}', "test.json:2:11: NaN is not a JSON number"),
        (b'{"title": "a",\n "title": "b"}', 'test.json:2:2: "title" is given twice; keep one'),
        (b"[]", "test.json:1:1: must be a JSON object"),
        (b'{"title": "\xff"}', "is not UTF-8; save the file with the encoding UTF-8"),
        (b"[" * 100_000, "nested too deeply"),
    ],
)
def test_broken_json_is_refused(text, expected):
    assert expected in refusal({"test.json": text, "samples.csv": SAMPLES})[0]


@pytest.mark.parametrize(
    ("table", "expected"),
    [
        (b"time_s,voltage_v\n0,54\n2,53\n1,52\n", "samples.csv:4:1: time_s is 1 after 2; time must increase"),
        (b"time_s,voltage_v\n0,54\n0,53\n", "samples.csv:3:1: time_s is 0 after 0"),
        (b"time_s,voltage_v\n0,inf\n", "samples.csv:2:2: voltage_v is inf; leave the cell empty"),
        (b"time_s,voltage_v\n0,1e999\n", "samples.csv:2:2: voltage_v is 1e999, too large"),
        (b"time_s,voltage_v\n0,many\n", "samples.csv:2:2: voltage_v is 'many', not a number"),
        (b"time_s,voltage_v\n0,54000\n", "samples.csv:2:2: voltage_v is 54000; expected volts of 13 cells, not millivolts"),
        (b"time_s,voltage_v\n0,-1\n", "samples.csv:2:2: voltage_v is -1"),
        (b"time_s,voltage_v\n0,540\n", "samples.csv:2:2: voltage_v is 540; expected volts of 13 cells"),
        # An exact duplicate is left out; what follows keeps the line it stands in.
        (b"time_s,voltage_v\n0,54\n0,54\n1,53\n2,540\n", "samples.csv:5:2: voltage_v is 540"),
        (b"time_s,voltage_v,voltage_v\n0,1,1\n", "samples.csv:1:3: column voltage_v stands twice"),
        (b"voltage_v\n54\n", "samples.csv:1: column time_s (seconds since the start) is missing"),
        (b"time_s,voltage_v\n,54\n1,53\n", "samples.csv:2:1: time_s is empty; every row needs its time"),
        (b"time_s,voltage_v\n0,54,1\n1,53\n", "samples.csv:2: has 3 fields, the header 2"),
        (b"time_s,voltage_v\n0\n1,53\n", "samples.csv:2: has 1 fields, the header 2"),
        (b"time_s,voltage_v\n0,\xff\n", "samples.csv: "),
        (b"time_s,latitude_deg\n0,91\n", "samples.csv:2:2: latitude_deg is 91; expected degrees north"),
        (b'time_s;voltage_v\n0;"1.234,5"\n', "samples.csv:2:2: voltage_v is '1.234,5': point or comma?"),
        (b"", "samples.csv:1: is empty"),
        (b"time_s,voltage_v\n", "samples.csv: has no rows"),
    ],
)  # fmt: skip
def test_a_faulty_table_is_refused(table, expected):
    found = refusal({"test.json": minimal(), "samples.csv": table})
    assert any(fault.startswith(expected) for fault in found) or expected == "samples.csv: ", found
    assert all(fault.startswith("samples.csv") for fault in found)


def test_entries_are_checked_likewise():
    table = b"time_s,kind,voltage_rest_v\n0,begin,54\n600,end,54000\n300,laps,1\n"
    found = refusal({"test.json": minimal(), "entries.csv": table})
    assert any("entries.csv:2:2: kind is 'begin', expected one of start, " in x for x in found)
    assert any("entries.csv:3:3: voltage_rest_v is 54000" in x for x in found)
    assert any("entries.csv:4:1: time_s is 300 after 600" in x for x in found)
    assert any("did you mean lap?" in x for x in found)


def test_all_faults_of_all_files_are_named_at_once():
    found = refusal(
        {
            "test.json": minimal(vehicle={"kind": "boat", "mass_kg": -1}),
            "samples.csv": b"time_s,voltage_v\n0,x\n1,y\n",
            "entries.csv": b"time_s,kind\n0,gone\n",
            "route.gpx": b"<gpx",
        }
    )
    files = [fault.split(":")[0] for fault in found]
    assert [
        files.count(name) for name in ("test.json", "samples.csv", "entries.csv", "route.gpx")
    ] == [2, 2, 1, 1]


def test_a_fault_in_one_cell_hides_none_in_the_others():
    table = b"time_s,voltage_v,speed_mps\n0,many,1\n5,54000,2\n3,54,999\n"
    found = refusal({"test.json": minimal(), "samples.csv": table})
    places = [fault.split(": ")[0] for fault in found]
    assert places == ["samples.csv:2:2", "samples.csv:3:2", "samples.csv:4:1", "samples.csv:4:3"]


def test_a_thousand_faults_are_counted_not_listed():
    table = b"time_s,voltage_v\n" + b"".join(b"%d,x\n" % k for k in range(1000))
    found = refusal({"test.json": minimal(), "samples.csv": table})
    assert len(found) == 201
    assert "and 800 more faults like these" in found[-1]


def test_a_bundle_without_its_parts_is_refused():
    assert refusal({}) == [
        "samples.csv: neither samples.csv nor entries.csv is there; add one",
        "test.json: is missing; every bundle needs it",
    ]


@pytest.mark.parametrize(
    ("gpx", "expected"),
    [
        (
            b'<!DOCTYPE g [<!ENTITY a "b">]>\n<gpx>&a;</gpx>',
            "route.gpx:1: declares a document type",
        ),
        (b"<gpx><trk>", "not XML"),
        (b"<html/>", "holds no track|not GPX"),
        (b"<gpx><trk/></gpx>", "holds no track and no route"),
    ],
)
def test_a_hostile_or_empty_route_is_refused(gpx, expected):
    files = {"test.json": minimal(), "samples.csv": SAMPLES, "route.gpx": gpx}
    assert any(option in refusal(files)[0] for option in expected.split("|"))


def zip_of(members):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in members:
            archive.writestr(name, data)
    return buffer.getvalue()


def link(name):
    info = zipfile.ZipInfo(name)
    info.external_attr = (stat.S_IFLNK | 0o777) << 16
    return info


@pytest.mark.parametrize(
    ("data", "expected"),
    [
        (zip_of([("../test.json", b"")]), "lies outside the zip's folder"),
        (zip_of([("/etc/test.json", b"")]), "an absolute name"),
        (zip_of([("C:/test.json", b"")]), "an absolute name"),
        (zip_of([("a\\..\\test.json", b"")]), "lies outside the zip's folder"),
        (zip_of([(link("samples.csv"), b"/etc/passwd")]), "samples.csv: a link"),
        (
            zip_of([("a/test.json", b""), ("b/samples.csv", b"")]),
            "at the zip's root or in one folder",
        ),
        (zip_of([("samples.csv", b"0" * 5_000_000)]), "times its size, more than 200"),
        (b"PK but no zip", "is neither a folder nor a zip"),
    ],
)
def test_a_hostile_zip_is_refused_unopened(data, expected):
    with pytest.raises(BundleError, match=expected):
        files_of_zip(data)


def test_a_zip_that_claims_a_gibibyte_is_refused_by_its_directory():
    data = bytearray(zip_of([("samples.csv", b"time_s\n")]))
    # The uncompressed size stands at offset 24 of the central directory's record (APPNOTE 4.3.12).
    record = data.find(b"PK\x01\x02")
    data[record + 24 : record + 28] = (2**31).to_bytes(4, "little")
    with pytest.raises(BundleError, match=r"unpacks to 2\.0 GiB, more than 1 GiB"):
        files_of_zip(bytes(data))


def test_a_damaged_zip_is_refused():
    data = bytearray(zip_of([("samples.csv", bytes(range(256)) * 8)]))
    data[60:80] = b"\x00" * 20
    with pytest.raises(BundleError, match=r"samples\.csv"):
        files_of_zip(bytes(data))


def test_a_path_that_is_not_there_is_refused(tmp_path):
    with pytest.raises(
        BundleError, match="no such file or directory; give a bundle's folder or zip"
    ):
        read_bundle(tmp_path / "none")
