using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>Workspaces that are archived or about to be deleted, and which digest each member has read.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261202020000_WorkspaceEnds")]
internal sealed class WorkspaceEnds : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table workspaces add column archived_at timestamptz;
            alter table workspaces add column delete_at timestamptz;
            alter table members add column digest_read_for date;
            """
        );

    protected override void Down(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table members drop column digest_read_for;
            alter table workspaces drop column delete_at, drop column archived_at;
            """
        );
}
