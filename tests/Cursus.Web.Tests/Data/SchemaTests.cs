using System.Data;
using Cursus.Core.Addresses;
using Cursus.Core.Checking;
using Cursus.Core.Clicks.Tallies;
using Cursus.Data;
using Cursus.Data.Migrations;
using Cursus.Data.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql;

namespace Cursus.Web.Tests.Data;

/// <summary>The schema is what its files, its migrations and the model say, in a new database and in a filled one.</summary>
public sealed class SchemaTests(CursusApp app)
{
    /// <summary>Tables that only SQL knows, and those that libraries know.</summary>
    private static readonly string[] OnlySql =
    [
        "clicks",
        "removed_links",
        "rule_people",
        "link_days",
        "webhook_milestones",
        "schema_files",
        "__EFMigrationsHistory",
    ];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Tables_and_columns_are_those_of_the_model()
    {
        await using var db = app.Database();
        var model = db.GetService<IDesignTimeModel>().Model.GetRelationalModel();
        var expected = model
            .Tables.SelectMany(t => t.Columns.Select(c => $"{t.Schema ?? "public"}.{t.Name}.{c.Name} {c.StoreType}{(c.IsNullable ? " null" : "")}"))
            .ToList();
        var there = await Ask(
            """
            select n.nspname || '.' || c.relname || '.' || a.attname || ' ' || format_type(a.atttypid, a.atttypmod) || case when a.attnotnull then '' else ' null' end
            from pg_attribute a join pg_class c on c.oid = a.attrelid join pg_namespace n on n.oid = c.relnamespace
            where n.nspname in ('public', 'ephemeral') and c.relkind in ('r', 'p') and not c.relispartition and a.attnum > 0 and not a.attisdropped
                and c.relname not like 'qrtz%' and a.attname <> 'changed_in'
            """
        );
        there.Where(c => !OnlySql.Contains(c.Split('.')[1])).ShouldBe(expected.Where(c => !OnlySql.Contains(c.Split('.')[1])), ignoreOrder: true);
    }

    [Fact]
    public async Task Keys_and_indexes_of_the_model_are_in_the_database()
    {
        await using var db = app.Database();
        var model = db.GetService<IDesignTimeModel>().Model.GetRelationalModel();
        var there = await Ask("select conname from pg_constraint union select relname from pg_class where relkind = 'i'");
        model
            .Tables.Where(t => !OnlySql.Contains(t.Name))
            .SelectMany(t =>
                t.Indexes.Select(i => i.Name).Concat(t.ForeignKeyConstraints.Select(k => k.Name)).Concat(t.UniqueConstraints.Select(k => k.Name))
            )
            .ShouldBeSubsetOf(there);
    }

    [Fact]
    public async Task Numbers_in_the_schema_s_functions_are_those_of_the_enums()
    {
        foreach (var verdict in Enum.GetValues<PageVerdict>())
        {
            var isDead = (await Ask($"select is_dead({(int)verdict}::smallint, null)::text"))[0] == "true";
            isDead.ShouldBe(verdict is PageVerdict.Failing or PageVerdict.Gone, verdict.ToString());
        }

        var functions = SchemaFile.Read("functions.sql");
        functions.ShouldContain($"select domain_id, slug_key, {(int)AddressKind.Link}, id from changed");
        functions.ShouldContain($"select c.domain_id, c.slug_key, {(int)AddressKind.FormerLink}, c.link_id from changed c");
    }

    [Fact]
    public async Task Every_table_says_what_it_means_and_the_document_says_the_same()
    {
        await using var source = app.DataSource();
        await using var connection = await source.OpenConnectionAsync(Cancel);
        var document = await SchemaDocument.Of(connection, Cancel);
        (await File.ReadAllTextAsync(Repository.Of("docs", "schema.md"), Cancel)).ShouldBe(
            document,
            "where tables have changed, write it anew: dotnet artifacts/web/Cursus.Web.dll schema-document > docs/schema.md"
        );
        (
            await Ask(
                "select relname from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace and not relispartition and relname not like 'qrtz%' and obj_description(oid) is null"
            )
        ).ShouldBe(["__EFMigrationsHistory"]);
    }

    [Fact]
    public async Task Functions_views_and_triggers_are_made_anew_when_their_files_change_and_what_left_the_files_goes()
    {
        await WithDatabase(async db =>
        {
            await SchemaUpdate.Run(db, Cancel);
            var before = await Objects(db);
            await db.Database.ExecuteSqlRawAsync(
                """
                update schema_files set hash = 'of another version', made = made || array['view left_behind', 'trigger left_behind on links'];
                create view left_behind as select 1 as one;
                create trigger left_behind after update on links for each statement execute function tell_edge();
                drop trigger note_new_links on links;
                create or replace function tell_edge() returns trigger language plpgsql as 'begin return null; end';
                create function of_somebody_else() returns int language sql as 'select 1';
                """,
                Cancel
            );
            await SchemaUpdate.Run(db, Cancel);
            (await Objects(db)).Where(o => !o.Contains("of_somebody_else", StringComparison.Ordinal)).ShouldBe(before, ignoreOrder: true);
            (await Objects(db)).ShouldContain(o => o.Contains("of_somebody_else", StringComparison.Ordinal), "what Cursus didn’t make is left alone");
        });
    }

