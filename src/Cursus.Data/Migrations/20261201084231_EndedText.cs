using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>What visitors of a link read after its end: of links, and as the usual text of short domains and workspaces.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261201084231_EndedText")]
internal sealed class EndedText : Migration
{
    private const string Column = "options_ended_text";

    private static readonly string[] Tables = ["workspaces", "domains", "links"];

    protected override void Up(MigrationBuilder migrationBuilder)
    {
        foreach (var table in Tables)
        {
            migrationBuilder.AddColumn<string>(Column, table, type: "character varying(300)", maxLength: 300, nullable: true);
        }
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        foreach (var table in Tables)
        {
            migrationBuilder.DropColumn(Column, table);
        }
    }
}
