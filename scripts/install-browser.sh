#!/usr/bin/env bash
# Installs Debian's Chromium and ChromeDriver for the browser tests, where they are missing.
set -euo pipefail
if [ -x /usr/bin/chromium ] && [ -x /usr/bin/chromedriver ]; then exit 0; fi
command -v apt-get >/dev/null || {
  echo "The browser tests need /usr/bin/chromium and /usr/bin/chromedriver; there is no apt to install them." >&2
  exit 1
}
as_root() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi; }
export DEBIAN_FRONTEND=noninteractive
as_root apt-get update -qq
as_root apt-get install -y -qq chromium chromium-driver >/dev/null
