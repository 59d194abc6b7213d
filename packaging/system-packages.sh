#!/bin/sh
# The Debian packages that the window (run) and the tests (test) need beside Python's: installed when root, else the
# exact command is printed and the run stops. Usage: system-packages.sh run|test
set -eu

run="libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0 libxcb-render-util0 libxcb-shape0
libxcb-util1 libxcb-xkb1 libxkbcommon-x11-0 libegl1 libgl1 libdbus-1-3 libfontconfig1 libpango-1.0-0
libpangoft2-1.0-0 libharfbuzz-subset0"
test="xvfb xauth xdotool at-spi2-core dbus postgresql chromium"

wanted=$run
[ "${1:-run}" = test ] && wanted="$run $test"
python3 -c 'import venv, ensurepip' 2>/dev/null || wanted="$wanted python3-venv"

if ! command -v dpkg-query >/dev/null 2>&1; then
    echo "even-beam: this is not a Debian-like system; make sure that these libraries are installed:" $wanted >&2
    exit 0
fi

missing=""
for package in $wanted; do
    case "$(dpkg-query -W -f='${Status}' "$package" 2>/dev/null)" in
        *"install ok installed") ;;
        *) missing="$missing $package" ;;
    esac
done
[ -z "$missing" ] && exit 0

if [ "$(id -u)" -eq 0 ]; then
    echo "even-beam: installing$missing"
    apt-get update -q >/dev/null
    DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends $missing >/dev/null
else
    echo "even-beam: some system libraries are missing. Install them with this command, then try again:" >&2
    echo "    sudo apt-get update && sudo apt-get install -y --no-install-recommends$missing" >&2
    exit 1
fi
