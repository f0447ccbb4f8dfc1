using System.Data;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Cursus.Core.Archives;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Archives;

/// <summary>Writes everything that a workspace holds into a ZIP, as it stood in one moment, a row at a time.</summary>
public sealed class ArchiveWriter(NpgsqlDataSource dataSource)
{
    internal static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    /// <param name="stream">Need not be seekable.</param>
    public async Task Write(Guid workspaceId, string workspace, Instant now, Stream stream, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        await connection.Run("set local time zone 'UTC'", cancel);
        var columns = await ArchiveColumns.Of(connection, cancel);
        await using var zip = await ZipArchive.CreateAsync(stream, ZipArchiveMode.Create, leaveOpen: true, entryNameEncoding: null, cancel);
        var files = new List<ArchivedFile>();
        foreach (var table in ArchiveTable.All)
        {
            files.Add(await Write(zip, table, columns, workspaceId, connection, cancel));
        }

        var manifest = new ArchiveManifest(ArchiveManifest.PresentFormat, workspace, workspaceId, now.ToString(), files);
        await using var entry = await zip.CreateEntry(ArchiveManifest.FileName).OpenAsync(cancel);
        await JsonSerializer.SerializeAsync(entry, manifest, Json, cancel);
    }

    private static async Task<ArchivedFile> Write(
        ZipArchive zip,
        ArchiveTable table,
        ILookup<string, ArchiveColumns.Column> columns,
        Guid workspaceId,
        NpgsqlConnection connection,
        CancellationToken cancel
    )
    {
        var select = table.Select ?? string.Join(", ", columns[table.Name].Select(c => $"x.\"{c.Name}\""));
        await using var command = new NpgsqlCommand(
            $"select row_to_json(t)::text from (select {select} from {table.View ?? table.Name} x where {table.Of} order by 1, 2) t",
            connection
        )
        {
            Parameters = { new() { Value = workspaceId } },
            CommandTimeout = 0,
        };
        await using var entry = await zip.CreateEntry(table.File, CompressionLevel.Fastest).OpenAsync(cancel);
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var (lines, bytes) = (0L, 0L);
        await using var reader = await command.ExecuteReaderAsync(CommandBehavior.SequentialAccess, cancel);
        while (await reader.ReadAsync(cancel))
        {
            var line = Encoding.UTF8.GetBytes(reader.GetString(0) + "\n");
            hash.AppendData(line);
            await entry.WriteAsync(line, cancel);
            (lines, bytes) = (lines + 1, bytes + line.Length);
        }

        return new ArchivedFile(table.File, lines, bytes, Convert.ToHexStringLower(hash.GetHashAndReset()));
    }
}
