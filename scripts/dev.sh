#!/usr/bin/env bash
# Serves from the sources, with the demo's database and stand-ins beside it.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh
exec node --import tsx scripts/demo.ts --dev "$@"
