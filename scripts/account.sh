# API tokens and new passwords from the command line.

# for_account COMMAND --email WHO: what is done for one account.
for_account() {
  local command=$1
  shift
  DATA=.data
  local email= more=()
  while [ $# -gt 0 ]; do
    case $1 in
      --email) email=${2:?--email needs an address}; shift ;;
      --data) DATA=${2:?--data needs a folder}; shift ;;
      --one-step) more=(--one-step yes) ;;
      --port) shift ;;
      *) fail "$command doesn't know “$1”. See ./cursus help." ;;
    esac
    shift
  done
  [ -n "$email" ] || fail "say for whom: ./cursus $command --email somebody@example.org"
  beside_server "$command" --email "$email" "${more[@]}"
}
