"""The lines of a ride under way and what practice says of it: sentences that the page says too, where there is no signal.

They stand in `en/lines.ftl` and `en/lessons.ftl`; the page is built with the same files. A workbook's are in `en/sheet.ftl`.
"""

from __future__ import annotations

from typing import Final

from limpet.notices.catalogue import Catalogue, texts_of
from limpet.notices.words import functions_for

#: A line by its code, and with `_under` what stands under it; `reads_…` how an instrument is named in one.
LINES: Final = Catalogue(texts_of("lines"), functions_for)
#: A lesson by its code with `_title`, `_met`, `_missed` or `_untried`; a slip by its code.
LESSON_WORDS: Final = Catalogue(texts_of("lessons"), functions_for)
#: What stands beside the figures of a workbook.
SHEET: Final = Catalogue(texts_of("sheet"), functions_for)
