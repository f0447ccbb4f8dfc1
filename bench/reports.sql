-- A workspace that has been at work for 400 days: :links links of posts on nine channels and twelve campaigns, and :clicks clicks on them. The few links that are asked for most have most of the
-- clicks; half of a link's clicks come in its first days, as after a post. Agents and referrers are told at the next start, which also adds the days up.
select setseed(0.42);
set work_mem = '1GB';
insert into workspaces (id, name, key, time_zone, is_demo, created_at)
values ('00000000-0000-7000-8000-000000000001', 'Northmoor Observatory', 'northmoor-observatory', 'Europe/London', false, now());
insert into domains (id, workspace_id, name, verified_at, is_default, created_at)
values ('00000000-0000-7000-8000-000000000002', '00000000-0000-7000-8000-000000000001', 'nmoor.localhost', now(), true, now());
insert into accounts (id, name, user_name, normalized_user_name, email, normalized_email, email_confirmed, security_stamp, phone_number_confirmed, two_factor_enabled, lockout_enabled, access_failed_count)
values ('00000000-0000-7000-8000-000000000003', 'Maren Holloway', 'maren@northmoor.example', 'MAREN@NORTHMOOR.EXAMPLE', 'maren@northmoor.example', 'MAREN@NORTHMOOR.EXAMPLE', true, 'x', false, false, true, 0);
insert into members (id, workspace_id, account_id, role, created_at)
values ('00000000-0000-7000-8000-000000000004', '00000000-0000-7000-8000-000000000001', '00000000-0000-7000-8000-000000000003', 0, now());
insert into channels (id, workspace_id, key, name, source, medium, signet, color, position)
select md5('channel' || i)::uuid, '00000000-0000-7000-8000-000000000001', lower(name), name, lower(name), case when i = 6 then 'email' else 'social' end, left(name, 2), i, i
from unnest(array['Perch', 'Guildhall', 'Hearthside', 'Aperta', 'Longreel', 'Letter', 'Text', 'Poster', 'Partner']) with ordinality as c (name, i);
insert into campaigns (id, workspace_id, key, name)
select md5('campaign' || i)::uuid, '00000000-0000-7000-8000-000000000001', 'campaign-' || i, 'Campaign ' || i from generate_series(1, 12) as i;
insert into posts (id, workspace_id, title, destination, campaign_id, published_on, created_at)
select md5('post' || i)::uuid, '00000000-0000-7000-8000-000000000001', 'Post ' || i, 'https://www.northmoor.example/p/' || i, md5('campaign' || i % 12 + 1)::uuid,
    (now() - (400.0 * i / (:links / 9)) * interval '1 day')::date, now() - (400.0 * i / (:links / 9)) * interval '1 day'
from generate_series(0, :links / 9) as i;
insert into links (id, workspace_id, domain_id, slug, slug_key, title, destination, final_url, source, medium, content, campaign_id, channel_id, redirect, created_at)
select md5('link' || n)::uuid, p.workspace_id, '00000000-0000-7000-8000-000000000002', 's' || n, 's' || n, p.title, p.destination, p.destination, ch.source, ch.medium,
    case n % 5 when 0 then 'logo' when 1 then 'button' end, p.campaign_id, ch.id, 302, p.created_at
from generate_series(0, :links - 1) as n join posts p on p.id = md5('post' || n / 9)::uuid join channels ch on ch.id = md5('channel' || n % 9 + 1)::uuid;
insert into placements (id, post_id, link_id, position)
select md5('placement' || n)::uuid, md5('post' || n / 9)::uuid, md5('link' || n)::uuid, n % 9 from generate_series(0, :links - 1) as n;
insert into user_agents (id, text, hints, kind, device, browser, os, read_with) overriding system value
select i, case i % 5
    when 0 then 'Mozilla/5.0 (iPhone; CPU iPhone OS 1' || i % 9 || '_6 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/1' || i % 9 || '.' || i || ' Mobile/15E148 Safari/604.1'
    when 1 then 'Mozilla/5.0 (Linux; Android 1' || i % 6 || '; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/' || 100 + i || '.0.0.0 Mobile Safari/537.36'
    when 2 then 'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/' || 100 + i || '.0.0.0 Safari/537.36'
    when 3 then 'Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/1' || i % 9 || '.' || i || ' Safari/605.1.15'
    else 'Mozilla/5.0 (X11; Linux x86_64; rv:' || 100 + i || '.0) Gecko/20100101 Firefox/' || 100 + i || '.0' end, 0, 0, '', '', '', ''
from generate_series(1, 60) as i;
insert into referrers (host, network, kind, read_with)
select host, '', 0, '' from unnest(array['', 'perch.localhost', 'guildhall.localhost', 'hearthside.localhost', 'l.hearthside.localhost', 'aperta.localhost', 'longreel.localhost', 'mail.northmoor.example',
    'www.northmoor.example', 'skycalendar.localhost', 'lensworks.localhost', 'search.example', 'chat.example']) as host;
insert into journals (key, shipped_to) values ('00000000-0000-7000-8000-000000000009', 1);
select ensure_clicks_partition(date_trunc('month', now() at time zone 'UTC' - m * interval '1 month') at time zone 'UTC') from generate_series(0, 14) as m;
insert into clicks (id, at, link_id, visitor, kind, country, language, referrer_host, user_agent_id)
select id, at, md5('link' || n)::uuid, hashtextextended(id::text, 1), (array[0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 2, 3])[1 + floor(random() * 15)::int],
    (array['GB', 'GB', 'GB', 'GB', 'GB', 'DE', 'IE', 'US', 'FR', 'NL', 'ES', 'PL', 'CA', 'AU', ''])[1 + floor(random() * 15)::int],
    (array['en', 'en', 'en', 'en', 'de', 'fr', 'nl', 'es', 'pl'])[1 + floor(random() * 9)::int],
    (array['', '', '', '', 'perch.localhost', 'guildhall.localhost', 'hearthside.localhost', 'l.hearthside.localhost', 'aperta.localhost', 'longreel.localhost', 'mail.northmoor.example',
        'www.northmoor.example', 'skycalendar.localhost', 'lensworks.localhost', 'search.example', 'chat.example'])[1 + floor(random() * 16)::int],
    1 + floor(random() * random() * 60)::int
from (
    select id, n, least(now() - interval '1 minute', now() - 400.0 * (n / 9) / (:links / 9) * interval '1 day' - ln(1 - random()) * (case n % 9 when 7 then 60 when 4 then 8 else 3 end) * interval '1 day') as at
    from (select id, floor(:links * random() * random())::int * 7919 % :links as n from generate_series(1, :clicks) as id) as drawn
) as made
order by at;
vacuum analyze;
