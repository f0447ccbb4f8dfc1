# A whole workspace as one file, out and in.

# archive export|import FILE [--email WHO] [--data DIR]
archive() {
  local command=$1 file= email=()
  shift
  DATA=.data
  while [ $# -gt 0 ]; do
    case $1 in
      --email) email=(--email "${2:?--email needs an address}"); shift ;;
      --data) DATA=${2:?--data needs a folder}; shift ;;
      --port) shift ;;
      -*) fail "$command doesn't know “$1”. See ./cursus help." ;;
      *) file=$1 ;;
    esac
    shift
  done
  [ -n "$file" ] || fail "say which file: ./cursus $command northmoor.zip"
  beside_server "$command" --file "$(realpath -m "$file")" "${email[@]}"
}
