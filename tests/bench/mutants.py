"""Changed bundles and pictures against a running Limpet and the command line: a result or a refusal, each time.

A quarter each: bundles imported over HTTP, pictures kept over HTTP, bundles read by `analyse`, and bundles with
changed pictures read by `analyse`. The command runs in this process, for starting Python ten thousand times takes
hours; of every hundredth a process of its own is started, and must say the same.
"""

from __future__ import annotations

import json
import random
import subprocess
import tempfile
import zipfile
from base64 import b64encode
from collections import Counter
from contextlib import redirect_stderr, redirect_stdout
from io import BytesIO, StringIO
from pathlib import Path
from typing import Any
from urllib.error import HTTPError, URLError
from uuid import uuid4

from limpet.cli import main as command
from limpet.files import read_files
from limpet.files.write import write_zip
from tests.bench.house import Caller, House
from tests.core.files.test_photos import HIDDEN
from tests.mutated import PLACES, mutated_bundle, mutated_bytes, small_bundle

SEED = 20261130
#: What was taken is looked at and thrown away after so many; of the command's, one in so many is a process.
CLEARED_EVERY, PROCESS_EVERY = 50, 100
#: Of what went wrong so many of a kind are printed.
MOST_SHOWN = 20
#: Pictures that one test is sent; it takes 200.
MOST_PICTURES = 150
#: A refusal is some sentences, not pages [characters].
MOST_SAID = 20_000
ROOT = Path(__file__).parents[2]


class Tally:
    """How each mutant ended; what may not be is kept with its number, so that it can be made again."""

    def __init__(self) -> None:
        self.ends: Counter[str] = Counter()
        self.wrong: dict[str, list[str]] = {}

    def ended(self, kind: str, how: str) -> None:
        """One ended as it may."""
        self.ends[f"{kind}: {how}"] += 1

    def never(self, kind: str, number: int, what: str) -> None:
        """One ended as none may."""
        self.wrong.setdefault(kind, []).append(f"{number}: {what}")


def zipped(files: dict[str, bytes]) -> bytes:
    """Files as they are, in a zip; `write_zip` would write them anew."""
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


def changed_zip(number: int, whole: dict[str, bytes], good: bytes) -> bytes:
    """The mutant of a number: one file of a bundle changed, or the bytes of its zip."""
    rng = random.Random(f"{SEED} bundle {number}")
    place = rng.choice([*PLACES, "zip"])
    return mutated_bytes(good, rng) if place == "zip" else zipped(mutated_bundle(whole, place, rng))


def changed_picture(number: int) -> bytes:
    """The mutant of a number: a camera's picture, with its place where one has been found."""
    rng = random.Random(f"{SEED} picture {number}")
    return mutated_bytes(rng.choice(list(HIDDEN.values())), rng)


class Sender:
    """Sends mutants to a Limpet as one rider."""

    def __init__(self, caller: Caller, tally: Tally) -> None:
        self.caller, self.tally = caller, tally
        self.ride, self.pictures, self.rides = "", MOST_PICTURES, 0
        self.taken: list[str] = []

    def _another_ride(self) -> None:
        """A test keeps so many pictures and no more; the next ones belong to another."""
        self.ride, self.pictures = str(uuid4()), 0
        begun = {"title": "Pictures", "started_at": "2026-05-14T09:12:00+02:00", **self.caller.kit}
        self.caller.sure("PUT", f"/tests/{self.ride}", begun)
        self.rides += 1

    def _sent(
        self, kind: str, number: int, method: str, path: str, body: Any, files: bytes | None = None
    ) -> object | None:
        """An answer, or None where it was refused as a fault of what was sent."""
        try:
            answer = self.caller.once(method, path, body, files)
        except HTTPError as error:
            said = error.read()
            try:
                told = str(json.loads(said)["message"])
            except (ValueError, KeyError, TypeError):
                told = ""
            if error.code not in (413, 422) or not told or len(said) > MOST_SAID:
                self.tally.never(kind, number, f"{error.code} {said[:200]!r}")
            else:
                self.tally.ended(kind, f"refused ({error.code})")
            return None
        except (URLError, OSError) as error:
            self.tally.never(kind, number, repr(error))
            return None
        self.tally.ended(kind, "taken")
        return answer

    def bundle(self, number: int, data: bytes) -> None:
        """Import a bundle."""
        answer = self._sent("import", number, "POST", "/tests/import", number_id(number), data)
        if isinstance(answer, dict):
            self.taken.append(answer["id"])
            if len(self.taken) >= CLEARED_EVERY:
                self.clear(number)

    def clear(self, number: int) -> None:
        """What was taken is all that is there, and can be looked at; then it is removed."""
        there = self.caller.sure("GET", "/tests")["count"]
        if there != len(self.taken) + self.rides:
            self.tally.never("import", number, f"{there} are there, {len(self.taken)} taken")
        for one in self.taken:
            for path in (f"/tests/{one}", f"/tests/{one}/bundle.zip"):
                try:
                    self.caller.once("GET", path)
                except (HTTPError, URLError, OSError) as error:
                    self.tally.never("import", number, f"GET {path}: {error!r}")
        if self.taken:
            self.caller.sure("POST", "/tests/remove", {"ids": self.taken})
        self.taken.clear()

    def picture(self, number: int, data: bytes) -> None:
        """Keep a picture; what is served of it holds nothing that the camera wrote beside it."""
        if self.pictures >= MOST_PICTURES:
            self._another_ride()
        one = number_id(number)
        sent = {"jpeg": b64encode(data).decode()}
        if self._sent("picture", number, "PUT", f"/tests/{self.ride}/photos/{one}", sent) is None:
            return
        self.pictures += 1
        served = self.caller.sure("GET", f"/tests/{self.ride}/photo?name=photos/{one}.jpg")
        if b"SECRET" in served or not served.startswith(b"\xff\xd8"):
            self.tally.never("picture", number, "what is served is not plain")


