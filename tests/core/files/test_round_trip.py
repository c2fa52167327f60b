"""A bundle written and read back is the same test; others can read it too."""

import frictionless
import polars as pl
from hypothesis import given, settings
from hypothesis import strategies as st

from demo.skerrow import ridden
from limpet.evidence.model import RangeTest
from limpet.files import bundle_files, read_bundle, read_files, write_folder, write_zip
from limpet.files.archive import files_of_zip
from tests.strategies import entry_lists, sample_tables, sheets


def same(a: RangeTest, b: RangeTest) -> None:
    assert (a.sheet, a.entries, a.route_gpx, a.extra) == (b.sheet, b.entries, b.route_gpx, b.extra)
    assert (a.samples is None) == (b.samples is None)
    if a.samples is not None:
        assert a.samples.equals(b.samples, null_equal=True)


EXTRA = st.sampled_from([{}, {"shoe": "left"}, {"pack": {"colour": "grey"}, "a.b": [1, None]}])


@given(sheets(), entry_lists(), sample_tables(), EXTRA)
@settings(max_examples=60, deadline=None)
def test_nothing_is_lost_on_the_way_out_and_in(sheet, entries, samples, extra):
    test = RangeTest(sheet=sheet, entries=entries, samples=samples, extra=extra)
    same(read_files(bundle_files(test)), test)
    same(read_files(files_of_zip(write_zip(test))), test)


def test_columns_and_fields_of_ones_own_come_back():
    files = {
        "test.json": b'{"bundle":1,"title":"x","vehicle":{"kind":"moped","seat":"low"},'
        b'"pack":{"chemistry":"nca","series":20,"rated_ah":30}}',
        "entries.csv": b"time_s,kind,mood\n0,start,fine\n",
    }
    test = read_files(files)
    again = read_files(bundle_files(test))
    assert again.entries[0].extra == {"mood": "fine"}
    assert again.extra == {"vehicle": {"seat": "low"}}


def test_a_demo_test_survives_folder_and_zip(tmp_path):
    test = ridden("turnstone-frost")
    write_folder(test, tmp_path / "out")
    same(read_bundle(tmp_path / "out"), test)
    (tmp_path / "out.zip").write_bytes(write_zip(test))
    same(read_bundle(tmp_path / "out.zip"), test)
    assert write_zip(test) == write_zip(test)


def test_the_descriptor_is_a_valid_data_package(tmp_path):
    # frictionless 5.21 as the judge of the Data Package and Table Schema specifications.
    write_folder(ridden("turnstone-frost"), tmp_path)
    report = frictionless.Package(str(tmp_path / "datapackage.json")).validate()
    assert report.valid, report.flatten(["title", "message"])
    with (tmp_path / "samples.csv").open("a") as file:
        file.write("not,a,row\n")
    assert not frictionless.Package(str(tmp_path / "datapackage.json")).validate().valid


def test_the_descriptor_lists_every_file_and_column():
    files = bundle_files(ridden("turnstone-quay-cutoff"))
    package = frictionless.Package.from_descriptor(
        __import__("json").loads(files["datapackage.json"])
    )
    assert package.custom["limpet"] == {"bundle": 1}
    columns = pl.read_csv(files["entries.csv"]).columns
    assert package.get_resource("entries").schema.field_names == columns
