# Building the pages and the binary. Sourced by start, test and shots.
# shellcheck shell=bash

need_tools() {
  command -v cargo >/dev/null || fail "cargo was not found. Install Rust 1.94 or newer."
  command -v npm >/dev/null || fail "npm was not found. Install Node.js 20.19 or newer."
}

# Installs the npm packages where package-lock.json changed since.
node_packages() {
  local mark=node_modules/.installed
  if [ ! -f "$mark" ] || ! cmp -s package-lock.json "$mark"; then
    echo "Installing npm packages"
    local log
    log=$(mktemp)
    npm ci --ignore-scripts --no-audit --no-fund >"$log" 2>&1 || fail "The npm packages could not be installed: $(grep -m1 'npm error' "$log" || tail -n1 "$log")"
    cp package-lock.json "$mark"
  fi
}

# Builds the pages where a source is newer than what was built.
build_web() {
  node_packages
  local built=web/dist/.built
  if [ -f "$built" ] && [ -z "$(find web/app web/chat web/embed web/kit web/api package-lock.json -newer "$built" -type f | head -n1)" ]; then return 0; fi
  echo "Building the pages"
  local log
  log=$(mktemp)
  npm run --silent build -w web >"$log" 2>&1 || { cat "$log" >&2; fail "The pages could not be built."; }
  touch "$built"
}

# Builds the binary, and the stand-ins for outside services. Queries were checked against a database before they were committed (scripts/check-queries).
build_binary() {
  [ -x target/debug/lumbo ] || echo "Building the server; the first time takes some minutes"
  SQLX_OFFLINE=true cargo build --quiet -p lumbo -p lumbo-standins || fail "The server could not be built."
}
