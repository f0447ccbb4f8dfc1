using System.IO.Compression;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Cursus.Core;
using Cursus.Core.Archives;

namespace Cursus.Data.Archives;

/// <summary>Why an archive is not imported, in words for the person who brings it.</summary>
public sealed class ArchiveRefusedException(ValidationError error) : Exception(error.Text)
{
    public ValidationError Error { get; } = error;
}

/// <summary>An archive that was looked through: it is whole, unchanged, and refers to nothing but itself.</summary>
public sealed class ArchiveFile : IAsyncDisposable
{
    private const int LongestLine = 8 * 1024 * 1024;
    private const string ById = "_id",
        ByMember = "_by";

    private readonly FileStream file;
    private readonly ZipArchive zip;
    private readonly HashSet<Guid> ids = [];
    private readonly Dictionary<Guid, string?> members = [];

    private ArchiveFile(FileStream file, ZipArchive zip, ArchiveManifest manifest) => (this.file, this.zip, Manifest) = (file, zip, manifest);

    public ArchiveManifest Manifest { get; }

    /// <summary>All ids that it brings.</summary>
    public IReadOnlySet<Guid> Ids => ids;

    /// <summary>E-mail addresses of those who were members.</summary>
    public IReadOnlyDictionary<Guid, string?> Members => members;

    /// <param name="rules">What is wrong with a line of a table, by the rules of the job; null where nothing is.</param>
    /// <exception cref="ArchiveRefusedException">It is no archive, or not whole, or something in it must not be taken.</exception>
    public static async Task<ArchiveFile> Open(string path, Func<string, JsonElement, ValidationError?> rules, CancellationToken cancel)
    {
        var file = File.OpenRead(path);
        try
        {
            var zip = await ZipArchive.CreateAsync(file, ZipArchiveMode.Read, leaveOpen: true, entryNameEncoding: null, cancel);
            var archive = new ArchiveFile(file, zip, await ReadManifest(zip, file.Length, cancel));
            foreach (var table in ArchiveTable.All.Where(t => archive.Manifest.Files.Any(f => f.Name == t.File)))
            {
                await archive.LookThrough(table, rules, cancel);
            }

            return archive;
        }
        catch (Exception e)
            when (e is InvalidDataException or JsonException or DecoderFallbackException or InvalidOperationException or KeyNotFoundException)
        {
            await file.DisposeAsync();
            throw new ArchiveRefusedException(
                new ValidationError("archive-damaged", "This isn’t a Cursus archive, or it was damaged. Export it again and copy it unchanged.")
            );
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }

    public async ValueTask DisposeAsync()
    {
        await zip.DisposeAsync();
        await file.DisposeAsync();
    }

    /// <summary>The lines of a file, none where there is no such file.</summary>
    public async IAsyncEnumerable<string> Lines(ArchiveTable table, [EnumeratorCancellation] CancellationToken cancel)
    {
        if (zip.GetEntry(table.File) is { } entry)
        {
            await using var stream = await entry.OpenAsync(cancel);
            using var reader = new StreamReader(stream, Encoding.UTF8);
            while (await reader.ReadLineAsync(cancel) is { } line)
            {
                yield return line;
            }
        }
    }

    private static async Task<ArchiveManifest> ReadManifest(ZipArchive zip, long packed, CancellationToken cancel)
    {
        var entry = zip.GetEntry(ArchiveManifest.FileName);
        if (entry is null or { Length: > LongestLine })
        {
            throw new InvalidDataException();
        }

        await using var stream = await entry.OpenAsync(cancel);
        var manifest = await JsonSerializer.DeserializeAsync<ArchiveManifest>(stream, ArchiveWriter.Json, cancel);
        return manifest is not { Files: not null } ? throw new InvalidDataException()
            : manifest.Against([.. zip.Entries.Select(e => e.FullName)], [.. ArchiveTable.All.Select(t => t.File)], packed) is { } error
                ? throw new ArchiveRefusedException(error)
            : manifest;
    }

    private async Task LookThrough(ArchiveTable table, Func<string, JsonElement, ValidationError?> rules, CancellationToken cancel)
    {
        var said = Manifest.Files.Single(f => f.Name == table.File);
        await using var stream = await zip.GetEntry(table.File)!.OpenAsync(cancel);
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var (bytes, lines, line) = (0L, 0L, new MemoryStream());
        var buffer = new byte[64 * 1024];
        for (int read; (read = await stream.ReadAsync(buffer, cancel)) > 0; )
        {
            bytes += read;
            hash.AppendData(buffer, 0, read);
            if (bytes > said.Bytes)
            {
                throw Changed(table);
            }

            for (var at = 0; at < read; )
            {
                var end = Array.IndexOf(buffer, (byte)'\n', at, read - at);
                line.Write(buffer, at, (end < 0 ? read : end) - at);
                if (line.Length > LongestLine)
                {
                    throw new InvalidDataException();
                }

                if (end >= 0)
                {
                    lines++;
                    Look(table, line, lines, rules);
                    line.SetLength(0);
                }

                at = end < 0 ? read : end + 1;
            }
        }

        if (line.Length > 0 || lines != said.Lines || bytes != said.Bytes || Convert.ToHexStringLower(hash.GetHashAndReset()) != said.Sha256)
        {
            throw Changed(table);
        }
    }

    private void Look(ArchiveTable table, MemoryStream line, long number, Func<string, JsonElement, ValidationError?> rules)
    {
        using var document = JsonDocument.Parse(line.GetBuffer().AsMemory(0, (int)line.Length));
        var row = document.RootElement;
        if (row.ValueKind != JsonValueKind.Object)
        {
            throw new InvalidDataException();
        }

        foreach (var property in row.EnumerateObject().Where(p => p.Value.ValueKind == JsonValueKind.String))
        {
            var isReference = property.Name.EndsWith(ById, StringComparison.Ordinal) || property.Name.EndsWith(ByMember, StringComparison.Ordinal);
            if (!(property.NameEquals("id") || isReference) || !property.Value.TryGetGuid(out var id))
            {
                continue;
            }

            if (table.Name == "members" && !isReference)
            {
                members[id] = row.TryGetProperty("email", out var email) ? email.GetString() : null;
            }
            else if (!isReference && table.Name != "workspaces")
            {
                ids.Add(id);
            }
            else if (property.Name.EndsWith(ByMember, StringComparison.Ordinal))
            {
                // Somebody who has left is nobody from now on.
                members.TryAdd(id, null);
            }
            else if (id != Manifest.WorkspaceId && !ids.Contains(id))
            {
                throw new ArchiveRefusedException(
                    new ValidationError(
                        "archive-reference",
                        $"Line {number} of {table.File} refers to something that isn’t in the archive. Nothing was imported. Export the archive again."
                    )
                );
            }
        }

        if (rules(table.Name, row) is { } error)
        {
            throw new ArchiveRefusedException(new ValidationError(error.Code, $"Line {number} of {table.File}: {error.Text} Nothing was imported."));
        }
    }

    private static ArchiveRefusedException Changed(ArchiveTable table) =>
        new(
            new ValidationError(
                "archive-checksum",
                $"{table.File} has changed since the archive was created. Nothing was imported. Copy or export the archive again."
            )
        );
}
