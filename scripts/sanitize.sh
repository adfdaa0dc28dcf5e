#!/usr/bin/env bash
# The core and batch-door tests under address and undefined-behaviour sanitizers, the core's in random order. What is
# slow is left to the plain run.
set -euo pipefail
cd "$(dirname "$0")/.."
cmake --preset sanitize >/dev/null
cmake --build --preset sanitize --target test_core test_cli upper-prism-cli
export ASAN_OPTIONS=detect_leaks=0 UBSAN_OPTIONS=halt_on_error=1:print_stacktrace=1

# Half of the files with core tests on each of two cores, in an order that changes from run to run: no test may hang on
# another.
half() {
    local file names=()
    for file in $(git ls-files 'tests/core/*.cpp' | awk -v rest="$1" 'NR % 2 == rest'); do
        names+=("[#$(basename "$file" .cpp)]~[slow]")
    done
    local IFS=,
    build/sanitize/bin/test_core -# --order rand --rng-seed time "${names[*]}"
}
half 0 &
first=$!
half 1
wait "$first"
build/sanitize/bin/test_cli '~[slow]'
