#!/usr/bin/env bash
# The repository's own rules: formatting, and which parts of the source may include what.
set -euo pipefail
cd "$(dirname "$0")/.."

fail=0
say() { echo "check-sources: $*" >&2; fail=1; }

mapfile -t files < <(git ls-files -co --exclude-standard 'src/*.h' 'src/*.cpp' 'tests/*.h' 'tests/*.cpp' 'bench/*.cpp' 'fuzz/*.cpp')
clang-format --dry-run --Werror "${files[@]}" || say "run scripts/format.sh"

grep -rnE '#include [<"](Q[A-Z]|q[a-z]+\.h)' src/core src/cli && say "the core and the batch door know no window toolkit"
grep -rnE '#include "(app|cli)/' src/core && say "the core includes nothing of the window or the batch door"
grep -rnE 'Qt6::' src/core src/cli && say "the core links no window toolkit"
grep -rnE '\b(TO''DO|FIX''ME|XX''X)\b' src tests bench fuzz && say "left-over marker"
scripts/check-includes.py || say "a stage includes what it may not"
exit $fail
