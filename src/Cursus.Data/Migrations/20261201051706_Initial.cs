using Cursus.Data.Schema;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>All tables as they were when the schema was gathered into one, in SQL, so that they can be read: see <c>Schema/tables.sql</c>.</summary>
[DbContext(typeof(CursusDb))]
[Migration(Id)]
internal sealed class Initial : Migration
{
    public const string Id = "20261201051706_Initial";

    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.Sql(SchemaFile.Read("tables.sql"));
        migrationBuilder.Sql(SchemaFile.Read("quartz.sql"));
    }
}
