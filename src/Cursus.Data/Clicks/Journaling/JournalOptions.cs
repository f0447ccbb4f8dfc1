namespace Cursus.Data.Clicks.Journaling;

/// <summary>When a click counts as written down.</summary>
public enum Durability
{
    /// <summary>As soon as it stands in memory that belongs to the operating system: the death of the process loses nothing, a power cut the last ten
    /// milliseconds.</summary>
    Append,

    /// <summary>When it is on the disk: a power cut loses nothing either, and each answer waits some milliseconds.</summary>
    Commit,
}

/// <summary>How a click journal is kept.</summary>
/// <param name="SegmentSize">Size of one file, in bytes.</param>
/// <param name="MaxSize">Bytes that all files together may take. A journal that is full loses clicks, and counts them, while visitors are still
/// redirected.</param>
public sealed record JournalOptions(
    Durability Durability = Durability.Append,
    long SegmentSize = 64 * 1024 * 1024,
    long MaxSize = 8L * 1024 * 1024 * 1024
);
