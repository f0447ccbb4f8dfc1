using System.Globalization;
using System.IO.Hashing;
using System.IO.MemoryMappedFiles;

namespace Cursus.Data.Clicks.Journaling;

/// <summary>
/// One file of the journal, mapped into memory. A written record survives the death of the process at once, since the pages belong to the
/// operating system, and the death of the machine after the next <see cref="Flush"/>.
/// Layout of a record, padded to eight bytes: length (4 bytes, written last; 0 means "nothing here yet"), CRC-32 of the content (4 bytes), content.
/// </summary>
internal sealed unsafe class JournalSegment : IDisposable
{
    public const string Extension = ".clicks";

    /// <summary>Of a file that nothing is written in yet; one that a dead process left is thrown away.</summary>
    public const string Unfinished = ".next";

    /// <summary>Where files are kept that the disk has changed.</summary>
    public const string DamagedFolder = "damaged";

    /// <summary>Where files are kept that hold what only a later version can read.</summary>
    public const string NewerFolder = "newer";

    /// <summary>What visitors sent is nobody's business but the server's.</summary>
    public const UnixFileMode OwnersOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    private const int RecordHeader = 8;

    private static readonly int LongestRecord = Math.Max(ClickRecord.MaxLength, HandoffRecord.MaxLength);

    private readonly MemoryMappedFile file;
    private readonly MemoryMappedViewAccessor view;
    private readonly byte* start;
    private bool unflushed;
    private long end;

    private JournalSegment(string path, long basePosition, long size, FileMode mode)
    {
        (Path, BasePosition) = (path, basePosition);

        // The space is taken and written when the file is made: a full disk shows here as an exception, never later as a fault on a mapped page, and
        // no visitor waits for the file system to give a page its place.
        using var stream = new FileStream(
            path,
            new FileStreamOptions
            {
                Mode = mode,
                Access = FileAccess.ReadWrite,
                Share = FileShare.ReadWrite | FileShare.Delete,
                PreallocationSize = mode == FileMode.CreateNew ? size : 0,
                UnixCreateMode = mode == FileMode.CreateNew ? OwnersOnly : null,
            }
        );
        if (mode == FileMode.CreateNew)
        {
            Fill(stream, size);
        }

        Size = stream.Length;
        file = MemoryMappedFile.CreateFromFile(path, FileMode.Open, mapName: null, Size);
        view = file.CreateViewAccessor(0, Size);
        view.SafeMemoryMappedViewHandle.AcquirePointer(ref start);
        end = basePosition + FindEnd();
    }

    public string Path { get; private set; }

    /// <summary>Position in the journal of this file's first byte.</summary>
    public long BasePosition { get; }

    public long Size { get; }

    /// <summary>Position behind the last whole record.</summary>
    public long End => Volatile.Read(ref end);

    /// <summary>Makes a file and begins it.</summary>
    public static JournalSegment Create(string folder, long basePosition, long size)
    {
        var segment = Prepare(folder, basePosition, size);
        return segment.TryBegin() ? segment : throw new IOException($"{segment.Path} cannot be given its name.");
    }

    /// <summary>Makes a file that belongs to the journal only once it is begun. Two may be made for the same position at once, one ahead and one on
    /// the way: each has a name of its own, or one would be written to after the other had taken its name.</summary>
    /// <exception cref="IOException">There is no room on the disk.</exception>
    public static JournalSegment Prepare(string folder, long basePosition, long size)
    {
        var path = System.IO.Path.Combine(folder, string.Create(CultureInfo.InvariantCulture, $"{basePosition:D20}.{Guid.NewGuid():N}{Unfinished}"));
        try
        {
            return new JournalSegment(path, basePosition, size, FileMode.CreateNew);
        }
        catch (IOException)
        {
            File.Delete(path);
            throw;
        }
    }

    public static JournalSegment Open(string path) =>
        new(path, long.Parse(System.IO.Path.GetFileNameWithoutExtension(path), CultureInfo.InvariantCulture), 0, FileMode.Open);

    /// <summary>Gives a prepared file the name by which the next start finds it.</summary>
    public bool TryBegin()
    {
        var path = System.IO.Path.Combine(
            System.IO.Path.GetDirectoryName(Path)!,
            BasePosition.ToString("D20", CultureInfo.InvariantCulture) + Extension
        );
        try
        {
            File.Move(Path, path);
            Path = path;
            return true;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            Discard();
            return false;
        }
    }

    /// <summary>Throws a file away that was prepared and isn't needed.</summary>
    public void Discard()
    {
        Dispose();
        File.Delete(Path);
    }

