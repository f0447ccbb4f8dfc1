using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class ChannelSettings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "address_length",
                table: "channels",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "retired_at",
                table: "channels",
                type: "timestamp with time zone",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "address_length",
                table: "channels");

            migrationBuilder.DropColumn(
                name: "retired_at",
                table: "channels");
        }
    }
}
