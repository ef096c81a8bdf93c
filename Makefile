# All a newcomer needs. `make demo` is the place to start.
PY := .venv/bin/python
PORT ?= 8270
DEPS := .venv/.pinned

demo: $(DEPS)        ## start with the demo shop, in a folder of its own
	$(PY) -m ditto_run demo --port $(PORT)

run: $(DEPS)         ## start with your own shop's data
	$(PY) -m ditto_run serve --port $(PORT)

test: $(DEPS)        ## every test: side by side what needs no browser, then the browser's
	$(PY) -m pytest -q -n 2 --dist loadfile --ignore tests/journeys
	$(PY) -m pytest -q tests/journeys

test-quick: $(DEPS)  ## the core, the desk and what is kept, within 90 s
	$(PY) -m pytest -q -n 2 --dist loadfile tests/core tests/published tests/store tests/desk tests/test_layers.py

test-long: $(DEPS)   ## the searching tests, ten times as long: some 3 minutes
	DITTO_SEARCH=10 $(PY) -m pytest -q -n 2 --dist loadfile tests/core tests/published tests/desk

check: $(DEPS)       ## format, lint, types, layers, docs
	$(PY) -m ruff format --check .
	$(PY) -m ruff check .
	$(PY) -m mypy
	$(PY) -m pytest -q tests/test_layers.py tests/test_steps.py tests/test_docs.py

bench: $(DEPS)       ## the figures we promise, with the floors of the same run
	$(PY) -m compileall -q src
	$(PY) -m bench

judge: $(DEPS)       ## the judgement of a run beside the usual habits, on simulated processes; `make judge SHORT=--short` in two minutes
	$(PY) -m bench.judge $(SHORT)

mutants: $(DEPS)     ## break the code 400 times and count what the nearest tests catch
	$(PY) tools/mutants.py

shots: $(DEPS)       ## make docs/screenshots again from the demo
	$(PY) tools/make_screenshots.py

$(DEPS): requirements-dev.txt requirements-uv.txt pyproject.toml
	test -x $(PY) || python3 -m venv .venv
	$(PY) -m pip install -q --require-hashes -r requirements-uv.txt
	.venv/bin/uv pip sync -q --compile-bytecode --require-hashes --python $(PY) requirements-dev.txt
	.venv/bin/uv pip install -q --no-deps --no-build-isolation --python $(PY) -e .
	$(PY) -m compileall -q src
	touch $@

.PHONY: demo run test test-quick test-long check bench judge mutants shots
