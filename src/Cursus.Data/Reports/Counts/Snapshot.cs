using System.Runtime.CompilerServices;
using Cursus.Data.Reports.Questions;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Reports.Counts;

/// <summary>One moment of the database, in which all parts of an answer are counted, so that they agree with each other.</summary>
internal sealed class Snapshot : IAsyncDisposable
{
    private readonly NpgsqlConnection connection;
    private readonly NpgsqlTransaction transaction;
    private readonly IDisposable? turn;

    private Snapshot(NpgsqlConnection connection, NpgsqlTransaction transaction, IDisposable? turn, LocalDate sealedUntil) =>
        (this.connection, this.transaction, this.turn, SealedUntil) = (connection, transaction, turn, sealedUntil);

    /// <summary>The first day that is not in its links' months.</summary>
    public LocalDate SealedUntil { get; }

    /// <param name="turn">Ends with the snapshot.</param>
    public static async Task<Snapshot> Open(NpgsqlDataSource dataSource, IDisposable? turn, CancellationToken cancel)
    {
        NpgsqlConnection? connection = null;
        try
        {
            connection = await dataSource.OpenConnectionAsync(cancel);
            var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);

            // Compiling such a query takes longer than running it. A table of what is summed up is small, though the planner, who can't know how many
            // channels there are, expects a long one that is better sorted first; and to hash twenty thousand links takes more than the usual four
            // megabytes.
            await using var command = new NpgsqlCommand(
                "set local jit = off; set local enable_sort = off; set local work_mem = '64MB'; select until from sealed_days",
                connection
            );
            await using var reader = await command.ExecuteReaderAsync(cancel);
            return new Snapshot(
                connection,
                transaction,
                turn,
                await reader.ReadAsync(cancel) ? reader.GetFieldValue<LocalDate>(0) : LocalDate.MinIsoValue
            );
        }
        catch
        {
            await (connection?.DisposeAsync() ?? ValueTask.CompletedTask);
            turn?.Dispose();
            throw;
        }
    }

    /// <summary>Reads the rows of a question's SQL; see <see cref="Question.Parameters"/>.</summary>
    public Task<List<T>> Read<T>(Question question, string sql, Func<NpgsqlDataReader, T> read, CancellationToken cancel) =>
        Read(question.Parameters, sql, read, cancel);

    public async Task<List<T>> Read<T>(
        IEnumerable<(string Name, object Value)> parameters,
        string sql,
        Func<NpgsqlDataReader, T> read,
        CancellationToken cancel
    )
    {
        var rows = new List<T>();
        await Each(parameters, sql, row => rows.Add(read(row)), cancel);
        return rows;
    }

    /// <summary>Looks at row by row as the database reads them, without keeping any.</summary>
    public async Task Each(IEnumerable<(string Name, object Value)> parameters, string sql, Action<NpgsqlDataReader> read, CancellationToken cancel)
    {
        await using var command = Command(parameters, sql);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            read(reader);
        }
    }

    /// <summary>Hands row by row over as the database reads them, without keeping any.</summary>
    public async IAsyncEnumerable<T> Rows<T>(
        IEnumerable<(string Name, object Value)> parameters,
        string sql,
        Func<NpgsqlDataReader, T> read,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        await using var command = Command(parameters, sql);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            yield return read(reader);
        }
    }

    private NpgsqlCommand Command(IEnumerable<(string Name, object Value)> parameters, string sql)
    {
        var command = new NpgsqlCommand(sql, connection, transaction);
        foreach (var (name, value) in parameters)
        {
            command.Parameters.AddWithValue(name, value);
        }

        return command;
    }

    public async ValueTask DisposeAsync()
    {
        try
        {
            await transaction.DisposeAsync();
        }
        finally
        {
            await connection.DisposeAsync();
            turn?.Dispose();
        }
    }
}
