curl --fail-with-body --silent --get "$CURSUS/api/v1/reports/breakdown" \
  --header "Authorization: Bearer $CURSUS_TOKEN" \
  --data by=channel \
  --data period=last-28
