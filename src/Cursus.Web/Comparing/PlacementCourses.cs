using Cursus.Core.Clicks;
using Cursus.Core.Comparing;
using NodaTime;

namespace Cursus.Web.Comparing;

/// <summary>Reads how the clicks of placements arrived, from the hours of their months and, where these aren't sealed, days.</summary>
internal static class PlacementCourses
{
    private const int HoursOfDay = 24;

    private static readonly LocalDate Epoch = new(1970, 1, 1);

    /// <param name="Label">What a person reads of the course's group.</param>
    public sealed record Labelled(PlacementCourse Course, string Label);

    /// <summary>Placements that went out in the question's period, in the groups that it asks for.</summary>
    public static Task<IReadOnlyList<Labelled>> Of(Snapshot snapshot, Question question, CancellationToken cancel) => Read(
        snapshot,
        [.. question.Parameters],
        $"""
        {CountedSql.Picked(question, [Dimension.All[question.By]], isPlaced: true)},
        asked as (
            select l.id, l.key0 as key, l.label0 as label from picked l
            where l.placed_on between @from and @to and exists (select from placements pl where pl.link_id = l.id))
        """,
        question.Now.InZone(question.Zone).LocalDateTime,
        cancel);

    /// <summary>The placements of one post, and for each of its channels those of the posts before it, as many as a usual course may need.</summary>
    public static Task<IReadOnlyList<Labelled>> AroundPost(Snapshot snapshot, Guid workspace, Guid post, LocalDateTime now, CancellationToken cancel) => Read(
        snapshot,
        [("workspace", workspace), ("post", post), ("most", 4 * Pace.MostOthers)],
        """
        own as (select distinct l.channel_id, po.published_on from placements pl join posts po on po.id = pl.post_id join links l on l.id = pl.link_id
            where pl.post_id = @post and po.workspace_id = @workspace),
        near as (select l.id, l.channel_id from placements pl join links l on l.id = pl.link_id where pl.post_id = @post
            union
            select o.id, own.channel_id from own, lateral (
                select l.id from links l join placements pl on pl.link_id = l.id join posts po on po.id = pl.post_id
                where l.workspace_id = @workspace and l.channel_id = own.channel_id and po.published_on <= own.published_on and po.id <> @post
                order by po.published_on desc, po.created_at desc limit @most) o),
        asked as (select near.id, ch.key, ch.name as label from near join channels ch on ch.id = near.channel_id)
        """,
        now,
        cancel);

    /// <param name="asked">The tables of a query, the last of them <c>asked</c>: links, each with key and label of a group that it is in.</param>
    private static async Task<IReadOnlyList<Labelled>> Read(
        Snapshot snapshot, IReadOnlyCollection<(string Name, object Value)> parameters, string asked, LocalDateTime now, CancellationToken cancel)
    {
        // Hours are counted from an epoch, since a calendar's are slow to count where there are millions of them.
        var placements = new Dictionary<(Guid Link, string Key), (string Label, List<(int Hour, long Clicks)> Hours)>();
        var (numbers, counts) = (new ValueNumbers(), new List<DayValue>());
        foreach (var hour in Enumerable.Range(0, HoursOfDay))
        {
            numbers.Of($"{hour}");
        }

        await snapshot.Each(
            parameters,
            $"with {asked} select a.id, a.key, a.label, r.month, r.hours from asked a join link_months r on r.link_id = a.id where length(r.hours) > 0",
            row =>
            {
                MonthTally.Unpack(row.GetFieldValue<byte[]>(4), numbers, counts);
                var month = HourOf(row.GetFieldValue<LocalDate>(3).AtMidnight());
                HoursOf(row.GetGuid(0), row.GetString(1), row.GetString(2)).AddRange(counts.Select(c => (month + (c.Day - 1) * HoursOfDay + c.Value, (long)c.Count)));
            },
            cancel);
        await snapshot.Each(
            parameters,
            $"with {asked} select a.id, a.key, a.label, r.day, r.hours from asked a join open_days r on r.link_id = a.id where r.clicks > 0",
            row =>
            {
                var day = HourOf(row.GetFieldValue<LocalDate>(3).AtMidnight());
                HoursOf(row.GetGuid(0), row.GetString(1), row.GetString(2))
                    .AddRange(row.GetFieldValue<int[]>(4).Select((clicks, hour) => (day + hour, (long)clicks)).Where(h => h.Item2 > 0));
            },
            cancel);

        var age = HourOf(now);
        return [.. placements.OrderBy(p => p.Key.Link).Select(p => CourseOf(p.Key.Link, p.Key.Key, p.Value.Label, p.Value.Hours, age))];

        List<(int Hour, long Clicks)> HoursOf(Guid link, string key, string label)
        {
            if (!placements.TryGetValue((link, key), out var placement))
            {
                placements[(link, key)] = placement = (label, []);
            }

            return placement.Hours;
        }
    }

    private static Labelled CourseOf(Guid link, string key, string label, List<(int Hour, long Clicks)> hours, int now)
    {
        var start = hours.Min(h => h.Hour);
        return new(PlacementCourse.Of(link, key, Epoch.AtMidnight().PlusHours(start), hours.Select(h => (h.Hour - start, h.Clicks)), now - start), label);
    }

    private static int HourOf(LocalDateTime at) => NodaTime.Period.DaysBetween(Epoch, at.Date) * HoursOfDay + at.Hour;
}
