-- All views. Dropped and made anew as a whole whenever this file changes.

-- The numbers of links by day, whether the days are sealed or not.
create view days_of_links as
    select link_id, day, clicks, team, machines, previews, prefetches, repeats, heads, visitors, impostors, sweeps, echoes, probes from link_days
    union all
    select link_id, day, clicks, team, machines, previews, prefetches, repeats, heads, visitors, impostors, sweeps, echoes, probes from open_days;

-- Which pixels fire for a link, and because of what.
create view pixels_of_links as
    select link_id, pixel_id, 'link' as place from link_pixels
    union all select p.link_id, a.pixel_id, 'post' from post_pixels a join placements p on p.post_id = a.post_id
    union all select l.id, a.pixel_id, 'campaign' from campaign_pixels a join links l on l.campaign_id = a.campaign_id
    union all select l.id, a.pixel_id, 'channel' from channel_pixels a join links l on l.channel_id = a.channel_id
    union all select l.id, a.pixel_id, 'domain' from domain_pixels a join links l on l.domain_id = a.domain_id;
