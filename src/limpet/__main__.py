"""`python -m limpet COMMAND`: what `./limpet analyse` and its like become."""

from __future__ import annotations

import gc
import sys

# Loading makes a hundred thousand objects and no garbage; looking for some takes a tenth of a second.
gc.disable()

from limpet.cli import main  # noqa: E402

gc.freeze()
gc.enable()

if __name__ == "__main__":
    sys.exit(main())
