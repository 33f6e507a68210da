#!/usr/bin/env bash
# Take the pictures in docs/screenshots from the demo data, on what bin/test has set up.
set -euo pipefail
root="$(cd "$(dirname "$(readlink -f "${BASH_SOURCE[0]}")")/.." && pwd)"
cd "$root"
PYTHONPATH="$root/core:$root/server:$root" .venv/bin/python bin/lib/with_cluster.py .run/pg-test .venv/bin/python docs/take_screenshots.py
