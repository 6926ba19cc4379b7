#!/usr/bin/env bash
# Installs what is missing: Debian's packages (as root; else it says what to install) and the packages of the lock file.
# With "browser" it also wants Chromium and radicale, which only the tests and the screenshots need.
set -euo pipefail
cd "$(dirname "$0")/.."

say() { printf '[%s] %s\n' "$(date +%T)" "$*"; }

packages=()
ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || packages+=(postgresql)
if [ "${1:-}" = browser ]; then
  [ -x /usr/bin/chromium ] || packages+=(chromium fonts-dejavu-core)
  # A calendar server that was not written here.
  [ -x /usr/bin/radicale ] || packages+=(radicale)
fi
if [ "${#packages[@]}" -gt 0 ]; then
  if [ "$(id -u)" = 0 ]; then
    say "Installing Debian's ${packages[*]}"
    export DEBIAN_FRONTEND=noninteractive
    apt-get update -qq
    apt-get install -y -qq --no-install-recommends "${packages[@]}" >/dev/null
  else
    say "Missing: ${packages[*]}. Please have them installed:  sudo apt-get install ${packages[*]}" >&2
    exit 1
  fi
fi

wanted=$(sha256sum package-lock.json | cut -d' ' -f1)
if [ "$(cat node_modules/.installed-lock 2>/dev/null || true)" != "$wanted" ]; then
  say "Installing the packages of package-lock.json (about a minute)"
  npm ci --no-audit --no-fund --loglevel=error
  printf '%s' "$wanted" > node_modules/.installed-lock
  say "Packages installed"
fi
