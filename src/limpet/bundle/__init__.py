"""Reading and writing test bundles (the open format of one range test), folder or zip."""

from limpet.bundle.archive import MAX_RATIO, MAX_UNPACKED_BYTES, files_of
from limpet.bundle.read import read_bundle, read_files
from limpet.bundle.write import bundle_files, write_folder, write_zip

__all__ = [
    "MAX_RATIO",
    "MAX_UNPACKED_BYTES",
    "bundle_files",
    "files_of",
    "read_bundle",
    "read_files",
    "write_folder",
    "write_zip",
]
