#!/bin/sh
# Tries the set-up as new users meet it, on a machine without any of the packages. Run by hand, as
# root on Debian, from the package root:
#   sh tools/try-fresh.sh            built packages of Debian: demo first, then the tests; the reverse
#   sh tools/try-fresh.sh current    everything from CRAN, as new as it is there, then all tests
# Each order runs in a copy of this machine that is thrown away: a file system laid over it, with
# Debian's packages of R removed but for those that come with R. Prints a line a step with its
# seconds and exit status; the last says how many failed.
set -u
[ "$(id -u)" = 0 ] || { echo "This needs root."; exit 2; }
if [ -z "${NELVAT_FRESH:-}" ]; then NELVAT_FRESH=1 exec unshare -m sh "$0" "$@"; fi
top=$(pwd)
work=$(mktemp -d)
failed=0
mount -t tmpfs tmpfs "$work" || exit 1

# A machine of its own: the packages gone, a clone of this tree in /srv/tree.
fresh() {
  over="$work/$1"
  mkdir -p "$over/upper" "$over/inner" "$over/whole"
  mount -t overlay overlay -o "lowerdir=/,upperdir=$over/upper,workdir=$over/inner" "$over/whole" || exit 1
  for folder in proc dev sys; do mount --rbind "/$folder" "$over/whole/$folder"; done
  mkdir -p "$over/whole/tmp" "$over/whole/srv"
  git clone -q "$top" "$over/whole/srv/tree"
  chroot "$over/whole" sh -c '
    kept=$(apt-cache depends r-recommended | sed -n "s/.*Depends: //p" | tr "\n" " ")
    gone=$(dpkg-query -W -f "\${Package}\n" "r-cran-*" | grep -vxF "$(echo $kept | tr " " "\n")")
    DEBIAN_FRONTEND=noninteractive apt-get -qq purge -y $gone
    rm -rf /usr/local/lib/R/site-library/*' >/dev/null 2>&1
}

step() { # name, seconds allowed, command in the clone
  name=$1; allowed=$2; command=$3
  start=$(date +%s)
  chroot "$over/whole" sh -c "cd /srv/tree && unset R_LIBS R_LIBS_USER; $command" >"$work/log" 2>&1; status=$?
  took=$(($(date +%s) - start))
  verdict=ok
  if [ $status -ne 0 ] || [ $took -gt "$allowed" ]; then
    verdict=FAILED; failed=$((failed + 1)); tail -20 "$work/log"
  fi
  printf '%-44s %5d s  status %d  %s  %s\n' "$name" $took $status $verdict "$(tail -1 "$work/log" | grep passed)"
}

if [ "${1:-}" = current ]; then
  fresh current
  from_cran="NELVAT_FROM_CRAN=1"
  step "from CRAN: make demo" 900 "$from_cran make demo"
  step "then make test" 1500 "$from_cran ALL=1 make test"
else
  fresh demo
  step "nothing there: make demo" 120 "make demo"
  step "make demo again" 60 "make demo"
  step "then make test" 700 "make test"
  umount -R "$over/whole"
  fresh test
  # Once all tests ran, a few of them show that the set-up is whole.
  step "nothing there: make test" 300 "FILES=util make test"
  step "then make demo" 60 "make demo"
fi
umount -R "$over/whole"; umount "$work"
echo "$failed failed"
exit $failed
