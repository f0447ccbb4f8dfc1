using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class DigestByMail : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<LocalDate>(
                name: "digest_sent_for",
                table: "members",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "wants_digest",
                table: "members",
                type: "boolean",
                nullable: false,
                defaultValue: false);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "digest_sent_for",
                table: "members");

            migrationBuilder.DropColumn(
                name: "wants_digest",
                table: "members");
        }
    }
}
