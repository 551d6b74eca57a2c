#!/bin/sh
# Installs the Debian packages named, where they are missing and it may; else prints the exact line to run.
missing=""
installed() { dpkg-query -W -f='${Status}' "$1" 2>/dev/null | grep -q "ok installed"; }
for package in "$@"; do  # newer releases call some libraries by another name, with t64 behind it
  installed "$package" || installed "${package}t64" || missing="$missing $package"
done
[ -z "$missing" ] && exit 0
if ! command -v apt-get >/dev/null 2>&1; then
  echo "This machine has no apt-get. Wanted, under the names Debian gives them:$missing" >&2
  exit 0
fi
line="apt-get update && apt-get install -y --no-install-recommends$missing"
if [ "$(id -u)" = 0 ]; then as=""; elif command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then as="sudo "; else
  echo "These Debian packages are missing. Run this line, then make again:" >&2
  echo "  sudo sh -c '$line'" >&2
  exit 1
fi
echo "Installing:$missing"
export DEBIAN_FRONTEND=noninteractive
${as}apt-get update -qq
named=""
for package in $missing; do
  if apt-cache show "$package" >/dev/null 2>&1; then named="$named $package"; else named="$named ${package}t64"; fi
done
missing="$named"
${as}apt-get install -y -qq --no-install-recommends $missing >/dev/null || {
  echo "That failed. Run this line by hand, then make again:" >&2
  echo "  $line" >&2
  exit 1
}
