#!/bin/sh
# Tries the set-up as new users meet it: clones this tree, gives R an empty library of its own,
# and calls make in several orders; then once with a library that holds old packages. Run by
# hand, from the package root:
#   sh tools/try-fresh.sh [FOLDER WITH OLD rlang, cli AND testthat]
# It prints a line a step with its seconds and exit status; the last says how many failed.
set -u
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

fresh() { # name of the order
  rm -rf "$work/tree" "$work/library"
  git clone -q "$top" "$work/tree"
  mkdir "$work/library"
  cd "$work/tree" || exit 1
  R_LIBS="$work/library"; R_LIBS_USER="$work/library"; R_LIBS_SITE="$work/none"
  export R_LIBS R_LIBS_USER R_LIBS_SITE
}

fresh
step "empty library: make demo" 480 make demo
step "empty library: make demo again, set-up" 15 make setup
step "then make test" 1500 make test
fresh
step "empty library: make test" 1500 make test
step "then make demo" 60 make demo
fresh
if [ $# -gt 0 ]; then cp -R "$1"/. "$work/library"; else
  # Old packages as Debian has them, where it has them.
  for package in rlang cli testthat pillar tibble vctrs lifecycle glue; do
    [ -d "/usr/lib/R/site-library/$package" ] && cp -R "/usr/lib/R/site-library/$package" "$work/library/"
  done
fi
ls "$work/library"
step "old rlang, cli, testthat: make demo" 480 make demo
step "then make test" 1500 make test
cd "$top" || exit 1
rm -rf "$work"
echo "$failed failed"
exit $failed
