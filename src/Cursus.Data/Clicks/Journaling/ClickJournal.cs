using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;
using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;

namespace Cursus.Data.Clicks.Journaling;

/// <summary>
/// Guarantee: a click that was appended is not lost by the death of the process, nor by an absent database, and after about ten
/// milliseconds not by the death of the machine either.
/// Mechanism: memory-mapped segment files in one folder, one after the other; a position is a byte offset over all of them. Visitors' threads append
/// under a short lock, one thread flushes and makes the next file ready, one reader reads without any lock.
/// </summary>
public sealed class ClickJournal : IDisposable
{
    private const int FlushMilliseconds = 10;
    private const int FlushesBetweenTries = 10;

    private readonly Lock gate = new();
    private readonly string folder;
    private readonly JournalOptions options;
    private readonly FileStream ownership;
    private readonly Thread flusher;
    private readonly ManualResetEventSlim stopping = new();
    private readonly SemaphoreSlim appended = new(0, 1);
    private readonly Lock flushing = new();
    private readonly TextPool texts = new();

    // Replaced as a whole, so that reader and flusher go through the one they took while another is added.
    private volatile JournalSegment[] segments;
    private JournalSegment? prepared;
    private TaskCompletionSource nextFlush = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private readonly HashSet<long> passedAt = [];
    private readonly Dictionary<string, string> folderOfKept = [];
    private long lost;
    private long damaged;
    private long unknown;

    // Where there was no room for a new file the flusher looks for some, and visitors don't: each try costs them a walk to the disk.
    private volatile bool hasNoRoom;
    private int flushes;

