# Even Beam. `make demo` and `make test` do all the set-up from a clean clone.
SHELL := /bin/sh
VENV := .venv
BIN := $(VENV)/bin
PIP := $(BIN)/python -m pip --disable-pip-version-check
PREFIX_DATA := $(or $(XDG_DATA_HOME),$(HOME)/.local/share)
PREFIX_BIN := $(HOME)/.local/bin

.DEFAULT_GOAL := help
.PHONY: help setup demo test tests lint bench mutants fuzz torture wheel newest snapshot lock install uninstall clean

help:
	@echo "make demo       set up what is missing and open the window with the demo data"
	@echo "make test       set up what is missing, then lint, type-check and test"
	@echo "make setup      set up only          make lint      ruff, mypy, import-linter"
	@echo "make bench      speed, as ratios     make snapshot  pictures of every view into docs/screenshots"
	@echo "make mutants    one place wrong at a time: what no test sees"
	@echo "make fuzz       broken and hostile input, new at every run; make torture kills all there is and tries every door"
	@echo "make wheel      build it, install it apart, draw every view; make newest tries newer Pythons and packages"
	@echo "make install    menu entry, icon and file type for this user; make uninstall removes them"

setup: $(VENV)/.ready-to-run

$(BIN)/python:
	@python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { echo "even-beam needs Python 3.11 or newer; found `python3 --version`" >&2; exit 1; }
	python3 -m venv $(VENV)

$(VENV)/.ready-to-run: requirements-run.lock pyproject.toml packaging/system-packages.sh
	@packaging/system-packages.sh run
	@$(MAKE) --no-print-directory $(BIN)/python
	$(PIP) install -q --no-deps --require-hashes -r requirements-run.lock
	$(PIP) install -q --no-deps --no-build-isolation --no-index -e .
	@touch $@

$(VENV)/.ready-to-test: requirements-dev.lock pyproject.toml packaging/system-packages.sh
	@packaging/system-packages.sh test
	@$(MAKE) --no-print-directory $(BIN)/python
	$(PIP) install -q --no-compile --no-deps --require-hashes -r requirements-dev.lock
	$(PIP) install -q --no-deps --no-build-isolation --no-index -e .
	@touch $@

demo: $(VENV)/.ready-to-run
	$(BIN)/even-beam --demo

lint: $(VENV)/.ready-to-test
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports

test: $(VENV)/.ready-to-test
	@$(MAKE) --no-print-directory -j 2 lint tests

# two workers more than there are cores: those of the real window and of wires mostly wait
tests: $(VENV)/.ready-to-test
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -n $$(( $$(nproc) + 2 )) --dist worksteal tests

bench: $(VENV)/.ready-to-test
	env -u OPENBLAS_CORETYPE -u OPENBLAS_L2_SIZE QT_QPA_PLATFORM=offscreen $(BIN)/python -m benchmarks

mutants: $(VENV)/.ready-to-test
	$(BIN)/python -m benchmarks.mutants

fuzz: $(VENV)/.ready-to-test
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m benchmarks.fuzz

torture: $(VENV)/.ready-to-test
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m benchmarks.torture 40
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m benchmarks.moments
	$(BIN)/python -m benchmarks.wires 40
	$(BIN)/python -m benchmarks.hubs 100
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m benchmarks.doors

wheel: $(VENV)/.ready-to-test
	packaging/try-wheel.sh

newest:
	packaging/newest.sh

snapshot: $(VENV)/.ready-to-run
	QT_QPA_PLATFORM=offscreen $(BIN)/even-beam snapshot docs/screenshots

lock: $(BIN)/python
	@test -x $(BIN)/uv || $(PIP) install -q uv
	$(BIN)/uv pip compile pyproject.toml --extra build --universal --python-version 3.11 --generate-hashes --no-header -q -o requirements-run.lock
	$(BIN)/uv pip compile pyproject.toml --extra build --extra dev --universal --python-version 3.11 --generate-hashes --no-header -q -o requirements-dev.lock

install: $(VENV)/.ready-to-run
	install -d $(PREFIX_BIN) $(PREFIX_DATA)/applications $(PREFIX_DATA)/metainfo $(PREFIX_DATA)/mime/packages $(PREFIX_DATA)/icons/hicolor/scalable/apps
	ln -sf $(abspath $(BIN)/even-beam) $(PREFIX_BIN)/even-beam
	sed 's|^Exec=even-beam|Exec=$(PREFIX_BIN)/even-beam|' packaging/even-beam.desktop > $(PREFIX_DATA)/applications/even-beam.desktop
	install -m 644 packaging/even-beam.metainfo.xml $(PREFIX_DATA)/metainfo/
	install -m 644 packaging/even-beam-mime.xml $(PREFIX_DATA)/mime/packages/even-beam.xml
	install -m 644 src/even_beam/app/icons/even-beam.svg $(PREFIX_DATA)/icons/hicolor/scalable/apps/even-beam.svg
	-update-mime-database $(PREFIX_DATA)/mime 2>/dev/null
	-update-desktop-database $(PREFIX_DATA)/applications 2>/dev/null

uninstall:
	rm -f $(PREFIX_BIN)/even-beam $(PREFIX_DATA)/applications/even-beam.desktop $(PREFIX_DATA)/metainfo/even-beam.metainfo.xml
	rm -f $(PREFIX_DATA)/mime/packages/even-beam.xml $(PREFIX_DATA)/icons/hicolor/scalable/apps/even-beam.svg
	-update-mime-database $(PREFIX_DATA)/mime 2>/dev/null
	-update-desktop-database $(PREFIX_DATA)/applications 2>/dev/null

clean:
	rm -rf $(VENV) .mypy_cache .ruff_cache .pytest_cache .hypothesis .import_linter_cache
