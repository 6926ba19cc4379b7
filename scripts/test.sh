#!/usr/bin/env bash
# Runs every check: types, lint, boundaries, unit, database and browser tests, against a throw-away database.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh browser
exec node --import tsx scripts/test.ts "$@"
