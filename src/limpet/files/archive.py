"""From a folder, a zip or a set of uploaded files to named bytes, hostile zips refused unopened."""

from __future__ import annotations

import io
import re
import stat
import struct
import zipfile
from collections.abc import Mapping
from math import inf
from pathlib import Path, PurePosixPath

from limpet.errors import BundleError, Fault
from limpet.files.photos import is_photo

#: A zip that unpacks to more than this, or to this many times its own size, is refused.
MAX_UNPACKED_BYTES = 1 << 30
MAX_RATIO = 200

#: Files in a bundle, photos included.
MOST_MEMBERS = 2000
#: What each file may hold, unpacked. A million samples of all fifteen columns take 160 MB.
MOST_BYTES = {
    "datapackage.json": 4 * 2**20,
    "test.json": 4 * 2**20,
    "samples.csv": 768 * 2**20,
    "entries.csv": 16 * 2**20,
    "route.gpx": 64 * 2**20,
}

#: Files of further instruments in one bundle.
MOST_FURTHER = 8
_STREAM = re.compile(r"samples-([A-Za-z0-9_.-]{1,60})\.csv")
KNOWN_FILES = ("datapackage.json", "test.json", "samples.csv", "entries.csv", "route.gpx")


def files_of(path: Path, name: str | None = None) -> dict[str, bytes]:
    """The files of a bundle that is a folder or a zip on disk, by name.

    Parameters
    ----------
    name : what a zip is called in faults, when it lies under another name

    Raises
    ------
    BundleError
        When there is nothing there, or the zip is damaged or unsafe.
    """
    if path.is_dir():
        found = {item.name: item for item in sorted(path.iterdir()) if item.is_file()}
        pictures = sorted((path / "photos").iterdir()) if (path / "photos").is_dir() else []
        found |= {f"photos/{item.name}": item for item in pictures if item.is_file()}
        refuse_large({inner: item.stat().st_size for inner, item in found.items()})
        return {
            inner: item.read_bytes() if is_read(inner) else b"" for inner, item in found.items()
        }
    try:
        data = path.read_bytes()
    except OSError as cause:
        reason = cause.strerror or "cannot be read"
        raise BundleError(
            [Fault(str(path), 0, 0, f"{reason.lower()}; give a bundle's folder or zip")]
        ) from cause
    return files_of_zip(data, name or path.name)


def is_read(name: str) -> bool:
    """Whether a file of a bundle is read: its five, further instruments' samples, and pictures."""
    return name in KNOWN_FILES or stream_name(name) is not None or is_photo(name)


def stream_name(name: str) -> str | None:
    """What a further instrument is called in its file's name, `samples-NAME.csv`; None for any other file."""
    found = _STREAM.fullmatch(name)
    return None if found is None else found[1]


def _most_bytes(name: str) -> float:
    return MOST_BYTES["samples.csv"] if stream_name(name) is not None else MOST_BYTES.get(name, inf)


def refuse_large(sizes: Mapping[str, int]) -> None:
    """Raise BundleError for files that are larger than any ride's, before one is read."""
    faults = [
        Fault(
            name,
            0,
            0,
            f"has {size / 2**20:.0f} MiB, more than {_most_bytes(name) / 2**20:.0f}; thin it out",
        )
        for name, size in sizes.items()
        if size > _most_bytes(name)
    ]
    if len(sizes) > MOST_MEMBERS:
        text = f"holds {len(sizes):,} files, at most {MOST_MEMBERS:,}; leave out what no ride needs"
        faults.append(Fault("bundle", 0, 0, text))
    if faults:
        raise BundleError(faults)


