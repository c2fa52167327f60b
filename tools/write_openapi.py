"""Write server/openapi.json from the API; with --check, only say whether it and the types are current."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

import django

ROOT = Path(__file__).resolve().parent.parent
OPENAPI = ROOT / "server" / "openapi.json"
TYPES = ROOT / "web" / "src" / "api" / "schema.d.ts"


def main() -> int:
    # A checkout's cookies carry its own suffix; the description must not.
    os.environ["LIMPET_COOKIE_SUFFIX"] = ""
    django.setup()
    from server.api import api

    text = json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=1, sort_keys=True) + "\n"
    if "--check" not in sys.argv:
        OPENAPI.write_text(text)
        return 0
    if not OPENAPI.is_file() or OPENAPI.read_text() != text:
        print("server/openapi.json is out of date; run ./limpet types")
        return 1
    with tempfile.TemporaryDirectory() as folder:
        made = Path(folder) / "schema.d.ts"
        tool = ROOT / "web" / "node_modules" / ".bin" / "openapi-typescript"
        subprocess.run([tool, OPENAPI, "-o", made], check=True, capture_output=True)
        if not TYPES.is_file() or made.read_text() != TYPES.read_text():
            print("web/src/api/schema.d.ts is out of date; run ./limpet types")
            return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
