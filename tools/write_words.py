"""Write docs/words.md: every sentence of the core and of the page with example values, to be read aloud.

Run after a sentence changed:  .venv/bin/python -m tools.write_words
"""

from __future__ import annotations

from pathlib import Path

from limpet.notices.catalogue import texts_of, variables_of
from limpet.notices.codes import CODES, ROOMS
from limpet.notices.lines import LESSON_WORDS, LINES, SHEET
from limpet.notices.remarks import remark, remark_codes
from limpet.notices.words import sentence
from limpet.readers import ReaderUnits
from tools.page_words import page_sentences

PAGE = Path(__file__).resolve().parent.parent / "docs" / "words.md"
UNITS = ReaderUnits(distance="mi")
#: What a value is, by the end of its name.
_BY_UNIT = {
    "_mps": 7.0, "_m": 16_500.0, "_s": 2520.0, "_c": 4.0, "_v": 48.3, "_a": 22.0, "_ah": 12.4, "_wh": 310.0,
    "_per_km": 12.6, "_pct": 87.0, "_per_h": 2.2,
}  # fmt: skip
_NUMBERS = {
    "months": 7, "low_months": 3, "high_months": 19, "gaps": 3, "resets": 1, "count": 4, "runs": 3, "needed": 9,
    "most": 24, "every": 10, "packs": 2, "series": 13, "least": 2, "ratio": 1.7, "watts": 90.0, "back_m": 400.0,
    "laps": 8.0, "holes": 2, "percent": 94.0, "from_v": 54.1, "to_v": 47.2, "before": 3, "now": 0.31,
    "then": 0.22, "half_step_m": 50.0, "length_m": 1720.0, "height_m": 34.0, "limp_m": 220.0, "lap": 3, "noted": 7, "fall_m": 60.0,
    "lap_m": 1480.0, "usual_m": 1720.0, "low": 0.07, "high": 0.28, "cell_v": 2.71, "floor_v": 2.8, "off_wh_per_km": 0.4,
}  # fmt: skip
_WORDS = {
    "title": "Quay loop, to cut-off", "other": "the trip meter", "chemistry": "nmc", "vehicle": "bicycle", "who": "you",
    "what": "the resting volts", "side": "more", "used": "the laps", "culprit": "Check its scale over a measured stretch.",
    "instrument": "trip meter", "reading": "trip meter", "assumed": "volts ±1%", "limit": "the pack’s capacity",
    "file": "samples.csv", "names": "wind, load", "how": "adjusted to its speed", "pack": "13s4p", "order": "A B B A",
    "of": "its label", "way": "more", "which": "Plover", "name": "Plover-1", "assisted": "Ferry road",
    "throttle": "Quay loop", "mode": "sport", "why": "is broken off", "source": "energy_counter", "slip": "misread",
    "first": "the trip meter", "second": "the track", "text": "As it was said then.", "tests": "3 tests",
    "after": "autumn 2025", "reads": "the trip meter reads",
}  # fmt: skip
#: Codes in which a name stands for a word, or for a number, where others have the other.
_OF_CODE: dict[tuple[str, str], float | str] = {
    ("season_too_few", "tests"): 3,
    ("readings_contradict", "what"): "gauge",
    ("again_step", "before"): "spring 2025",
    ("height_corrected", "side"): "above",
    ("samples_of_another_clock", "side"): "before",
    ("set_right", "side"): "too much",
    ("size_refused", "least"): 5,
    ("compare_many", "order"): "A B B A",
    ("semicolons", "how"): "semicolons between the fields",
    ("gauge_rises", "before"): 3,
    ("gauge_rises", "now"): 4,
    ("at_a_step", "what"): "44 V under load",
    ("step_ahead", "what"): "44 V under load",
    ("held_back", "what"): "the tilt-back",
    ("held_back_before", "what"): "the tilt-back",
    ("other_pack_fits", "what"): "14 cells in series",
    ("learned", "what"): "the pack’s capacity",
    ("kind_missing", "count"): "2 rows",
    ("start_unsaid", "least"): 0.6,
    ("meter", "what"): "amp-hours",
    ("meter", "source"): "entries",
    ("own_curve", "source"): "2 tests",
    ("compare_clocks", "other"): "Quay loop, autumn",
}


def example(name: str, code: str = "") -> float | str:
    """A value of a name: by its code, its own, a word, or by the unit that it ends in; a share else."""
    if (code, name) in _OF_CODE:
        return _OF_CODE[code, name]
    if name in _NUMBERS:
        return _NUMBERS[name]
    if name in _WORDS:
        return _WORDS[name]
    ends = sorted((end for end in _BY_UNIT if name.endswith(end)), key=len)
    return _BY_UNIT[ends[-1]] if ends else 0.18


def sentences() -> dict[str, str]:
    """Every sentence with example values, by room and code."""
    found = {}
    for room in ROOMS:
        for code in texts_of(room):
            values = {name: example(name, code) for name in CODES[code].values}
            found[f"{room}/{code}"] = sentence(code, values, UNITS)
    texts = texts_of("remarks")
    for remark_code in remark_codes():
        values = {
            name: example(name, remark_code) for name in sorted(variables_of(texts[remark_code]))
        }
        found[f"remarks/{remark_code}"] = remark(remark_code, **values).said
    for room_name, catalogue in (("lines", LINES), ("lessons", LESSON_WORDS), ("sheet", SHEET)):
        for code, names in catalogue.variables.items():
            values = {name: example(name, code) for name in names}
            found[f"{room_name}/{code}"] = catalogue.say(code, values, UNITS)
    return found


def contents() -> dict[Path, str]:
    """The page and its text."""
    lines = [
        "# What Limpet says",
        "",
        "Every sentence with example values, as a reader of miles has it: to be read aloud, one by one. Written by `python -m",
        "tools.write_words` from `src/limpet/notices/en` and `web/src/words/en`; what stands between asterisks is the heart of",
        "it, what stands in ‹ › is a text that the page puts in.",
    ]
    room = ""
    page = {f"the page, {code}": said for code, said in page_sentences().items()}
    for code, said in {**sentences(), **page}.items():
        here, _, name = code.partition("/")
        if here != room:
            lines += ["", f"## {here.capitalize()}", ""]
            room = here
        lines.append(f"- `{name}` {said}")
    return {PAGE: "\n".join(lines) + "\n"}


def main() -> None:
    for path, text in contents().items():
        path.write_text(text, encoding="utf-8")
        print(path)


if __name__ == "__main__":
    main()
