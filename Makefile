# make demo          set everything up and start Zinnet with the Wrenfield Lantern Walk
# make test          set everything up and run the tests
# make test-long     the same with many more random examples and all that takes long
# make lint          ruff, mypy, import-linter
# make screenshots   draw docs/screenshots anew from the demo
# make try-wheel     build the wheel, install it into a clean environment, and run the demo from there
# make bench         the timed work (takes minutes; the first run fetches sample artwork with npm)
# make clean         remove what was built
.PHONY: setup demo test test-long lint screenshots try-wheel bench clean

PYTHON := .venv/bin/python

setup:
	@sh scripts/bootstrap.sh

demo: setup
	@$(PYTHON) -m zinnet demo --out out/demo

test: setup
	@$(PYTHON) -m pytest -q

test-long: setup
	@ZINNET_TESTS=long $(PYTHON) -m pytest -q

lint: setup
	@$(PYTHON) -m ruff check .
	@$(PYTHON) -m ruff format --check .
	@$(PYTHON) -m mypy
	@.venv/bin/lint-imports

screenshots: setup
	@QT_QPA_PLATFORM=offscreen $(PYTHON) -m zinnet.ui.screenshots docs/screenshots

try-wheel: setup
	@sh scripts/try_wheel.sh

bench: setup
	@$(PYTHON) -m benchmarks

clean:
	rm -rf .venv .bootstrap out build dist .pytest_cache .mypy_cache .ruff_cache .hypothesis node_modules
	find . -name __pycache__ -type d -prune -exec rm -rf {} +
