using Cursus.Data.Reports.Questions;
using NodaTime;

namespace Cursus.Data.Reports.Counts;

/// <summary>What stands beside the counts of an answer.</summary>
internal static class AskedDetails
{
    /// <summary>The posts that went out in the period and that the question is about, newest first.</summary>
    public static Task<List<(Guid Id, string Title, LocalDate Day)>> Posts(
        Snapshot snapshot,
        Question question,
        int most,
        CancellationToken cancel
    ) =>
        snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [])}
            select po.id, po.title, po.published_on from posts po
            where po.workspace_id = @workspace and po.published_on between @from and @to
                and exists (select from placements pl join picked l on l.id = pl.link_id where pl.post_id = po.id and l.deleted_at is null)
            order by po.published_on desc, po.created_at desc limit {most}
            """,
            row => (row.GetGuid(0), row.GetString(1), row.GetFieldValue<LocalDate>(2)),
            cancel
        );

    /// <summary>What became of each pixel, by its key, at visits of the links that are asked about.</summary>
    public static Task<List<(string Pixel, long Fired, long Missed, long Declined, long OptedOut)>> Pixels(
        Snapshot snapshot,
        Question question,
        CancellationToken cancel
    ) =>
        snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [])}
            select d.pixel_id::text, sum(d.fired), sum(d.missed), sum(d.declined), sum(d.opted_out)
            from pixel_days d join picked l on l.id = d.link_id where d.day between @from and @to group by 1
            """,
            row => (row.GetString(0), row.GetInt64(1), row.GetInt64(2), row.GetInt64(3), row.GetInt64(4)),
            cancel
        );
}
