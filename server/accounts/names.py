"""User names: the same name however it is typed, and no other name that looks like it."""

from __future__ import annotations

import unicodedata

#: Letters of other scripts, and digits, that are read as a Latin letter (after case folding). From
#: the look of the letters; Unicode Technical Standard 39, "confusables", lists these and many more.
_LOOKS_LIKE = str.maketrans(
    {
        "а": "a", "е": "e", "о": "o", "р": "p", "с": "c", "х": "x", "у": "y", "і": "l", "ј": "j",
        "ѕ": "s", "ԁ": "d", "һ": "h", "ԛ": "q", "ԝ": "w", "к": "k", "м": "m", "т": "t", "в": "b",
        "н": "h", "г": "r", "п": "n", "ο": "o", "α": "a", "ν": "v", "ι": "l", "κ": "k", "ρ": "p",
        "υ": "u", "χ": "x", "ε": "e", "τ": "t", "η": "n", "ω": "w", "β": "b", "γ": "y", "σ": "o",
        "0": "o", "1": "l", "i": "l", "|": "l", "ı": "l", "ł": "l", "ø": "o", "đ": "d", "5": "s",
    }
)  # fmt: skip


def normalised(name: str) -> str:
    """A name as it is shown: NFKC, no spaces at its ends."""
    return unicodedata.normalize("NFKC", name.strip())


def folded(name: str) -> str:
    """A name as it is compared: NFKC, case folded, NFKC again (Unicode Standard, 3.13, D146)."""
    return unicodedata.normalize("NFKC", normalised(name).casefold())


def skeleton(name: str) -> str:
    """What a name looks like: marks above and below away, look-alikes as one letter."""
    parts = unicodedata.normalize("NFKD", folded(name))
    plain = "".join(mark for mark in parts if not unicodedata.combining(mark))
    return plain.translate(_LOOKS_LIKE).replace("rn", "m").replace("vv", "w")
