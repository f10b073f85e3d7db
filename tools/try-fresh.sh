#!/bin/sh
# Tries the set-up as new users meet it: clones this tree, gives R an empty library of its own,
# and calls make in several orders; then once with a library that holds old packages. Run by
# hand, from the package root:
#   sh tools/try-fresh.sh [FOLDER WITH OLD rlang, cli AND testthat]
# It prints a line a step with its seconds and exit status; the last says how many failed.
set -u
# Libraries of the whole machine stand in the way of an empty one: as root, they are hidden in
# a mount namespace of this script's own.
if [ "$(id -u)" = 0 ] && [ -z "${NELVAT_FRESH:-}" ] && unshare -m true 2>/dev/null; then
  NELVAT_FRESH=hidden exec unshare -m sh "$0" "$@"
fi
top=$(pwd)
work=$(mktemp -d)
failed=0

step() { # name, seconds allowed, command
  name=$1; allowed=$2; shift 2
  start=$(date +%s)
  "$@" >"$work/log" 2>&1; status=$?
  took=$(($(date +%s) - start))
  verdict=ok
  if [ $status -ne 0 ] || [ $took -gt "$allowed" ]; then verdict=FAILED; failed=$((failed + 1)); tail -20 "$work/log"; fi
  printf '%-44s %5d s  status %d  %s\n' "$name" $took $status $verdict
}

old=${1:-}
if [ -z "$old" ]; then
  # Old packages as Debian has them, where it has them; kept before they are hidden.
  old="$work/old"
  mkdir "$old"
  for package in rlang cli testthat pillar tibble vctrs lifecycle glue; do
    [ -d "/usr/lib/R/site-library/$package" ] && cp -R "/usr/lib/R/site-library/$package" "$old/"
  done
fi
if [ "${NELVAT_FRESH:-}" = hidden ]; then
  mkdir "$work/none"
  for library in /usr/local/lib/R/site-library /usr/lib/R/site-library; do
    [ -d "$library" ] && mount --bind "$work/none" "$library"
  done
fi

fresh() {
  cd "$top" || exit 1
  rm -rf "$work/tree" "$work/library"
  git clone -q "$top" "$work/tree"
  mkdir "$work/library"
  cd "$work/tree" || exit 1
  R_LIBS="$work/library"; R_LIBS_USER="$work/library"
  export R_LIBS R_LIBS_USER
}

fresh
step "empty library: make demo" 480 make demo
step "empty library: make demo again, set-up" 15 make setup
step "then make test" 1500 make test
fresh
# Once all tests ran, a few of them show that the set-up is whole.
NELVAT_TESTS="util-|save|data-read"
export NELVAT_TESTS
step "empty library: make test" 1500 make test
step "then make demo" 60 make demo
fresh
cp -R "$old"/. "$work/library"
ls "$work/library"
step "old rlang, cli, testthat: make demo" 480 make demo
step "then make test" 1500 make test
cd "$top" || exit 1
rm -rf "$work"
echo "$failed failed"
exit $failed
