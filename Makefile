# Everything is set up in .venv, once; a stamp tells which requirements it holds.
SHELL := /bin/bash
PYTHON ?= python3
PYTHONS ?= python3.12 python3.13
BIN := .venv/bin
PRETTIER := $(BIN)/node node_modules/prettier/bin/prettier.cjs
TEMPLATES := src/dreieck/web/templates/*.html
SCRIPTS := src/dreieck/web/static/js src/dreieck/web/static/css
# What is not kept compiled would be compiled again by every process.
unexport PYTHONDONTWRITEBYTECODE
SUDO := $(shell [ "$$(id -u)" = 0 ] || echo sudo)
APT := $(SUDO) env DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends

.PHONY: demo test tests page-tests laws pythons check format bench campaign mutants screenshots sentences
.PHONY: vendor lock
.DEFAULT_GOAL := demo

demo: .venv/.runtime
	$(BIN)/dreieck serve --demo --data var/dreieck.db

# The linters run beside the tests; what each of them says is printed when it has ended.
test: .venv/.dev .chromium
	@$(MAKE) --no-print-directory --jobs=3 --output-sync=target check page-tests tests

tests: .venv/.dev .chromium
	$(BIN)/pytest -n 2 --dist worksteal -q

# The rules of the page's own modules, without a browser.
page-tests: .venv/.dev
	$(BIN)/node --test --test-reporter=dot 'tests/page/*.test.mjs'

# Every law with twenty times as many examples, other ones each time; about a quarter of an hour.
laws: .venv/.dev
	$(BIN)/pytest -n 2 --dist worksteal -q -m "hypothesis or law" --hypothesis-profile laws tests

# All tests but those of the web and the command, under other Pythons: PYTHONS="python3.12 python3.13".
# What only the mutants need of a library is left out, so that one lock does for all of them.
pythons:
	for each in $(PYTHONS); do \
	  $$each -m venv .venv/$$each && \
	  .venv/$$each/bin/pip install -q --disable-pip-version-check --no-deps -r requirements-dev.txt && \
	  .venv/$$each/bin/pip install -q --disable-pip-version-check --no-deps -e . && \
	  .venv/$$each/bin/pytest -n 2 --dist worksteal -q tests/core tests/store tests/files || exit 1; \
	done

check: .venv/.dev
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/djhtml --check --tabwidth 2 $(TEMPLATES)
	$(PRETTIER) --check --log-level warn $(SCRIPTS) tests/page
	cd src/dreieck/web/static/vendor && sha256sum --check --quiet SHA256SUMS
	! grep -rnE '^.{121}' $(TEMPLATES) $(SCRIPTS)
	$(BIN)/mypy
	$(BIN)/lint-imports

format: .venv/.dev
	$(BIN)/ruff check --fix .
	$(BIN)/ruff format .
	$(BIN)/djhtml --tabwidth 2 $(TEMPLATES)
	$(PRETTIER) --write --log-level warn $(SCRIPTS) tests/page

bench: .venv/.dev
	$(BIN)/python -m bench

# Attacks on a running server, about 25 minutes; FOR=0.1 for a short try, SEED=7 for the same again.
campaign: .venv/.dev
	$(BIN)/python -m campaign $(FOR)

# Three hundred small changes of the code, of which the tests have to notice most; about an hour.
# SEED=7 chooses which.
mutants: .venv/.dev
	$(BIN)/python scripts/mutants.py $(or $(SEED),1)

screenshots: .venv/.dev .chromium
	$(BIN)/python scripts/screenshots.py docs/screenshots

# All that the product says, to be read aloud.
sentences: .venv/.dev
	@$(BIN)/python scripts/sentences.py

vendor:
	scripts/vendor.sh

lock: .venv/.dev
	$(BIN)/pip-compile -q --generate-hashes --strip-extras --no-emit-index-url --no-emit-find-links --no-header --no-annotate -o requirements.txt pyproject.toml
	$(BIN)/pip-compile -q --generate-hashes --extra dev --allow-unsafe --strip-extras --no-emit-index-url --no-emit-find-links --no-header --no-annotate -c requirements.txt -o requirements-dev.txt pyproject.toml

.venv/.made:
	@$(PYTHON) -c 'import ensurepip, venv' 2>/dev/null \
		|| { $(SUDO) apt-get update -q && $(APT) python3 python3-venv; }
	$(PYTHON) -m venv .venv
	touch $@

.venv/.runtime: requirements.txt pyproject.toml | .venv/.made
	$(BIN)/pip install -q --disable-pip-version-check -r requirements.txt
	$(BIN)/pip install -q --disable-pip-version-check --no-deps -e .
	touch $@

.venv/.dev: requirements-dev.txt package-lock.json .venv/.runtime
	$(BIN)/pip install -q --disable-pip-version-check -r requirements-dev.txt
	PATH="$(CURDIR)/$(BIN):$$PATH" npm ci --silent
	touch $@

.PHONY: .chromium
.chromium:
	@command -v chromium-headless-shell >/dev/null \
		|| { $(SUDO) apt-get update -q && $(APT) chromium-headless-shell; }
