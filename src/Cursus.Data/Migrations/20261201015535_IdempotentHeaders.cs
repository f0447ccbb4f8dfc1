using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class IdempotentHeaders : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "location",
                table: "idempotent_answers",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "entity_tag",
                table: "idempotent_answers",
                type: "text",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "location",
                table: "idempotent_answers");

            migrationBuilder.DropColumn(
                name: "entity_tag",
                table: "idempotent_answers");
        }
    }
}
