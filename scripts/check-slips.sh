#!/usr/bin/env bash
# Looks for common slips in the core (.clang-tidy); any is an error. Takes about ten minutes on two cores, so it is run
# before larger changes land and not by every run of continuous integration.
set -euo pipefail
cd "$(dirname "$0")/.."
# Without precompiled headers, which are the other compiler's.
cmake --preset release -B build/slips -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON >/dev/null
git ls-files 'src/core/*.cpp' 'src/cli/*.cpp' |
    xargs -P "$(nproc)" -n 4 clang-tidy -p build/slips --quiet --warnings-as-errors='*' \
        --extra-arg=-Wno-unknown-warning-option 2>/dev/null
