using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class QrCodes : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "code_style_id",
                table: "links",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<int[]>(
                name: "code_counts",
                table: "link_months",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "code_values",
                table: "link_months",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<int[]>(
                name: "code_counts",
                table: "link_days",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "code_values",
                table: "link_days",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            // Until now nobody came by a code.
            migrationBuilder.Sql("""
                alter table clicks add column code smallint not null default 0;
                update link_days set code_values = '{""}', code_counts = array[clicks] where clicks > 0;
                update link_months set code_values = '{""}', code_counts = array[clicks] where clicks > 0;
                """);

            migrationBuilder.CreateTable(
                name: "code_logos",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    width = table.Column<double>(type: "double precision", nullable: false),
                    height = table.Column<double>(type: "double precision", nullable: false),
                    png = table.Column<byte[]>(type: "bytea", nullable: true),
                    shapes = table.Column<string>(type: "jsonb", nullable: false),
                    created_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_code_logos", x => x.id);
                    table.ForeignKey(
                        name: "fk_code_logos_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "link_codes",
                columns: table => new
                {
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<short>(type: "smallint", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    removed_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_codes", x => new { x.link_id, x.number });
                    table.ForeignKey(
                        name: "fk_link_codes_links_link_id",
                        column: x => x.link_id,
                        principalTable: "links",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "code_styles",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    style = table.Column<string>(type: "jsonb", nullable: false),
                    logo_id = table.Column<Guid>(type: "uuid", nullable: true),
                    is_default = table.Column<bool>(type: "boolean", nullable: false),
                    created_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_code_styles", x => x.id);
                    table.ForeignKey(
                        name: "fk_code_styles_code_logos_logo_id",
                        column: x => x.logo_id,
                        principalTable: "code_logos",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_code_styles_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_links_code_style_id",
                table: "links",
                column: "code_style_id");

            migrationBuilder.CreateIndex(
                name: "ix_code_logos_workspace_id",
                table: "code_logos",
                column: "workspace_id");

            migrationBuilder.CreateIndex(
                name: "ix_code_styles_default",
                table: "code_styles",
                column: "workspace_id",
                unique: true,
                filter: "is_default");

            migrationBuilder.CreateIndex(
                name: "ix_code_styles_logo_id",
                table: "code_styles",
                column: "logo_id");

            migrationBuilder.CreateIndex(
                name: "ix_code_styles_workspace_id_name",
                table: "code_styles",
                columns: new[] { "workspace_id", "name" },
                unique: true);

            migrationBuilder.AddForeignKey(
                name: "fk_links_code_styles_code_style_id",
                table: "links",
                column: "code_style_id",
                principalTable: "code_styles",
                principalColumn: "id",
                onDelete: ReferentialAction.SetNull);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("alter table clicks drop column code");

            migrationBuilder.DropForeignKey(
                name: "fk_links_code_styles_code_style_id",
                table: "links");

            migrationBuilder.DropTable(
                name: "code_styles");

            migrationBuilder.DropTable(
                name: "link_codes");

            migrationBuilder.DropTable(
                name: "code_logos");

            migrationBuilder.DropIndex(
                name: "ix_links_code_style_id",
                table: "links");

            migrationBuilder.DropColumn(
                name: "code_style_id",
                table: "links");

            migrationBuilder.DropColumn(
                name: "code_counts",
                table: "link_months");

            migrationBuilder.DropColumn(
                name: "code_values",
                table: "link_months");

            migrationBuilder.DropColumn(
                name: "code_counts",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "code_values",
                table: "link_days");
        }
    }
}
