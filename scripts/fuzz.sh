#!/usr/bin/env bash
# Builds the fuzz targets and runs each for the given number of seconds (60 when none is given).
set -euo pipefail
cd "$(dirname "$0")/.."
seconds="${1:-60}"
cmake --preset sanitize >/dev/null
cmake --build --preset sanitize --target fuzz_dxf fuzz_project fuzz_svg
for target in build/sanitize/bin/fuzz_*; do
    work=$(mktemp -d)
    cp demo/*.dxf demo/*.svg tests/data/*.uprism "$work"/ 2>/dev/null || true
    "$target" -max_total_time="$seconds" -rss_limit_mb=3000 -timeout=10 -print_final_stats=1 "$work" 2>&1 | tail -n 8
    rm -rf "$work"
done
