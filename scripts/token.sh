# API tokens from the command line.

token() {
  DATA=.data
  local email=
  while [ $# -gt 0 ]; do
    case $1 in
      --email) email=${2:?--email needs an address}; shift ;;
      --data) DATA=${2:?--data needs a folder}; shift ;;
      --port) shift ;;
      *) fail "token doesn't know “$1”. See ./cursus help." ;;
    esac
    shift
  done
  [ -n "$email" ] || fail "say for whom: ./cursus token --email somebody@example.org"
  beside_server token --email "$email"
}
