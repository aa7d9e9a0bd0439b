# `make` lists the targets. `make demo` and `make test` do all set-up by themselves.
PYTHON ?= python3.11
VENV := .venv
BIN := $(VENV)/bin
PORT ?= 8420
# the tests start Vessel dozens of times: compile it once
unexport PYTHONDONTWRITEBYTECODE
WEB_SOURCES := $(shell find web/src -type f) web/index.html web/vite.config.ts web/package.json
APT := $(shell [ "$$(id -u)" = 0 ] && echo apt-get || echo sudo apt-get)

.PHONY: help demo dev test test-core test-web wheel check bench screenshots docs validation soak types notice lock clean

help: ## List the targets
	@grep -E '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed 's/:.*## /\t/' | expand -t 14

$(VENV)/installed: pyproject.toml requirements.lock
	@command -v $(PYTHON) >/dev/null || { echo "Vessel needs Python 3.11 as $(PYTHON); set PYTHON=... to another name"; exit 1; }
	$(PYTHON) -m venv $(VENV)
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes --requirement requirements.lock
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation --editable .
	@touch $@

web/node_modules/installed: web/package.json web/package-lock.json
	@command -v npm >/dev/null || { echo "Vessel needs Node.js 20 with npm"; exit 1; }
	cd web && npm ci --no-audit --no-fund --silent
	@touch $@

src/vessel/web/index.html: web/node_modules/installed $(WEB_SOURCES)
	cd web && npx tsc -b && npx vite build --logLevel warn

demo: $(VENV)/installed src/vessel/web/index.html ## Install, build, seed and serve the demo job; prints the address
	$(BIN)/vessel serve --demo --port $(PORT) --database var/demo.sqlite3

dev: $(VENV)/installed web/node_modules/installed ## Serve with reload: the server on port 8420, the interface on 5173
	@$(BIN)/python -c "from pathlib import Path; from vessel.demo.seed import seed; seed(Path('var/demo.sqlite3'))"
	@trap 'kill 0' EXIT; \
	VESSEL_DATABASE=var/demo.sqlite3 $(BIN)/uvicorn --factory vessel.api.app:served --reload --reload-dir src --port 8420 & \
	cd web && npx vite

.PHONY: chromium
chromium:
	@command -v chromium >/dev/null && command -v chromium-headless-shell >/dev/null \
	|| { $(APT) update -qq && $(APT) install -y -qq --no-install-recommends chromium chromium-headless-shell; } \
	|| command -v chromium >/dev/null

test: $(VENV)/installed src/vessel/web/index.html chromium check test-web ## Install what tests need and run everything
	$(BIN)/pytest

test-core: $(VENV)/installed ## Run the core's tests only
	$(BIN)/pytest tests/core

test-web: web/node_modules/installed ## Run the interface's own tests of forms and units
	cd web && npx vitest run --silent

wheel: $(VENV)/installed web/node_modules/installed ## Build wheel and source package, and try the wheel in an empty folder
	$(BIN)/python -m build --no-isolation --outdir dist
	$(BIN)/python tools/try_wheel.py dist

check: $(VENV)/installed web/node_modules/installed ## Style, types, floors and plain words
	$(BIN)/ruff check src tests benchmarks tools setup.py
	$(BIN)/ruff format --check --quiet src tests benchmarks tools setup.py
	$(BIN)/mypy
	$(BIN)/lint-imports
	cd web && npx biome check --error-on-warnings . && npx tsc -b && npx depcruise src
	$(BIN)/python tools/notice.py --check
	$(BIN)/pytest -q -n 0 tests/test_voice.py tests/core/test_docstrings.py

bench: $(VENV)/installed ## Measure speed
	$(BIN)/python -m benchmarks.run

screenshots: $(VENV)/installed src/vessel/web/index.html chromium ## Take docs/screenshots anew from the demo job
	$(BIN)/python -m tools.screenshots

docs: $(VENV)/installed ## Write the generated documents and the job file's schema
	$(BIN)/python tools/docs.py

validation: $(VENV)/installed ## Measure the signal model against closed forms; write docs/validation.md and its plots
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes --requirement requirements-docs.lock
	$(BIN)/python -m tools.validation
	$(BIN)/python -m tools.trouble
	$(BIN)/python -m tools.circuits
	$(BIN)/python -m tools.sonde
	$(BIN)/python -m tools.faults
	$(BIN)/python -m tools.valves
	$(BIN)/python -m tools.yard

soak: $(VENV)/installed ## Kill, race and crowd the store for hours; write docs/reliability.md
	$(BIN)/pytest --hypothesis-profile=long tests/test_robust.py
	$(BIN)/python -m tools.soak

types: $(VENV)/installed web/node_modules/installed ## Write the OpenAPI schema and the interface's types
	$(BIN)/python tools/openapi.py web/openapi.json
	cd web && npm run --silent types

notice: $(VENV)/installed web/node_modules/installed ## Write NOTICE: licences of everything shipped
	$(BIN)/python tools/notice.py

lock: $(VENV)/installed ## Write the Python locks anew, with hashes
	$(BIN)/uv pip compile pyproject.toml --extra dev --universal --python-version 3.11 --generate-hashes --no-header -q -o requirements.lock
	$(BIN)/uv pip compile pyproject.toml --extra dev --extra docs --universal --python-version 3.11 --generate-hashes --no-header -q -c requirements.lock -o requirements-docs.lock

clean: ## Remove everything built
	rm -rf $(VENV) web/node_modules src/vessel/web var
