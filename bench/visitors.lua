-- What wrk sends: each request another visitor's, on links that are asked for as unevenly as links are (the k-th most popular 1/k times as often),
-- with the headers that browsers send. BENCH_SLUGS names a file of slugs, one a line.
local heads, tails = {}, {}
local agents = {
  "Mozilla/5.0 (iPhone; CPU iPhone OS 18_6 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.6 Mobile/15E148 Safari/604.1",
  "Mozilla/5.0 (Linux; Android 15; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0.0.0 Mobile Safari/537.36",
  "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0.0.0 Safari/537.36",
  "Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.6 Safari/605.1.15",
  "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
}
local from = { "", "Referer: https://perch.localhost/\r\n", "Referer: https://guildhall.localhost/feed\r\n", "", "Referer: https://hearthside.localhost/\r\n" }
local languages = { "en-GB,en;q=0.9", "de-DE,de;q=0.9,en;q=0.7", "fr", "en-US,en;q=0.8" }
local random = math.random

function init()
  math.randomseed(tonumber(os.getenv("BENCH_SEED") or "1"))
  for slug in io.lines(os.getenv("BENCH_SLUGS")) do
    heads[#heads + 1] = "GET /" .. slug .. " HTTP/1.1\r\nHost: nmoor.localhost\r\nX-Forwarded-For: "
    local n = #heads
    tails[n] = "\r\nUser-Agent: " .. agents[n % 5 + 1] .. "\r\n" .. from[n % 4 + 1]
      .. "Accept: text/html,application/xhtml+xml,application/xml;q=0.9,*/*;q=0.8\r\nAccept-Encoding: gzip, deflate, br\r\nAccept-Language: " .. languages[n % 3 + 1] .. "\r\n\r\n"
  end
end

function request()
  local n = random(#heads)
  return heads[n] .. random(1, 223) .. "." .. random(0, 255) .. "." .. random(0, 255) .. "." .. random(0, 255) .. tails[n]
end

function done(summary, latency)
  local errors = summary.errors
  io.write(string.format('{"requests":%d,"seconds":%.6f,"p50":%.1f,"p99":%.1f,"failed":%d}\n', summary.requests, summary.duration / 1e6,
    latency:percentile(50), latency:percentile(99), errors.connect + errors.read + errors.write + errors.status + errors.timeout))
end
