#!/usr/bin/env bash
# Prints what an event type's page loads before its form opens, and how soon its first openings show on a slow phone.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh browser
exec node --import tsx scripts/weigh.ts "$@"
