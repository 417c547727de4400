# Two commands are enough: `make demo` and `make test`. Each sets up what it needs.
PY := .venv/bin
STATIC := src/hearth_yield/api/static/index.html
# Of the suite. Four took half as much again of two cores, each with its own of what a process makes once.
WORKERS ?= 2
WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts

.PHONY: demo test suite quick touched soak check-python check-web check-types components dev fix bench shots \
  lock check chromium office api-types examples clean

# What serving needs, and no more.
demo: $(STATIC)
	@$(PY)/hearth-yield demo

# Both at once: browser tests wait for a third of theirs.
test: check chromium office
	@$(MAKE) --no-print-directory -j 2 components suite

suite: $(STATIC) .stamps/dev chromium office
	$(PY)/python -m pytest -n $(WORKERS) --dist loadgroup

# For every small step: under ninety seconds.
quick: check
	$(PY)/python -m pytest -n 2 tests/core tests/exchange tests/architecture tests/test_rows.py

# What was changed since the last commit (or SINCE=…), and all that rests on it by its imports.
SINCE ?= HEAD
touched: check
	cd web && npx vitest run --project page --changed $(SINCE) --passWithNoTests
	$(PY)/python -m pytest -n 2 --dist loadgroup --touched $(SINCE)

# Every campaign in full; what `make test` takes a sample of is named in CONTRIBUTING.md.
soak: .stamps/web-dev .stamps/dev $(STATIC) chromium office
	cd web && HEARTH_SOAK=1 npx vitest run --project page
	HEARTH_SOAK=1 $(PY)/python -m pytest -n 2 --dist loadgroup

check: .stamps/web-dev .stamps/dev $(STATIC)
	@$(MAKE) --no-print-directory -j 2 check-python check-web check-types

check-python: .stamps/dev
	$(PY)/ruff format --check .
	$(PY)/ruff check .
	$(PY)/mypy
	$(PY)/lint-imports --no-cache

check-web: .stamps/web-dev
	cd web && npx biome check --error-on-warnings .
	cd web && npx tsc --noEmit --incremental --tsBuildInfoFile ../.stamps/tsc.json
	cd web && npx vitest run --project unit

check-types: .stamps/dev .stamps/web-dev
	@$(PY)/hearth-yield schema .stamps/openapi.json
	@cd web && npx openapi-typescript ../.stamps/openapi.json -o ../.stamps/schema.d.ts > /dev/null
	@$(PY)/hearth-yield schema --question .stamps/question.json
	@cmp -s .stamps/schema.d.ts web/src/api/schema.d.ts && cmp -s .stamps/question.json web/src/api/question.json \
	  || { echo "web/src/api/schema.d.ts is stale: run 'make api-types'"; exit 1; }

# The page in a DOM, on answers of the API in the same run.
components: .stamps/dev .stamps/web-dev
	cd web && npx vitest run --project page

dev: $(STATIC) .stamps/dev
	@$(PY)/python -c "from hearth_yield.cli import app; app(['demo', '--only-fill'])"
	@trap 'kill 0' EXIT; \
	$(PY)/uvicorn --factory hearth_yield.api.serving:reloading --reload --reload-dir src \
	  --host 127.0.0.1 --port 8000 & \
	cd web && npx vite

fix: .stamps/dev .stamps/web-dev
	$(PY)/ruff format .
	$(PY)/ruff check --fix .
	cd web && npx biome check --write .

bench: $(STATIC) .stamps/dev office
	@command -v sqlite3 > /dev/null || { apt-get update -q && apt-get install -y -q sqlite3; }
	$(PY)/python -m benchmarks

shots: $(STATIC) .stamps/dev chromium
	$(PY)/python -m tests.browser.shots

api-types: .stamps/dev .stamps/web-dev
	$(PY)/hearth-yield schema .stamps/openapi.json
	cd web && npx openapi-typescript ../.stamps/openapi.json -o src/api/schema.d.ts
	$(PY)/hearth-yield schema --question web/src/api/question.json
	$(PY)/hearth-yield schema --feed docs/feed.openapi.json

examples: .stamps/python
	$(PY)/python examples/zip_examples.py

# Needs uv; the locks name no registry.
lock:
	uv lock
	uv export -q --frozen --no-emit-project --no-default-groups --group build -o requirements.lock
	uv export -q --frozen --no-emit-project --all-groups -o requirements-dev.lock

chromium:
	@command -v chromium-headless-shell > /dev/null \
	  || { apt-get update -q && apt-get install -y -q chromium-headless-shell; }

# Recalculates the exported workbooks in the tests.
office:
	@command -v soffice > /dev/null || { apt-get update -q \
	  && apt-get install -y -q --no-install-recommends libreoffice-calc-nogui; }

$(STATIC): .stamps/python .stamps/web $(WEB_SOURCES)
	cd web && npx vite build --logLevel warn
	@touch $@

.stamps/python: requirements.lock pyproject.toml
	@mkdir -p .stamps
	test -x $(PY)/python || python3 -m venv .venv
	$(PY)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock
	$(PY)/pip install --quiet --disable-pip-version-check --no-build-isolation --no-deps -e .
	@touch $@

# The packages of tests and checks beside those of serving.
.stamps/dev: .stamps/python requirements-dev.lock
	$(PY)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements-dev.lock
	@touch $@

.stamps/web: web/package.json web/package-lock.json web/.npmrc
	@mkdir -p .stamps
	test -e .stamps/web-dev || (cd web && npm ci --omit=dev --no-audit --no-fund --loglevel=error)
	@touch $@

# Before the page is built, where both are asked for: one installation serves both.
.stamps/web-dev: web/package.json web/package-lock.json web/.npmrc
	@mkdir -p .stamps
	cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@
	@touch .stamps/web

clean:
	rm -rf .stamps .venv web/node_modules src/hearth_yield/api/static
