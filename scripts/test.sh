#!/usr/bin/env bash
# Installs what the tests need and runs all of them: format, analyzers, lint, stale types, core, server, browser.
# Ends with a line of its own: N passed, N failed, N skipped.
set -uo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1 CI=1
# Programs that live for a minute or two never earn back what it costs to instrument them: a sixth less time for the servers and their tests.
export DOTNET_TieredPGO=0
unset GRADUS_DATA GRADUS_PORT GRADUS_HOST GRADUS_DEMO GRADUS_HTTPS_PORT GRADUS_NAMES GRADUS_CERTIFICATE GRADUS_E2E_SEED

results=$(mktemp -d)
trap 'rm -rf "$results"' EXIT

# Each check that is not a test runner counts as one test.
check() {
  local name=$1
  shift
  printf '\n== %s\n' "$name"
  if "$@"; then echo pass >>"$results/checks"; else
    echo fail >>"$results/checks"
    echo "FAILED: $name"
  fi
}

need() {
  printf '\n== %s\n' "$1"
  shift
  "$@" || {
    echo "Cannot go on: $*"
    echo '0 passed, 1 failed, 0 skipped'
    exit 1
  }
}

# One retry: a registry that drops one connection should not fail the run.
again() { "$@" || { sleep 5 && "$@"; }; }

install_chromium() {
  # certutil tells a browser of the shop's authority.
  local browser=${GRADUS_CHROMIUM:-/usr/bin/chromium-headless-shell}
  [ -x "$browser" ] && command -v certutil >/dev/null && return 0
  local as_root=()
  [ "$(id -u)" = 0 ] || as_root=(sudo)
  again "${as_root[@]}" apt-get update -qq || return 1
  # A release without the shell has the whole browser.
  local install=("${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends)
  again "${install[@]}" chromium-headless-shell libnss3-tools >/dev/null || again "${install[@]}" chromium libnss3-tools >/dev/null
}

unchanged() { cmp "$1" "$2" || { echo "$2 is stale: run ./gradus format and commit what the build makes."; false; }; }

types_are_fresh() {
  (cd web && npx openapi-typescript ../src/Gradus.Server/openapi/v1.json -o "$results/schema.d.ts" >/dev/null) && unchanged "$results/schema.d.ts" web/src/lib/api/schema.d.ts
}

# Packages come over the network while the server is built; both are waited for before anything is run.
packages() {
  again npm --prefix web ci --no-audit --no-fund --loglevel=error &&
    again npm --prefix tests/e2e ci --no-audit --no-fund --loglevel=error &&
    install_chromium
}
packages >"$results/packages.txt" 2>&1 &
fetching=$!

# The interface is checked while the server is built, and built beside the server's tests: each waits for the other most of the time.
{
  while kill -0 "$fetching" 2>/dev/null; do sleep 1; done
  check 'Interface types' npm --prefix web run --silent check
  check 'Interface format' npm --prefix web run --silent format:check
  check 'Interface lint' npm --prefix web run --silent lint
  printf '\n== Interface unit tests\n'
  (cd web && npx vitest run --reporter=default --reporter=json --outputFile="$results/vitest.json") || true
  while [ ! -f "$results/compiled" ]; do sleep 1; done
  npm --prefix web run --silent build && touch "$results/built"
  touch "$results/tried"
  check 'Build the interface' [ -f "$results/built" ]
  # The browser tests' school is made meanwhile; where that fails they make their own.
  mkdir -p "$results/seed" && node tests/e2e/seed.mjs "$results/seed" && rm -f "$results/seed/gradus.lock" && touch "$results/seeded"
  check 'C# format' dotnet csharpier check .
  check 'OpenAPI document is fresh' unchanged "$results/openapi.json" src/Gradus.Server/openapi/v1.json
  check 'TypeScript types are fresh' types_are_fresh
} >"$results/interface.txt" 2>&1 &
interface=$!
trap 'kill "$interface" 2>/dev/null; rm -rf "$results"' EXIT

cp src/Gradus.Server/openapi/v1.json "$results/openapi.json"
need 'Tools' again dotnet tool restore
need 'Restore, as locked' again dotnet restore Gradus.slnx --locked-mode -v quiet
need 'Build (warnings and analyzers are errors; emits the OpenAPI document)' dotnet build Gradus.slnx -c Release --no-restore -v quiet
fetched() { wait "$fetching" || { cat "$results/packages.txt"; false; }; }
need "The packages of the interface and the browser tests, and Chromium" fetched
touch "$results/compiled"

suite() {
  printf '\n== %s tests\n' "$1"
  dotnet "tests/Gradus.$1.Tests/bin/Release/net10.0/Gradus.$1.Tests.dll" -noLogo -ctrf "$results/$1.ctrf.json" || true
}
suite Core
# The server's tests ask for the interface as it is built.
while [ ! -f "$results/tried" ]; do sleep 1; done
suite Server

wait "$interface"
cat "$results/interface.txt"

printf '\n== Browser tests\n'
if [ -f "$results/seeded" ]; then export GRADUS_E2E_SEED=$results/seed; fi
# Servers that live for a minute or two do not win back what it costs to compile their methods a second time: a sixth less time of theirs.
(cd tests/e2e && DOTNET_TC_CallCounting=0 GRADUS_E2E_REPORT="$results/e2e.json" npx playwright test) || true

node scripts/count.mjs "$results"
