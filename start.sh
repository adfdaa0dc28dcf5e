#!/usr/bin/env bash
# Installs what is missing, builds and opens the demo.
#   ./start.sh               build and open the demo sheet
#   ./start.sh FILE          build and open a drawing or a project
#   ./start.sh --build       only install and build (binaries in build/release/bin)
#   ./start.sh --shot P.png  build, open the demo and write a picture of the window; further words go to the program
set -euo pipefail
cd "$(dirname "$0")"
source scripts/common.sh

install_packages
build_release
[[ "${1:-}" == "--build" ]] && exit 0
with_display build/release/bin/upper-prism $( [[ $# -eq 0 || "$1" == --* ]] && echo demo/roller-bracket.dxf ) "$@"