def number_id(number: int) -> str:
    """An id that tells the mutant's number."""
    return f"00000000-0000-4000-8000-{number:012x}"


def said_by(arguments: list[str]) -> tuple[int, str, str]:
    """What a command says, run in this process."""
    out, err = StringIO(), StringIO()
    with redirect_stdout(out), redirect_stderr(err):
        code = command(arguments)
    return code, out.getvalue(), err.getvalue()


def analysed(kind: str, number: int, file: Path, tally: Tally) -> None:
    """What `analyse` makes of a file: JSON, or a refusal in words and 2."""
    arguments = ["analyse", str(file), "--json"]
    try:
        code, out, err = said_by(arguments)
    except BaseException as error:  # whatever comes out of it is what is looked for
        tally.never(kind, number, repr(error)[:300])
        return
    fit = (code == 0 and json.loads(out)) or (code == 2 and 0 < len(err) <= MOST_SAID and not out)
    if not fit or "Traceback" in err:
        tally.never(kind, number, f"{code} {err[:300]!r}")
        return
    tally.ended(kind, "refused" if code else "taken")
    if number % PROCESS_EVERY == 0:
        alone = subprocess.run(
            [ROOT / "limpet", *arguments], capture_output=True, text=True, check=False
        )
        if (alone.returncode, alone.stdout, alone.stderr) != (code, out, err):
            tally.never(kind, number, f"a process says {alone.returncode} {alone.stderr[:300]!r}")


def bench_mutants(count: int) -> bool:
    """Try so many mutants, print how they ended; whether none ended as none may."""
    tally = Tally()
    whole = small_bundle()
    good = write_zip(read_files(whole))
    quarter = count // 4
    with tempfile.TemporaryDirectory(prefix="limpet-mutants-") as folder:
        house = House(Path(folder) / "limpet")
        try:
            house.up()
            caller = Caller(house, "mutant")
            caller.enter()
            sender = Sender(caller, tally)
            for number in range(quarter):
                sender.bundle(number, changed_zip(number, whole, good))
                sender.picture(number, changed_picture(number))
            sender.clear(quarter)
        finally:
            house.down()
        file = Path(folder) / "mutant.zip"
        for number in range(quarter, 2 * quarter):
            file.write_bytes(changed_zip(number, whole, good))
            analysed("analyse", number, file, tally)
            pictures = {f"photos/{k}.jpg": changed_picture(3 * number + k) for k in range(3)}
            file.write_bytes(zipped({**whole, **pictures}))
            analysed("analyse, pictures", number, file, tally)
    for how, times in sorted(tally.ends.items()):
        print(f"  {how:<36}{times:6d}")
    for kind, lines in tally.wrong.items():
        print(f"  {kind}: {len(lines)} ended as none may", *lines[:MOST_SHOWN], sep="\n    ")
    print(
        f"{sum(tally.ends.values())} ended as they may, {sum(map(len, tally.wrong.values()))} as none may"
    )
    return not tally.wrong
