using System.Globalization;
using Cursus.Data;
using Npgsql;

namespace Cursus.Web.Tests.Data;

/// <summary>Puts rows into every table that there is, whatever its columns are: two each, which refer to rows of the tables before.</summary>
internal static class FilledDatabase
{
    private const int RowsEach = 2;

    private sealed record Column(string Name, string Type, bool IsRequired, bool HasDefault);

    /// <summary>How many rows each table has then.</summary>
    public static async Task<Dictionary<string, long>> Fill(NpgsqlConnection connection, CancellationToken cancel)
    {
        var tables = await connection.Rows(
            """
            select c.relname from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' and not c.relispartition
                and c.relname not like 'qrtz%' and c.relname not in ('__EFMigrationsHistory', 'schema_files') order by 1
            """,
            row => row.GetString(0),
            cancel
        );
        var references = (
            await connection.Rows(
                """
                select k.conrelid::regclass::text, a.attname, k.confrelid::regclass::text, f.attname from pg_constraint k
                    cross join lateral unnest(k.conkey, k.confkey) as pair (own, other)
                    join pg_attribute a on a.attrelid = k.conrelid and a.attnum = pair.own
                    join pg_attribute f on f.attrelid = k.confrelid and f.attnum = pair.other
                where k.contype = 'f' and k.conrelid::regclass::text not like 'qrtz%'
                """,
                row => (Table: row.GetString(0), Column: row.GetString(1), To: row.GetString(2), Key: row.GetString(3)),
                cancel
            )
        ).ToLookup(r => r.Table);

        var filled = new List<string>();
        while (filled.Count < tables.Count)
        {
            var table = tables.Except(filled).First(t => references[t].All(r => r.To == t || filled.Contains(r.To)));
            await Fill(connection, table, references[table].ToDictionary(r => r.Column, r => (r.To, r.Key)), cancel);
            filled.Add(table);
        }

        return await Count(connection, tables, cancel);
    }

    /// <summary>How many rows each table has.</summary>
    public static async Task<Dictionary<string, long>> Count(NpgsqlConnection connection, IEnumerable<string> tables, CancellationToken cancel)
    {
        var counts = new Dictionary<string, long>();
        foreach (var table in tables)
        {
            counts[table] = (await connection.Rows($"select count(*) from {table}", row => row.GetInt64(0), cancel))[0];
        }

        return counts;
    }

    private static async Task Fill(
        NpgsqlConnection connection,
        string table,
        Dictionary<string, (string To, string Key)> references,
        CancellationToken cancel
    )
    {
        var columns = await connection.Rows(
            $"""
            select a.attname, format_type(a.atttypid, null), a.attnotnull, a.atthasdef or a.attidentity <> '' from pg_attribute a
            where a.attrelid = '{table}'::regclass and a.attnum > 0 and not a.attisdropped and a.attgenerated = ''
            """,
            row => new Column(row.GetString(0), row.GetString(1), row.GetBoolean(2), row.GetBoolean(3)),
            cancel
        );
        var needed = columns.Where(c => c.IsRequired && !c.HasDefault).ToList();
        for (var row = 0; row < RowsEach; row++)
        {
            var values = needed.Select(c =>
                references.TryGetValue(c.Name, out var to)
                    ? $"(select {to.Key} from {to.To} order by {to.Key} offset {row} limit 1)"
                    : ValueOf(table, c, row)
            );
            await using var insert = new NpgsqlCommand(
                needed.Count == 0
                    ? $"insert into {table} default values"
                    : $"insert into {table} ({string.Join(", ", needed.Select(c => c.Name))}) values ({string.Join(", ", values)})",
                connection
            );
            await insert.ExecuteNonQueryAsync(cancel);
        }
    }

    private static string ValueOf(string table, Column column, int row) =>
        (column.Name, column.Type) switch
        {
            ("redirect", _) => "302",
            (_, "uuid") => "gen_random_uuid()",
            (_, "boolean") => "false",
            (_, "smallint" or "integer" or "bigint" or "double precision" or "real" or "numeric") => row.ToString(CultureInfo.InvariantCulture),
            (_, "jsonb") => "'{}'",
            (_, "bytea") => $"'\\x0{row}'",
            (_, "date") => $"date '2026-03-01' + {row}",
            (_, "timestamp with time zone") => "now()",
            (_, "tsvector") => "''",
            (_, var type) when type.EndsWith("[]", StringComparison.Ordinal) => "'{}'",
            _ => $"'{table[^4..]}{row}'",
        };
}
