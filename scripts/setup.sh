#!/usr/bin/env bash
# Installs what is missing and builds what is generated: packages, engraver, sound bank, command line. Quick when nothing has changed.
set -euo pipefail
cd "$(dirname "$0")/.."
# better-sqlite3 compiles where its ready-made file cannot be fetched; Debian keeps Node's headers under /usr.
if [ -d /usr/include/node ]; then export npm_package_config_node_gyp_nodedir=/usr; fi
stamp="$(sha256sum package-lock.json | cut -d' ' -f1) $(node --version)"
if [ ! -d node_modules ] || [ "$(cat node_modules/.stamp 2>/dev/null)" != "$stamp" ]; then
  echo "Installing packages (about three minutes the first time)…"
  npm ci --no-audit --no-fund
  echo "$stamp" > node_modules/.stamp
fi
npx --no-install tsx scripts/vendor.ts
npx --no-install tsx scripts/bank.ts
