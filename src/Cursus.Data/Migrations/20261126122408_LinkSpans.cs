using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class LinkSpans : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Instant>(
                name: "ends_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "opens_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_links_with_span",
                table: "links",
                columns: new[] { "workspace_id", "ends_at" },
                filter: "opens_at is not null or ends_at is not null");

            migrationBuilder.AddCheckConstraint(
                name: "ck_links_span",
                table: "links",
                sql: "ends_at > opens_at");

            migrationBuilder.Sql("""
                -- Pages of links that have ended are not asked; those of links that are given another time are.
                create or replace function write_checked_pages(links uuid[]) returns void language sql as $$
                    insert into checked_pages as p (id, workspace_id, key, address, verdict, needs_care, trouble, tries, is_permanent, ends_at_front_page, words, loud_words, next_check_at)
                    select gen_random_uuid(), workspace_id, page_key, address, 0, false, 0, 0, false, false, '{}', '{}', now()
                    from (
                        select distinct on (workspace_id, page_key) workspace_id, page_key, split_part(destination, '#', 1) as address
                        from links where id = any($1) and deleted_at is null and (ends_at is null or ends_at > now()) order by workspace_id, page_key
                    ) led
                    -- A page that was asked a moment ago is not asked for each further link.
                    on conflict (workspace_id, key) do update set next_check_at = now() where p.checked_at < now() - interval '10 minutes'
                $$;

                create or replace function note_pages_of_changed_links() returns trigger language plpgsql as $$
                begin
                    perform write_checked_pages(array(
                        select c.id from changed c join former f on f.id = c.id
                        where c.page_key <> f.page_key or (c.deleted_at is null and f.deleted_at is not null) or (c.opens_at, c.ends_at) is distinct from (f.opens_at, f.ends_at)));
                    return null;
                end $$;

                -- The edge also leads to fallbacks before links open and after they have ended.
                create or replace function note_fallback_of_campaign() returns trigger language plpgsql as $$
                begin
                    update links l set slug = slug where l.campaign_id = new.id and l.deleted_at is null and (l.opens_at is not null or l.ends_at is not null
                        or exists (select 1 from checked_pages p where p.workspace_id = l.workspace_id and p.key = l.page_key and is_dead(p.verdict, p.ignored_until)));
                    return null;
                end $$;

                create or replace function note_fallback_of_workspace() returns trigger language plpgsql as $$
                begin
                    update links l set slug = slug where l.workspace_id = new.workspace_id and l.deleted_at is null and (l.opens_at is not null or l.ends_at is not null
                        or exists (select 1 from checked_pages p where p.workspace_id = l.workspace_id and p.key = l.page_key and is_dead(p.verdict, p.ignored_until)));
                    return null;
                end $$;
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                create or replace function write_checked_pages(links uuid[]) returns void language sql as $$
                    insert into checked_pages as p (id, workspace_id, key, address, verdict, needs_care, trouble, tries, is_permanent, ends_at_front_page, words, loud_words, next_check_at)
                    select gen_random_uuid(), workspace_id, page_key, address, 0, false, 0, 0, false, false, '{}', '{}', now()
                    from (
                        select distinct on (workspace_id, page_key) workspace_id, page_key, split_part(destination, '#', 1) as address
                        from links where id = any($1) and deleted_at is null order by workspace_id, page_key
                    ) led
                    -- A page that was asked a moment ago is not asked for each further link.
                    on conflict (workspace_id, key) do update set next_check_at = now() where p.checked_at < now() - interval '10 minutes'
                $$;

                create or replace function note_pages_of_changed_links() returns trigger language plpgsql as $$
                begin
                    perform write_checked_pages(array(
                        select c.id from changed c join former f on f.id = c.id
                        where c.page_key <> f.page_key or (c.deleted_at is null and f.deleted_at is not null)));
                    return null;
                end $$;

                create or replace function note_fallback_of_campaign() returns trigger language plpgsql as $$
                begin
                    update links l set slug = slug from checked_pages p
                    where l.campaign_id = new.id and p.workspace_id = l.workspace_id and p.key = l.page_key and is_dead(p.verdict, p.ignored_until) and l.deleted_at is null;
                    return null;
                end $$;

                create or replace function note_fallback_of_workspace() returns trigger language plpgsql as $$
                begin
                    update links l set slug = slug from checked_pages p
                    where l.workspace_id = new.workspace_id and p.workspace_id = l.workspace_id and p.key = l.page_key and is_dead(p.verdict, p.ignored_until) and l.deleted_at is null;
                    return null;
                end $$;
                """);

            migrationBuilder.DropIndex(
                name: "ix_links_with_span",
                table: "links");

            migrationBuilder.DropCheckConstraint(
                name: "ck_links_span",
                table: "links");

            migrationBuilder.DropColumn(
                name: "ends_at",
                table: "links");

            migrationBuilder.DropColumn(
                name: "opens_at",
                table: "links");
        }
    }
}
