using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Retargeting : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<short>(
                name: "options_handoff_deadline",
                table: "links",
                type: "smallint",
                nullable: true);

            migrationBuilder.AddColumn<short>(
                name: "options_handoff_deadline",
                table: "domains",
                type: "smallint",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "ad_networks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    key = table.Column<string>(type: "text", nullable: false),
                    description = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_ad_networks", x => x.id);
                    table.ForeignKey(
                        name: "fk_ad_networks_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "handoff_settings",
                columns: table => new
                {
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    consent = table.Column<short>(type: "smallint", nullable: false),
                    countries = table.Column<string[]>(type: "text[]", nullable: false),
                    questions = table.Column<string>(type: "jsonb", nullable: false),
                    privacy_page = table.Column<string>(type: "text", nullable: true),
                    line = table.Column<string>(type: "text", nullable: true),
                    logo = table.Column<string>(type: "text", nullable: true),
                    paper = table.Column<string>(type: "text", nullable: false),
                    ink = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_handoff_settings", x => x.workspace_id);
                    table.ForeignKey(
                        name: "fk_handoff_settings_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "pixels",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    network = table.Column<string>(type: "text", nullable: false),
                    reference = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_pixels", x => x.id);
                    table.ForeignKey(
                        name: "fk_pixels_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "campaign_pixels",
                columns: table => new
                {
                    campaign_id = table.Column<Guid>(type: "uuid", nullable: false),
                    pixel_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_campaign_pixels", x => new { x.campaign_id, x.pixel_id });
                    table.ForeignKey(
                        name: "fk_campaign_pixels_campaigns_campaign_id",
                        column: x => x.campaign_id,
                        principalTable: "campaigns",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_campaign_pixels_pixels_pixel_id",
                        column: x => x.pixel_id,
                        principalTable: "pixels",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "channel_pixels",
                columns: table => new
                {
                    channel_id = table.Column<Guid>(type: "uuid", nullable: false),
                    pixel_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_channel_pixels", x => new { x.channel_id, x.pixel_id });
                    table.ForeignKey(
                        name: "fk_channel_pixels_channels_channel_id",
                        column: x => x.channel_id,
                        principalTable: "channels",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_channel_pixels_pixels_pixel_id",
                        column: x => x.pixel_id,
                        principalTable: "pixels",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "domain_pixels",
                columns: table => new
                {
                    domain_id = table.Column<Guid>(type: "uuid", nullable: false),
                    pixel_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_domain_pixels", x => new { x.domain_id, x.pixel_id });
                    table.ForeignKey(
                        name: "fk_domain_pixels_domains_domain_id",
                        column: x => x.domain_id,
                        principalTable: "domains",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_domain_pixels_pixels_pixel_id",
                        column: x => x.pixel_id,
                        principalTable: "pixels",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "link_pixels",
                columns: table => new
                {
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    pixel_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_pixels", x => new { x.link_id, x.pixel_id });
                    table.ForeignKey(
                        name: "fk_link_pixels_links_link_id",
                        column: x => x.link_id,
                        principalTable: "links",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_link_pixels_pixels_pixel_id",
                        column: x => x.pixel_id,
                        principalTable: "pixels",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "pixel_days",
                columns: table => new
                {
                    pixel_id = table.Column<Guid>(type: "uuid", nullable: false),
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    fired = table.Column<int>(type: "integer", nullable: false),
                    missed = table.Column<int>(type: "integer", nullable: false),
                    declined = table.Column<int>(type: "integer", nullable: false),
                    opted_out = table.Column<int>(type: "integer", nullable: false),
                    visitor_sketch = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_pixel_days", x => new { x.pixel_id, x.link_id, x.day });
                    table.ForeignKey(
                        name: "fk_pixel_days_links_link_id",
                        column: x => x.link_id,
                        principalTable: "links",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_pixel_days_pixels_pixel_id",
                        column: x => x.pixel_id,
                        principalTable: "pixels",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "post_pixels",
                columns: table => new
                {
                    pixel_id = table.Column<Guid>(type: "uuid", nullable: false),
                    post_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_post_pixels", x => new { x.pixel_id, x.post_id });
                    table.ForeignKey(
                        name: "fk_post_pixels_pixels_pixel_id",
                        column: x => x.pixel_id,
                        principalTable: "pixels",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_post_pixels_posts_post_id",
                        column: x => x.post_id,
                        principalTable: "posts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_ad_networks_workspace_id_key",
                table: "ad_networks",
                columns: new[] { "workspace_id", "key" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_campaign_pixels_pixel_id",
                table: "campaign_pixels",
                column: "pixel_id");

            migrationBuilder.CreateIndex(
                name: "ix_channel_pixels_pixel_id",
                table: "channel_pixels",
                column: "pixel_id");

            migrationBuilder.CreateIndex(
                name: "ix_domain_pixels_pixel_id",
                table: "domain_pixels",
                column: "pixel_id");

            migrationBuilder.CreateIndex(
                name: "ix_link_pixels_pixel_id",
                table: "link_pixels",
                column: "pixel_id");

            migrationBuilder.CreateIndex(
                name: "ix_pixel_days_link_id",
                table: "pixel_days",
                column: "link_id");

            migrationBuilder.CreateIndex(
                name: "ix_pixels_workspace_id_name",
                table: "pixels",
                columns: new[] { "workspace_id", "name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_pixels_workspace_id_network_reference",
                table: "pixels",
                columns: new[] { "workspace_id", "network", "reference" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_post_pixels_post_id",
                table: "post_pixels",
                column: "post_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "ad_networks");

            migrationBuilder.DropTable(
                name: "campaign_pixels");

            migrationBuilder.DropTable(
                name: "channel_pixels");

            migrationBuilder.DropTable(
                name: "domain_pixels");

            migrationBuilder.DropTable(
                name: "handoff_settings");

            migrationBuilder.DropTable(
                name: "link_pixels");

            migrationBuilder.DropTable(
                name: "pixel_days");

            migrationBuilder.DropTable(
                name: "post_pixels");

            migrationBuilder.DropTable(
                name: "pixels");

            migrationBuilder.DropColumn(
                name: "options_handoff_deadline",
                table: "links");

            migrationBuilder.DropColumn(
                name: "options_handoff_deadline",
                table: "domains");
        }
    }
}
