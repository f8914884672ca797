# One command each; everything they need is set up on the way.
.PHONY: demo test wheel check check-python check-ui check-types check-lint check-look check-units dev bench bench-all faults approve shots samples setup ui client lock check-tools schema
PY := .venv/bin/python
SETUP := .venv/.installed
# Compiled modules are kept, so that nothing that is started compiles all of them again.
export PYTHONDONTWRITEBYTECODE :=
# As many programs run at once as there are cores; threads of their own would stand in each other's way.
test: export OPENBLAS_NUM_THREADS := 1
# Pictures come and go: their room is kept for the next one instead of asked for anew, page by page.
test: export MALLOC_MMAP_THRESHOLD_ := 536870912
test: export MALLOC_TRIM_THRESHOLD_ := 1073741824
test: export MALLOC_TOP_PAD_ := 33554432
UI := ui/dist/index.html
UI_SOURCES := $(shell find ui/src docs/guide docs/screenshots -type f 2>/dev/null) ui/index.html ui/vite.config.ts ui/package.json

demo: $(SETUP) $(UI) ## start with the demo workshop
	@$(PY) -m vamper demo

dev: $(SETUP) ui/node_modules/.installed ## server and front end, both reloading on change
	@mkdir -p data && (cd ui && npx vite --clearScreen false) & \
	$(PY) -m vamper serve --data data/dev.db --reload; kill %1 2>/dev/null || true

test: $(SETUP) .venv/.installed-dev $(UI) ## lint, types, contracts, all tests
	@$(PY) tests/screens/browser.py
	@$(MAKE) --no-print-directory -j3 check-python check-ui
	$(PY) -m pytest -n 3 --dist loadfile --no-loadscope-reorder

check-python: .venv/.installed-dev
	.venv/bin/ruff format --check --quiet .
	.venv/bin/ruff check --quiet .
	.venv/bin/mypy vamper
	.venv/bin/lint-imports --no-cache

check: ## all of `make test` but the tests, and the client and schemas made anew: before a last commit
	@$(MAKE) --no-print-directory -j3 check-python check-ui
	@$(MAKE) --no-print-directory schema client
	@git diff --stat

check-ui: check-types check-lint check-look check-units

check-types check-lint check-look check-units: check-%: ui/node_modules/.installed
	cd ui && npm run --silent $*

bench: $(SETUP) .venv/.installed-dev .venv/.installed-bench ## exactness and speed, as a table; no pass or fail
	$(PY) -m tests.bench.run

bench-all: $(SETUP) .venv/.installed-dev .venv/.installed-bench ## the same with the tables that take long
	$(PY) -m tests.bench.run --all

faults: $(SETUP) .venv/.installed-dev .venv/.installed-bench ## deliberate faults in core and services, and how many of them the tests notice
	$(PY) -m tests.faults.run

approve: $(SETUP) .venv/.installed-dev ## tests/approved/kept: what core says now; look the difference through
	$(PY) -m tests.approved

shots: $(SETUP) .venv/.installed-dev $(UI) ## docs/screenshots from the demo workshop
	@$(PY) tests/screens/browser.py
	$(PY) -m tests.screens.shots

samples: $(SETUP) ## docs/samples: a plan, and pictures of what became of it
	$(PY) -m vamper.demo.samples docs/samples

setup: $(SETUP) $(UI)

.venv/bin/python:
	python3 -c 'import sys; sys.exit("Vamper needs Python 3.11 or newer.") if sys.version_info < (3, 11) else None'
	python3 -m venv .venv

$(SETUP): .venv/bin/python requirements.txt pyproject.toml
	$(PY) -m pip install --quiet --disable-pip-version-check -r requirements.txt
	$(PY) -m pip install --quiet --disable-pip-version-check --no-deps -e .
	@touch $@

.venv/.installed-dev: $(SETUP) requirements-dev.txt
	$(PY) -m pip install --quiet --disable-pip-version-check -r requirements-dev.txt
	@touch $@

.venv/.installed-bench: .venv/.installed-dev requirements-bench.txt
	$(PY) -m pip install --quiet --disable-pip-version-check -r requirements-bench.txt
	@touch $@

ui/node_modules/.installed: ui/package.json ui/package-lock.json
	cd ui && npm ci --silent --no-audit --no-fund
	@touch $@

$(UI): ui/node_modules/.installed $(UI_SOURCES)
	cd ui && npm run --silent build -- --logLevel warn
	@touch $@

wheel: $(SETUP) .venv/.installed-dev $(UI) ## dist/: one wheel with the built front end, to install with pip or pipx
	$(PY) -m tests.wheel dist
	@ls dist

client: .venv/.installed-dev ui/node_modules/.installed ## the front end's client, from the routes
	$(PY) -m vamper.api.openapi > ui/openapi.json
	cd ui && npm run --silent client

schema: $(SETUP) ## the published JSON Schemas of job files and plans
	for name in job plan readings calibration ladder ladder-result dry-run steps; do \
		$(PY) -m vamper.formats.schema $$name > docs/$$name.schema.json || exit 1; done

lock: ## pin what the requirements*.in ask for
	.venv/bin/pip-compile --quiet --strip-extras --no-emit-index-url --no-emit-find-links --no-emit-trusted-host --no-header -o requirements.txt requirements.in
	.venv/bin/pip-compile --quiet --strip-extras --allow-unsafe --no-emit-index-url --no-emit-find-links --no-emit-trusted-host --no-header -o requirements-dev.txt requirements-dev.in
	.venv/bin/pip-compile --quiet --strip-extras --allow-unsafe --no-emit-index-url --no-emit-find-links --no-emit-trusted-host --no-header -o requirements-bench.txt requirements-bench.in
