#!/usr/bin/env bash
# Puts what an installation needs beside a published program: assemble.sh FOLDER VERSION ARCHITECTURE, with the program in FOLDER/app.
set -euo pipefail
folder=$(realpath "$1")
cd "$(dirname "${BASH_SOURCE[0]}")/.."
cp packaging/install.sh packaging/gradus packaging/gradus.conf packaging/gradus.service docs/running.md "$folder/"
printf '%s\n' "$2" >"$folder/VERSION"
printf '%s\n' "$3" >"$folder/ARCHITECTURE"
(cd "$folder" && find . -type f ! -name SHA256SUMS -print0 | sort -z | xargs -0 sha256sum >SHA256SUMS)
