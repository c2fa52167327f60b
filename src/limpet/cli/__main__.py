"""`python -m limpet.cli COMMAND`."""

import sys

from limpet.cli import main

sys.exit(main())
