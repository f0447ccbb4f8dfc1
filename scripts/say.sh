# What is printed, and how the script gives up.

say() { printf '  %s\n' "$*"; }

# fail WHAT-HAPPENED-AND-WHAT-TO-DO: one line, non-zero exit.
fail() {
  printf 'cursus: %s\n' "$*" >&2
  exit 1
}

help() {
  cat <<'TEXT'
Cursus: short links for each channel of a post, and which of them brought the people.

  ./cursus start [options]     prepare everything and run Cursus
      --port N                 port of the application and the short domains (5080)
      --data DIR               folder of database and click journal (.data)
      --empty                  no demo data; the first page makes the first owner
      --no-standins            without the simulated sites and networks (they take port N+1)
      --background             return when ready; ./cursus stop ends it
  ./cursus stop [--data DIR]   end what --background started
  ./cursus test [LAYER]        run all tests, or one of: core web front browser crash checks
  ./cursus bench NAME [--json]  measure: abuse, agents, crash, edge, find, first, handoff, journal, machines (writes docs/machines.md), many, reports, send, soak, verdict (writes docs/verdicts.md), or performance for all of docs/performance.md
  ./cursus traffic [options]   send visitors over the links of a running Cursus
      --rate N                 visits a second (5)
      --for SECONDS            how long (60)
  ./cursus check [--data DIR]  hold the roll-ups of clicks against the clicks themselves
  ./cursus recount [--data DIR]
                               make the roll-ups anew from the clicks
  ./cursus export FILE [--email WHO] [--data DIR]
                               write the whole workspace into an archive
  ./cursus import FILE [--email WHO] [--data DIR]
                               read an archive into a workspace without links; WHO is an owner of it
  ./cursus token --email WHO [--data DIR]
                               print an API token for a member
  ./cursus password --email WHO [--one-step] [--data DIR]
                               set a new password for an account and print it; ends its sign-ins,
                               and with --one-step its two-step sign-in
  ./cursus documents [--data DIR]
                               write docs/schema.md and docs/archive/schema.json anew, from a running Cursus
  ./cursus help                this text
TEXT
}
