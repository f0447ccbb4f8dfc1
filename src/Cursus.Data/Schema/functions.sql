-- All functions but is_dead, which an index needs before (tables.sql). Applied as a whole whenever this file changes.

-- Text as it is searched: in lower case, without accents, words with one space between them.
create or replace function plain_words(text) returns text language sql immutable parallel safe as $$
    select trim(regexp_replace(regexp_replace(normalize(lower(coalesce($1, '')), NFKD), '[\u0300-\u036f]', '', 'g'), '[^[:alnum:]]+', ' ', 'g'))
$$;

-- Has the pages behind links checked at once, all links of a workspace with the same destination in one.
create or replace function write_checked_pages(links uuid[]) returns void language sql as $$
    insert into checked_pages as p (id, workspace_id, key, address, verdict, needs_care, trouble, tries, is_permanent, ends_at_front_page, words, loud_words, next_check_at)
    select gen_random_uuid(), workspace_id, page_key, address, 0, false, 0, 0, false, false, '{}', '{}', now()
    from (
        select distinct on (workspace_id, page_key) workspace_id, page_key, split_part(destination, '#', 1) as address
        from (
            select workspace_id, page_key, destination, deleted_at, ends_at from links where id = any($1)
            union all
            select l.workspace_id, p.page_key, p.destination, l.deleted_at, l.ends_at from routed_pages p join links l on l.id = p.link_id where l.id = any($1) and p.is_used
        ) pages
        where deleted_at is null and (ends_at is null or ends_at > now()) order by workspace_id, page_key
    ) led
    -- A page that was asked a moment ago is not asked for each further link.
    on conflict (workspace_id, key) do update set next_check_at = now() where p.checked_at < now() - interval '10 minutes'
$$;

-- Writes by what words links are found: names first, then kinds, then the rest.
create or replace function write_link_texts(links uuid[]) returns void language sql as $$
    insert into link_texts as t (link_id, words, vector)
    select link_id, ' ' || names || ' ' || kinds || ' ' || rest || ' ',
        setweight(to_tsvector('simple', names), 'A') || setweight(to_tsvector('simple', kinds), 'B') || setweight(to_tsvector('simple', rest), 'C')
    from (
        select l.id as link_id,
            plain_words(concat_ws(' ', l.slug, l.title, (select string_agg(a.slug, ' ') from link_aliases a where a.link_id = l.id))) as names,
            plain_words(concat_ws(' ', c.name, c.key, (select string_agg(t.name, ' ') from link_tags lt join tags t on t.id = lt.tag_id where lt.link_id = l.id))) as kinds,
            plain_words(concat_ws(' ', d.name, regexp_replace(l.destination, '^https?://(www\.)?', ''), l.note)) as rest
        from links l join domains d on d.id = l.domain_id left join campaigns c on c.id = l.campaign_id
        where l.id = any($1)
    ) told
    on conflict (link_id) do update set words = excluded.words, vector = excluded.vector where t.words <> excluded.words
$$;

-- Makes the partition of clicks of a month, where there is none.
create or replace function ensure_clicks_partition(month timestamptz) returns void language plpgsql as $$
declare
    name text := 'clicks_' || to_char(month at time zone 'UTC', 'YYYY_MM');
begin
    if to_regclass(name) is null then
        -- Two shippers may meet a new month at the same moment; the second waits and finds the partition made.
        perform pg_advisory_xact_lock(hashtext('clicks_partitions'));
        execute format('create table if not exists %I partition of clicks for values from (%L) to (%L)',
            name, month, (month at time zone 'UTC' + interval '1 month') at time zone 'UTC');
    end if;
end $$;

-- Roll-ups have no foreign keys, which would look each link up for each day that is written: what was counted of links goes with them.
create or replace function forget_link_days() returns trigger language plpgsql as $$
begin
    delete from open_days where link_id in (select id from gone);
    delete from link_days where link_id in (select id from gone);
    delete from link_months where link_id in (select id from gone);
    return null;
end $$;

-- A link may not have its present address among its former ones; looked at when all is done, since both change in either order.
create or replace function note_alias() returns trigger language plpgsql as $$
begin
    if exists (select from links where id = new.link_id and domain_id = new.domain_id and slug_key = new.slug_key and slug_freed_at is null) then
        raise exception 'the slug is the link''s own' using errcode = 'unique_violation', constraint = 'pk_addresses';
    end if;
    return null;
end $$;