    /// <summary>Opens the journal in <paramref name="folder"/>, or begins one.</summary>
    /// <exception cref="IOException">Another process has it open, or the folder cannot be written.</exception>
    public ClickJournal(string folder, JournalOptions? options = null)
    {
        (this.folder, this.options) = (folder, options ?? new JournalOptions());
        Directory.CreateDirectory(folder);
        ownership = new FileStream(Path.Combine(folder, "owner.lock"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
        Key = ReadOrMakeKey(Path.Combine(folder, "journal.key"));
        Array.ForEach(Directory.GetFiles(folder, "*" + JournalSegment.Unfinished), File.Delete);
        foreach (var nothing in Directory.GetFiles(folder, "*" + JournalSegment.Extension).Where(f => new FileInfo(f).Length == 0))
        {
            JournalSegment.Keep(nothing, JournalSegment.DamagedFolder);
        }

        segments = [.. Directory.EnumerateFiles(folder, "*" + JournalSegment.Extension).Order(StringComparer.Ordinal).Select(JournalSegment.Open)];
        if (segments.Length == 0)
        {
            segments = [JournalSegment.Create(folder, 0, this.options.SegmentSize)];
        }

        flusher = new Thread(FlushRegularly) { IsBackground = true, Name = "click journal" };
        flusher.Start();
    }

    /// <summary>Tells this journal from every other one.</summary>
    public Guid Key { get; }

    /// <summary>Clicks that could not be written since the start, because the disk or the journal was full. They were answered all the
    /// same.</summary>
    public long Lost => Interlocked.Read(ref lost);

    /// <summary>Clicks found since the start that can't be read any more, because the disk has changed what was written. The files that they are in
    /// are kept in <c>damaged/</c>.</summary>
    public long Damaged => Interlocked.Read(ref damaged);

    /// <summary>Events found since the start that only a later version of Cursus knows. The files that they are in are kept in
    /// <c>newer/</c>.</summary>
    public long Unknown => Interlocked.Read(ref unknown);

    /// <summary>How often a visitor's thread has tried to make a file.</summary>
    internal int TriedOnTheWay { get; private set; }

    /// <summary>Position behind the newest click.</summary>
    public long End => segments[^1].End;

    /// <summary>Bytes that its files take.</summary>
    public long Size => segments.Sum(s => s.Size);

    /// <summary>Part of the room that its files may take which they take, 0 to 1.</summary>
    public double Fullness => (double)Size / options.MaxSize;

    /// <summary>Writes a click down. Never waits for a disk or a database; returns false, and counts, where there is no room.</summary>
    [SkipLocalsInit]
    public bool Append(in Visit visit)
    {
        Span<byte> content = stackalloc byte[ClickRecord.MaxLength];
        return Append(content[..ClickRecord.Write(visit, content)]);
    }

    /// <summary>Writes down what became of the pixels of a visit, in the same way.</summary>
    [SkipLocalsInit]
    public bool Append(HandoffReport report)
    {
        ArgumentNullException.ThrowIfNull(report);
        Span<byte> content = stackalloc byte[HandoffRecord.MaxLength];
        return Append(content[..HandoffRecord.Write(report, content)]);
    }

    /// <summary>Completes when what was appended so far may be answered for: at once, or after the next flush where <see cref="Durability.Commit"/>
    /// asks for it.</summary>
    public Task WhenSafe() => options.Durability == Durability.Append ? Task.CompletedTask : Volatile.Read(ref nextFlush).Task;

    /// <summary>Reads up to <paramref name="most"/> clicks and reports from <paramref name="from"/> on.
    /// A position before the oldest segment starts at that segment. For one reader, who also forgets.</summary>
    public JournalBatch Read(long from, int most)
    {
        var (clicks, reports) = (new List<(long, Click)>(), new List<(long, HandoffReport)>());

        // What comes while it reads is left for the next time: else it would run after visitors who are answered as fast as it reads.
        var (next, end) = (from, End);
        foreach (var segment in segments)
        {
            if (clicks.Count + reports.Count == most)
            {
                break;
            }

            if (segment.End <= from)
            {
                continue;
            }

            next = Math.Max(next, segment.BasePosition);
            while (clicks.Count + reports.Count < most && next < end && next < segment.End)
            {
                if (!segment.TryRead(next, out var content, out var following))
                {
                    next = PassDamage(segment, next);
                    continue;
                }

                switch (JournalEvent.KindOf(content))
                {
                    case JournalEventKind.Click:
                        clicks.Add((next, ClickRecord.Read(content, texts)));
                        break;
                    case JournalEventKind.HandoffReport:
                        reports.Add((next, HandoffRecord.Read(content)));
                        break;
                    default:
                        PassUnknown(segment, next);
                        break;
                }

                next = following;
                Backpressure.YieldAfter(clicks.Count + reports.Count);
            }
        }

        return new JournalBatch(clicks, reports, next);
    }

    /// <summary>Waits for a click, for at most <paramref name="longest"/>.</summary>
    public Task WaitForClicks(TimeSpan longest, CancellationToken cancel) => appended.WaitAsync(longest, cancel);

    /// <summary>Deletes the segments that lie wholly before <paramref name="shippedTo"/>; the newest stays.</summary>
    public void Forget(long shippedTo)
    {
        JournalSegment[] forgotten;
        lock (flushing)
        {
            lock (gate)
            {
                forgotten = [.. segments.SkipLast(1).TakeWhile(s => s.End <= shippedTo)];
                segments = [.. segments.Skip(forgotten.Length)];
            }

            foreach (var segment in forgotten)
            {
                segment.Dispose();
                if (folderOfKept.Remove(segment.Path, out var kept))
                {
                    JournalSegment.Keep(segment.Path, kept);
                }
                else
                {
                    File.Delete(segment.Path);
                }
            }
        }
    }

    public void Dispose()
    {
        stopping.Set();
        flusher.Join();
        lock (gate)
        {
            foreach (var segment in segments)
            {
                segment.Flush();
                segment.Dispose();
            }

            prepared?.Discard();
            nextFlush.TrySetResult();
        }

        ownership.Dispose();
        stopping.Dispose();
        appended.Dispose();
    }

    /// <summary>Appends the record of one event.</summary>
    internal bool Append(ReadOnlySpan<byte> content)
    {
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

    /// <summary>The same place may be read several times, and counts once.</summary>
    private long PassDamage(JournalSegment segment, long position)
    {
        var good = segment.SkipDamage(position, out var lostThere);
        if (passedAt.Add(position))
        {
            folderOfKept[segment.Path] = JournalSegment.DamagedFolder;
            Interlocked.Add(ref damaged, lostThere);
        }

        return good;
    }

    /// <summary>What a later version has written is for that version to read, after a step back to this one.</summary>
    private void PassUnknown(JournalSegment segment, long position)
    {
        if (passedAt.Add(position))
        {
            folderOfKept.TryAdd(segment.Path, JournalSegment.NewerFolder);
            Interlocked.Increment(ref unknown);
        }
    }

    private static Guid ReadOrMakeKey(string path)
    {
        if (File.Exists(path) && Guid.TryParse(File.ReadAllText(path), CultureInfo.InvariantCulture, out var known))
        {
            return known;
        }

        var key = Guid.CreateVersion7();
        using (
            var file = new FileStream(
                path + ".new",
                new FileStreamOptions
                {
                    Mode = FileMode.Create,
                    Access = FileAccess.Write,
                    UnixCreateMode = JournalSegment.OwnersOnly,
                }
            )
        )
        {
            file.Write(Encoding.ASCII.GetBytes(key.ToString()));
        }

        File.Move(path + ".new", path, overwrite: true);
        return key;
    }

    /// <summary>The caller holds the gate. Mostly the next file is ready; where clicks come faster than that, it is made on the way.</summary>
    private bool TryAppendToNewSegment(ReadOnlySpan<byte> content)
    {
        var basePosition = segments[^1].BasePosition + segments[^1].Size;
        var segment = prepared;
        prepared = null;
        if (segment?.BasePosition != basePosition)
        {
            TriedOnTheWay += hasNoRoom ? 0 : 1;
            segment = hasNoRoom ? null : TryMake(basePosition);
        }

        if (segment is null || !segment.TryBegin())
        {
            return false;
        }

        segments = [.. segments, segment];
        return segment.TryAppend(content);
    }

    /// <summary>The next file, or null where there is no room for it.</summary>
    private JournalSegment? TryMake(long basePosition)
    {
        if (Size + options.SegmentSize > options.MaxSize)
        {
            return null;
        }

        try
        {
            return JournalSegment.Prepare(folder, basePosition, options.SegmentSize);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            hasNoRoom = true;
            return null;
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
        while (!stopping.Wait(FlushMilliseconds))
        {
            // Held so that no segment is forgotten while it is being flushed; visitors never wait for it.
            lock (flushing)
            {
                FlushOnce();
                PrepareNext();
            }
        }
    }

    private void FlushOnce()
    {
        List<JournalSegment> unflushed;
        TaskCompletionSource? waiters = null;
        lock (gate)
        {
            unflushed = [.. segments.Where(s => s.TakeUnflushed())];
            if (options.Durability == Durability.Commit)
            {
                // Whoever appends from here on waits for the flush after this one.
                waiters = nextFlush;
                Volatile.Write(ref nextFlush, new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously));
            }
        }

        unflushed.ForEach(s => s.Flush());
        waiters?.SetResult();
    }

    /// <summary>Makes the next file while the newest still has room, so that no visitor waits for it.</summary>
    private void PrepareNext()
    {
        var newest = segments[^1];
        if (
            Volatile.Read(ref prepared) is not null
            || newest.End - newest.BasePosition < newest.Size / 2
            || (hasNoRoom && flushes++ % FlushesBetweenTries != 0)
        )
        {
            return;
        }

        var made = TryMake(newest.BasePosition + newest.Size);
        lock (gate)
        {
            // Clicks may have come so fast that the file was made on the way meanwhile.
            if (prepared is null && segments[^1] == newest)
            {
                prepared = made;
                hasNoRoom &= made is null;
                made = null;
            }
        }

        made?.Discard();
    }
}
