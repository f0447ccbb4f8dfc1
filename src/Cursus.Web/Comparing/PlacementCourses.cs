using Cursus.Core.Comparing;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Comparing;

/// <summary>Reads how the clicks of placements arrived, from the hours of their days.</summary>
internal static class PlacementCourses
{
    /// <param name="Label">What a person reads of the course's group.</param>
    public sealed record Labelled(PlacementCourse Course, string Label);

    private sealed record Day(Guid LinkId, string Group, string Label, LocalDate Date, int[] Hours);

    /// <summary>Placements that went out in the question's period, in the groups that it asks for.</summary>
    public static async Task<IReadOnlyList<Labelled>> Of(Snapshot snapshot, Question question, CancellationToken cancel) => InCourses(
        await snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [Dimension.All[question.By]], isPlaced: true)}
            select l.id, l.key0, l.label0, r.day, r.hours from picked l join link_days r on r.link_id = l.id
            where l.placed_on between @from and @to and r.clicks > 0 and exists (select from placements pl where pl.link_id = l.id)
            order by l.id, l.key0, r.day
            """,
            Read,
            cancel),
        question.Now.InZone(question.Zone).LocalDateTime);

    /// <summary>The placements of one post, and for each of its channels those of the posts before it, as many as a usual course may need.</summary>
    public static async Task<IReadOnlyList<Labelled>> AroundPost(Snapshot snapshot, Guid workspace, Guid post, LocalDateTime now, CancellationToken cancel) => InCourses(
        await snapshot.Read(
            [("workspace", workspace), ("post", post), ("most", 4 * Pace.MostOthers)],
            """
            with own as (select distinct l.channel_id, po.published_on from placements pl join posts po on po.id = pl.post_id join links l on l.id = pl.link_id
                where pl.post_id = @post and po.workspace_id = @workspace),
            near as (select l.id, l.channel_id from placements pl join links l on l.id = pl.link_id where pl.post_id = @post
                union
                select o.id, own.channel_id from own, lateral (
                    select l.id from links l join placements pl on pl.link_id = l.id join posts po on po.id = pl.post_id
                    where l.workspace_id = @workspace and l.channel_id = own.channel_id and po.published_on <= own.published_on and po.id <> @post
                    order by po.published_on desc, po.created_at desc limit @most) o)
            select near.id, ch.key, ch.name, r.day, r.hours from near join channels ch on ch.id = near.channel_id join link_days r on r.link_id = near.id
            where r.clicks > 0 order by near.id, r.day
            """,
            Read,
            cancel),
        now);

    private static Day Read(NpgsqlDataReader row) => new(row.GetGuid(0), row.GetString(1), row.GetString(2), row.GetFieldValue<LocalDate>(3), row.GetFieldValue<int[]>(4));

    /// <param name="days">By link, group and day.</param>
    private static List<Labelled> InCourses(IEnumerable<Day> days, LocalDateTime now)
    {
        var courses = new List<Labelled>();
        foreach (var ofLink in days.GroupBy(d => (d.LinkId, d.Group)))
        {
            var first = ofLink.First();
            var start = first.Date.AtMidnight().PlusHours(Array.FindIndex(first.Hours, h => h > 0));
            var hours = ofLink.SelectMany(d => d.Hours.Select((clicks, hour) => (HoursBetween(start, d.Date.AtMidnight().PlusHours(hour)), (long)clicks))).Where(h => h.Item1 >= 0);
            courses.Add(new(PlacementCourse.Of(first.LinkId, first.Group, start, hours, HoursBetween(start, now)), first.Label));
        }

        return courses;
    }

    private static int HoursBetween(LocalDateTime from, LocalDateTime to) => (int)NodaTime.Period.Between(from, to, PeriodUnits.Hours).Hours;
}
