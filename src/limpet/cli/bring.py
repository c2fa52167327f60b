"""`./limpet import FILE… [--out RIDE.zip]`: any logger's files as test bundles; `export BUNDLE --as FORM`: out again."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Final

from limpet.cli.log import add_log_options, bytes_of, mapping_of, sheet_of, tell
from limpet.cli.shared import guarded
from limpet.errors import BundleError, Fault
from limpet.evidence.model import RangeTest
from limpet.files import read_bundle, write_folder, write_zip
from limpet.files.out import samples_csv, samples_parquet, track_geojson, track_gpx
from limpet.foreign.dropped import Dropped, opened
from limpet.foreign.raw import MOST_BYTES, read_raw
from limpet.foreign.records import looks_like_records, record_columns, records_of
from limpet.foreign.stranger import stranger_test
from limpet.tell import analyse
from limpet.tell.workbook import workbook


def run_import(arguments: list[str]) -> int:
    """Read strangers' files and write bundles; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet import",
        description="Make test bundles out of any logger's tables, tracks, or a table with a ride a row.",
    )
    parser.add_argument("files", type=Path, nargs="+", metavar="FILE")
    parser.add_argument(
        "--out", type=Path, help="a folder or a .zip; of old rides, a folder for all of them"
    )
    add_log_options(parser)
    options = parser.parse_args(arguments)

    def work() -> None:
        parts = opened({path.name: bytes_of(path, MOST_BYTES) for path in options.files})
        refused = [part.fault for part in parts if part.fault is not None]
        if refused:
            raise BundleError(refused)
        title = options.files[0].stem
        out: Path = options.out or Path(f"{title}.limpet.zip")
        records = _records(parts)
        if records is not None:
            _write_records(records, options, options.out or Path(f"{title}-rides"))
            return
        if out.exists():
            raise BundleError([Fault(str(out), 0, 0, "is there already; name another with --out")])
        test, logs, matches = stranger_test(
            parts, sheet_of(options, title), mapping=mapping_of(options), zone=options.zone
        )
        tell(logs, matches)
        _write(test, out)

    return guarded(work)


def _records(parts: list[Dropped]) -> Dropped | None:
    """The table with a ride a row, where that is all there is."""
    if len(parts) != 1 or parts[0].told.what != "table":
        return None
    raw = read_raw(parts[0].name, parts[0].data, sample=True)
    return parts[0] if looks_like_records(raw) else None


def _write_records(part: Dropped, options: argparse.Namespace, out: Path) -> None:
    raw = read_raw(part.name, part.data)
    records = records_of(raw, record_columns(raw), sheet_of(options, "Ride"), options.zone)
    if out.exists():
        raise BundleError([Fault(str(out), 0, 0, "is there already; name another with --out")])
    good = [record for record in records if record.test is not None]
    if not good:
        raise BundleError([Fault(part.name, 0, 0, "holds no row that is a ride")])
    for record in records:
        for name, fault in record.faults.items():
            print(f"limpet: row {record.row + 1}: {name} {fault}", file=sys.stderr)
    for record in good:
        if record.test is not None:
            write_folder(record.test, out / f"{record.row + 1:04d}")
    print(f"{len(good)} of {len(records)} rides are in {out}")


def _write(test: RangeTest, out: Path) -> None:
    if out.suffix.lower() == ".zip":
        out.parent.mkdir(parents=True, exist_ok=True)
        out.write_bytes(write_zip(test))
    else:
        write_folder(test, out)
    print(out)


def _result_json(test: RangeTest) -> bytes:
    return (json.dumps(analyse(test).to_json(), indent=2, ensure_ascii=False) + "\n").encode()


#: What a bundle can be saved as.
FORMS: Final[dict[str, Callable[[RangeTest], bytes | None]]] = {
    "csv": samples_csv,
    "parquet": samples_parquet,
    "gpx": track_gpx,
    "geojson": track_geojson,
    "xlsx": lambda test: workbook(test, analyse(test)),
    "json": _result_json,
    "zip": write_zip,
}


def run_export(arguments: list[str]) -> int:
    """Write a bundle in another format; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet export", description="Save a test bundle in a format that others read."
    )
    parser.add_argument("bundle", type=Path, help="a bundle's folder or zip")
    parser.add_argument("--as", dest="form", choices=tuple(FORMS), required=True)
    parser.add_argument("--out", type=Path, help="the file; - is standard output")
    options = parser.parse_args(arguments)

    def work() -> None:
        test = read_bundle(options.bundle)
        data = FORMS[options.form](test)
        if data is None:
            what = "no samples" if options.form in ("csv", "parquet") else "no places"
            raise BundleError(
                [Fault(str(options.bundle), 0, 0, f"holds {what}; choose another form")]
            )
        out: Path = options.out or Path(f"{options.bundle.name.split('.')[0]}.{options.form}")
        if str(out) == "-":
            sys.stdout.buffer.write(data)
            return
        if out.exists():
            raise BundleError([Fault(str(out), 0, 0, "is there already; name another with --out")])
        out.write_bytes(data)
        print(out)

    return guarded(work)
