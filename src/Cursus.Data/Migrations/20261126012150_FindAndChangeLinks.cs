using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using NpgsqlTypes;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <summary>What links are found and sorted by, their earlier versions and addresses, changes of many, and saved filters.</summary>
    public partial class FindAndChangeLinks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.AddColumn<Instant>(
                name: "archived_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "change_id",
                table: "links",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "changed_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "changed_by",
                table: "links",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "version",
                table: "links",
                type: "integer",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.CreateTable(
                name: "link_aliases",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    domain_id = table.Column<Guid>(type: "uuid", nullable: false),
                    slug = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    slug_key = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    created_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_aliases", x => x.id);
                    table.ForeignKey(
                        name: "fk_link_aliases_domains_domain_id",
                        column: x => x.domain_id,
                        principalTable: "domains",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_link_aliases_links_link_id",
                        column: x => x.link_id,
                        principalTable: "links",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "link_changes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    made_by = table.Column<Guid>(type: "uuid", nullable: true),
                    made_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    what = table.Column<string>(type: "text", nullable: false),
                    links = table.Column<int>(type: "integer", nullable: false),
                    undone_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_changes", x => x.id);
                    table.ForeignKey(
                        name: "fk_link_changes_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "link_texts",
                columns: table => new
                {
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    words = table.Column<string>(type: "text", nullable: false),
                    vector = table.Column<NpgsqlTsVector>(type: "tsvector", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_texts", x => x.link_id);
                    table.ForeignKey(
                        name: "fk_link_texts_links_link_id",
                        column: x => x.link_id,
                        principalTable: "links",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "link_totals",
                columns: table => new
                {
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    clicks = table.Column<long>(type: "bigint", nullable: false),
                    last_click_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_totals", x => x.link_id);
                    table.ForeignKey(
                        name: "fk_link_totals_links_link_id",
                        column: x => x.link_id,
                        principalTable: "links",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "link_versions",
                columns: table => new
                {
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    since = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    until = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    made_by = table.Column<Guid>(type: "uuid", nullable: true),
                    change_id = table.Column<Guid>(type: "uuid", nullable: true),
                    state = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_versions", x => new { x.link_id, x.number });
                    table.ForeignKey(
                        name: "fk_link_versions_links_link_id",
                        column: x => x.link_id,
                        principalTable: "links",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "saved_filters",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    filter = table.Column<string>(type: "text", nullable: false),
                    created_by = table.Column<Guid>(type: "uuid", nullable: true),
                    created_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_saved_filters", x => x.id);
                    table.ForeignKey(
                        name: "fk_saved_filters_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.Sql("""
                -- Words as Cursus.Core.Links.SearchWords makes them of what is typed: runs of letters and digits, without case and accents.
                create function plain_words(text) returns text language sql immutable parallel safe as $$
                    select trim(regexp_replace(regexp_replace(normalize(lower(coalesce($1, '')), NFKD), '[\u0300-\u036f]', '', 'g'), '[^[:alnum:]]+', ' ', 'g'))
                $$;

                create function write_link_texts(links uuid[]) returns void language sql as $$
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

                select write_link_texts(array(select id from links));
                insert into link_totals (link_id, clicks, last_click_at)
                select c.link_id, count(*), max(c.at) from clicks c join links l on l.id = c.link_id where c.kind = 0 group by c.link_id;

                create function note_new_links() returns trigger language plpgsql as $$
                begin
                    if exists (select 1 from changed c join link_aliases a on a.domain_id = c.domain_id and a.slug_key = c.slug_key where c.slug_freed_at is null) then
                        raise exception 'the slug is an earlier address of another link' using errcode = 'unique_violation', constraint = 'ix_links_domain_id_slug_key';
                    end if;
                    perform write_link_texts(array(select id from changed));
                    return null;
                end $$;

                create function note_changed_links() returns trigger language plpgsql as $$
                begin
                    if exists (
                        select 1 from changed c join former f on f.id = c.id join link_aliases a on a.domain_id = c.domain_id and a.slug_key = c.slug_key
                        where (c.domain_id, c.slug_key) is distinct from (f.domain_id, f.slug_key) and c.slug_freed_at is null
                    ) then
                        raise exception 'the slug is an earlier address of a link' using errcode = 'unique_violation', constraint = 'ix_links_domain_id_slug_key';
                    end if;
                    perform write_link_texts(array(
                        select c.id from changed c join former f on f.id = c.id
                        where (c.slug, c.title, c.destination, c.note, c.campaign_id, c.domain_id) is distinct from (f.slug, f.title, f.destination, f.note, f.campaign_id, f.domain_id)));
                    return null;
                end $$;

                create function note_links_of() returns trigger language plpgsql as $$
                begin
                    perform write_link_texts(array(select distinct link_id from changed));
                    return null;
                end $$;

                create function note_renamed_tag() returns trigger language plpgsql as $$
                begin
                    perform write_link_texts(array(select link_id from link_tags where tag_id = new.id));
                    return null;
                end $$;

                create function note_renamed_campaign() returns trigger language plpgsql as $$
                begin
                    perform write_link_texts(array(select id from links where campaign_id = new.id));
                    return null;
                end $$;

                -- Looked at when everything is written, since the link lets its old slug go in the same transaction.
                create function note_alias() returns trigger language plpgsql as $$
                begin
                    if exists (select 1 from links l where l.domain_id = new.domain_id and l.slug_key = new.slug_key and l.slug_freed_at is null) then
                        raise exception 'the slug is a link''s own' using errcode = 'unique_violation', constraint = 'ix_links_domain_id_slug_key';
                    end if;
                    return null;
                end $$;

                create trigger note_new_links after insert on links referencing new table as changed for each statement execute function note_new_links();
                create trigger note_changed_links after update on links referencing old table as former new table as changed for each statement execute function note_changed_links();
                create trigger note_tags_added after insert on link_tags referencing new table as changed for each statement execute function note_links_of();
                create trigger note_tags_removed after delete on link_tags referencing old table as changed for each statement execute function note_links_of();
                create trigger note_renamed_tag after update of name on tags for each row when (old.name <> new.name) execute function note_renamed_tag();
                create trigger note_renamed_campaign after update of name on campaigns for each row when (old.name <> new.name) execute function note_renamed_campaign();
                create trigger note_aliases_added after insert on link_aliases referencing new table as changed for each statement execute function note_links_of();
                create trigger note_aliases_removed after delete on link_aliases referencing old table as changed for each statement execute function note_links_of();
                create constraint trigger note_alias after insert on link_aliases deferrable initially deferred for each row execute function note_alias();
                create trigger note_alias_removal after delete on link_aliases for each row execute function note_link_removal();
                create trigger tell_edge_of_aliases after insert or delete on link_aliases for each statement execute function tell_edge();
                """);

            migrationBuilder.CreateIndex(
                name: "ix_links_change_id",
                table: "links",
                column: "change_id",
                filter: "change_id is not null");

            migrationBuilder.CreateIndex(
                name: "ix_links_workspace_id_title",
                table: "links",
                columns: new[] { "workspace_id", "title" });

            migrationBuilder.CreateIndex(
                name: "ix_link_aliases_domain_id_slug_key",
                table: "link_aliases",
                columns: new[] { "domain_id", "slug_key" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_link_aliases_link_id",
                table: "link_aliases",
                column: "link_id");

            migrationBuilder.CreateIndex(
                name: "ix_link_changes_workspace_id_made_at",
                table: "link_changes",
                columns: new[] { "workspace_id", "made_at" });

            migrationBuilder.CreateIndex(
                name: "ix_link_texts_vector",
                table: "link_texts",
                column: "vector")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "ix_link_texts_words",
                table: "link_texts",
                column: "words")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            migrationBuilder.CreateIndex(
                name: "ix_saved_filters_workspace_id_name",
                table: "saved_filters",
                columns: new[] { "workspace_id", "name" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                drop trigger note_renamed_campaign on campaigns;
                drop trigger note_renamed_tag on tags;
                drop trigger note_tags_removed on link_tags;
                drop trigger note_tags_added on link_tags;
                drop trigger note_changed_links on links;
                drop trigger note_new_links on links;
                drop trigger tell_edge_of_aliases on link_aliases;
                drop trigger note_alias_removal on link_aliases;
                drop trigger note_alias on link_aliases;
                drop trigger note_aliases_removed on link_aliases;
                drop trigger note_aliases_added on link_aliases;
                drop function note_alias();
                drop function note_renamed_campaign();
                drop function note_renamed_tag();
                drop function note_links_of();
                drop function note_changed_links();
                drop function note_new_links();
                drop function write_link_texts(uuid[]);
                drop function plain_words(text);

                -- Earlier addresses are followed by nobody from then on.
                delete from link_aliases;
                """);

            migrationBuilder.DropTable(
                name: "link_aliases");

            migrationBuilder.DropTable(
                name: "link_changes");

            migrationBuilder.DropTable(
                name: "link_texts");

            migrationBuilder.DropTable(
                name: "link_totals");

            migrationBuilder.DropTable(
                name: "link_versions");

            migrationBuilder.DropTable(
                name: "saved_filters");

            migrationBuilder.DropIndex(
                name: "ix_links_change_id",
                table: "links");

            migrationBuilder.DropIndex(
                name: "ix_links_workspace_id_title",
                table: "links");

            migrationBuilder.DropColumn(
                name: "archived_at",
                table: "links");

            migrationBuilder.DropColumn(
                name: "change_id",
                table: "links");

            migrationBuilder.DropColumn(
                name: "changed_at",
                table: "links");

            migrationBuilder.DropColumn(
                name: "changed_by",
                table: "links");

            migrationBuilder.DropColumn(
                name: "version",
                table: "links");

            migrationBuilder.AlterDatabase()
                .OldAnnotation("Npgsql:PostgresExtension:pg_trgm", ",,");
        }
    }
}
