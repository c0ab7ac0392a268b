# What the commands in bin/ share: Node.js, packages, the build. Sourced, not run.
# Every failure says what to do and ends the script.

set -u
root="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
export NEXT_TELEMETRY_DISABLED=1
unset OMAGGIO_OWN_DATABASE OMAGGIO_DATA_FOLDER

say() { printf '%s\n' "$*"; }
die() { printf 'omaggio: %s\n' "$1" >&2; shift; for line in "$@"; do printf '         %s\n' "$line" >&2; done; exit 1; }

# may_write FOLDER: makes it; one line where that cannot be.
may_write() {
  { mkdir -p "$1" && : >"$1/.probe" && rm -f "$1/.probe"; } 2>/dev/null ||
    die "$root cannot be written to." "Copy the project to a folder of yours, and make sure that the disk is not full."
}

need_node() {
  command -v node >/dev/null 2>&1 || die "Node.js is missing." "Install Node.js 20.9 or newer, then run this again."
  node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=9)?0:1)' ||
    die "Node.js $(node --version) is too old." "Install Node.js 20.9 or newer."
}

# need_debian PACKAGE TEST-COMMAND...: installs the package when the test fails and we may.
need_debian() {
  local package="$1"; shift
  "$@" >/dev/null 2>&1 && return 0
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
    say "installing $package ..."
    { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$package"; } >"$work/apt.log" 2>&1 ||
      die "$package could not be installed." "The log is in $work/apt.log."
    "$@" >/dev/null 2>&1 && return 0
    die "$package is installed, but what it should bring is not there." "Check the log in $work/apt.log."
  fi
  die "the Debian package $package is missing." "An administrator must run: apt-get install $package"
}

has_postgres() { ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 && ls /usr/lib/postgresql/*/bin/postgres >/dev/null 2>&1; }
need_postgres() { need_debian postgresql has_postgres; }

# alone NAME COMMAND...: two starts at the same time do it one after the other.
alone() {
  local name="$1"; shift
  (
    flock -n 8 || { say "waiting for another start to finish its $name ..."; flock 8; }
    "$@"
  ) 8>"$root/.omaggio/$name.lock" || exit 1
}

need_packages() { alone packages install_packages; }
install_packages() {
  local stamp wanted
  stamp="$root/node_modules/.omaggio-lock"
  wanted="$(cd "$root" && cat package-lock.json | sha256sum | cut -d' ' -f1)"
  [ "$(cat "$stamp" 2>/dev/null)" = "$wanted" ] && return 0
  say "installing the Node.js packages (a minute or two) ..."
  (cd "$root" && npm ci --no-audit --no-fund) >"$work/npm.log" 2>&1 8>&- ||
    die "npm ci failed: $(grep -m1 'npm error' "$work/npm.log")" "The log is in $work/npm.log. Check the network and the registry, then run this again."
  printf '%s' "$wanted" >"$stamp"
}

need_build() { alone build make_build; }
make_build() {
  local stamp="$root/.next/omaggio-build" now
  now="$(cd "$root" && find app ui core server workers headless tools types public instrumentation.ts next.config.ts postcss.config.mjs tsconfig.json package-lock.json -type f ! -name '*.test.ts' 2>/dev/null | LC_ALL=C sort | xargs cat | sha256sum | cut -d' ' -f1)"
  [ "$(cat "$stamp" 2>/dev/null)" = "$now" ] && [ -f "$root/.next/BUILD_ID" ] && [ -f "$root/.next/workers/tasks.mjs" ] && [ -f "$root/.next/tools/start.mjs" ] && [ -f "$root/.next/tools/work.mjs" ] && return 0
  say "building (about a minute) ..."
  (cd "$root" && npx next build && node tools/build.mjs) >"$work/build.log" 2>&1 8>&- ||
    die "the build failed." "$(tail -n 15 "$work/build.log")" "The log is in $work/build.log."
  printf '%s' "$now" >"$stamp"
}
