using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class ListsFromElsewhere : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "brought_along",
                table: "links",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<List<Guid>>(
                name: "folder_ids",
                table: "batches",
                type: "uuid[]",
                nullable: false,
                defaultValueSql: "'{}'::uuid[]");

            migrationBuilder.AddColumn<int>(
                name: "outcome",
                table: "batch_lines",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            // Until now nothing was made only of lines that had something wrong.
            migrationBuilder.Sql("update batch_lines set outcome = 4 where problem is not null");

            migrationBuilder.CreateTable(
                name: "list_mappings",
                columns: table => new
                {
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    columns_key = table.Column<string>(type: "text", nullable: false),
                    choices = table.Column<string>(type: "jsonb", nullable: false),
                    used_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_list_mappings", x => new { x.workspace_id, x.columns_key });
                    table.ForeignKey(
                        name: "fk_list_mappings_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "list_mappings");

            migrationBuilder.DropColumn(
                name: "brought_along",
                table: "links");

            migrationBuilder.DropColumn(
                name: "folder_ids",
                table: "batches");

            migrationBuilder.DropColumn(
                name: "outcome",
                table: "batch_lines");
        }
    }
}
