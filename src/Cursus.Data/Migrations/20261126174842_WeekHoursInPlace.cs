using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class WeekHoursInPlace : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Months are sums: the application makes them anew from their days, and reports read the days until then.
            migrationBuilder.Sql("delete from link_months; delete from sealed_months;");

            migrationBuilder.DropColumn(
                name: "week_hour_counts",
                table: "link_months");

            migrationBuilder.RenameColumn(
                name: "week_hour_values",
                table: "link_months",
                newName: "week_hours");

            // Each hour is looked up by its place: of a list that is packed or kept elsewhere, it would be unpacked 168 times.
            migrationBuilder.Sql("alter table link_months alter column week_hours set storage plain;");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("delete from link_months; delete from sealed_months; alter table link_months alter column week_hours set storage extended;");

            migrationBuilder.RenameColumn(
                name: "week_hours",
                table: "link_months",
                newName: "week_hour_values");

            migrationBuilder.AddColumn<int[]>(
                name: "week_hour_counts",
                table: "link_months",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);
        }
    }
}
