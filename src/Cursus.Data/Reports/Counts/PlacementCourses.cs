using System.Runtime.InteropServices;
using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using NodaTime;

namespace Cursus.Data.Reports.Counts;

/// <summary>Reads how the clicks of placements arrived since they went out, from the hours of their months and, where these aren't sealed, days. What
/// was clicked before is no part of it: somebody tried the link.</summary>
internal static class PlacementCourses
{
    /// <param name="Label">What a person reads of the course's group.</param>
    public sealed record Labelled(PlacementCourse Course, string Label);

    /// <summary>Placements that went out in the question's period, in the groups that it asks for. The database takes a day that it computes to lie
    /// between two others once in nine times, and would look up the months of thousands of links one by one rather than read all; of a case it takes
    /// half to be true.</summary>
    public static Task<IReadOnlyList<Labelled>> Of(Snapshot snapshot, Question question, CancellationToken cancel) =>
        Read(
            snapshot,
            [.. question.Parameters],
            $"""
            {CountedSql.Picked(question, [Dimensions.All[question.By]], isPlaced: true)},
            asked as (
                select l.id, l.key0 as key, l.label0 as label, l.placed_on, o.opens_at from picked l join links o on o.id = l.id
                where case when l.placed_on between @from and @to then true else false end and exists (select from placements pl where pl.link_id = l.id))
            """,
            question.Now,
            question.Zone,
            cancel
        );

    /// <summary>The placements of one post, and for each of its channels those of the posts before it, as many as a usual course may need.</summary>
    public static Task<IReadOnlyList<Labelled>> AroundPost(
        Snapshot snapshot,
        Guid workspace,
        Guid post,
        Instant now,
        DateTimeZone zone,
        CancellationToken cancel
    ) =>
        Read(
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
            asked as (select near.id, ch.key, ch.name as label, po.published_on as placed_on, l.opens_at from near join channels ch on ch.id = near.channel_id
                join links l on l.id = near.id join placements pl on pl.link_id = l.id join posts po on po.id = pl.post_id)
            """,
            now,
            zone,
            cancel
        );

    /// <param name="asked">The tables of a query, the last of them <c>asked</c>: links, each with key and label of a group that it is in, the day on
    /// which it went out and, where it has one, the moment it opened.</param>
    private static async Task<IReadOnlyList<Labelled>> Read(
        Snapshot snapshot,
        IReadOnlyCollection<(string Name, object Value)> parameters,
        string asked,
        Instant now,
        DateTimeZone zone,
        CancellationToken cancel
    )
    {
        var placements = new Dictionary<Guid, PlacementHours.Held>();
        await snapshot.Each(
            parameters,
            $"with {asked} select a.id, a.key, a.label, r.month, r.hours, a.placed_on, a.opens_at from asked a left join link_months r on r.link_id = a.id",
            row =>
            {
                ref var placement = ref CollectionsMarshal.GetValueRefOrAddDefault(placements, row.GetGuid(0), out _);
                placement ??= new() { PlacedOn = row.GetFieldValue<LocalDate>(5), OpenedAt = row.IsDBNull(6) ? null : row.GetFieldValue<Instant>(6) };
                var isFirstGroup = placement.Add(row.GetString(1), row.GetString(2));
                if (isFirstGroup && !row.IsDBNull(3))
                {
                    placement.Months.Add((row.GetFieldValue<LocalDate>(3), row.GetFieldValue<byte[]>(4)));
                }
            },
            cancel
        );
        await snapshot.Each(
            [("links", placements.Keys.ToArray())],
            "select r.link_id, r.day, r.hours from open_days r join unnest(@links) as a (id) on a.id = r.link_id where r.clicks > 0",
            row => placements[row.GetGuid(0)].OpenDays.Add((row.GetFieldValue<LocalDate>(1), row.GetFieldValue<int[]>(2))),
            cancel
        );

        var (courses, reading, nowHour) = (new List<Labelled>(), new PlacementHours(), PlacementHours.NumberOf(now.InZone(zone).LocalDateTime));
        foreach (var (link, placement) in placements)
        {
            var hours = reading.Of(placement);
            if (StartOf(placement, hours, zone) is { } start && start <= nowHour)
            {
                var course = CourseOf(link, hours, start, nowHour);
                courses.AddRange(placement.Groups.Select(g => new Labelled(course with { Group = g.Key }, g.Label)));
            }
        }

        return courses;
    }

    /// <summary>The hour in which a placement went out: its opening where it has one, else that of its first click on the day that it was published
    /// or later; null where there is neither.</summary>
    /// <param name="hours">By their numbers.</param>
    private static int? StartOf(PlacementHours.Held placement, Span<(int Hour, long Clicks)> hours, DateTimeZone zone)
    {
        var (day, first) = (PlacementHours.NumberOf(placement.PlacedOn.AtMidnight()), int.MaxValue);
        foreach (var (hour, _) in hours)
        {
            first = hour >= day ? Math.Min(first, hour) : first;
        }

        var firstClick = first == int.MaxValue ? (LocalDateTime?)null : PlacementHours.BeginOf(first);
        var start = PostAge.WentOut(placement.PlacedOn, placement.OpenedAt?.InZone(zone).LocalDateTime, firstClick);
        return start is { } at ? PlacementHours.NumberOf(at) : null;
    }

    /// <param name="hours">By their numbers; by hours since the start afterwards, of which those before it are passed over.</param>
    private static PlacementCourse CourseOf(Guid link, Span<(int Hour, long Clicks)> hours, int start, int now)
    {
        foreach (ref var hour in hours)
        {
            hour.Hour -= start;
        }

        return PlacementCourse.Of(link, "", PlacementHours.BeginOf(start), hours, now - start);
    }
}
