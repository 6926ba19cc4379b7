#!/usr/bin/env bash
# Takes the pictures of docs/screenshots from a fresh demo.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh browser
exec node --import tsx scripts/screenshots.ts "$@"
