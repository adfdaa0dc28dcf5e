#!/usr/bin/env bash
# The core and batch-door tests under address and undefined-behaviour sanitizers. What is slow is left to the plain run.
set -euo pipefail
cd "$(dirname "$0")/.."
cmake --preset sanitize >/dev/null
cmake --build --preset sanitize --target test_core test_cli upper-prism-cli
export ASAN_OPTIONS=detect_leaks=0 UBSAN_OPTIONS=halt_on_error=1:print_stacktrace=1
build/sanitize/bin/test_core '~[slow]'
build/sanitize/bin/test_cli '~[slow]'
