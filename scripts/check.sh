#!/bin/sh
# What needs no test to run: lint, format, types, import contract.
set -eu
cd "$(dirname "$0")/.."
bin=.venv/bin
$bin/ruff check .
$bin/ruff format --check .
$bin/basedpyright --level error
$bin/lint-imports
