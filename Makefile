# make demo and make test do everything on a fresh Debian machine with Python 3.11.
PYTHON ?= $(shell command -v python3.11 || command -v python3)
VENV := .venv
BIN := $(VENV)/bin
READY := $(VENV)/.ready
RUN_LIBS := libegl1 libgl1 libdbus-1-3 libfontconfig1 libglib2.0-0 libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-render-util0 libxcb-shape0 libxcb-xinerama0
TEST_LIBS := xvfb openbox xdotool dbus at-spi2-core
SERVER := postgresql  # a server for its tests, where there is none yet; they say so and are passed over where it may not be installed
DEMO := build/demo/logbook.sqlite
# the tests' files lie in memory where there is room: a slow disk is no fault of the program's
QUICK := $(shell [ -w /dev/shm ] && [ "$$(df -k --output=avail /dev/shm | tail -n 1)" -gt 4000000 ] && echo /dev/shm || echo "$${TMPDIR:-/tmp}")

.PHONY: demo test bench lint shots loop faults fuzz sequences endurance soak mutants manual schema lock clean

demo: $(READY) $(DEMO)
	@if [ -n "$$DISPLAY$$WAYLAND_DISPLAY" ]; then $(BIN)/redline-bore --logbook $(DEMO); else \
	  echo "There is no display here. The screenshots are written to build/screenshots instead:"; \
	  $(BIN)/python tools/shots.py build/screenshots; fi

test: $(READY)
	@tools/system_packages.sh $(TEST_LIBS)
	@ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || tools/system_packages.sh $(SERVER) || true
	TMPDIR=$(QUICK) $(BIN)/python -m pytest -n 2 --dist worksteal

bench: $(READY)
	$(BIN)/python -m bench

lint: $(READY)
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports --no-cache

# Simulated blocks worked by an obedient machinist: BLOCKS=1000 SEED=1; one block told entry by entry: SEED=100436 STORY=1.
BLOCKS ?= 1000
SEED ?= 1
loop: $(READY)
	$(BIN)/python -m redline_bore.loop --blocks $(BLOCKS) --seed $(SEED) $(if $(STORY),--story)

# Random faults in core and job, and whether a test notices; FAULTS=500 SEED=1 by default, about ten minutes a package.
FAULTS ?= 500
mutants: $(READY)
	$(BIN)/python -m tools.mutants --learn --count $(FAULTS) --seed $(SEED)

# Kills, damaged files, a full disk, files that go away, power cuts: COUNT=2000 SEED=1.
COUNT ?= 2000
faults: $(READY)
	$(BIN)/python -m tools.faults --count $(COUNT) --seed $(SEED)

# Every parser under a coverage-guided fuzzer (random mutations where there is no build of it): MINUTES=10.
MINUTES ?= 10
fuzz: $(READY)
	@$(BIN)/python -m pip install -q --disable-pip-version-check --require-hashes -r requirements-fuzz.lock || true
	$(BIN)/python -m tools.fuzz --minutes $(MINUTES) $(if $(INPUTS),--inputs $(INPUTS))

# Random work at two desks, and random keys, pointer and gauges in the window: COUNT=2000 in all.
sequences: $(READY)
	SEQUENCES=$$(( $(COUNT) / 2 )) $(BIN)/python -m pytest -p no:xdist --timeout 0 -q tests/stateful

# Two windows, two gauges and a command line on one logbook: MINUTES=10. One window at twenty readings a second: make soak MINUTES=60.
endurance: $(READY)
	$(BIN)/python -m tools.endurance together --minutes $(MINUTES)

soak: $(READY)
	$(BIN)/python -m tools.endurance soak --minutes $(MINUTES)

shots: $(READY)
	$(BIN)/python tools/shots.py docs/screenshots

manual: $(READY)
	$(BIN)/python -m tools.manual

schema: $(READY)
	$(BIN)/python tools/schema.py

# Writes the lock files anew from requirements*.in; they hold hashes and no addresses.
lock: $(READY)
	$(BIN)/python -m pip install -q uv
	$(BIN)/uv pip compile -q --generate-hashes --python-version 3.11 --no-annotate --no-header requirements-dev.in -o requirements-dev.lock
	$(BIN)/uv pip compile -q --generate-hashes --python-version 3.11 --no-annotate --no-header -c requirements-dev.lock requirements.in -o requirements.lock
	$(BIN)/uv pip compile -q --generate-hashes --python-version 3.11 --no-annotate --no-header requirements-fuzz.in -o requirements-fuzz.lock

$(DEMO): $(READY)
	@mkdir -p $(dir $@)
	$(BIN)/redline-bore demo --logbook $@

$(READY): requirements-dev.lock pyproject.toml Makefile
	@tools/system_packages.sh $(RUN_LIBS)
	@$(PYTHON) -c 'import sys; sys.exit(0 if (3, 11) <= sys.version_info[:2] < (3, 14) else "Python 3.11, 3.12 or 3.13 is needed, this is %d.%d; say which with make PYTHON=..." % sys.version_info[:2])'
	@$(PYTHON) -c 'import ensurepip' 2>/dev/null || tools/system_packages.sh python3-venv
	$(PYTHON) -m venv $(VENV)
	$(BIN)/python -m pip install -q --disable-pip-version-check --require-hashes -r requirements-dev.lock
	$(BIN)/python -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e .
	@$(BIN)/python -m compileall -q redline_bore
	@touch $@

clean:
	rm -rf build $(VENV) .pytest_cache .mypy_cache .ruff_cache .hypothesis
