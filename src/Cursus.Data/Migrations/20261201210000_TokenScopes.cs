using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>What API tokens may do, and until when. Those that are there may do all that their member may, as before.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261201210000_TokenScopes")]
internal sealed class TokenScopes : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table api_tokens add column role smallint not null default 2;
            alter table api_tokens add column scope smallint not null default 0;
            alter table api_tokens add column expires_at timestamptz;
            """
        );

    protected override void Down(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql("alter table api_tokens drop column role, drop column scope, drop column expires_at;");
}
