"""Run the commands: `python -m eskel_core.cli`."""

import sys

from ._main import main

sys.exit(main(sys.argv[1:]))