-- A link that gets another address, or gives its own away, leaves that one; one of its former addresses may become its own again. A changed link is
-- found by its new words.
create or replace function note_changed_links() returns trigger language plpgsql as $$
begin
    delete from addresses a using former f join changed c on c.id = f.id
    where (a.domain_id, a.slug_key, a.kind, a.target_id) = (f.domain_id, f.slug_key, 0, f.id)
        and (c.domain_id, c.slug_key, c.slug_freed_at) is distinct from (f.domain_id, f.slug_key, f.slug_freed_at);
    update addresses a set kind = 0 from changed c join former f on f.id = c.id
    where (a.domain_id, a.slug_key, a.target_id) = (c.domain_id, c.slug_key, c.id) and c.slug_freed_at is null
        and (c.domain_id, c.slug_key, c.slug_freed_at) is distinct from (f.domain_id, f.slug_key, f.slug_freed_at);
    insert into addresses (domain_id, slug_key, kind, target_id)
    select c.domain_id, c.slug_key, 0, c.id from changed c join former f on f.id = c.id
    where c.slug_freed_at is null and (c.domain_id, c.slug_key, c.slug_freed_at) is distinct from (f.domain_id, f.slug_key, f.slug_freed_at)
        and not exists (select from addresses a where (a.domain_id, a.slug_key, a.target_id) = (c.domain_id, c.slug_key, c.id));
    perform write_link_texts(array(
        select c.id from changed c join former f on f.id = c.id
        where (c.slug, c.title, c.destination, c.note, c.campaign_id, c.domain_id) is distinct from (f.slug, f.title, f.destination, f.note, f.campaign_id, f.domain_id)));
    return null;
end $$;

-- A former address is the link's own still where the link has not left it yet.
create or replace function claim_former_addresses() returns trigger language plpgsql as $$
begin
    update addresses a set kind = 1 from changed c where (a.domain_id, a.slug_key, a.target_id) = (c.domain_id, c.slug_key, c.link_id);
    insert into addresses (domain_id, slug_key, kind, target_id)
    select c.domain_id, c.slug_key, 1, c.link_id from changed c
    where not exists (select from addresses a where (a.domain_id, a.slug_key, a.target_id) = (c.domain_id, c.slug_key, c.link_id));
    return null;
end $$;

-- A former address that is given up.
create or replace function release_former_addresses() returns trigger language plpgsql as $$
begin
    delete from addresses a using changed c where (a.domain_id, a.slug_key, a.kind, a.target_id) = (c.domain_id, c.slug_key, 1, c.link_id);
    return null;
end $$;

-- With a link goes its address.
create or replace function release_addresses_of_links() returns trigger language plpgsql as $$
begin
    delete from addresses a using gone g where (a.domain_id, a.slug_key, a.kind, a.target_id) = (g.domain_id, g.slug_key, 0, g.id);
    return null;
end $$;

-- Links to a page that died, or came back, lead elsewhere: the edge is to read them again.
create or replace function note_dead_page() returns trigger language plpgsql as $$
begin
    update links set slug = slug where workspace_id = new.workspace_id and deleted_at is null and changed_in <> pg_current_xact_id()
        and (page_key = new.key or id in (select link_id from routed_pages where page_key = new.key and is_used));
    return null;
end $$;

-- So do those links of a campaign that may lead to its fallback.
create or replace function note_fallback_of_campaign() returns trigger language plpgsql as $$
begin
    update links l set slug = slug where l.campaign_id = new.id and l.deleted_at is null and (l.opens_at is not null or l.ends_at is not null
        or exists (select 1 from checked_pages p where p.workspace_id = l.workspace_id and p.key = l.page_key and is_dead(p.verdict, p.ignored_until)));
    return null;
end $$;

-- And those of a workspace.
create or replace function note_fallback_of_workspace() returns trigger language plpgsql as $$
begin
    update links l set slug = slug where l.workspace_id = new.workspace_id and l.deleted_at is null and (l.opens_at is not null or l.ends_at is not null
        or exists (select 1 from checked_pages p where p.workspace_id = l.workspace_id and p.key = l.page_key and is_dead(p.verdict, p.ignored_until)));
    return null;
end $$;

-- By the transaction that changed a link last the edge finds what to read again.
create or replace function note_link_change() returns trigger language plpgsql as $$
begin
    new.changed_in := pg_current_xact_id();
    return new;
end $$;

