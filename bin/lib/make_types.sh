#!/usr/bin/env bash
# Make the web's API types afresh from the core's own types, by way of the OpenAPI.
set -euo pipefail
root="$(cd "$(dirname "$(readlink -f "${BASH_SOURCE[0]}")")/../.." && pwd)"
cd "$root"
PYTHONPATH=core:server DJANGO_SETTINGS_MODULE=eskel_server.settings .venv/bin/python server/manage.py export_openapi > web/openapi.json
(cd web && npx openapi-typescript openapi.json -o src/api/schema.gen.ts)
