#!/usr/bin/env bash
# Everything from a fresh clone to the running application with the demo data. PORT chooses the port.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh
npx --no-install next build
npx --no-install tsx scripts/seed.ts
port="${PORT:-3000}"
echo "Symphonos is starting at http://127.0.0.1:$port (stop it with Ctrl+C)"
exec npx --no-install next start --hostname 127.0.0.1 --port "$port"
