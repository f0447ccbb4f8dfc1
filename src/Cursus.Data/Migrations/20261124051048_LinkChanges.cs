using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <summary>What the edge needs to follow changes: the transaction that changed a link last, links that were taken away, and a notification.</summary>
    public partial class LinkChanges : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                alter table links add column changed_in xid8 not null default pg_current_xact_id();
                create index ix_links_changed_in on links (changed_in);

                create table removed_links (
                    domain_id uuid not null,
                    slug_key text not null,
                    changed_in xid8 not null default pg_current_xact_id(),
                    removed_at timestamptz not null default now()
                );
                create index ix_removed_links_changed_in on removed_links (changed_in);

                create function note_link_change() returns trigger language plpgsql as $$
                begin
                    new.changed_in := pg_current_xact_id();
                    return new;
                end $$;

                -- A link that is deleted for good, or whose slug is given away, has to go from memory.
                create function note_link_removal() returns trigger language plpgsql as $$
                begin
                    insert into removed_links (domain_id, slug_key) values (old.domain_id, old.slug_key);
                    return null;
                end $$;

                create function tell_edge() returns trigger language plpgsql as $$
                begin
                    perform pg_notify('edge', '');
                    return null;
                end $$;

                create trigger note_link_change before update on links for each row execute function note_link_change();
                create trigger note_link_removal after delete on links for each row execute function note_link_removal();
                create trigger note_slug_removal after update of slug_key, domain_id, slug_freed_at on links for each row
                    when (old.slug_key is distinct from new.slug_key or old.domain_id is distinct from new.domain_id or old.slug_freed_at is distinct from new.slug_freed_at)
                    execute function note_link_removal();
                create trigger tell_edge_of_links after insert or update or delete on links for each statement execute function tell_edge();
                create trigger tell_edge_of_domains after insert or update or delete on domains for each statement execute function tell_edge();
                create trigger tell_edge_of_workspaces after update on workspaces for each statement execute function tell_edge();
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                drop trigger tell_edge_of_workspaces on workspaces;
                drop trigger tell_edge_of_domains on domains;
                drop trigger tell_edge_of_links on links;
                drop trigger note_slug_removal on links;
                drop trigger note_link_removal on links;
                drop trigger note_link_change on links;
                drop function tell_edge();
                drop function note_link_removal();
                drop function note_link_change();
                drop table removed_links;
                alter table links drop column changed_in;
                """);
        }
    }
}
