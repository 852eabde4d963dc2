#!/usr/bin/env bash
# Makes one archive that runs on a machine with nothing installed: package.sh [x64|arm64]...; both by default.
# What it takes is built already: the interface in src/Gradus.Server/wwwroot.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
out=build/package
number=$(sed -n 's|.*<Version>\(.*\)</Version>.*|\1|p' Directory.Build.props)
# Two packages of one number differ in what they were made from.
commit=$(git rev-parse --short=9 HEAD 2>/dev/null || echo unknown)
version=$number-$commit
git diff --quiet HEAD -- 2>/dev/null || version=$version-changed

# What the machine would say of the service, said here already.
if command -v systemd-analyze >/dev/null; then
  checked=$(mktemp -d)
  trap 'rm -rf "$checked"' EXIT
  unit=$checked/gradus.service
  sed 's|^ExecStart=.*|ExecStart=/bin/true|' packaging/gradus.service >"$unit"
  systemd-analyze verify --man=no "$unit"
fi

[ $# -gt 0 ] || set -- x64 arm64
for architecture in "$@"; do
  case $architecture in x64 | arm64) ;; *) echo "x64 or arm64, not $architecture" >&2; exit 2 ;; esac
  name=gradus-$version-linux-$architecture
  rm -rf "${out:?}/$name"
  mkdir -p "$out/$name"
  # What is compiled ahead into one image does not run without it: it is not mixed with what ./gradus demo compiles.
  rm -rf "src/Gradus.Server/obj/Release/net10.0/linux-$architecture/R2R"
  dotnet publish src/Gradus.Server -c Release -r "linux-$architecture" --self-contained true -p:PublishReadyToRun=true \
    -p:PublishReadyToRunComposite=true \
    -p:OpenApiGenerateDocuments=false -p:DebugType=none -p:InformationalVersion="$version" -p:GenerateDocumentationFile=false -o "$out/$name/app" -v quiet --nologo
  rm -rf "src/Gradus.Server/obj/Release/net10.0/linux-$architecture/R2R"
  scripts/assemble.sh "$out/$name" "$version" "$architecture"
  tar -C "$out" --owner=0 --group=0 --sort=name -czf "$out/$name.tar.gz" "$name"
  (cd "$out" && sha256sum "$name.tar.gz" >"$name.tar.gz.sha256")
  rm -rf "${out:?}/$name"
  printf '%s: %s\n' "$out/$name.tar.gz" "$(du -h "$out/$name.tar.gz" | cut -f1)"
done
