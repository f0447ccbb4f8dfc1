using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class WorkspaceSettings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "number_language",
                table: "workspaces",
                type: "character varying(8)",
                maxLength: 8,
                nullable: false,
                defaultValue: "en-GB");

            migrationBuilder.AddColumn<string>(
                name: "options_anchor_text",
                table: "workspaces",
                type: "character varying(200)",
                maxLength: 200,
                nullable: true);

            migrationBuilder.AddColumn<short>(
                name: "options_handoff_deadline",
                table: "workspaces",
                type: "smallint",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "options_hide_from_search",
                table: "workspaces",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "options_new_tab",
                table: "workspaces",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "options_nofollow",
                table: "workspaces",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<short>(
                name: "options_pass_query",
                table: "workspaces",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AddColumn<short>(
                name: "options_referrer",
                table: "workspaces",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AddColumn<bool>(
                name: "options_sponsored",
                table: "workspaces",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "options_title_attribute",
                table: "workspaces",
                type: "character varying(200)",
                maxLength: 200,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "public_name",
                table: "workspaces",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<short>(
                name: "slug_kind",
                table: "workspaces",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AddColumn<short>(
                name: "week_start",
                table: "workspaces",
                type: "smallint",
                nullable: false,
                defaultValue: (short)1);

            migrationBuilder.AddColumn<bool>(
                name: "has_own_options",
                table: "domains",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "own_color",
                table: "channels",
                type: "text",
                nullable: true);

            // What a domain said of its new links goes on holding for them.
            migrationBuilder.Sql("""
                update domains set has_own_options = true
                where options_pass_query <> 0 or options_referrer <> 0 or options_hide_from_search or options_nofollow or options_sponsored or options_new_tab
                    or coalesce(options_title_attribute, options_anchor_text) is not null or options_handoff_deadline is not null
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "number_language",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "options_anchor_text",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "options_handoff_deadline",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "options_hide_from_search",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "options_new_tab",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "options_nofollow",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "options_pass_query",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "options_referrer",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "options_sponsored",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "options_title_attribute",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "public_name",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "slug_kind",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "week_start",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "has_own_options",
                table: "domains");

            migrationBuilder.DropColumn(
                name: "own_color",
                table: "channels");
        }
    }
}
