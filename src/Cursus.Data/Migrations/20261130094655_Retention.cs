using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Retention : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.EnsureSchema(
                name: "ephemeral");

            migrationBuilder.RenameTable(
                name: "visitor_salts",
                newName: "visitor_salts",
                newSchema: "ephemeral");

            // What is unlogged is in no standby and no archived log, and a backup leaves it out that is asked to.
            migrationBuilder.Sql("alter table ephemeral.visitor_salts set unlogged");

            migrationBuilder.AddColumn<LocalDate>(
                name: "clicks_kept_from",
                table: "workspaces",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<short>(
                name: "clicks_kept_months",
                table: "workspaces",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AlterColumn<string>(
                name: "text",
                table: "user_agents",
                type: "text",
                nullable: true,
                oldClrType: typeof(string),
                oldType: "text");

            migrationBuilder.AddColumn<LocalDate>(
                name: "seen_on",
                table: "user_agents",
                type: "date",
                nullable: true);

            migrationBuilder.Sql("update user_agents set seen_on = (now() at time zone 'UTC')::date");

            migrationBuilder.CreateTable(
                name: "parted_clicks",
                columns: table => new
                {
                    until = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_parted_clicks", x => x.until);
                });

            migrationBuilder.CreateIndex(
                name: "ix_user_agents_kind_device_browser_os_read_with",
                table: "user_agents",
                columns: new[] { "kind", "device", "browser", "os", "read_with" },
                unique: true,
                filter: "text is null");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "parted_clicks");

            migrationBuilder.DropIndex(
                name: "ix_user_agents_kind_device_browser_os_read_with",
                table: "user_agents");

            migrationBuilder.DropColumn(
                name: "clicks_kept_from",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "clicks_kept_months",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "seen_on",
                table: "user_agents");

            migrationBuilder.RenameTable(
                name: "visitor_salts",
                schema: "ephemeral",
                newName: "visitor_salts");

            migrationBuilder.Sql("""
                alter table visitor_salts set logged;
                drop schema ephemeral;
                update user_agents set text = '(not kept) ' || id where text is null;
                """);

            migrationBuilder.AlterColumn<string>(
                name: "text",
                table: "user_agents",
                type: "text",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "text",
                oldNullable: true);
        }
    }
}
