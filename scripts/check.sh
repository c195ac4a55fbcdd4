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
  "${run[@]}" apt-get update -qq && "${run[@]}" apt-get install -y -qq "${missing[@]}" >/dev/null || { echo "Please install: ${missing[*]}"; exit 1; }
fi
failed=0
step() { echo; echo "== $1"; shift; "$@" || failed=1; }
step "lint" npx --no-install biome check .
step "nothing unused" npx --no-install knip
step "notices" npx --no-install tsx scripts/notices.ts --check
step "types" bash -c "npx --no-install next typegen && npx --no-install tsc --noEmit"
rm -rf test-results; mkdir -p test-results
step "unit" npx --no-install vitest run --reporter=default --reporter=json --outputFile.json=test-results/unit.json
step "build" npx --no-install next build
step "end to end" npx --no-install playwright test
node scripts/counts.mjs "$failed"
