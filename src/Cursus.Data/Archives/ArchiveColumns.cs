using Npgsql;

namespace Cursus.Data.Archives;

/// <summary>The columns that archives hold of each table, as the database has them: all but those that it computes itself or keeps for the
/// edge.</summary>
public static class ArchiveColumns
{
    /// <param name="Type">PostgreSQL's name of the type.</param>
    public sealed record Column(string Name, string Type, bool IsNullable);

    /// <summary>By table, in the table's order.</summary>
    public static async Task<ILookup<string, Column>> Of(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            select c.relname, a.attname, format_type(a.atttypid, null), not a.attnotnull
            from pg_attribute a join pg_class c on c.oid = a.attrelid
            where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and a.attnum > 0 and not a.attisdropped and a.attgenerated = ''
                and a.attname <> 'changed_in' and not (c.relname = 'batches' and a.attname = 'content')
            order by c.relname, a.attnum
            """,
            connection
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var found = new List<(string Table, Column Column)>();
        while (await reader.ReadAsync(cancel))
        {
            found.Add((reader.GetString(0), new Column(reader.GetString(1), reader.GetString(2), reader.GetBoolean(3))));
        }

        return found.ToLookup(f => f.Table, f => f.Column);
    }
}
