-- A workspace with so many :links on one short domain, as the database of an installation that has been at work for years.
insert into workspaces (id, name, key, time_zone, is_demo, created_at)
values ('00000000-0000-7000-8000-000000000001', 'Northmoor Observatory', 'northmoor-observatory', 'Europe/London', false, now());
insert into domains (id, workspace_id, name, verified_at, is_default, created_at)
values ('00000000-0000-7000-8000-000000000002', '00000000-0000-7000-8000-000000000001', 'nmoor.localhost', now(), true, now());
insert into links (id, workspace_id, domain_id, slug, slug_key, title, destination, final_url, source, medium, redirect, created_at)
select md5('link' || n)::uuid, '00000000-0000-7000-8000-000000000001', '00000000-0000-7000-8000-000000000002', slug, slug, 'Link number ' || n,
    page, page || '?utm_source=perch&utm_medium=social&utm_campaign=winter-members-2026', 'perch', 'social', 302, now() - n * interval '10 seconds'
from (select n, substr(md5('slug' || n), 1, 12) || '-' || n % 7 as slug, 'https://www.northmoor.example/events/stargazing-night-' || n as page from generate_series(1, :links) as n) as made
on conflict do nothing;
analyze;
