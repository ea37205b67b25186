#!/usr/bin/env bash
# Makes a fresh clone ready: `setup.sh run` to run Dorrik, `setup.sh demo` for the demo, `setup.sh test` for tests and
# checks too.
# Each step leaves a stamp with a digest of what it was made from, so that it is done again only after a change.
set -euo pipefail
cd "$(dirname "$0")/.."
mode=${1:-run}
mkdir -p var
exec 9>var/setup.lock
flock 9

say() { printf 'dorrik: %s\n' "$*" >&2; }
digest() { cat "$@" 2>/dev/null | sha256sum | cut -c1-16; }

# 1. Python and Node, which the machine brings.
python=""
for name in python3.11 python3 python3.12 python3.13; do
  if command -v "$name" >/dev/null && "$name" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
    python=$name
    break
  fi
done
[ -n "$python" ] || { say "Python 3.11 or newer is needed: apt-get install python3"; exit 1; }
command -v npm >/dev/null || { say "Node 20 or newer with npm is needed"; exit 1; }

# 2. Debian packages, only those that are missing.
want=()
PATH=$PATH:/usr/sbin
command -v mariadbd >/dev/null || command -v mysqld >/dev/null || want+=(mariadb-server)
if [ ! -x .venv/bin/python ]; then
  "$python" -c 'import ensurepip' 2>/dev/null || want+=(python3-venv)
fi
# Letters for the world's scripts. Reports are made without them too: what has no letter is printed as its code.
letters=()
[ -e /usr/share/fonts/truetype/noto/NotoSans-Regular.ttf ] || letters+=(fonts-noto-core)
[ -e /usr/share/fonts/opentype/noto/NotoSansCJK-Regular.ttc ] || letters+=(fonts-noto-cjk)
if [ ${#letters[@]} -gt 0 ] && [ "$(id -u)" -eq 0 ]; then
  want+=("${letters[@]}")
elif [ ${#letters[@]} -gt 0 ]; then
  say "letters of other scripts are missing in reports until root does: apt-get install -y ${letters[*]}"
fi
if [ "$mode" = test ]; then
  command -v chromium >/dev/null || want+=(chromium)
  command -v chromium-headless-shell >/dev/null || want+=(chromium-headless-shell)
fi
if [ ${#want[@]} -gt 0 ]; then
  if [ "$(id -u)" -ne 0 ]; then
    say "missing, and only root can install it: apt-get install -y --no-install-recommends ${want[*]}"
    exit 1
  fi
  say "installing ${want[*]}"
  apt-get update -qq
  # The server is started by Dorrik on a folder of its own; Debian's own service is not wanted.
  if [ ! -e /usr/sbin/policy-rc.d ]; then
    printf '#!/bin/sh\nexit 101\n' > /usr/sbin/policy-rc.d
    chmod +x /usr/sbin/policy-rc.d
    trap 'rm -f /usr/sbin/policy-rc.d' EXIT
  fi
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${want[@]}" >var/apt.log 2>&1 || {
    say "apt-get failed; the end of var/apt.log:"
    tail -n 5 var/apt.log >&2
    exit 1
  }
fi

# 3. The virtual environment, from hashed requirements. The machine's own pip brings only the installer, which is pinned and
# has no dependencies: older versions of pip look beyond a lock for what an extra asks for, and what the index serves on a
# later day must not change what is installed. Nothing is built here: every package comes ready made.
[ -x .venv/bin/python ] || { say "making the virtual environment"; "$python" -m venv .venv; }
installer_stamp=.venv/.installer-$(digest requirements-installer.txt)
run_stamp=.venv/.run-$(digest requirements.txt)
demo_stamp=.venv/.demo-$(digest requirements-demo.txt)
dev_stamp=.venv/.dev-$(digest requirements-dev.txt)
install() {
  if [ ! -e "$installer_stamp" ]; then
    .venv/bin/python -m pip install --quiet --disable-pip-version-check --no-deps --require-hashes \
      -r requirements-installer.txt 2> >(grep -v 'is ignored: it is neither' >&2)
    touch "$installer_stamp"
  fi
  # A mirror that pip was told of serves the installer too.
  if [ -n "${PIP_INDEX_URL:-}" ]; then export UV_DEFAULT_INDEX="${UV_DEFAULT_INDEX:-$PIP_INDEX_URL}"; fi
  # Compiled once here: where the environment forbids Python to keep what it compiles, every start would do it again.
  .venv/bin/uv pip install --quiet --no-config --compile-bytecode --python .venv/bin/python --require-hashes \
    --only-binary :all: -r "$1"
}
if [ "$mode" = test ] && [ ! -e "$dev_stamp" ]; then
  say "installing Python packages for running and testing"
  install requirements-dev.txt
  touch "$dev_stamp" "$demo_stamp" "$run_stamp"
elif [ "$mode" = demo ] && [ ! -e "$demo_stamp" ]; then
  say "installing Python packages for the demo"
  install requirements-demo.txt
  touch "$demo_stamp" "$run_stamp"
elif [ ! -e "$run_stamp" ]; then
  say "installing Python packages"
  install requirements.txt
  touch "$run_stamp"
fi

.venv/bin/python -m compileall -q dorrik

# 4. The front end.
npm_stamp=web/node_modules/.dorrik-$(digest web/package-lock.json)
if [ ! -e "$npm_stamp" ]; then
  say "installing front-end packages"
  (cd web && npm ci --silent --no-audit --no-fund)
  touch "$npm_stamp"
fi
build_stamp=web/dist/.dorrik-$( (cd web && find src public index.html vite.config.ts package-lock.json pack.mjs ../dorrik/report/*.typ ../dorrik/report/condition ../dorrik/report/fonts -type f -print0 | sort -z | xargs -0 cat) | sha256sum | cut -c1-16)
if [ ! -e "$build_stamp" ]; then
  say "building the front end"
  (cd web && npm run build --silent)
  touch "$build_stamp"
fi

# 5. The rules as devices take them.
rules_stamp=web/dist-rules/.dorrik-$(find dorrik/core dorrik/report dorrik/pictures dorrik/__init__.py web/rules web/package-lock.json -type f -not -path '*/.*' -not -path '*/__pycache__/*' -print0 | sort -z | xargs -0 cat | sha256sum | cut -c1-16)
if [ ! -e "$rules_stamp" ]; then
  say "packing the rules for devices"
  (cd web && npm run rules --silent)
  touch "$rules_stamp"
fi

# 6. The fonts of reports.
font_stamp=var/fonts/.dorrik-$( (cat scripts/fonts.py web/package-lock.json; ls /usr/share/fonts/*/noto 2>/dev/null) | sha256sum | cut -c1-16)
if [ ! -e "$font_stamp" ]; then
  say "gathering the fonts of reports"
  .venv/bin/python -m scripts.fonts
  touch "$font_stamp"
fi
