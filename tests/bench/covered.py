"""Which lines the tests run, by package: where a rule lives that no test ever walks through."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
#: What is measured, and the tests that are run for it.
SOURCES = ("src/limpet", "server")
TESTS = ("tests/core", "tests/server")


def bench_covered(tests: list[str]) -> int:
    """Run tests in one process under coverage, and print the share of lines by package.

    Parameters
    ----------
    tests : paths; all of the core and the server when there are none

    Returns
    -------
    the exit code of the tests
    """
    with tempfile.TemporaryDirectory() as folder:
        known = {**os.environ, "COVERAGE_FILE": f"{folder}/data"}
        coverage = [sys.executable, "-m", "coverage"]
        source = f"--source={','.join(SOURCES)}"
        command = [*coverage, "run", source, "-m", "pytest", "-q", *(tests or TESTS)]
        code = subprocess.run(command, cwd=ROOT, env=known, check=False).returncode
        written = f"{folder}/lines.json"
        subprocess.run([*coverage, "json", "-q", "-o", written], cwd=ROOT, env=known, check=True)
        files = json.loads(Path(written).read_text())["files"]
    lines: Counter[str] = Counter()
    run: Counter[str] = Counter()
    for name, found in files.items():
        package = str(Path(name).parent)
        if "migrations" not in package:
            lines[package] += found["summary"]["num_statements"]
            run[package] += found["summary"]["covered_lines"]
    for package in sorted(lines):
        if lines[package]:
            print(
                f"{package:32} {lines[package]:6} lines {100 * run[package] / lines[package]:4.0f}%"
            )
    print(f"{'all':32} {lines.total():6} lines {100 * run.total() / lines.total():4.0f}%")
    return code
