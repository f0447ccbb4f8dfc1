curl --fail-with-body --silent "$CURSUS/api/v1/posts" \
  --header "Authorization: Bearer $CURSUS_TOKEN" \
  --header "Content-Type: application/json" \
  --header "Idempotency-Key: $(date +%s%N)" \
  --data '{
    "title": "Geminids night",
    "destination": "https://www.northmoor.example/geminids",
    "campaign": "winter-members",
    "placements": [{ "channel": "perch" }, { "channel": "guildhall" }]
  }'
