#!/usr/bin/env bash
# The core and batch-door tests under address and undefined-behaviour sanitizers, the core's in random order. What is
# slow is left to the plain run.
set -euo pipefail
cd "$(dirname "$0")/.."
cmake --preset sanitize >/dev/null
cmake --build --preset sanitize --target test_core test_cli upper-prism-cli
export ASAN_OPTIONS=detect_leaks=0 UBSAN_OPTIONS=halt_on_error=1:print_stacktrace=1

# Half of the core tests on each of two cores, in an order that changes from run to run: no test may hang on another.
halves=$(mktemp -d)
trap 'rm -rf "$halves"' EXIT
build/sanitize/bin/test_core --list-test-names-only '~[slow]' >"$halves/all" || true # its status is their number
[[ -s "$halves/all" ]]
awk -v to="$halves" '{ print > (to "/" NR % 2) }' "$halves/all"
build/sanitize/bin/test_core --order rand --rng-seed time -f "$halves/0" &
first=$!
build/sanitize/bin/test_core --order rand --rng-seed time -f "$halves/1"
wait "$first"
build/sanitize/bin/test_cli '~[slow]'
