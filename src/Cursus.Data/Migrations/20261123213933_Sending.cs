using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Sending : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_links_domain_id_slug_key",
                table: "links");

            migrationBuilder.AddColumn<bool>(
                name: "is_vocabulary_locked",
                table: "workspaces",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<short>(
                name: "redirect",
                table: "workspaces",
                type: "smallint",
                nullable: false,
                defaultValue: (short)302);

            migrationBuilder.AddColumn<Guid>(
                name: "folder_id",
                table: "links",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "note",
                table: "links",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "options_anchor_text",
                table: "links",
                type: "character varying(200)",
                maxLength: 200,
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "options_hide_from_search",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "options_new_tab",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "options_nofollow",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<short>(
                name: "options_pass_query",
                table: "links",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AddColumn<short>(
                name: "options_referrer",
                table: "links",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AddColumn<bool>(
                name: "options_sponsored",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "options_title_attribute",
                table: "links",
                type: "character varying(200)",
                maxLength: 200,
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "slug_freed_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "checked_at",
                table: "domains",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ended_page",
                table: "domains",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "failing_since",
                table: "domains",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "findings",
                table: "domains",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'::jsonb");

            migrationBuilder.AddColumn<Instant>(
                name: "next_check_at",
                table: "domains",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "options_anchor_text",
                table: "domains",
                type: "character varying(200)",
                maxLength: 200,
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "options_hide_from_search",
                table: "domains",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "options_new_tab",
                table: "domains",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "options_nofollow",
                table: "domains",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<short>(
                name: "options_pass_query",
                table: "domains",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AddColumn<short>(
                name: "options_referrer",
                table: "domains",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AddColumn<bool>(
                name: "options_sponsored",
                table: "domains",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "options_title_attribute",
                table: "domains",
                type: "character varying(200)",
                maxLength: 200,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "proof",
                table: "domains",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<short>(
                name: "redirect",
                table: "domains",
                type: "smallint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "unknown_page",
                table: "domains",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "recipe_id",
                table: "campaigns",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "agreed_values",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    field = table.Column<short>(type: "smallint", nullable: false),
                    value = table.Column<string>(type: "character varying(150)", maxLength: 150, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_agreed_values", x => x.id);
                    table.ForeignKey(
                        name: "fk_agreed_values_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "drafts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    member_id = table.Column<Guid>(type: "uuid", nullable: false),
                    content = table.Column<string>(type: "jsonb", nullable: false),
                    updated_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_drafts", x => x.id);
                    table.ForeignKey(
                        name: "fk_drafts_members_member_id",
                        column: x => x.member_id,
                        principalTable: "members",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_drafts_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "folders",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_folders", x => x.id);
                    table.ForeignKey(
                        name: "fk_folders_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "recipes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    content = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_recipes", x => x.id);
                    table.ForeignKey(
                        name: "fk_recipes_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "tag_merges",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    field = table.Column<short>(type: "smallint", nullable: false),
                    from_value = table.Column<string>(type: "text", nullable: false),
                    into_value = table.Column<string>(type: "text", nullable: false),
                    merged_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    merged_by = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_tag_merges", x => x.id);
                    table.ForeignKey(
                        name: "fk_tag_merges_members_merged_by",
                        column: x => x.merged_by,
                        principalTable: "members",
                        principalColumn: "id",
                        onDelete: ReferentialAction.SetNull);
                    table.ForeignKey(
                        name: "fk_tag_merges_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_links_domain_id_slug_key",
                table: "links",
                columns: new[] { "domain_id", "slug_key" },
                unique: true,
                filter: "slug_freed_at is null");

            migrationBuilder.CreateIndex(
                name: "ix_links_folder_id",
                table: "links",
                column: "folder_id");

            migrationBuilder.CreateIndex(
                name: "ix_domains_next_check_at",
                table: "domains",
                column: "next_check_at",
                filter: "next_check_at is not null");

            migrationBuilder.CreateIndex(
                name: "ix_campaigns_recipe_id",
                table: "campaigns",
                column: "recipe_id");

            migrationBuilder.CreateIndex(
                name: "ix_agreed_values_workspace_id_field_value",
                table: "agreed_values",
                columns: new[] { "workspace_id", "field", "value" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_drafts_member_id_updated_at",
                table: "drafts",
                columns: new[] { "member_id", "updated_at" });

            migrationBuilder.CreateIndex(
                name: "ix_drafts_workspace_id",
                table: "drafts",
                column: "workspace_id");

            migrationBuilder.CreateIndex(
                name: "ix_folders_workspace_id_name",
                table: "folders",
                columns: new[] { "workspace_id", "name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_recipes_workspace_id_name",
                table: "recipes",
                columns: new[] { "workspace_id", "name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_tag_merges_merged_by",
                table: "tag_merges",
                column: "merged_by");

            migrationBuilder.CreateIndex(
                name: "ix_tag_merges_workspace_id_field_from_value",
                table: "tag_merges",
                columns: new[] { "workspace_id", "field", "from_value" },
                unique: true);

            migrationBuilder.AddForeignKey(
                name: "fk_campaigns_recipes_recipe_id",
                table: "campaigns",
                column: "recipe_id",
                principalTable: "recipes",
                principalColumn: "id",
                onDelete: ReferentialAction.SetNull);

            migrationBuilder.AddForeignKey(
                name: "fk_links_folders_folder_id",
                table: "links",
                column: "folder_id",
                principalTable: "folders",
                principalColumn: "id",
                onDelete: ReferentialAction.SetNull);

            migrationBuilder.Sql("update domains set proof = replace(gen_random_uuid()::text, '-', '')");
            migrationBuilder.Sql("update domains set next_check_at = now() where verified_at is null");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_campaigns_recipes_recipe_id",
                table: "campaigns");

            migrationBuilder.DropForeignKey(
                name: "fk_links_folders_folder_id",
                table: "links");

            migrationBuilder.DropTable(
                name: "agreed_values");

            migrationBuilder.DropTable(
                name: "drafts");

            migrationBuilder.DropTable(
                name: "folders");

            migrationBuilder.DropTable(
                name: "recipes");

            migrationBuilder.DropTable(
                name: "tag_merges");

            migrationBuilder.DropIndex(
                name: "ix_links_domain_id_slug_key",
                table: "links");

            migrationBuilder.DropIndex(
                name: "ix_links_folder_id",
                table: "links");

            migrationBuilder.DropIndex(
                name: "ix_domains_next_check_at",
                table: "domains");

            migrationBuilder.DropIndex(
                name: "ix_campaigns_recipe_id",
                table: "campaigns");

            migrationBuilder.DropColumn(
                name: "is_vocabulary_locked",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "redirect",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "folder_id",
                table: "links");

            migrationBuilder.DropColumn(
                name: "note",
                table: "links");

            migrationBuilder.DropColumn(
                name: "options_anchor_text",
                table: "links");

            migrationBuilder.DropColumn(
                name: "options_hide_from_search",
                table: "links");

            migrationBuilder.DropColumn(
                name: "options_new_tab",
                table: "links");

            migrationBuilder.DropColumn(
                name: "options_nofollow",
                table: "links");

            migrationBuilder.DropColumn(
                name: "options_pass_query",
                table: "links");

            migrationBuilder.DropColumn(
                name: "options_referrer",
                table: "links");

            migrationBuilder.DropColumn(
                name: "options_sponsored",
                table: "links");

            migrationBuilder.DropColumn(
                name: "options_title_attribute",
                table: "links");

            migrationBuilder.DropColumn(
                name: "slug_freed_at",
                table: "links");

            migrationBuilder.DropColumn(
                name: "checked_at",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "ended_page",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "failing_since",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "findings",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "next_check_at",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "options_anchor_text",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "options_hide_from_search",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "options_new_tab",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "options_nofollow",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "options_pass_query",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "options_referrer",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "options_sponsored",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "options_title_attribute",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "proof",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "redirect",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "unknown_page",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "recipe_id",
                table: "campaigns");

            migrationBuilder.CreateIndex(
                name: "ix_links_domain_id_slug_key",
                table: "links",
                columns: new[] { "domain_id", "slug_key" },
                unique: true);
        }
    }
}
