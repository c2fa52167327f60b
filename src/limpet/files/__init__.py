"""Reading and writing test bundles (the open format of one range test), folder or zip."""

from limpet.files.archive import MAX_RATIO, MAX_UNPACKED_BYTES, files_of
from limpet.files.read import read_bundle, read_files
from limpet.files.write import bundle_files, write_folder, write_zip

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