-- Pixels of a link are part of what the edge knows of it.
create or replace function note_link_pixels() returns trigger language plpgsql as $$
begin
    update links set slug = slug where id in (select link_id from changed) and changed_in <> pg_current_xact_id();
    return null;
end $$;

-- An address that leads nowhere any more.
create or replace function note_link_removal() returns trigger language plpgsql as $$
begin
    insert into removed_links (domain_id, slug_key) values (old.domain_id, old.slug_key);
    return null;
end $$;

-- Links are found by their tags and former addresses, too.
create or replace function note_links_of() returns trigger language plpgsql as $$
begin
    perform write_link_texts(array(select distinct link_id from changed));
    return null;
end $$;

-- A new link has its address to itself, and is found by its words.
create or replace function note_new_links() returns trigger language plpgsql as $$
begin
    insert into addresses (domain_id, slug_key, kind, target_id) select domain_id, slug_key, 0, id from changed where slug_freed_at is null;
    perform write_link_texts(array(select id from changed));
    return null;
end $$;

-- The page behind a link is checked when the link leads there, comes back, or gets other times.
create or replace function note_pages_of_changed_links() returns trigger language plpgsql as $$
begin
    perform write_checked_pages(array(
        select c.id from changed c join former f on f.id = c.id
        where c.page_key <> f.page_key or (c.deleted_at is null and f.deleted_at is not null) or (c.opens_at, c.ends_at) is distinct from (f.opens_at, f.ends_at)));
    return null;
end $$;

-- So are the pages of a link's route.
create or replace function note_routed_pages() returns trigger language plpgsql as $$
begin
    perform write_checked_pages(array(select distinct link_id from changed));
    return null;
end $$;

-- The page behind a new link is checked.
create or replace function note_pages_of_new_links() returns trigger language plpgsql as $$
begin
    perform write_checked_pages(array(select id from changed));
    return null;
end $$;

-- Pixels of a post are those of its links.
create or replace function note_post_pixels() returns trigger language plpgsql as $$
begin
    update links set slug = slug where changed_in <> pg_current_xact_id()
        and id in (select p.link_id from placements p join changed c on c.post_id = p.post_id);
    return null;
end $$;

-- Links are found by the name of their campaign.
create or replace function note_renamed_campaign() returns trigger language plpgsql as $$
begin
    perform write_link_texts(array(select id from links where campaign_id = new.id));
    return null;
end $$;

-- Links are found by the names of their tags.
create or replace function note_renamed_tag() returns trigger language plpgsql as $$
begin
    perform write_link_texts(array(select link_id from link_tags where tag_id = new.id));
    return null;
end $$;

-- Wakes the edge, which reads what was changed.
create or replace function tell_edge() returns trigger language plpgsql as $$
begin
    perform pg_notify('edge', '');
    return null;
end $$;

-- The audit log only grows: entries go when they are old, or with their workspace.
create or replace function keep_audit_entries() returns trigger language plpgsql as $$
begin
    if tg_op = 'DELETE' and (old.at < now() - interval '399 days' or not exists (select from workspaces where id = old.workspace_id)) then
        return old;
    end if;
    raise exception 'The audit log can''t be changed.';
end $$;

-- Webhooks are told of new links. Where none asks for it, nothing is written.
create or replace function tell_webhooks_of_new_links() returns trigger language plpgsql as $$
begin
    insert into webhook_events (workspace_id, kind, thing, at)
    select c.workspace_id, 1, c.id, now() from changed c
    where exists (select 1 from webhooks w where w.workspace_id = c.workspace_id and 1 = any (w.events));
    return null;
end $$;

-- And of links that lead elsewhere.
create or replace function tell_webhooks_of_changed_links() returns trigger language plpgsql as $$
begin
    insert into webhook_events (workspace_id, kind, thing, detail, at)
    select c.workspace_id, 2, c.id, f.destination, now() from changed c join former f on f.id = c.id
    where c.destination <> f.destination and exists (select 1 from webhooks w where w.workspace_id = c.workspace_id and 2 = any (w.events));
    return null;
end $$;

-- And of pages that died or came back, whether or not somebody has chosen to ignore it.
create or replace function tell_webhooks_of_page() returns trigger language plpgsql as $$
declare happened smallint := case when is_dead(new.verdict, null) then 3 else 4 end;
begin
    insert into webhook_events (workspace_id, kind, thing, at)
    select new.workspace_id, happened, new.id, now()
    where exists (select 1 from webhooks w where w.workspace_id = new.workspace_id and happened = any (w.events));
    return null;
end $$;
