#!/usr/bin/env bash
# Runs Temporia with its demo workspace: sets up what is missing, then serves until Ctrl-C.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh
exec node --import tsx scripts/demo.ts "$@"
