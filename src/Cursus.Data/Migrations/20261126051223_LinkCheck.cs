using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <summary>Pages that links lead to and what is known of them, where visitors are led meanwhile, and certificates of short domains.</summary>
    public partial class LinkCheck : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "fallback",
                table: "links",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "certificate_checked_at",
                table: "domains",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "certificate_ends_at",
                table: "domains",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "fallback",
                table: "campaigns",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "page_key",
                table: "links",
                type: "uuid",
                nullable: false,
                computedColumnSql: "md5(split_part(destination, '#', 1))::uuid",
                stored: true);

            migrationBuilder.CreateTable(
                name: "checked_pages",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    key = table.Column<Guid>(type: "uuid", nullable: false),
                    address = table.Column<string>(type: "text", nullable: false),
                    site = table.Column<string>(type: "text", nullable: false, computedColumnSql: "lower(substring(regexp_replace(address, '^[A-Za-z]+:/*', '') from '^[^/?]*'))", stored: true),
                    verdict = table.Column<short>(type: "smallint", nullable: false),
                    needs_care = table.Column<bool>(type: "boolean", nullable: false),
                    trouble = table.Column<short>(type: "smallint", nullable: false),
                    status = table.Column<int>(type: "integer", nullable: true),
                    since = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    checked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    next_check_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    tries = table.Column<int>(type: "integer", nullable: false),
                    trouble_since = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    leads_to = table.Column<string>(type: "text", nullable: true),
                    is_permanent = table.Column<bool>(type: "boolean", nullable: false),
                    ends_at_front_page = table.Column<bool>(type: "boolean", nullable: false),
                    title = table.Column<string>(type: "text", nullable: true),
                    words = table.Column<string[]>(type: "text[]", nullable: false),
                    loud_words = table.Column<string[]>(type: "text[]", nullable: false),
                    accepted_title = table.Column<string>(type: "text", nullable: true),
                    accepted_words = table.Column<string[]>(type: "text[]", nullable: true),
                    accepted_leads_to = table.Column<string>(type: "text", nullable: true),
                    validator = table.Column<string>(type: "text", nullable: true),
                    ignored_until = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_checked_pages", x => x.id);
                    table.ForeignKey(
                        name: "fk_checked_pages_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "link_check_settings",
                columns: table => new
                {
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    is_on = table.Column<bool>(type: "boolean", nullable: false),
                    gone_words = table.Column<string[]>(type: "text[]", nullable: false),
                    fallback = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_check_settings", x => x.workspace_id);
                    table.ForeignKey(
                        name: "fk_link_check_settings_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_links_workspace_id_page_key",
                table: "links",
                columns: new[] { "workspace_id", "page_key" });

            migrationBuilder.CreateIndex(
                name: "ix_checked_pages_needing_care",
                table: "checked_pages",
                column: "workspace_id",
                filter: "needs_care");

            migrationBuilder.CreateIndex(
                name: "ix_checked_pages_next_check_at",
                table: "checked_pages",
                column: "next_check_at",
                filter: "next_check_at is not null");

            migrationBuilder.CreateIndex(
                name: "ix_checked_pages_workspace_id_key",
                table: "checked_pages",
                columns: new[] { "workspace_id", "key" },
                unique: true);

            migrationBuilder.Sql("""
                create function write_checked_pages(links uuid[]) returns void language sql as $$
                    insert into checked_pages as p (id, workspace_id, key, address, verdict, needs_care, trouble, tries, is_permanent, ends_at_front_page, words, loud_words, next_check_at)
                    select gen_random_uuid(), workspace_id, page_key, address, 0, false, 0, 0, false, false, '{}', '{}', now()
                    from (
                        select distinct on (workspace_id, page_key) workspace_id, page_key, split_part(destination, '#', 1) as address
                        from links where id = any($1) and deleted_at is null order by workspace_id, page_key
                    ) led
                    -- A page that was asked a moment ago is not asked for each further link.
                    on conflict (workspace_id, key) do update set next_check_at = now() where p.checked_at < now() - interval '10 minutes'
                $$;

                select write_checked_pages(array(select id from links));

                create function note_pages_of_new_links() returns trigger language plpgsql as $$
                begin
                    perform write_checked_pages(array(select id from changed));
                    return null;
                end $$;

                create function note_pages_of_changed_links() returns trigger language plpgsql as $$
                begin
                    perform write_checked_pages(array(
                        select c.id from changed c join former f on f.id = c.id
                        where c.page_key <> f.page_key or (c.deleted_at is null and f.deleted_at is not null)));
                    return null;
                end $$;

                create function is_dead(verdict smallint, ignored_until timestamptz) returns boolean language sql immutable parallel safe as $$
                    select verdict in (4, 5) and ignored_until is null
                $$;

                create index ix_checked_pages_dead on checked_pages (workspace_id, key) where is_dead(verdict, ignored_until);

                -- The edge reads the links of a page that has died or come back anew, and those whose fallback is another while it is dead.
                create function note_dead_page() returns trigger language plpgsql as $$
                begin
                    update links set slug = slug where workspace_id = new.workspace_id and page_key = new.key and deleted_at is null and changed_in <> pg_current_xact_id();
                    return null;
                end $$;

                create function note_fallback_of_campaign() returns trigger language plpgsql as $$
                begin
                    update links l set slug = slug from checked_pages p
                    where l.campaign_id = new.id and p.workspace_id = l.workspace_id and p.key = l.page_key and is_dead(p.verdict, p.ignored_until) and l.deleted_at is null;
                    return null;
                end $$;

                create function note_fallback_of_workspace() returns trigger language plpgsql as $$
                begin
                    update links l set slug = slug from checked_pages p
                    where l.workspace_id = new.workspace_id and p.workspace_id = l.workspace_id and p.key = l.page_key and is_dead(p.verdict, p.ignored_until) and l.deleted_at is null;
                    return null;
                end $$;

                create trigger note_pages_of_new_links after insert on links referencing new table as changed for each statement execute function note_pages_of_new_links();
                create trigger note_pages_of_changed_links after update on links referencing old table as former new table as changed for each statement execute function note_pages_of_changed_links();
                create trigger note_dead_page after update on checked_pages for each row
                    when (is_dead(old.verdict, old.ignored_until) is distinct from is_dead(new.verdict, new.ignored_until)) execute function note_dead_page();
                create trigger note_fallback_of_campaign after update of fallback on campaigns for each row
                    when (old.fallback is distinct from new.fallback) execute function note_fallback_of_campaign();
                create trigger note_fallback_of_workspace after insert or update of fallback on link_check_settings for each row execute function note_fallback_of_workspace();
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                drop trigger note_fallback_of_campaign on campaigns;
                drop trigger note_pages_of_changed_links on links;
                drop trigger note_pages_of_new_links on links;
                drop table checked_pages, link_check_settings;
                drop function note_fallback_of_workspace();
                drop function note_fallback_of_campaign();
                drop function note_dead_page();
                drop function is_dead(smallint, timestamptz);
                drop function note_pages_of_changed_links();
                drop function note_pages_of_new_links();
                drop function write_checked_pages(uuid[]);
                """);

            migrationBuilder.DropIndex(
                name: "ix_links_workspace_id_page_key",
                table: "links");

            migrationBuilder.DropColumn(
                name: "page_key",
                table: "links");

            migrationBuilder.DropColumn(
                name: "fallback",
                table: "links");

            migrationBuilder.DropColumn(
                name: "certificate_checked_at",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "certificate_ends_at",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "fallback",
                table: "campaigns");
        }
    }
}
