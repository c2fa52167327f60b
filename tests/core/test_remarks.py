"""What methods remark: a catalogue of codes, and no sentence in the rooms that compute."""

import ast
import re
from pathlib import Path

import limpet
from limpet.notices.catalogue import texts_of
from limpet.notices.remarks import remark, remark_codes, said

CORE = Path(limpet.__file__).parent


def test_every_code_has_its_sentence_and_someone_who_says_it():
    assert set(texts_of("remarks")) == set(remark_codes())
    told = "".join(
        path.read_text()
        for room in ("read", "state", "figures")
        for path in (CORE / room).glob("*.py")
    )
    for code in remark_codes():
        assert f'"{code}"' in told, code


def test_remarks_are_said_one_after_the_other():
    found = (remark("samples", count=12_345), remark("filled_in", energy_wh=1.26))
    assert said(found) == "12,345 samples. 1.3 Wh were filled in."
    assert said(()) == ""
    assert remark("laps", laps=3.5, length_m=4000.0).said == "3.5 laps of 4000 m."


def sentences_in(path):
    """Constants that are no docstring and read like a sentence."""
    tree = ast.parse(path.read_text())
    docs = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef) and ast.get_docstring(node)
    }
    for node in ast.walk(tree):
        if not isinstance(node, ast.Constant) or id(node) in docs:
            continue
        words = node.value if isinstance(node.value, str) else ""
        if len(re.findall(r"\w+ ", words)) >= 3 and words.rstrip().endswith("."):
            yield f"{path.name}:{node.lineno}: {words}"


def test_the_rooms_that_compute_hold_no_sentence():
    rooms = ("read", "state", "figures", "tell")
    found = [
        line for room in rooms for path in (CORE / room).glob("*.py") for line in sentences_in(path)
    ]
    assert found == []
    # The finder finds: what the command line says stands there as it is.
    assert list(sentences_in(CORE / "glossary.py"))