def files_of_zip(data: bytes, name: str = "bundle.zip") -> dict[str, bytes]:
    """The files of a zipped bundle, by name, its one top folder left away.

    Parameters
    ----------
    data : the zip
    name : by which faults name it

    Raises
    ------
    BundleError
        Before anything is unpacked: not a zip, members outside its folder, links, absolute names,
        encrypted members, over 1 GiB or 200 times its size unpacked.
    """
    try:
        archive = zipfile.ZipFile(io.BytesIO(data))
    except NotImplementedError as cause:
        message = f"needs a newer kind of zip ({cause}); zip the folder again with plain settings"
        raise BundleError([Fault(name, 0, 0, message)]) from cause
    except (zipfile.BadZipFile, ValueError, OSError, EOFError, LookupError, struct.error) as cause:
        raise BundleError(
            [Fault(name, 0, 0, "is neither a folder nor a zip; give a bundle's folder or its zip")]
        ) from cause
    with archive:
        # Not `is_dir`, which fails at a member without a name.
        members = [item for item in archive.infolist() if not item.filename.endswith("/")]
        _refuse_unsafe(name, members, len(data))
        tops = {PurePosixPath(member.filename).parts[0] for member in members}
        inside = {PurePosixPath(member.filename).name: member.file_size for member in members}
        refuse_large(inside)
        nested = len(tops) == 1 and all("/" in member.filename for member in members)
        files: dict[str, bytes] = {}
        for member in members:
            parts = PurePosixPath(member.filename).parts[1 if nested else 0 :]
            inner = "/".join(parts)
            try:
                files[inner] = archive.read(member) if is_read(inner) else b""
            except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError) as cause:
                raise BundleError(
                    [Fault(name, 0, 0, f"{member.filename} is damaged; zip the folder again")]
                ) from cause
            except Exception as cause:  # zlib.error and its kin share no base of their own
                raise BundleError(
                    [Fault(name, 0, 0, f"{member.filename} cannot be unpacked; zip it again")]
                ) from cause
    return files


def _refuse_unsafe(name: str, members: list[zipfile.ZipInfo], packed_bytes: int) -> None:
    faults: list[Fault] = []
    seen: set[str] = set()
    if len(members) > MOST_MEMBERS:
        text = f"holds {len(members):,} files, at most {MOST_MEMBERS:,}; zip one test's folder"
        raise BundleError([Fault(name, 0, 0, text)])
    for member in members:
        # ZipInfo turns back-slashes into slashes only on Windows; a hostile zip may use either.
        inner = member.filename.replace("\\", "/")
        mode = member.external_attr >> 16
        if inner.startswith("/") or inner[1:2] == ":":
            faults.append(Fault(name, 0, 0, f"{inner}: an absolute name; zip the folder itself"))
        elif ".." in PurePosixPath(inner).parts or "\\" in member.filename:
            faults.append(Fault(name, 0, 0, f"{inner}: lies outside the zip's folder; remove it"))
        if stat.S_ISLNK(mode):
            faults.append(Fault(name, 0, 0, f"{inner}: a link; put the file itself in the zip"))
        if member.flag_bits & 1:
            faults.append(Fault(name, 0, 0, f"{inner}: encrypted; zip it without a password"))
        if inner in seen:
            faults.append(Fault(name, 0, 0, f"{inner}: is in the zip twice; keep one"))
        seen.add(inner)
    unpacked = sum(member.file_size for member in members)
    if unpacked > MAX_UNPACKED_BYTES:
        faults.append(
            Fault(
                name, 0, 0, f"unpacks to {unpacked / 2**30:.1f} GiB, more than 1 GiB; thin it out"
            )
        )
    if unpacked > MAX_RATIO * packed_bytes:
        times = unpacked / max(packed_bytes, 1)
        faults.append(
            Fault(name, 0, 0, f"unpacks to {times:.0f} times its size, more than {MAX_RATIO}")
        )
    if any(not PurePosixPath(member.filename).parts for member in members):
        raise BundleError([*faults, Fault(name, 0, 0, "a file has no name; zip the folder again")])
    tops = {PurePosixPath(member.filename).parts[0] for member in members if "/" in member.filename}
    at_root = [member for member in members if "/" not in member.filename]
    if at_root:
        # A bundle at the zip's root has its pictures in a folder of their own.
        tops.discard("photos")
    if len(tops) > 1 or (tops and at_root):
        faults.append(
            Fault(
                name,
                0,
                0,
                "files must lie at the zip's root or in one folder; zip one test's folder",
            )
        )
    if faults:
        raise BundleError(faults)
