#!/bin/sh
# Installs Gradus, or updates it: ./install.sh as root for the whole machine, ./install.sh --folder DIR for one folder of your own.
# An update stops the server, backs the school up, and puts the program in place; when it does not answer well, everything is put back.
set -eu
package=$(cd "$(dirname "$0")" && pwd)
say() { printf '== %s\n' "$*"; }
fail() { printf 'Not installed: %s\n' "$*" >&2; exit 1; }

folder=
case "${1:-}" in
  "") ;;
  --folder) [ $# -eq 2 ] || fail "--folder needs the name of a folder."; mkdir -p "$2"; folder=$(cd "$2" && pwd) ;;
  *) fail "./install.sh, or ./install.sh --folder DIR" ;;
esac

if [ -n "$folder" ]; then
  home=$folder/program data=$folder/data conf=$folder/gradus.conf command=$folder/gradus service=no
else
  [ "$(id -u)" = 0 ] || fail "root is needed for the whole machine: sudo ./install.sh. Without it: ./install.sh --folder DIR"
  [ -d /run/systemd/system ] || fail "this machine is not run by systemd. Take ./install.sh --folder DIR"
  home=/opt/gradus data=/var/lib/gradus conf=/etc/gradus/gradus.conf command=/usr/local/bin/gradus service=yes
fi

# What is in the package is what was packed: a stick may lie.
(cd "$package" && sha256sum --quiet -c SHA256SUMS) || fail "the package is not whole. Copy it again."
version=$(cat "$package/VERSION")
built_for=$(cat "$package/ARCHITECTURE")
case "$(uname -m)" in x86_64) machine=x64 ;; aarch64 | arm64) machine=arm64 ;; *) machine=$(uname -m) ;; esac
[ "$machine" = "$built_for" ] || fail "this package is for $built_for, this machine is $machine."
[ -d /usr/share/zoneinfo ] || fail "the time zones are missing. Install them: apt-get install tzdata"
room=$(df -Pk "$(dirname "$home")" | awk 'NR == 2 { print $4 }')
needs=$(du -sk "$package" | awk '{ print $1 + 51200 }')
[ "$room" -ge "$needs" ] || fail "the program needs $((needs / 1024)) MB in $home, there are $((room / 1024))."
(LC_ALL=C "$package/app/Gradus.Server" version >/dev/null) || fail "the program does not run here. It needs the GNU C library 2.27 or newer, libstdc++6 and OpenSSL: apt-get install libstdc++6 openssl"

old=
[ -L "$home/current" ] && old=$(basename "$(readlink "$home/current")")
[ "$old" != "$version" ] || { say "Gradus $version is installed already."; "$command" start; exec "$command" health --wait 60; }

say "Gradus $version goes to $home"
mkdir -p "$home/releases" "$(dirname "$conf")" "$(dirname "$command")"
rm -rf "$home/releases/$version" "$home/releases/$version.coming"
cp -R "$package/app" "$home/releases/$version.coming"
for one in gradus gradus.conf gradus.service running.md VERSION; do cp "$package/$one" "$home/releases/$version.coming/"; done
mv "$home/releases/$version.coming" "$home/releases/$version"

put() { sed -e "s|@HOME@|$home|" -e "s|@DATA@|$data|" -e "s|@CONF@|$conf|" -e "s|@SERVICE@|$service|" "$1" >"$2.new"; chmod "$3" "$2.new"; mv "$2.new" "$2"; }
[ -f "$conf" ] || put "$package/gradus.conf" "$conf" 600
if [ "$service" = yes ]; then
  id gradus >/dev/null 2>&1 || useradd --system --home-dir "$data" --shell /usr/sbin/nologin gradus
else
  mkdir -p "$data"
  chmod 700 "$data"
fi

# A release brings its own command and service. The name changes in one step, so that there is always a program under it.
use() {
  put "$home/releases/$1/gradus" "$command" 755
  if [ "$service" = yes ]; then
    put "$home/releases/$1/gradus.service" /etc/systemd/system/gradus.service 644
    systemctl daemon-reload
    systemctl enable --quiet gradus
  fi
  ln -sfn "releases/$1" "$home/next"
  mv -T "$home/next" "$home/current"
}

if [ -z "$old" ]; then
  use "$version"
  { "$command" start && "$command" health --wait 120; } || fail "it is in its place, but does not answer. What it says stands in: journalctl -u gradus, or $data/gradus.log"
  say "Gradus $version runs. Set the school up in a browser on this machine: http://127.0.0.1:$(sed -n 's/^GRADUS_PORT=//p' "$conf" | grep . || echo 5080)"
  exit 0
fi

say "From $old: the server stops, and the school is backed up"
"$command" stop
# What it prints begins with the archive's name.
if ! backed=$("$command" backup "$data/backups/updates"); then
  "$command" start
  fail "the school could not be backed up, so nothing was changed; $old runs on."
fi
archive=${backed%%: *}
printf '%s\n' "$backed"

use "$version"
if "$command" start && "$command" health --wait "${GRADUS_UPDATE_WAIT:-300}"; then
  # The one before stays, for a way back by hand; older ones go.
  for one in "$home/releases"/*; do
    case "$(basename "$one")" in "$version" | "$old") ;; *) rm -rf "$one" ;; esac
  done
  # Of the backups that updates made the last three stay.
  count=0
  for one in $(ls -1r "$data/backups/updates"); do
    count=$((count + 1))
    [ "$count" -le 3 ] || rm -f "$data/backups/updates/$one"
  done
  say "Gradus $version runs. Before it: $old, with the school as of then in $archive"
  exit 0
fi

say "$version does not answer well: back to $old"
"$command" stop || true
use "$old"
if ! { "$command" start && "$command" health --wait 60; }; then
  # The new one has brought the database further than the old one can read.
  "$command" stop || true
  "$command" restore "$archive" || fail "$old cannot read the database, and the backup could not be put back. The school as of the update is in $archive; see running.md, Restore."
  "$command" start
  "$command" health --wait 120 || fail "$old does not answer either. The school is safe in $archive; see running.md, When nothing answers."
fi
rm -rf "$home/releases/$version"
fail "$version did not answer well. $old runs as before."
