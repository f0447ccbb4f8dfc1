using System.Buffers;
using System.Buffers.Binary;
using System.IO.Hashing;
using System.Text.Json;
using Cursus.Edge.Handoff;

namespace Cursus.Edge;

/// <summary>
/// Everything that the edge knows, in a file: so that a start without a database leads visitors on all the same. It is written beside the one before
/// and then takes its place, so that there is a whole one at any moment.
/// Layout: eight letters that name it, the version of this layout, <see cref="Knowledge"/> as JSON with its length before it, then the links' records
/// (<see cref="LinkEntry"/>), each with its length before it, at last the XXH128 of all that. Numbers are 32 bits, little endian.
/// </summary>
internal static class LinkSnapshot
{
    private const int Version = 2;
    private const int HashLength = 16;
    private const int MostBytes = 1 << 20;

    private static ReadOnlySpan<byte> Name => "CURSUSLK"u8;

    /// <summary>What is known beside the links.</summary>
    /// <param name="Numbers">By which links' records name campaigns, channels, domains and pixels (<see cref="PixelTable.NumberOf"/>).</param>
    /// <param name="Salts">The keys of today's visitors' hashes, so that a restart doesn't count a visitor twice.</param>
    public sealed record Knowledge(
        IReadOnlyList<Domain> Domains,
        IReadOnlyDictionary<Guid, int> Numbers,
        PixelRows Pixels,
        IReadOnlyList<Salt> Salts
    );

    /// <summary>A <see cref="DomainEntry"/>.</summary>
    public sealed record Domain(
        Guid Id,
        int Number,
        Guid WorkspaceId,
        string Name,
        string TimeZone,
        IReadOnlyList<string> OfficeNetworks,
        string? BarePage,
        string? UnknownPage,
        string? EndedPage
    );

    /// <summary>The key of a day in a time zone.</summary>
    /// <param name="Day">As in ISO 8601.</param>
    /// <param name="End">When it ends there, in milliseconds since 1970.</param>
    public sealed record Salt(string TimeZone, string Day, long End, byte[] Key);

    /// <summary>Writes a snapshot in place of the one before. The file can be read by its owner alone.</summary>
    public static void Write(string file, Knowledge knowledge, IEnumerable<ReadOnlyMemory<byte>> links)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(file))!);
        var unfinished = $"{file}.{Guid.NewGuid():N}.new";
        var options = new FileStreamOptions
        {
            Mode = FileMode.Create,
            Access = FileAccess.Write,
            BufferSize = 1 << 16,
            UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
        };
        using (var stream = new FileStream(unfinished, options))
        {
            var hash = new XxHash128();
            Put(Name);
            PutNumber(Version);
            var json = JsonSerializer.SerializeToUtf8Bytes(knowledge);
            PutNumber(json.Length);
            Put(json);
            foreach (var link in links)
            {
                PutNumber(link.Length);
                Put(link.Span);
            }

            stream.Write(hash.GetCurrentHash());
            stream.Flush(flushToDisk: true);

            void Put(ReadOnlySpan<byte> bytes)
            {
                hash.Append(bytes);
                stream.Write(bytes);
            }

            void PutNumber(int number)
            {
                Span<byte> bytes = stackalloc byte[sizeof(int)];
                BinaryPrimitives.WriteInt32LittleEndian(bytes, number);
                Put(bytes);
            }
        }

        File.Move(unfinished, file, overwrite: true);
    }

    /// <summary>Reads a snapshot.</summary>
    /// <param name="take">Is given each link's record, as soon as the whole file has been found sound.</param>
    /// <returns>Null where there is none.</returns>
    /// <exception cref="InvalidDataException">The file is no snapshot, of another version, or damaged.</exception>
    public static Knowledge? Read(string file, Action<ReadOnlySpan<byte>> take)
    {
        if (!File.Exists(file))
        {
            return null;
        }

        using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16);
        var end = stream.Length - HashLength;
        if (end < Name.Length + 2 * sizeof(int) || !IsSound(stream, end))
        {
            throw new InvalidDataException("the file is damaged");
        }

        stream.Position = 0;
        var buffer = ArrayPool<byte>.Shared.Rent(MostBytes);
        try
        {
            if (!Next(Name.Length).SequenceEqual(Name) || NextNumber() != Version)
            {
                throw new InvalidDataException("the file is of another version");
            }

            var json = new byte[NextNumber()];
            stream.ReadExactly(json);
            var knowledge = JsonSerializer.Deserialize<Knowledge>(json) ?? throw new InvalidDataException("the file says nothing");
            while (stream.Position < end)
            {
                take(Next(NextNumber()));
            }

            return knowledge;
        }
        catch (Exception e) when (e is JsonException or EndOfStreamException or ArgumentException or OverflowException)
        {
            throw new InvalidDataException("the file can’t be read: " + e.Message, e);
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }

        ReadOnlySpan<byte> Next(int length)
        {
            var bytes = buffer.AsSpan(0, length);
            stream.ReadExactly(bytes);
            return bytes;
        }

        int NextNumber() => BinaryPrimitives.ReadInt32LittleEndian(Next(sizeof(int)));
    }

    private static bool IsSound(FileStream stream, long end)
    {
        var hash = new XxHash128();
        var buffer = ArrayPool<byte>.Shared.Rent(1 << 16);
        for (var left = end; left > 0; )
        {
            var read = stream.Read(buffer, 0, (int)Math.Min(left, buffer.Length));
            hash.Append(buffer.AsSpan(0, read));
            left -= read;
            if (read == 0)
            {
                return false;
            }
        }

        ArrayPool<byte>.Shared.Return(buffer);
        Span<byte> written = stackalloc byte[HashLength];
        stream.ReadExactly(written);
        return written.SequenceEqual(hash.GetCurrentHash());
    }
}
