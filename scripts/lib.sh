# Shared by the scripts beside it: installing what is missing, and a private
# PostgreSQL cluster on loopback that never touches the system's own.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
ROOT=$PWD

say()  { printf '%s\n' "$*" >&2; }
stop_with() { say "softpalm: $*"; exit 1; }

# as_root runs a command as root, directly or by sudo.
as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"
  elif command -v sudo >/dev/null 2>&1; then sudo "$@"
  else return 1
  fi
}

# need_debian PACKAGE... installs Debian packages.
APT_FRESH=
need_debian() {
  say "softpalm: installing from Debian: $*"
  command -v apt-get >/dev/null 2>&1 || stop_with "$* is missing and there is no apt-get here. Install it, then run this again."
  if [ -z "$APT_FRESH" ]; then
    as_root apt-get update -q >/dev/null 2>&1 || true
    APT_FRESH=1
  fi
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends "$@" >/dev/null 2>&1 ||
    stop_with "could not install $*. Run this as root or as a user with sudo, with Debian's packages in reach."
}

# need_browser sets SOFTPALM_BROWSER to the Chromium that Playwright drives: the light one that has no
# windows at all, or, where Debian's package of it cannot be had, the whole of Chromium.
need_browser() {
  command -v chromium-headless-shell >/dev/null 2>&1 || (need_debian chromium-headless-shell) ||
    command -v chromium >/dev/null 2>&1 || need_debian chromium
  SOFTPALM_BROWSER=$(command -v chromium-headless-shell || command -v chromium)
  export SOFTPALM_BROWSER
}

need_toolchains() {
  for tool in go node npm; do
    command -v "$tool" >/dev/null 2>&1 || stop_with "$tool is missing. Soft Palm needs Go 1.26, Node 20 or newer and npm."
  done
}

# npm_install FOLDER installs its packages when the lock file has changed.
npm_install() {
  local dir=$1 mark=$1/node_modules/.softpalm-lock
  if [ ! -f "$mark" ] || ! cmp -s "$dir/package-lock.json" "$mark"; then
    say "softpalm: installing npm packages of $dir"
    # npm install, not npm ci: a registry that leaves out other platforms' optional
    # packages makes a lock file that npm ci refuses. Versions are the lock file's.
    (cd "$dir" && npm install --no-save --no-fund --no-audit --loglevel=error >/dev/null) || stop_with "npm could not install the packages of $dir. Is the npm registry in reach?"
    cp "$dir/package-lock.json" "$mark"
  fi
}

# make_words writes the screens' catalogue of words when its source is newer.
make_words() {
  if [ ! -f ui/src/words/catalogue/shared.ts ] || [ -n "$(find words -newer ui/src/words/catalogue/shared.ts -print -quit)" ]; then
    go run ./words/generate screens || stop_with "the words of the screens could not be written."
  fi
}

# build_ui builds the screens when a source is newer than the last build.
build_ui() {
  make_words
  if [ ! -f ui/dist/index.html ] || [ -n "$(find ui/src ui/index.html ui/vite.config.ts ui/preloads.ts ui/package-lock.json -newer ui/dist/index.html -print -quit)" ]; then
    say "softpalm: building the screens"
    (cd ui && npx --no-install vite build --logLevel warn && node ../scripts/compress.mjs dist/assets) >&2 ||
      stop_with "the screens could not be built."
  fi
}

port_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }
free_port() {
  local p=$1
  while ! port_free "$p"; do
    p=$((p + 1))
    [ "$p" -lt $(($1 + 200)) ] || stop_with "no free port between $1 and $p on loopback."
  done
  echo "$p"
}

random() { head -c 24 /dev/urandom | base64 | tr -d '+/=\n'; echo; }

. "$ROOT/scripts/cluster.sh"
