# Documents that are made from the program itself, and held against it by tests.

documents() {
  DATA=.data
  [ "${1:-}" != --data ] || DATA=${2:?--data needs a folder}
  local document
  for document in schema-document:docs/schema.md archive-schema:docs/archive/schema.json; do
    beside_server "${document%%:*}" >artifacts/document && cp artifacts/document "${document#*:}" && say "Written: ${document#*:}"
  done
}
