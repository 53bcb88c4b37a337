#!/bin/sh
# Makes .venv ready: finds a Python >= 3.12, installs the pinned packages, and checks that Qt loads.
# Does nothing, quickly, when everything is in place.
set -eu
cd "$(dirname "$0")/.."

PACKAGES="libegl1 libgl1 libxkbcommon0 libxkbcommon-x11-0 libdbus-1-3 libfontconfig1 libfreetype6 libglib2.0-0
libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0 libxcb-render-util0 libxcb-shape0
libxcb-sync1 libxcb-xfixes0 libxcb-xkb1"

say() { printf 'bootstrap: %s\n' "$*" >&2; }

new_enough() {
    "$1" -c 'import sys; raise SystemExit(sys.version_info < (3, 12))' >/dev/null 2>&1
}

find_python() {
    for name in python3.14 python3.13 python3.12 python3; do
        found=$(command -v "$name" 2>/dev/null) || continue
        if new_enough "$found"; then echo "$found"; return 0; fi
    done
    for found in "${PYENV_ROOT:-$HOME/.pyenv}"/versions/3.1[2-9]*/bin/python3 \
                 "$HOME"/.asdf/installs/python/3.1[2-9]*/bin/python3 \
                 "$HOME"/.local/share/mise/installs/python/3.1[2-9]*/bin/python3 \
                 "$HOME"/.local/share/uv/python/*/bin/python3; do
        if [ -x "$found" ] && new_enough "$found"; then echo "$found"; return 0; fi
    done
    return 1
}

apt_install() {
    runner=""
    if [ "$(id -u)" -ne 0 ]; then
        if sudo -n true >/dev/null 2>&1; then runner="sudo -n"; else runner="none"; fi
    fi
    if [ "$runner" = none ] || ! command -v apt-get >/dev/null 2>&1; then
        say "these system packages are missing. Install them, then run make again:"
        say "  sudo apt-get install -y $(echo $*)"
        exit 1
    fi
    say "installing system packages: $(echo $*)"
    $runner apt-get update -qq >&2
    DEBIAN_FRONTEND=noninteractive $runner apt-get install -y -qq "$@" >&2
}

make_venv() {
    rm -rf .venv
    if python=$(find_python); then
        say "using $("$python" --version) for .venv"
        if ! "$python" -m venv .venv >/dev/null 2>&1; then
            rm -rf .venv
            apt_install "python$("$python" -c 'import sys; print("%d.%d" % sys.version_info[:2])')-venv"
            "$python" -m venv .venv
        fi
    else
        say "no Python >= 3.12 here; getting one through the package uv"
        python3 -m pip install --quiet --target .bootstrap uv
        PYTHONPATH=.bootstrap python3 -m uv venv --quiet --seed --python 3.12 .venv
    fi
}

if [ ! -x .venv/bin/python ] || ! new_enough .venv/bin/python; then make_venv; fi

stamp="$(cat requirements.txt requirements-dev.txt pyproject.toml scripts/bootstrap.sh | cksum) $(pwd)"
if [ "$(cat .venv/ready 2>/dev/null || true)" != "$stamp" ]; then
    say "installing the pinned packages (a few minutes the first time)"
    .venv/bin/python -m pip install --quiet --disable-pip-version-check -r requirements-dev.txt
    .venv/bin/python -m pip install --quiet --disable-pip-version-check --no-build-isolation --no-deps -e .
    if ! .venv/bin/python -c 'import PySide6.QtWidgets, PySide6.QtSvg' 2>/dev/null; then
        apt_install $PACKAGES
        .venv/bin/python -c 'import PySide6.QtWidgets, PySide6.QtSvg'
    fi
    printf '%s' "$stamp" > .venv/ready
fi
# Compiled once here, also where the environment keeps Python from doing so itself: a start takes half as long.
.venv/bin/python -m compileall -q src/zinnet
