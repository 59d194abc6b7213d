#!/bin/sh
# Every newer Python that this machine has, with the newest packages there are: says what breaks, and blocks nothing.
# Usage: packaging/newest.sh [PYTHON ...]; without any, python3.12 to python3.15 as found.
cd "$(dirname "$0")/.." || exit 1
found="$*"
if [ -z "$found" ]; then
    for version in 3.12 3.13 3.14 3.15; do
        command -v "python$version" >/dev/null 2>&1 && found="$found python$version"
    done
fi
[ -z "$found" ] && { echo "no Python newer than 3.11 was found"; exit 0; }
for python in $found; do
    name=$("$python" -c 'import sys; print("%d.%d" % sys.version_info[:2])') || continue
    venv=".venv-newest-$name"
    echo "== Python $name, newest packages"
    "$python" -m venv "$venv" || continue
    "$venv/bin/python" -m pip install -q --upgrade pip
    if ! "$venv/bin/python" -m pip install -q --upgrade -e '.[build,dev]'; then
        echo "== Python $name: the newest packages do not install together"
        continue
    fi
    if QT_QPA_PLATFORM=offscreen "$venv/bin/python" -m pytest -q -n auto tests --ignore tests/window; then
        echo "== Python $name: all tests pass with the newest packages"
    else
        echo "== Python $name: SOMETHING BREAKS with the newest packages (see above)"
    fi
done
exit 0
