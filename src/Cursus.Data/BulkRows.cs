using System.Collections;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Npgsql;
using NpgsqlTypes;

namespace Cursus.Data;

/// <summary>
/// Writes new rows by PostgreSQL's COPY, which takes thousands of links at once in a fraction of the time that single inserts need. Columns, their
/// order and their types are those of the model, so that nothing about a table is said twice.
/// </summary>
public static class BulkRows
{
    private const int Portion = 250;

    /// <summary>Writes <paramref name="rows"/> in the context's transaction, without tracking them; what they refer to must be there
    /// already.</summary>
    /// <param name="progress">Is told how many rows are written.</param>
    /// <exception cref="PostgresException">A rule of the table is broken, such as a slug given twice.</exception>
    public static Task WriteRows<T>(this CursusDb db, IReadOnlyCollection<T> rows, CancellationToken cancel, IProgress<int>? progress = null)
        where T : class
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(rows);
        if (rows.Count == 0)
        {
            return Task.CompletedTask;
        }

        var entity = db.Model.FindEntityType(typeof(T)) ?? throw new ArgumentException($"{typeof(T)} is no entity.", nameof(rows));
        var columns = entity.GetFlattenedProperties().Where(p => p.GetComputedColumnSql() is null).Select(p => Column.Of(p)).ToList();
        return Write(db, entity.GetTableName()!, columns, rows, cancel, progress);
    }

    /// <summary>Writes rows of a table that only joins two others.</summary>
    /// <param name="table">Name of the table in the database.</param>
    public static Task WritePairs(
        this CursusDb db,
        string table,
        string first,
        string second,
        IReadOnlyCollection<(Guid First, Guid Second)> pairs,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(pairs);
        if (pairs.Count == 0)
        {
            return Task.CompletedTask;
        }

        List<Column> columns =
        [
            new(first, NpgsqlDbType.Uuid, p => (((Guid, Guid))p).Item1),
            new(second, NpgsqlDbType.Uuid, p => (((Guid, Guid))p).Item2),
        ];
        return Write(db, table, columns, pairs, cancel, progress: null);
    }

    private static async Task Write(
        CursusDb db,
        string table,
        List<Column> columns,
        IEnumerable rows,
        CancellationToken cancel,
        IProgress<int>? progress
    )
    {
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        var names = string.Join(", ", columns.Select(c => $"\"{c.Name}\""));
        await using var copy = await connection.BeginBinaryImportAsync($"copy \"{table}\" ({names}) from stdin (format binary)", cancel);

        // What the triggers of many rows do takes its time, all of it after the last row.
        copy.Timeout = Timeout.InfiniteTimeSpan;
        var written = 0;
        foreach (var row in rows)
        {
            await copy.StartRowAsync(cancel);
            foreach (var column in columns)
            {
                await (column.Read(row) is { } value ? copy.WriteAsync(value, column.Type, cancel) : copy.WriteNullAsync(cancel));
            }

            if (++written % Portion == 0)
            {
                progress?.Report(written);
            }
        }

        await copy.CompleteAsync(cancel);
        progress?.Report(written);
    }

    private sealed record Column(string Name, NpgsqlDbType Type, Func<object, object?> Read)
    {
        public static Column Of(IProperty property)
        {
            var mapping = property.GetRelationalTypeMapping();
            var getter = property.GetGetter();
            var type = ((NpgsqlParameter)mapping.CreateParameter(new NpgsqlCommand(), "p", null)).NpgsqlDbType;
            return new Column(property.GetColumnName(), type, row =>
                getter.GetClrValueUsingContainingEntity(row) is { } value ? mapping.Converter?.ConvertToProvider(value) ?? value : null
            );
        }
    }
}
