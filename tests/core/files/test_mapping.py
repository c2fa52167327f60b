"""A logger's own columns: names, units, signs and offsets into the one list."""

import numpy as np
import pytest

from limpet.errors import BundleError
from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS
from limpet.files.csvfile import read_table
from limpet.files.mapping import ColumnMapping, Source
from limpet.files.tables import read_samples
from tests.strategies import PACK

LOGGER = ColumnMapping(
    SAMPLE_COLUMNS,
    (
        Source(source="t", column="time_s", unit="min", offset=10.0),
        Source(source="U", column="voltage_v"),
        Source(source="I", column="current_a", sign=-1),
        Source(source="v", column="speed_mps", unit="km/h"),
        Source(source="T", column="battery_temp_c", unit="°F"),
    ),
)
ROWS = b"t,U,I,v,T,flag\n0,54.0,-2,36,50,a\n1,53.5,-4,18,68,b\n"


@pytest.mark.parametrize("data", [ROWS, ROWS.replace(b"flag", b'"flag"'), ROWS.replace(b",", b";")])
def test_a_loggers_columns_become_the_cores(data):
    frame, notices = read_samples(data, PACK, LOGGER)
    assert "current_flipped" not in {notice.code for notice in notices}
    assert frame["time_s"].to_list() == [10.0, 70.0]
    assert frame["voltage_v"].to_list() == [54.0, 53.5]
    assert frame["current_a"].to_list() == [2.0, 4.0]
    assert frame["speed_mps"].to_list() == pytest.approx([10.0, 5.0])
    assert frame["battery_temp_c"].to_list() == pytest.approx([10.0, 20.0])
    assert frame["flag"].to_list() == ["a", "b"]


def test_faults_name_the_place_in_the_file():
    with pytest.raises(BundleError) as caught:
        read_samples(b"t,U\n0,54\n1,5x\n", PACK, LOGGER)
    (fault,) = caught.value.faults
    assert (fault.line, fault.column) == (3, 2)
    assert fault.message.startswith("U is '5x'")


def test_a_file_without_the_time_is_refused_by_the_files_own_name():
    with pytest.raises(BundleError, match="column t "):
        read_table("log.csv", b"U,I\n1,2\n", LOGGER, most_rows=9)


def test_the_bundles_own_files_are_the_trivial_case():
    table = read_table("samples.csv", b"time_s,voltage_v\n0,50\n1,51\n", ColumnMapping.plain(SAMPLE_COLUMNS), most_rows=9)  # fmt: skip
    assert table.plain is not None  # read in one go, nothing copied
    assert np.array_equal(table.numbers["voltage_v"], [50.0, 51.0])


@pytest.mark.parametrize(
    "sources",
    [
        [Source(source="U", column="voltage_v")],
        [Source(source="t", column="time_s"), Source(source="t", column="voltage_v")],
        [Source(source="t", column="time_s"), Source(source="u", column="time_s")],
        [Source(source="t", column="time_s", unit="km")],
        [Source(source="t", column="time_s"), Source(source="n", column="gauge", unit="m")],
    ],
)
def test_a_mapping_that_cannot_be_read_is_refused_at_once(sources):
    with pytest.raises(ValueError, match=r"mapping|unit|km"):
        ColumnMapping(SAMPLE_COLUMNS, tuple(sources))


def test_words_of_entries_stay_words():
    mapping = ColumnMapping(ENTRY_COLUMNS, (Source(source="when", column="time_s"), Source(source="remark", column="note")))  # fmt: skip
    table = read_table("notes.csv", b"when,remark\n5,12\n", mapping, most_rows=9)
    assert table.words["note"] == ["12"]
