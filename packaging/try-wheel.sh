#!/bin/sh
# Builds the wheel, installs it in an environment of its own, away from the sources, and draws every view from it.
set -eu
cd "$(dirname "$0")/.."
here=$(pwd)
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
.venv/bin/python -m pip wheel -q --no-deps --no-build-isolation --no-index -w dist .
python3 -m venv "$folder/venv"
"$folder/venv/bin/python" -m pip install -q --require-hashes -r requirements-run.lock
wheel=$(ls -t dist/even_beam-*.whl | head -1)
"$folder/venv/bin/python" -m pip install -q --no-deps --no-index "$here/$wheel"
cd "$folder"
QT_QPA_PLATFORM=offscreen "$folder/venv/bin/even-beam" snapshot "$folder/views"
echo "$wheel: $(ls "$folder/views" | wc -l) views drawn from the installed wheel"
