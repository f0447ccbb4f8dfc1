using Cursus.Core.Clicks;

namespace Cursus.Data.Clicks;

/// <summary>
/// Guarantee: a click that was appended is not lost by the death of the process, nor by an absent database, and after about ten
/// milliseconds not by the death of the machine either.
/// Mechanism: memory-mapped segment files in one folder, one after the other; a position is a byte offset over all of them.
/// </summary>
public sealed class ClickJournal : IDisposable
{
    /// <summary>Size of one segment file, in bytes.</summary>
    public const long DefaultSegmentSize = 16 * 1024 * 1024;

    private readonly Lock gate = new();
    private readonly string folder;
    private readonly long segmentSize;
    private readonly FileStream ownership;
    private readonly List<JournalSegment> segments = [];
    private readonly Thread flusher;
    private readonly ManualResetEventSlim stopping = new();
    private readonly SemaphoreSlim appended = new(0, 1);
    private readonly Lock flushing = new();
    private long lost;

    /// <summary>Opens the journal in <paramref name="folder"/>, or begins one.</summary>
    /// <exception cref="IOException">Another process has it open, or the folder cannot be written.</exception>
    public ClickJournal(string folder, long segmentSize = DefaultSegmentSize)
    {
        (this.folder, this.segmentSize) = (folder, segmentSize);
        Directory.CreateDirectory(folder);
        ownership = new FileStream(Path.Combine(folder, "owner.lock"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
        Key = ReadOrMakeKey(Path.Combine(folder, "journal.key"));
        segments.AddRange(Directory.EnumerateFiles(folder, "*.clicks").Order(StringComparer.Ordinal).Select(JournalSegment.Open));
        if (segments.Count == 0)
        {
            segments.Add(JournalSegment.Create(folder, 0, segmentSize));
        }

        flusher = new Thread(FlushRegularly) { IsBackground = true, Name = "click journal" };
        flusher.Start();
    }

    /// <summary>Tells this journal from every other one.</summary>
    public Guid Key { get; }

    /// <summary>Clicks that could not be written, because the disk was full, since the start. They were answered all the same.</summary>
    public long Lost => Interlocked.Read(ref lost);

    /// <summary>Position behind the newest click.</summary>
    public long End
    {
        get
        {
            lock (gate)
            {
                return segments[^1].End;
            }
        }
    }

    /// <summary>Writes a click down. Never waits for a disk or a database; returns false, and counts, where the disk is full.</summary>
    public bool Append(in Click click)
    {
        Span<byte> content = stackalloc byte[ClickRecord.MaxLength];
        content = content[..ClickRecord.Write(click, content)];
        lock (gate)
        {
            if (!segments[^1].TryAppend(content) && !TryAppendToNewSegment(content))
            {
                Interlocked.Increment(ref lost);
                return false;
            }

        }

        if (appended.CurrentCount == 0)
        {
            TryRelease();
        }

        return true;
    }

    /// <summary>Reads up to <paramref name="most"/> clicks from <paramref name="from"/> on, and says where the next read goes on.
    /// A position before the oldest segment starts at that segment.</summary>
    public IReadOnlyList<(long Position, Click Click)> Read(long from, int most, out long next)
    {
        var clicks = new List<(long, Click)>();
        next = from;
        lock (gate)
        {
            foreach (var segment in segments.Where(s => s.End > from))
            {
                if (clicks.Count == most)
                {
                    break;
                }

                next = Math.Max(next, segment.BasePosition);
                while (clicks.Count < most && next < segment.End && segment.TryRead(next, out var content, out var following))
                {
                    clicks.Add((next, ClickRecord.Read(content)));
                    next = following;
                }
            }
        }

        return clicks;
    }

    /// <summary>Waits for a click, for at most <paramref name="longest"/>.</summary>
    public Task WaitForClicks(TimeSpan longest, CancellationToken cancel) => appended.WaitAsync(longest, cancel);

    /// <summary>Deletes the segments that lie wholly before <paramref name="shippedTo"/>; the newest stays.</summary>
    public void Forget(long shippedTo)
    {
        lock (flushing)
            lock (gate)
            {
                while (segments.Count > 1 && segments[0].End <= shippedTo)
                {
                    segments[0].Dispose();
                    File.Delete(segments[0].Path);
                    segments.RemoveAt(0);
                }
            }
    }

    public void Dispose()
    {
        stopping.Set();
        flusher.Join();
        lock (gate)
        {
            segments.ForEach(s =>
            {
                s.Flush();
                s.Dispose();
            });
            segments.Clear();
        }

        ownership.Dispose();
        stopping.Dispose();
        appended.Dispose();
    }

    private static Guid ReadOrMakeKey(string path)
    {
        if (File.Exists(path) && Guid.TryParse(File.ReadAllText(path), out var known))
        {
            return known;
        }

        var key = Guid.CreateVersion7();
        File.WriteAllText(path + ".new", key.ToString());
        File.Move(path + ".new", path, overwrite: true);
        return key;
    }

    private bool TryAppendToNewSegment(ReadOnlySpan<byte> content)
    {
        var full = segments[^1];
        try
        {
            segments.Add(JournalSegment.Create(folder, full.BasePosition + full.Size, segmentSize));
            return segments[^1].TryAppend(content);
        }
        catch (IOException)
        {
            // Half a file would be taken for a segment at the next start.
            File.Delete(Path.Combine(folder, $"{full.BasePosition + full.Size:D20}.clicks"));
            return false;
        }
    }

    private void TryRelease()
    {
        try
        {
            appended.Release();
        }
        catch (SemaphoreFullException)
        {
            // Another append woke the reader at the same moment; one wake-up is enough.
        }
    }

    private void FlushRegularly()
    {
        while (!stopping.Wait(10))
        {
            // Held so that no segment is forgotten while it is being flushed; visitors wait for the gate only, and briefly.
            lock (flushing)
            {
                List<JournalSegment> unflushed;
                lock (gate)
                {
                    unflushed = [.. segments.Where(s => s.TakeUnflushed())];
                }

                unflushed.ForEach(s => s.Flush());
            }
        }
    }
}
