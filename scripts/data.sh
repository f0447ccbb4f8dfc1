# The data folder: whose it is, and whether there is room in it.

# data_folder DIR: prints its full path; makes it where there is none.
data_folder() {
  local dir=$1
  if [ -e "$dir" ] && [ ! -f "$dir/cursus-data" ] && [ -n "$(ls -A "$dir" 2>/dev/null)" ]; then
    fail "$dir holds something that is not Cursus's. Choose an empty folder with --data."
  fi
  mkdir -p "$dir" 2>/dev/null || fail "the data folder $dir cannot be made. Choose another with --data."
  { echo "Data of Cursus: database cluster and click journal." > "$dir/cursus-data"; } 2>/dev/null \
    || fail "the data folder $dir cannot be written. Check its rights and that the disk is not full."
  local free
  free=$(df -Pk "$dir" | awk 'NR==2 {print $4}')
  [ "$free" -ge 307200 ] || fail "the disk under $dir has only $((free / 1024)) MB left; Cursus needs 300 MB. Free some, or choose another folder with --data."
  (cd "$dir" && pwd)
}

# known_data DIR: prints its full path; fails where Cursus has never started in it.
known_data() {
  [ -f "$1/cursus-data" ] || fail "there is no Cursus data in $1. Start it there first, or name the folder with --data."
  (cd "$1" && pwd)
}
