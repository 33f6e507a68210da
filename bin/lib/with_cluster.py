"""Run a command with a cluster of its own for tests: `with_cluster.py HOME COMMAND...`; the cluster stops with it."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from pathlib import Path

from cluster import Cluster, ClusterTrouble


def main() -> int:
    """Start the cluster, run the command with its address in the environment, stop the cluster."""
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(143))
    cluster = Cluster(Path(sys.argv[1]), lasting=False)
    try:
        address = cluster.start()
        environment = {
            **os.environ,
            "ESKEL_DB_PORT": str(address.port),
            "ESKEL_DB_PASSWORD": address.password,
        }
        return subprocess.run(sys.argv[2:], env=environment, check=False).returncode
    except ClusterTrouble as trouble:
        print(f"eskel: {trouble}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130
    finally:
        cluster.stop()


if __name__ == "__main__":
    sys.exit(main())
