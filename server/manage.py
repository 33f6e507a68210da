"""Django's own commands, for `bin/` and for developers."""

import os
import sys
from pathlib import Path

if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).parent.parent / "core"))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "eskel_server.settings")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
