"""What people read keeps to the countable habits of the guide to words.

Habits from the guide: a sentence of at most 28 words, a share without a space before its sign, no exclamation
mark, one apostrophe, and none of the phrases that read like a translation.
"""

from __future__ import annotations

import re

import pytest

from limpet.glossary import TERMS
from limpet.notices.codes import ROOMS
from limpet.notices.remarks import remark_codes
from tools.page_words import page_sentences
from tools.write_words import contents, example, sentences

#: Phrases that have to be read twice, or that no rider says.
BANNED = (
    "is told", "are told", "was told", "not told", "not tell", "set right", "as found", "at the least", "the way home",
    "the way to go", "to hold against", "nobody knows", "nobody says", "reckoned", "do not hold",
    "what was found", "one of them is mistyped, was", "brought to", "pulling", "at rest", "a receiver", "the wheel",
)  # fmt: skip
MOST_WORDS = 28
#: On the phone, while riding: read standing, in the sun.
MOST_ON_THE_PHONE = 20
PHONE = ("ride/", "device/", "roadside/")
ALL = sorted(sentences().items())
PAGE = sorted(page_sentences().items())


def faults_of(said: str, most_words: int) -> list[str]:
    """The countable habits of the guide that a text has not."""
    faults = [sign for sign in ("!", "'", "  ") if sign in said.strip()]
    faults += re.findall(r"[\d›] %", said)
    faults += [phrase for phrase in BANNED if re.search(rf"\b{re.escape(phrase)}\b", said.lower())]
    for sentence in re.split(r"(?<=[.?:;])\s", re.sub(r"</?\w+>", "", said)):
        if len(sentence.split()) > most_words:
            faults.append(f"{len(sentence.split())} words: {sentence}")
    return faults


def test_what_the_page_says_keeps_the_countable_habits():
    found = {}
    for key, said in PAGE:
        most = MOST_ON_THE_PHONE if key.startswith(PHONE) else MOST_WORDS
        if faults := faults_of(said, most):
            found[key] = faults
    assert found == {}
    assert len(PAGE) > 1500


@pytest.mark.parametrize(("code", "said"), ALL)
def test_a_sentence_keeps_the_countable_habits(code, said):
    assert "!" not in said
    assert " %" not in said
    assert "'" not in said, "one apostrophe, the curly one"
    assert "{" not in said
    assert "  " not in said
    found = [phrase for phrase in BANNED if phrase in said.lower()]
    assert not found
    for sentence in re.split(r"(?<=[.?:])\s", said):
        assert len(sentence.split()) <= MOST_WORDS, sentence


def test_every_room_and_every_remark_is_there():
    assert {code.split("/")[0] for code, _ in ALL} == {
        *ROOMS,
        "remarks",
        "lines",
        "lessons",
        "sheet",
    }
    assert sum(code.startswith("remarks/") for code, _ in ALL) == len(remark_codes())
    assert len(ALL) > 240


def test_an_example_has_the_unit_of_its_name():
    assert example("speed_mps") == pytest.approx(7.0)
    assert 0 < example("share") < 1
    assert isinstance(example("title"), str)


def test_the_page_of_words_is_as_the_catalogue_is():
    for path, text in contents().items():
        assert path.read_text(encoding="utf-8") == text, "run python -m tools.write_words"


def test_a_term_is_explained_in_one_sentence_or_two_and_known_by_phrases_of_its_own():
    found: dict[str, str] = {}
    for code, term in TERMS.items():
        assert len(term.meaning.split()) <= 28, code
        assert term.meaning.endswith("."), code
        for phrase in term.found:
            assert found.setdefault(phrase, code) == code, phrase
    # The ten that a reader meets first on the screens (words.md, habit 9), and none that nobody can tap.
    assert {"reserve", "cut-off", "plan on", "19 rides in 20", "±", "tideline", "adjusted"} <= set(
        found
    )
    assert {"under load", "resting volts"} <= set(found)
