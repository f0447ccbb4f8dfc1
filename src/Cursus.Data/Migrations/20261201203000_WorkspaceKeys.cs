using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>Keys by which addresses name workspaces; those that are there get one of their names.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261201203000_WorkspaceKeys")]
internal sealed class WorkspaceKeys : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table workspaces add column key text;
            update workspaces w set key = k.key || case when k.place = 1 then '' else '-' || right(w.id::text, 6) end
            from (
                select id, words as key, row_number() over (partition by words order by created_at, id) as place
                from (
                    select id, created_at, coalesce(nullif(trim('-' from left(trim('-' from
                        regexp_replace(regexp_replace(normalize(lower(name), NFKD), '[\u0300-\u036f]', '', 'g'), '[^a-z0-9]+', '-', 'g')), 36)), ''), 'workspace') as words
                    from workspaces
                ) named
            ) k
            where k.id = w.id;
            alter table workspaces alter column key set not null;
            create unique index ix_workspaces_key on workspaces (key);
            """
        );

    protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("alter table workspaces drop column key;");
}
