"""The core from a shell: `bin/eskel check | schema | weigh | plan | state | size | export`.

JSON on standard output; one line for people on standard error when something is wrong. Exit 0 when done,
2 when the input is wrong, 3 when no valid plan exists.
"""

from ._main import main

__all__ = ["main"]
