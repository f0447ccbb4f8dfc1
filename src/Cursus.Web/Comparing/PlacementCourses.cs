using System.Runtime.InteropServices;
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
        var age = HourOf(now);
        var open = await OpenHours(snapshot, parameters, asked, cancel);
        var (courses, hours) = (new List<Labelled>(), new List<(int Hour, long Clicks)>());
        var (numbers, counts) = (new ValueNumbers(), new List<DayValue>());
        foreach (var hour in Enumerable.Range(0, HoursOfDay))
        {
            numbers.Of($"{hour}");
        }

        (Guid Link, string Key, string Label)? current = null;
        await snapshot.Each(
            parameters,
            $"with {asked} select a.id, a.key, a.label, r.month, r.hours from asked a left join link_months r on r.link_id = a.id order by a.id, a.key, r.month",
            row =>
            {
                var placement = (Link: row.GetGuid(0), Key: row.GetString(1), Label: row.GetString(2));
                if (placement != current)
                {
                    End();
                    current = placement;
                }

                if (!row.IsDBNull(3))
                {
                    MonthTally.Unpack(row.GetFieldValue<byte[]>(4), numbers, counts);
                    var month = HourOf(row.GetFieldValue<LocalDate>(3).AtMidnight());
                    foreach (var count in counts)
                    {
                        hours.Add((month + (count.Day - 1) * HoursOfDay + count.Value, count.Count));
                    }
                }
            },
            cancel);
        End();
        return courses;

        void End()
        {
            if (current is { } done)
            {
                hours.AddRange(open[done.Link]);
                if (hours.Count > 0)
                {
                    courses.Add(CourseOf(done.Link, done.Key, done.Label, hours, age));
                }

                hours.Clear();
            }
        }
    }

    private static async Task<ILookup<Guid, (int Hour, long Clicks)>> OpenHours(
        Snapshot snapshot, IReadOnlyCollection<(string Name, object Value)> parameters, string asked, CancellationToken cancel)
    {
        var days = await snapshot.Read(
            parameters,
            $"with {asked} select r.link_id, r.day, r.hours from open_days r where r.clicks > 0 and r.link_id in (select id from asked)",
            row => (Link: row.GetGuid(0), Day: row.GetFieldValue<LocalDate>(1), Hours: row.GetFieldValue<int[]>(2)),
            cancel);
        return days
            .SelectMany(d => d.Hours.Select((clicks, hour) => (d.Link, Hour: HourOf(d.Day.AtMidnight()) + hour, Clicks: (long)clicks)))
            .Where(h => h.Clicks > 0).ToLookup(h => h.Link, h => (h.Hour, h.Clicks));
    }

    /// <param name="hours">By hours since the epoch; by hours since the first one afterwards.</param>
    private static Labelled CourseOf(Guid link, string key, string label, List<(int Hour, long Clicks)> hours, int now)
    {
        var ofLink = CollectionsMarshal.AsSpan(hours);
        var start = int.MaxValue;
        foreach (var (hour, _) in ofLink)
        {
            start = Math.Min(start, hour);
        }

        foreach (ref var hour in ofLink)
        {
            hour.Hour -= start;
        }

        return new(PlacementCourse.Of(link, key, Epoch.AtMidnight().PlusHours(start), ofLink, now - start), label);
    }

    private static int HourOf(LocalDateTime at) => NodaTime.Period.DaysBetween(Epoch, at.Date) * HoursOfDay + at.Hour;
}
