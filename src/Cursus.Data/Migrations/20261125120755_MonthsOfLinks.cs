using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <summary>Days of links tell how many people there were without their sketch being read, and months that have ended are summed up.</summary>
    public partial class MonthsOfLinks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameColumn(name: "visitors", table: "link_days", newName: "visitor_sketch");
            migrationBuilder.AddColumn<int>(name: "visitors", table: "link_days", type: "integer", nullable: false, defaultValue: 0);

            // Estimates stand in the longer ones; all are counted anew from the clicks at the next start.
            migrationBuilder.Sql("update link_days set visitors = length(visitor_sketch) / 8 where length(visitor_sketch) % 8 = 0");
            migrationBuilder.Sql("alter table link_days alter column visitors drop default");

            migrationBuilder.CreateTable(
                name: "link_months",
                columns: table => new
                {
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    month = table.Column<LocalDate>(type: "date", nullable: false),
                    clicks = table.Column<int>(type: "integer", nullable: false),
                    team = table.Column<int>(type: "integer", nullable: false),
                    machines = table.Column<int>(type: "integer", nullable: false),
                    previews = table.Column<int>(type: "integer", nullable: false),
                    prefetches = table.Column<int>(type: "integer", nullable: false),
                    repeats = table.Column<int>(type: "integer", nullable: false),
                    heads = table.Column<int>(type: "integer", nullable: false),
                    visitors = table.Column<int>(type: "integer", nullable: false),
                    week_hour_values = table.Column<int[]>(type: "integer[]", nullable: false),
                    week_hour_counts = table.Column<int[]>(type: "integer[]", nullable: false),
                    country_values = table.Column<string[]>(type: "text[]", nullable: false),
                    country_counts = table.Column<int[]>(type: "integer[]", nullable: false),
                    device_values = table.Column<string[]>(type: "text[]", nullable: false),
                    device_counts = table.Column<int[]>(type: "integer[]", nullable: false),
                    browser_values = table.Column<string[]>(type: "text[]", nullable: false),
                    browser_counts = table.Column<int[]>(type: "integer[]", nullable: false),
                    os_values = table.Column<string[]>(type: "text[]", nullable: false),
                    os_counts = table.Column<int[]>(type: "integer[]", nullable: false),
                    language_values = table.Column<string[]>(type: "text[]", nullable: false),
                    language_counts = table.Column<int[]>(type: "integer[]", nullable: false),
                    referrer_values = table.Column<string[]>(type: "text[]", nullable: false),
                    referrer_counts = table.Column<int[]>(type: "integer[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_months", x => new { x.link_id, x.month });
                });

            migrationBuilder.CreateTable(
                name: "sealed_months",
                columns: table => new
                {
                    month = table.Column<LocalDate>(type: "date", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sealed_months", x => x.month);
                });

            migrationBuilder.CreateIndex(
                name: "ix_link_months_month",
                table: "link_months",
                column: "month");

            migrationBuilder.Sql("""
                create or replace function forget_link_days() returns trigger language plpgsql as $$
                begin
                    delete from link_days where link_id in (select id from gone);
                    delete from link_months where link_id in (select id from gone);
                    return null;
                end $$;
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                create or replace function forget_link_days() returns trigger language plpgsql as $$
                begin
                    delete from link_days where link_id in (select id from gone);
                    return null;
                end $$;
                """);
            migrationBuilder.DropTable(name: "link_months");
            migrationBuilder.DropTable(name: "sealed_months");
            migrationBuilder.DropColumn(name: "visitors", table: "link_days");
            migrationBuilder.RenameColumn(name: "visitor_sketch", table: "link_days", newName: "visitors");
        }
    }
}
