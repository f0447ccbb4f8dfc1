using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;
using NodaTime;

namespace Cursus.Data.Clicks.Journaling;

/// <summary>What was read from the journal at once.</summary>
/// <param name="Reports">Reports on pixels that lie between the clicks.</param>
/// <param name="Next">The position behind all of it.</param>
public sealed record JournalBatch(
    IReadOnlyList<(long Position, Click Click)> Clicks,
    IReadOnlyList<(long Position, HandoffReport Report)> Reports,
    long Next
)
{
    public int Count => Clicks.Count + Reports.Count;

    /// <summary>When the first of it was written; null where there is nothing.</summary>
    public Instant? Oldest =>
        (Clicks, Reports) switch
        {
            ([], []) => null,
            ([var click, ..], []) => click.Click.At,
            ([], [var report, ..]) => report.Report.At,
            var (clicks, reports) => clicks[0].Position < reports[0].Position ? clicks[0].Click.At : reports[0].Report.At,
        };
}
