using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <summary>Which pixels fire for a link, and what the edge needs to follow changes of them.</summary>
    public partial class PixelChanges : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                -- Every pixel of every link, with the place it is attached at; one that is attached at several places stands several times.
                create view pixels_of_links as
                    select link_id, pixel_id, 'link' as place from link_pixels
                    union all select p.link_id, a.pixel_id, 'post' from post_pixels a join placements p on p.post_id = a.post_id
                    union all select l.id, a.pixel_id, 'campaign' from campaign_pixels a join links l on l.campaign_id = a.campaign_id
                    union all select l.id, a.pixel_id, 'channel' from channel_pixels a join links l on l.channel_id = a.channel_id
                    union all select l.id, a.pixel_id, 'domain' from domain_pixels a join links l on l.domain_id = a.domain_id;

                -- The edge reads a link's and a post's pixels with the link; those of campaigns, channels and domains it reads by themselves.
                create function note_link_pixels() returns trigger language plpgsql as $$
                begin
                    update links set slug = slug where id in (select link_id from changed) and changed_in <> pg_current_xact_id();
                    return null;
                end $$;

                create function note_post_pixels() returns trigger language plpgsql as $$
                begin
                    update links set slug = slug where changed_in <> pg_current_xact_id()
                        and id in (select p.link_id from placements p join changed c on c.post_id = p.post_id);
                    return null;
                end $$;

                create trigger note_link_pixels_added after insert on link_pixels referencing new table as changed for each statement execute function note_link_pixels();
                create trigger note_link_pixels_removed after delete on link_pixels referencing old table as changed for each statement execute function note_link_pixels();
                create trigger note_post_pixels_added after insert on post_pixels referencing new table as changed for each statement execute function note_post_pixels();
                create trigger note_post_pixels_removed after delete on post_pixels referencing old table as changed for each statement execute function note_post_pixels();

                create trigger tell_edge_of_pixels after insert or update or delete on pixels for each statement execute function tell_edge();
                create trigger tell_edge_of_ad_networks after insert or update or delete on ad_networks for each statement execute function tell_edge();
                create trigger tell_edge_of_handoff_settings after insert or update or delete on handoff_settings for each statement execute function tell_edge();
                create trigger tell_edge_of_campaign_pixels after insert or delete on campaign_pixels for each statement execute function tell_edge();
                create trigger tell_edge_of_channel_pixels after insert or delete on channel_pixels for each statement execute function tell_edge();
                create trigger tell_edge_of_domain_pixels after insert or delete on domain_pixels for each statement execute function tell_edge();
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                drop trigger tell_edge_of_domain_pixels on domain_pixels;
                drop trigger tell_edge_of_channel_pixels on channel_pixels;
                drop trigger tell_edge_of_campaign_pixels on campaign_pixels;
                drop trigger tell_edge_of_handoff_settings on handoff_settings;
                drop trigger tell_edge_of_ad_networks on ad_networks;
                drop trigger tell_edge_of_pixels on pixels;
                drop trigger note_post_pixels_removed on post_pixels;
                drop trigger note_post_pixels_added on post_pixels;
                drop trigger note_link_pixels_removed on link_pixels;
                drop trigger note_link_pixels_added on link_pixels;
                drop function note_post_pixels();
                drop function note_link_pixels();
                drop view pixels_of_links;
                """);
        }
    }
}