    /// <summary>Appends a record, or returns false where it doesn't fit. One writer at a time.</summary>
    public bool TryAppend(ReadOnlySpan<byte> content)
    {
        var offset = end - BasePosition;
        var length = Padded(content.Length);
        if (offset + length > Size)
        {
            return false;
        }

        content.CopyTo(new Span<byte>(start + offset + RecordHeader, content.Length));
        *(uint*)(start + offset + 4) = Crc32.HashToUInt32(content);
        Volatile.Write(ref *(int*)(start + offset), content.Length);
        Volatile.Write(ref end, end + length);
        unflushed = true;
        return true;
    }

    /// <summary>Whether anything was written since the last call. Called by the one who flushes, never beside an append.</summary>
    public bool TakeUnflushed()
    {
        var was = unflushed;
        unflushed = false;
        return was;
    }

    /// <summary>The content of the whole record at <paramref name="position"/> and the position of the next, or false where there is none
    /// (yet).</summary>
    public bool TryRead(long position, out ReadOnlySpan<byte> content, out long next)
    {
        content = default;
        next = position;
        var offset = position - BasePosition;
        if (offset + RecordHeader > Size)
        {
            return false;
        }

        var length = Volatile.Read(ref *(int*)(start + offset));
        if (length <= 0 || offset + Padded(length) > Size)
        {
            return false;
        }

        var written = new ReadOnlySpan<byte>(start + offset + RecordHeader, length);
        if (Crc32.HashToUInt32(written) != *(uint*)(start + offset + 4))
        {
            return false;
        }

        content = written;
        next = position + Padded(length);
        return true;
    }

    /// <summary>The position of the next whole record behind one that can't be read, which checksums tell; <see cref="End"/> where there is
    /// none.</summary>
    /// <param name="lost">How many records can't be read until there, as far as their lengths tell; at least one.</param>
    public long SkipDamage(long position, out int lost)
    {
        var good = FindWhole(position + 8, End) ?? End;
        lost = 0;
        for (var at = position; at < good; lost++)
        {
            var length = *(int*)(start + at - BasePosition);
            if (!IsPlausible(length) || at + Padded(length) > good)
            {
                // A length was changed as well, so that the ones behind it are anything: one was lost for sure.
                lost = 1;
                return good;
            }

            at += Padded(length);
        }

        return good;
    }

    /// <summary>Puts a file out of the journal's way without deleting it, since parts of it could not be read.</summary>
    /// <param name="folder">Its new folder, inside of the journal's.</param>
    public static void Keep(string path, string folder)
    {
        var full = Directory.CreateDirectory(System.IO.Path.Combine(System.IO.Path.GetDirectoryName(path)!, folder)).FullName;
        File.Move(path, System.IO.Path.Combine(full, System.IO.Path.GetFileName(path)), overwrite: true);
    }

    /// <summary>Waits until everything written is on the disk.</summary>
    public void Flush() => view.Flush();

    public void Dispose()
    {
        view.SafeMemoryMappedViewHandle.ReleasePointer();
        view.Dispose();
        file.Dispose();
    }

    private static void Fill(FileStream stream, long size)
    {
        var nothing = new byte[Math.Min(size, 1 << 20)];
        for (var left = size; left > 0; left -= nothing.Length)
        {
            stream.Write(nothing, 0, (int)Math.Min(left, nothing.Length));
        }
    }

    private static long Padded(int contentLength) => (RecordHeader + contentLength + 7) & ~7;

    private static bool IsPlausible(int length) => length > 0 && length <= LongestRecord;

    /// <summary>Records begin at multiples of eight bytes.</summary>
    private long? FindWhole(long from, long until)
    {
        for (var position = from; position < until && position - BasePosition + RecordHeader <= Size; position += 8)
        {
            if (IsPlausible(*(int*)(start + position - BasePosition)) && TryRead(position, out _, out _))
            {
                return position;
            }
        }

        return null;
    }

    /// <summary>Walks the records to the last whole one. One in between may be damaged; what lies behind the last was never answered for, or is
    /// torn.</summary>
    private long FindEnd()
    {
        var (position, end) = (BasePosition, BasePosition + Size);
        for (long? whole = position; whole is { } good; whole = FindWhole(position, end))
        {
            position = good;
            while (TryRead(position, out _, out var next))
            {
                position = next;
            }
        }

        var offset = position - BasePosition;
        if (offset + RecordHeader <= Size && *(int*)(start + offset) != 0)
        {
            new Span<byte>(start + offset, (int)Math.Min(Size - offset, LongestRecord + RecordHeader)).Clear();
        }

        return offset;
    }
}