    [Fact]
    public async Task Every_migration_since_the_first_runs_on_a_filled_database_and_loses_nothing()
    {
        await WithDatabase(async db =>
        {
            await db.GetService<IMigrator>().MigrateAsync(Initial.Id, Cancel);
            var connection = (NpgsqlConnection)db.Database.GetDbConnection();
            await connection.OpenAsync(Cancel);
            var before = await FilledDatabase.Fill(connection, Cancel);
            before.Values.ShouldAllBe(rows => rows == 2);

            await SchemaUpdate.Run(db, Cancel);

            (await FilledDatabase.Count(connection, before.Keys, Cancel)).ShouldBe(before, ignoreOrder: true);
            (await db.Addresses.Select(a => a.Kind).ToListAsync(Cancel)).ShouldBe(
                [AddressKind.Link, AddressKind.Link, AddressKind.FormerLink, AddressKind.FormerLink],
                ignoreOrder: true
            );
            (await db.Links.CountAsync(l => db.Addresses.Any(a => a.TargetId == l.Id && a.SlugKey == l.SlugKey), Cancel)).ShouldBe(2);
        });
    }

    [Fact]
    public async Task Clicks_from_before_routes_count_as_led_to_their_links_own_destinations()
    {
        await WithDatabase(async db =>
        {
            await db.GetService<IMigrator>().MigrateAsync("20261201100000_RulePeople", Cancel);
            await db.Database.ExecuteSqlRawAsync(
                """
                insert into link_months values (md5('a')::uuid, '2026-10-01', '', '', '', '', '', '', '', '', ''), (md5('b')::uuid, '2026-11-01', '', '', '', '', '', '', '', '', '');
                insert into link_days (link_id, day, clicks, team, machines, previews, prefetches, repeats, heads, visitors)
                    select md5('a')::uuid, day::date, clicks, 0, 9, 0, 0, 0, 0, 0
                    from (values ('2026-09-30', 77), ('2026-10-01', 5), ('2026-10-02', 0), ('2026-10-31', 20000), ('2026-11-01', 8)) as days (day, clicks);
                insert into open_days (link_id, day, clicks, visitors) values (md5('a')::uuid, '2026-12-01', 3, 2), (md5('b')::uuid, '2026-12-01', 0, 0);
                """,
                Cancel
            );
            await SchemaUpdate.Run(db, Cancel);
            var connection = (NpgsqlConnection)db.Database.GetDbConnection();
            await connection.OpenAsync(Cancel);
            (await connection.Rows("select way from link_months order by month", row => row.GetFieldValue<byte[]>(0), Cancel)).ShouldBe([
                MonthTally.Pack([(1, [new("", 5)]), (31, [new("", 20000)])]),
                [],
            ]);
            (
                await connection.Rows("select way_values::text || way_counts::text from open_days order by clicks", row => row.GetString(0), Cancel)
            ).ShouldBe(["{}{}", "{\"\"}{3}"]);
        });
    }

    [Fact]
    public async Task An_installation_of_the_former_chain_moves_over_and_an_older_one_is_told_what_to_do()
    {
        await WithDatabase(async db =>
        {
            await db.GetService<IMigrator>().MigrateAsync(Initial.Id, Cancel);
            await db.Database.ExecuteSqlRawAsync("update \"__EFMigrationsHistory\" set migration_id = '20261130215829_SharedElsewhere'", Cancel);
            (await Should.ThrowAsync<InvalidOperationException>(() => SchemaUpdate.Run(db, Cancel))).Message.ShouldContain(
                "Start it once with a version that has"
            );

            await db.Database.ExecuteSqlRawAsync(
                $"insert into \"__EFMigrationsHistory\" select '{SchemaUpdate.LastBeforeInitial}', product_version from \"__EFMigrationsHistory\"",
                Cancel
            );
            await SchemaUpdate.Run(db, Cancel);
            (await db.Database.GetAppliedMigrationsAsync(Cancel)).ShouldBe(db.Database.GetMigrations());
        });
    }

    private static async Task<List<string>> Objects(CursusDb db) =>
        await db
            .Database.SqlQueryRaw<string>(
                """
                select pg_get_functiondef(p.oid) as "Value" from pg_proc p where p.pronamespace = 'public'::regnamespace
                    and not exists (select from pg_depend d where d.objid = p.oid and d.deptype = 'e')
                union all select pg_get_triggerdef(t.oid) from pg_trigger t where not t.tgisinternal
                union all select c.relname || pg_get_viewdef(c.oid) from pg_class c where c.relkind = 'v' and c.relnamespace = 'public'::regnamespace
                """
            )
            .ToListAsync(Cancel);

    private async Task<List<string>> Ask(string sql)
    {
        await using var db = app.Database();
        await using var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await connection.OpenAsync(Cancel);
        return await connection.Rows(sql, row => row.GetString(0), Cancel);
    }

    /// <summary>Lends an empty database of its own.</summary>
    private async Task WithDatabase(Func<CursusDb, Task> use)
    {
        var name = $"schema_{Guid.NewGuid():N}";
        await Ask($"create database {name}");
        try
        {
            var options = new DbContextOptionsBuilder<CursusDb>();
            CursusDb.Configure(options, new NpgsqlConnectionStringBuilder(app.Connection) { Database = name, Pooling = false }.ConnectionString);
            await using var db = new CursusDb(options.Options);
            await use(db);
        }
        finally
        {
            await Ask($"drop database {name} with (force)");
        }
    }
}
