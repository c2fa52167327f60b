"""What a form calls the field that a refusal is about."""

from __future__ import annotations

from typing import Final

from limpet.evidence.columns import ENTRY_LABELS
from limpet.fields import FORMS

#: The forms behind an address, by its first word; the first that has a field names it.
FORMS_AT: Final[dict[str, tuple[str, ...]]] = {
    "vehicles": ("vehicle",),
    "packs": ("pack",),
    "riders": ("rider",),
    "routes": ("route",),
    "plans": ("guess", "plan", "trip"),
    "forecast": ("trip",),
    "claims": ("claim",),
    "size": ("size", "cell", "trip"),
    "tests": ("ride",),
}
#: What stands in a form under a name of its own.
WITHIN: Final = {"legs": "leg", "step_down": "step_down", "cell": "cell", "trip": "trip"}


def label_of(path: str, address: str) -> str:
    """What a form calls the field at a path such as `legs.2.length_m`: "Length of leg 3"."""
    *above, name = path.split(".")
    inner = [WITHIN[part] for part in reversed(above) if part in WITHIN]
    word = next((part for part in address.split("/") if part in FORMS_AT), "")
    fields = [FORMS[form].get(name) for form in (*inner, *FORMS_AT.get(word, ()))]
    found = next((field.label for field in fields if field is not None), None)
    label = found or ENTRY_LABELS.get(name) or name.replace("_", " ").capitalize()
    if len(above) >= 2 and above[-1].isdecimal():
        label += f" of {above[-2].rstrip('s').replace('_', ' ')} {int(above[-1]) + 1}"
    return label
