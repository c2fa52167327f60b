"""Whatever the API accepts, exports and imports again: forms and files have the same bounds."""

from __future__ import annotations

from uuid import uuid4

from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from limpet.evidence.columns import ENTRY_COLUMNS, pack_voltage_limit
from limpet.evidence.model import ENTRY_KINDS
from limpet.files import read_files
from limpet.files.archive import files_of_zip
from server.logbook.models import RangeTest

#: Any text that a person can type: no control characters but those that break a line.
LINES = st.text(st.characters(exclude_categories=("Cs", "Cc")), max_size=60)
NOTES = st.text(
    st.one_of(st.characters(exclude_categories=("Cs", "Cc")), st.sampled_from("\n\t")), max_size=60
)


def value_of(column) -> st.SearchStrategy:
    if column.name == "kind":
        return st.sampled_from(ENTRY_KINDS)
    if column.choices:
        return st.none() | st.sampled_from(column.choices)
    if column.is_text:
        return st.none() | (NOTES if column.name == "note" else LINES)
    high = pack_voltage_limit(column.name, 13) or column.high
    within = st.floats(column.low, high, allow_subnormal=False)
    edges = st.sampled_from([column.low, high, max(column.low, 0.0)])
    return within if column.name == "time_s" else st.none() | within | edges


ENTRIES = st.lists(
    st.fixed_dictionaries({name: value_of(column) for name, column in ENTRY_COLUMNS.items()}),
    min_size=1,
    max_size=4,
    unique_by=lambda entry: entry["time_s"],
)


@given(ENTRIES, LINES.filter(lambda text: text.strip()))
@settings(
    max_examples=6,
    deadline=None,
    phases=[Phase.explicit, Phase.generate],
    suppress_health_check=list(HealthCheck),
)
def test_entries_that_the_api_takes_come_back_from_their_export(ines, kit, entries, title):
    test_id = str(uuid4())
    ride = {"title": title, "started_at": "2026-05-14T09:12:00+02:00", **kit}
    assert ines.put(f"/tests/{test_id}", ride).status_code == 200
    for entry in entries:
        answer = ines.put(f"/tests/{test_id}/entries/{uuid4()}", entry)
        assert answer.status_code == 201, answer.content
    kept = ines.get(f"/tests/{test_id}").json()
    exported = ines.get(f"/tests/{test_id}/bundle.zip")
    assert exported.status_code == 200
    again = ines.import_files({"ride.zip": exported.content})
    assert again.status_code == 201, again.content
    found = ines.get(f"/tests/{again.json()['id']}").json()

    def said(test):
        return [
            {name: entry[name] or None if ENTRY_COLUMNS[name].is_text else entry[name] for name in ENTRY_COLUMNS}
            for entry in test["entries"]
        ]  # fmt: skip

    assert said(found) == said(kept)
    assert found["title"] == kept["title"]
    read = read_files(files_of_zip(exported.content))
    assert len(read.entries) == len(entries)
    RangeTest.objects.all().delete()
