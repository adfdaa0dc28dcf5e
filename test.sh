#!/usr/bin/env bash
# Installs what is missing, builds everything and runs all tests. Words given go to ctest, as in: ./test.sh -R solving
set -euo pipefail
cd "$(dirname "$0")"
source scripts/common.sh

install_packages
scripts/check-sources.sh
build_release
with_display ctest --preset release -j 2 "$@"
