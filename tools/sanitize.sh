#!/bin/sh
# Compiles the kernels with checks of addresses and undefined behaviour, and runs the tests that call them and the
# random figures with those checks on: tools/sanitize.sh [N = 300]. Fails where anything is found.
set -eu
cd "$(dirname "$0")/.."
place=.make/sanitize
rm -rf "$place"
mkdir -p "$place/library"
flags="-O1 -g -fno-omit-frame-pointer -fsanitize=address,undefined -fno-sanitize=vptr"
printf 'CXXFLAGS = %s\nCXX11FLAGS = %s\nCXX14FLAGS = %s\nCXX17FLAGS = %s\nLDFLAGS = -fsanitize=address,undefined\n' \
  "$flags" "$flags" "$flags" "$flags" > "$place/Makevars"
git archive --format=tar --prefix=source/ HEAD | tar -x -C "$place"
runtime="$(gcc -print-file-name=libasan.so)"
export R_MAKEVARS_USER="$PWD/$place/Makevars"
# R itself leaks on purpose; a fault of ours ends the process.
export ASAN_OPTIONS="detect_leaks=0:halt_on_error=1:alloc_dealloc_mismatch=0" UBSAN_OPTIONS="print_stacktrace=1:halt_on_error=1"
R CMD INSTALL --no-docs --no-test-load --library="$place/library" "$place/source" > "$place/install.log" 2>&1 ||
  { tail "$place/install.log"; exit 1; }
LD_PRELOAD="$runtime" N="${1:-300}" R_LIBS="$PWD/$place/library" Rscript tools/sanitized-run.R
