using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using NodaTime;

namespace Cursus.Data.Reports.Counts;

/// <summary>In which hour of the workspace's clock each link that is asked about went out; see <see cref="PostAge.WentOut"/>. Read with the question
/// and not kept, so that a post whose day is corrected is as old as it says from then on.</summary>
internal sealed class PostStarts(IReadOnlyDictionary<Guid, LocalDateTime> starts)
{
    /// <summary>When a link went out; null where it never did.</summary>
    public LocalDateTime? Of(Guid link) => starts.TryGetValue(link, out var start) ? start : null;

    /// <summary>What the column <c>went_out</c> of <c>picked</c> is made of.</summary>
    public IEnumerable<(string Name, object Value)> Parameters => [("started", starts.Keys.ToArray()), ("went_out", starts.Values.ToArray())];

    /// <summary>The question with these, where it or what it is grouped by depends on them.</summary>
    public static async Task<Question> AddTo(Question question, Snapshot snapshot, IReadOnlyList<Dimension> groups, CancellationToken cancel) =>
        CountedSql.ClickDimensions(question, groups).Any(d => d.Detail!.NeedsStarts)
            ? question with
            {
                Starts = await Read(snapshot, question.OfLinks, cancel),
            }
            : question;

    private static async Task<PostStarts> Read(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var (starts, hours) = (new Dictionary<Guid, LocalDateTime>(), new PlacementHours());
        await snapshot.Each(
            question.Parameters,
            $"""
            with {CountedSql.Picked(question, [], isPlaced: true)}
            select l.id, l.placed_on, o.opens_at, f.day, d.hours, m.hours
            from picked l join links o on o.id = l.id
                cross join lateral (
                    select day from days_of_links where link_id = l.id and day >= l.placed_on and clicks > 0 order by day limit 1) f
                left join open_days d on d.link_id = l.id and d.day = f.day
                left join link_months m on m.link_id = l.id and m.month = date_trunc('month', f.day)::date and d.link_id is null
            """,
            row =>
            {
                var day = row.GetFieldValue<LocalDate>(3);
                var first = row.IsDBNull(4)
                    ? hours.FirstOf(row.GetFieldValue<byte[]>(5), day)
                    : Array.FindIndex(row.GetFieldValue<int[]>(4), clicks => clicks > 0);
                var opened = row.IsDBNull(2) ? (LocalDateTime?)null : row.GetFieldValue<Instant>(2).InZone(question.Zone).LocalDateTime;
                if (PostAge.WentOut(row.GetFieldValue<LocalDate>(1), opened, day.AtMidnight().PlusHours(first)) is { } start)
                {
                    starts[row.GetGuid(0)] = start.Date.AtMidnight().PlusHours(start.Hour);
                }
            },
            cancel
        );
        return new(starts);
    }
}
