# Sourced by demo and test: installs what is missing from Debian's packages. Quiet and quick when nothing is.
# Expects the project's root in $root.

prepare_packages() {
  local wanted missing=() state
  wanted=$(cat "$root/.ci/packages" "$@")
  for package in $wanted; do
    state=$(dpkg-query -W -f '${db:Status-Status}' "$package" 2>/dev/null || true)
    [ "$state" = installed ] || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  local as_root=()
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null || { echo "Missing packages: ${missing[*]}. Install them as root, or install sudo." >&2; return 1; }
    as_root=(sudo)
  fi
  echo "Installing from Debian's packages: ${missing[*]}"
  "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get -qq update
  "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get -qq install -y --no-install-recommends "${missing[@]}" >/dev/null
}

# Configures and builds the targets given, or everything. Says nothing unless there is something to say.
build_release() {
  export CCACHE_DIR="${CCACHE_DIR:-$HOME/.cache/ccache}"
  export CCACHE_SLOPPINESS="${CCACHE_SLOPPINESS:-pch_defines,time_macros}"  # headers read once are cached too
  export CCACHE_DEPEND=1  # what is read is told by the compiler itself: nothing is preprocessed twice
  export LC_ALL="${LC_ALL:-C.UTF-8}"
  if [ ! -f "$root/build/release/build.ninja" ]; then
    (cd "$root" && cmake --preset release >"$root/build.log" 2>&1) || { cat "$root/build.log" >&2; rm -f "$root/build.log"; return 1; }
    rm -f "$root/build.log"
  fi
  (cd "$root" && cmake --build --preset release --target "$@")
}
