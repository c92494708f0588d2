PYTHON ?= python3
PORT ?= 8000
BIN := .venv/bin
export PORT

.PHONY: demo demo-fresh dev test check fast fuzz mutate benchmark schema

demo: .venv/run.stamp
	$(BIN)/caldarium demo

demo-fresh: .venv/run.stamp
	$(BIN)/caldarium demo --fresh

dev: .venv/dev.stamp
	$(BIN)/caldarium demo --reload

test: .venv/dev.stamp
	scripts/test.sh

check: .venv/dev.stamp
	scripts/check.sh

fast: .venv/dev.stamp
	$(BIN)/python -m pytest -n 2 tests --ignore tests/browser -m "not slow"

fuzz: .venv/dev.stamp
	ODD_REQUESTS=10000 KILLS=200 $(BIN)/python -m pytest -n 2 -m slow tests --ignore tests/browser

mutate: .venv/dev.stamp
	$(BIN)/python scripts/mutate.py

benchmark: .venv/dev.stamp
	$(BIN)/python benchmarks/speed.py

schema: .venv/run.stamp
	$(BIN)/python scripts/make_schema.py

.venv/run.stamp: requirements/run.txt pyproject.toml
	@echo "Creating the environment in .venv (a minute the first time) ..."
	$(PYTHON) -m venv .venv
	$(BIN)/pip install --quiet --disable-pip-version-check -r requirements/run.txt
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps --editable .
	@touch $@

.venv/dev.stamp: .venv/run.stamp requirements/dev.txt
	$(BIN)/pip install --quiet --disable-pip-version-check -r requirements/dev.txt
	@touch $@
