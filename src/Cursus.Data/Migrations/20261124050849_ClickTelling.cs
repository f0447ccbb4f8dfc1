using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class ClickTelling : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Roll-ups are made anew from the clicks at the next start, since their user agents are still to be read; today's visitors begin anew.
            migrationBuilder.Sql("delete from link_days; delete from visitor_salts;");

            migrationBuilder.DropPrimaryKey(
                name: "pk_visitor_salts",
                table: "visitor_salts");

            migrationBuilder.DropPrimaryKey(
                name: "pk_link_days",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "kind",
                table: "link_days");

            migrationBuilder.AddColumn<string[]>(
                name: "office_networks",
                table: "workspaces",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<string>(
                name: "time_zone",
                table: "visitor_salts",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<Instant>(
                name: "ends_at",
                table: "visitor_salts",
                type: "timestamp with time zone",
                nullable: false,
                defaultValue: NodaTime.Instant.FromUnixTimeTicks(0L));

            migrationBuilder.AlterColumn<int>(
                name: "clicks",
                table: "link_days",
                type: "integer",
                nullable: false,
                oldClrType: typeof(long),
                oldType: "bigint");

            migrationBuilder.AddColumn<int[]>(
                name: "browser_counts",
                table: "link_days",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "browser_values",
                table: "link_days",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<int[]>(
                name: "country_counts",
                table: "link_days",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "country_values",
                table: "link_days",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<int[]>(
                name: "device_counts",
                table: "link_days",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "device_values",
                table: "link_days",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<int>(
                name: "heads",
                table: "link_days",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int[]>(
                name: "hours",
                table: "link_days",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<int[]>(
                name: "language_counts",
                table: "link_days",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "language_values",
                table: "link_days",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<int>(
                name: "machines",
                table: "link_days",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int[]>(
                name: "os_counts",
                table: "link_days",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "os_values",
                table: "link_days",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<int>(
                name: "prefetches",
                table: "link_days",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "previews",
                table: "link_days",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int[]>(
                name: "referrer_counts",
                table: "link_days",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "referrer_values",
                table: "link_days",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<int>(
                name: "repeats",
                table: "link_days",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "team",
                table: "link_days",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<byte[]>(
                name: "visitors",
                table: "link_days",
                type: "bytea",
                nullable: false,
                defaultValue: new byte[0]);

            migrationBuilder.AddPrimaryKey(
                name: "pk_visitor_salts",
                table: "visitor_salts",
                columns: new[] { "time_zone", "day" });

            migrationBuilder.AddPrimaryKey(
                name: "pk_link_days",
                table: "link_days",
                columns: new[] { "link_id", "day" });

            migrationBuilder.CreateTable(
                name: "referrer_rules",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    host = table.Column<string>(type: "character varying(253)", maxLength: 253, nullable: false),
                    channel_id = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_referrer_rules", x => x.id);
                    table.ForeignKey(
                        name: "fk_referrer_rules_channels_channel_id",
                        column: x => x.channel_id,
                        principalTable: "channels",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_referrer_rules_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "referrers",
                columns: table => new
                {
                    host = table.Column<string>(type: "text", nullable: false),
                    network = table.Column<string>(type: "text", nullable: false),
                    kind = table.Column<short>(type: "smallint", nullable: false),
                    read_with = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_referrers", x => x.host);
                });

            migrationBuilder.CreateTable(
                name: "user_agents",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    text = table.Column<string>(type: "text", nullable: false),
                    hints = table.Column<short>(type: "smallint", nullable: false),
                    kind = table.Column<byte>(type: "smallint", nullable: false),
                    device = table.Column<string>(type: "text", nullable: false),
                    browser = table.Column<string>(type: "text", nullable: false),
                    os = table.Column<string>(type: "text", nullable: false),
                    read_with = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_user_agents", x => x.id);
                });

            migrationBuilder.CreateIndex(
                name: "ix_link_days_day",
                table: "link_days",
                column: "day");

            migrationBuilder.CreateIndex(
                name: "ix_referrer_rules_channel_id",
                table: "referrer_rules",
                column: "channel_id");

            migrationBuilder.CreateIndex(
                name: "ix_referrer_rules_workspace_id_host",
                table: "referrer_rules",
                columns: new[] { "workspace_id", "host" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_user_agents_text_hints",
                table: "user_agents",
                columns: new[] { "text", "hints" },
                unique: true);

            migrationBuilder.Sql("""
                alter table clicks drop constraint clicks_pkey;
                alter table clicks add column user_agent_id integer, add column country text not null default '';
                insert into user_agents (text, hints, kind, device, browser, os, read_with) select distinct user_agent, 0, 0, '', '', '', '' from clicks;
                insert into referrers (host, network, kind, read_with) select distinct referrer_host, '', 0, '' from clicks;
                update clicks set user_agent_id = u.id from user_agents u where u.text = clicks.user_agent;
                alter table clicks alter column user_agent_id set not null, alter column country drop default, drop column user_agent;
                create index ix_clicks_at on clicks using brin (at);
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                delete from link_days;
                delete from visitor_salts;
                drop index ix_clicks_at;
                alter table clicks add column user_agent text;
                update clicks set user_agent = u.text from user_agents u where u.id = clicks.user_agent_id;
                alter table clicks alter column user_agent set not null, drop column user_agent_id, drop column country, add primary key (at, id);
                """);

            migrationBuilder.DropTable(
                name: "referrer_rules");

            migrationBuilder.DropTable(
                name: "referrers");

            migrationBuilder.DropTable(
                name: "user_agents");

            migrationBuilder.DropPrimaryKey(
                name: "pk_visitor_salts",
                table: "visitor_salts");

            migrationBuilder.DropPrimaryKey(
                name: "pk_link_days",
                table: "link_days");

            migrationBuilder.DropIndex(
                name: "ix_link_days_day",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "office_networks",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "time_zone",
                table: "visitor_salts");

            migrationBuilder.DropColumn(
                name: "ends_at",
                table: "visitor_salts");

            migrationBuilder.DropColumn(
                name: "browser_counts",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "browser_values",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "country_counts",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "country_values",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "device_counts",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "device_values",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "heads",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "hours",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "language_counts",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "language_values",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "machines",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "os_counts",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "os_values",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "prefetches",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "previews",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "referrer_counts",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "referrer_values",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "repeats",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "team",
                table: "link_days");

            migrationBuilder.DropColumn(
                name: "visitors",
                table: "link_days");

            migrationBuilder.AlterColumn<long>(
                name: "clicks",
                table: "link_days",
                type: "bigint",
                nullable: false,
                oldClrType: typeof(int),
                oldType: "integer");

            migrationBuilder.AddColumn<byte>(
                name: "kind",
                table: "link_days",
                type: "smallint",
                nullable: false,
                defaultValue: (byte)0);

            migrationBuilder.AddPrimaryKey(
                name: "pk_visitor_salts",
                table: "visitor_salts",
                column: "day");

            migrationBuilder.AddPrimaryKey(
                name: "pk_link_days",
                table: "link_days",
                columns: new[] { "link_id", "day", "kind" });
        }
    }
}
