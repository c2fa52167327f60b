"""The core's own commands: answered without a server or a database, and without loading either."""

from __future__ import annotations

import os
from collections.abc import Sequence

from launch.paths import PYTHON, ROOT

COMMANDS = {
    "analyse": "analyse BUNDLE [--json]: what a test bundle means; analyse LOG.csv --pack '13s 14Ah NMC' [--mapping MAP.json] [--track RIDE.gpx]: what any logger's table means",
    "import": "import FILE… [--pack '13s 14Ah NMC'] [--out RIDE.zip]: any logger's files and tracks as a test bundle, old rides as many",
    "export": "export BUNDLE --as csv|parquet|gpx|geojson|xlsx|json [--out FILE]: a bundle in a format that others read",
    "compare": "compare BUNDLE BUNDLE… [--first NAME|N] [--question …] [--with FOLDER] [--json]: which uses less, and whether it is shown",
    "follow": "follow BUNDLE [--trip TRIP.json] [--until SECONDS] [--json]: what is left of a ride under way",
    "forecast": "forecast TRIP.json [--json]: how far, how long, how sure",
    "claim": "claim CLAIM.json [--json]: whether a maker's figure can be true",
    "size": "size TRIP.json --cell CELL.json [--json]: how large a pack a trip needs",
    "ageing": "ageing FOLDER [--pack NAME] [--json]: what a pack lost over its tests, and when it is worn",
    "seasons": "seasons FOLDER [--vehicle NAME] [--json]: what the cold does to a vehicle, by speed",
    "tidetable": "tidetable TRIP.json [--with FOLDER] [--json | --csv]: how far, by speed, temperature and terrain",
}

#: The C library gives memory back to the system between two steps of a walk and asks for it again:
#: 60,000 page faults, a third of a forecast. Our processes keep so much instead.
KEPT_MEMORY = {"MALLOC_TRIM_THRESHOLD_": str(64 * 2**20), "MALLOC_TOP_PAD_": str(16 * 2**20)}


def run(arguments: Sequence[str]) -> None:
    """Become the core's command; returns only when there is no virtual environment yet."""
    if not PYTHON.is_file():
        return
    # A cache of compiled sources halves the start; some machines are told to keep none.
    environment = {
        name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"
    }
    environment["PYTHONPATH"] = str(ROOT / "src")
    # Looking for plugins of a package that has none here reads every package's description.
    environment["PYDANTIC_DISABLE_PLUGINS"] = "__all__"
    environment |= KEPT_MEMORY
    command = [str(PYTHON), "-m", "limpet", *arguments]
    os.execve(PYTHON, command, environment)
