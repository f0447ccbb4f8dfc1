namespace Cursus.Data.Clicks.Journaling;

/// <summary>What the journal holds.</summary>
internal enum JournalEventKind
{
    Click,
    HandoffReport,

    /// <summary>Written by a later version.</summary>
    Unknown,
}

/// <summary>
/// How events of the journal are told apart. All begin with time (8) and link (16); the byte behind that is a click's kind, below 0x80, or the mark
/// of another event. A version that writes a new mark comes after one that passes over it and keeps the file, so that nobody who steps back by a
/// version loses anything.
/// </summary>
internal static class JournalEvent
{
    private const byte FirstMark = 0x80;

    public static JournalEventKind KindOf(ReadOnlySpan<byte> content) =>
        content[ClickRecord.KindAt] switch
        {
            < FirstMark => JournalEventKind.Click,
            HandoffRecord.Mark => JournalEventKind.HandoffReport,
            _ => JournalEventKind.Unknown,
        };
}
