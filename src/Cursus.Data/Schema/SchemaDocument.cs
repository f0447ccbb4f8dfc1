using System.Globalization;
using System.Text;
using Npgsql;

namespace Cursus.Data.Schema;

/// <summary>Describes the tables of a database for people: what each means, what is in it, and what it refers to.</summary>
public static class SchemaDocument
{
    private sealed record Column(string Table, string Name, string Type, bool IsRequired);

    private sealed record Reference(string Table, string Columns, string To);

    private const string Tables = """
        c.relkind in ('r', 'p') and not c.relispartition and n.nspname in ('public', 'ephemeral')
            and c.relname not like 'qrtz%' and c.relname <> '__EFMigrationsHistory'
        """;

    private const string Name = "case n.nspname when 'public' then '' else n.nspname || '.' end || c.relname";

    /// <summary>The document, in Markdown.</summary>
    /// <param name="connection">To a database of this version's schema.</param>
    public static async Task<string> Of(NpgsqlConnection connection, CancellationToken cancel)
    {
        var meanings = await connection.Rows(
            $"select {Name}, coalesce(obj_description(c.oid), '') from pg_class c join pg_namespace n on n.oid = c.relnamespace where {Tables} order by 1",
            row => (Table: row.GetString(0), Meaning: row.GetString(1)),
            cancel
        );
        var columns = await connection.Rows(
            $"""
            select {Name}, a.attname, format_type(a.atttypid, a.atttypmod), a.attnotnull
            from pg_attribute a join pg_class c on c.oid = a.attrelid join pg_namespace n on n.oid = c.relnamespace
            where {Tables} and a.attnum > 0 and not a.attisdropped order by 1, a.attnum
            """,
            row => new Column(row.GetString(0), row.GetString(1), row.GetString(2), row.GetBoolean(3)),
            cancel
        );
        var references = await connection.Rows(
            $"""
            select {Name}, (select string_agg(attname, ', ' order by attnum) from pg_attribute where attrelid = c.oid and attnum = any(k.conkey)), t.relname
            from pg_constraint k join pg_class c on c.oid = k.conrelid join pg_namespace n on n.oid = c.relnamespace join pg_class t on t.oid = k.confrelid
            where k.contype = 'f' and {Tables} order by 1, 2
            """,
            row => new Reference(row.GetString(0), row.GetString(1), row.GetString(2)),
            cancel
        );

        var text = new StringBuilder();
        text.Append(
            """
            # Schema

            Written by `./cursus documents`; what each table means stands in `src/Cursus.Data/Schema/comments.sql`.
            Functions, triggers and views stand beside it, whole. The tables of Quartz.NET, which runs background work, are left out.

            ## What refers to what

            References to the workspace, which nearly all have, and to who made something are left out.

            ```mermaid
            erDiagram

            """
        );
        foreach (var one in references.Where(r => r.To is not ("workspaces" or "members" or "accounts")))
        {
            text.Append(CultureInfo.InvariantCulture, $"    {one.To} ||--o{{ {one.Table} : \"{one.Columns}\"\n");
        }

        text.Append("```\n\n## Tables\n");
        foreach (var (table, meaning) in meanings)
        {
            text.Append(CultureInfo.InvariantCulture, $"\n### {table}\n\n{meaning}\n\n");
            foreach (var column in columns.Where(c => c.Table == table))
            {
                var to = references.FirstOrDefault(r => r.Table == table && r.Columns == column.Name)?.To;
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"- `{column.Name}` {Short(column.Type)}{(column.IsRequired ? "" : ", or nothing")}{(to is null ? "" : $" → {to}")}\n"
                );
            }
        }

        return text.ToString();
    }

    private static string Short(string type) =>
        type.Replace("timestamp with time zone", "timestamptz", StringComparison.Ordinal)
            .Replace("character varying", "varchar", StringComparison.Ordinal);
}
