# Which command was asked for.

main() {
  local command=${1:-help}
  [ $# -eq 0 ] || shift
  case $command in
    start) start "$@" ;;
    stop) stop "$@" ;;
    test) run_tests "$@" ;;
    bench) bench "$@" ;;
    token | password) for_account "$command" "$@" ;;
    documents) documents "$@" ;;
    export | import) archive "$command" "$@" ;;
    traffic) traffic "$@" ;;
    check | recount) roll_ups "$command" "$@" ;;
    help | --help | -h) help ;;
    *) fail "there is no command “$command”. See ./cursus help." ;;
  esac
}
