#!/bin/sh
# Everything `make test` runs: lint, types, import contract, then all tests.
set -eu
cd "$(dirname "$0")/.."
bin=.venv/bin
if ! command -v chromium >/dev/null 2>&1; then
  echo "Installing Debian's Chromium for the browser tests ..."
  as_root=""; [ "$(id -u)" -eq 0 ] || as_root=sudo
  $as_root apt-get update -qq
  DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq chromium >/dev/null
fi
scripts/check.sh
$bin/python -m pytest -n 2 tests
$bin/python scripts/test_share.py
