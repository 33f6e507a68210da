"""Run a command with a cluster of its own for tests: `with_cluster.py HOME [--database NAME] COMMAND...`; the cluster stops with it.

With `--database` the command has a database of its own, made for it and dropped when it has ended, however large it grew.
"""

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
        if sys.argv[2] != "--database":
            return subprocess.run(sys.argv[2:], env=environment, check=False).returncode
        with cluster.own_database(sys.argv[3]) as name:
            environment["ESKEL_DB_NAME"] = name
            return subprocess.run(sys.argv[4:], env=environment, check=False).returncode
    except ClusterTrouble as trouble:
        print(f"eskel: {trouble}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130
    finally:
        cluster.stop()


if __name__ == "__main__":
    sys.exit(main())
