#!/usr/bin/env bash
# Installs what the tests need from Debian, where it is missing: Chromium, its headless shell and ChromeDriver for the
# browser tests, and the reference engine of Liquid, without which templates are checked by another engine alone.
set -euo pipefail
missing=()
[ -x /usr/bin/chromium ] && [ -x /usr/bin/chromedriver ] || missing+=(chromium chromium-driver)
ruby -e 'require "liquid"' 2>/dev/null || missing+=(ruby ruby-liquid)
[ ${#missing[@]} -gt 0 ] || [ ! -x /usr/bin/chromium-headless-shell ] || exit 0
command -v apt-get >/dev/null || {
  [ -x /usr/bin/chromium ] && [ -x /usr/bin/chromedriver ] && exit 0
  echo "The browser tests need /usr/bin/chromium and /usr/bin/chromedriver; there is no apt to install them." >&2
  exit 1
}
as_root() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi; }
export DEBIAN_FRONTEND=noninteractive
as_root apt-get update -qq || [ ${#missing[@]} -eq 0 ]
[ ${#missing[@]} -eq 0 ] || as_root apt-get install -y -qq "${missing[@]}" >/dev/null
# The tests are content with Chromium alone, where this package is not to be had.
[ -x /usr/bin/chromium-headless-shell ] || as_root apt-get install -y -qq chromium-headless-shell >/dev/null ||
  echo "There is no chromium-headless-shell here: the browser tests take a third longer." >&2
