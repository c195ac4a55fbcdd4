#!/usr/bin/env bash
# All tests: lint, types, unit, build, end to end. Ends with one line of counts.
set -uo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh || exit 1
chromium="${CHROMIUM_PATH:-/usr/bin/chromium}"
missing=()
[ -x "$chromium" ] || missing+=(chromium)
command -v xmllint >/dev/null || missing+=(libxml2-utils)
command -v abc2midi >/dev/null || missing+=(abcmidi)
if [ "${#missing[@]}" -gt 0 ]; then
  echo "Installing ${missing[*]} from Debian…"
  run=(); [ "$(id -u)" -eq 0 ] || run=(sudo)
  "${run[@]}" apt-get update -qq && "${run[@]}" apt-get install -y -qq "${missing[@]}" >/dev/null || {
    echo "Please install: ${missing[*]}"
    exit 1
  }
fi
failed=0
step() { echo; echo "== $1"; shift; "$@" || failed=1; }
rm -rf test-results; mkdir -p test-results
# What takes one core each goes side by side; each is told when it is done.
waiting=()
aside() { (echo; echo "== $1"; shift; "$@") > "test-results/aside-${#waiting[@]}.log" 2>&1 & waiting+=("$!"); }
aside "lint" npx --no-install biome check .
aside "nothing unused" npx --no-install knip
aside "notices" npx --no-install tsx scripts/notices.ts --check
aside "types" bash -c "npx --no-install next typegen && npx --no-install tsc --noEmit"
for i in "${!waiting[@]}"; do wait "${waiting[$i]}" || failed=1; cat "test-results/aside-$i.log"; done
step "unit" npx --no-install vitest run --reporter=default --reporter=json --outputFile.json=test-results/unit.json
step "build" npx --no-install next build
step "end to end" npx --no-install playwright test
node scripts/counts.mjs "$failed"
