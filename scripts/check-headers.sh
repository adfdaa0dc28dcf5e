#!/usr/bin/env bash
# Compiles every header of the core alone: each includes what it needs.
set -euo pipefail
cd "$(dirname "$0")/.."
flags=(-std=c++20 -fsyntax-only -w -DFMT_SHARED -Isrc -isystem /usr/include/eigen3 -isystem /usr/include/opencascade
    -isystem /usr/include/opencv4)
one() { g++ "${@:2}" -include "$1" -x c++ /dev/null || { echo "check-headers: $1 does not compile alone" >&2; return 255; }; }
export -f one
git ls-files -co --exclude-standard 'src/core/*.h' | sed 's|^src/||' |
    xargs -P "$(nproc)" -I {} bash -c 'one "$@"' _ {} "${flags[@]}"
