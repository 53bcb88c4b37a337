#!/bin/sh
# Builds the wheel, installs it with all that it needs into an environment of its own, and runs the demo from there.
set -eu
cd "$(dirname "$0")/.."
here=$(pwd)
rm -rf build/wheel build/clean build/tried
.venv/bin/python -m pip wheel --quiet --no-deps --wheel-dir build/wheel .
.venv/bin/python -m venv build/clean
build/clean/bin/python -m pip install --quiet build/wheel/*.whl
mkdir -p build/tried
cd build/tried  # nothing of the sources is in sight here
export XDG_DATA_HOME="$here/build/tried/data" XDG_CONFIG_HOME="$here/build/tried/config" \
       XDG_STATE_HOME="$here/build/tried/state" XDG_CACHE_HOME="$here/build/tried/cache"
../clean/bin/python -c 'import zinnet; print("installed at", zinnet.__file__)'
QT_QPA_PLATFORM=offscreen ../clean/bin/zinnet demo --out demo
../clean/bin/zinnet desktop --folder share
for check in "desktop-file-validate share/applications/page.zinnet.zinnet.desktop" \
             "appstreamcli validate --no-net --pedantic share/metainfo/page.zinnet.zinnet.metainfo.xml"; do
    if command -v "${check%% *}" >/dev/null; then $check && echo "clean: $check"; else echo "not here: $check"; fi
done
