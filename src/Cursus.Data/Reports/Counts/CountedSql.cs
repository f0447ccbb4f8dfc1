using Cursus.Core.Clicks;
using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Data.Reports.Counts;

/// <summary>
/// Writes the tables that questions are answered from. <c>picked l</c>: the links that are asked about, with their groups. <c>counted c</c>: people's
/// clicks of these by several things that clicks tell, summed up from the clicks themselves by the link's groups, range (<c>span</c>: 0 for what is
/// asked, 1 for what it is compared with), step of time and these things. Only names from the dimension table, dates and numbers stand in the SQL;
/// what people typed are parameters.
/// </summary>
internal static class CountedSql
{
    /// <summary>Whether <c>clicks c</c> is a person's.</summary>
    public static readonly string IsOfPerson = $"c.kind = {(int)ClickKind.Person}";

    /// <summary>Before the first link of any workspace.</summary>
    private static readonly Instant FirstLinks = Instant.FromUtc(2020, 1, 1, 0, 0);

    /// <param name="groups">The dimensions that it is grouped by.</param>
    /// <param name="isPlaced">Whether columns <c>placed_on</c> and <c>unit_id</c> are needed: the day on which the link went out, and what its clicks
    /// are one with.</param>
    public static string Picked(Question question, IReadOnlyList<Dimension> groups, bool isPlaced = false)
    {
        var joins = groups
            .Concat(question.Filters.Keys.Select(f => Dimensions.All[f]).Where(d => !d.IsSeveral))
            .Where(d => d.IsOfLink)
            .Select(d => d.Join)
            .Concat(isPlaced ? [Dimensions.PostJoin] : [])
            .SelectMany(j => j.Split('\n'))
            .Distinct();
        var columns = groups.Index().Where(g => g.Item.IsOfLink).Select(g => $", {g.Item.Key} as key{g.Index}, {g.Item.Label} as label{g.Index}");
        return $"""
            picked as not materialized (
                select l.id, l.id as coded_link, l.channel_id, l.deleted_at{string.Concat(columns)}{(question.Starts is null ? "" : ", started.went_out")}{(
                isPlaced
                    ? $", coalesce(po.published_on, ({LocalTimeSql.Of("l.created_at", question.Zone, FirstLinks, question.Now)})::date) as placed_on, {UnitOf(question)} as unit_id"
                    : ""
            )}
                from links l {string.Join('\n', joins)}
                    {(question.Starts is null ? "" : "left join unnest(@started, @went_out) as started (link_id, went_out) on started.link_id = l.id")}
                where l.workspace_id = @workspace {string.Concat(question.Filters.Keys.Where(f => Dimensions.All[f].IsOfLink).Select(LinkFilter))})
            """;
    }

    /// <param name="groups">The dimensions that it is grouped by; those of <c>picked</c>.</param>
    /// <param name="ranges">By number of the span.</param>
    /// <param name="step">Of a column <c>at</c> of local times, null in what is compared with.</param>
    /// <param name="isByUnit">Whether a column <c>unit_id</c> is needed; <c>picked</c> then has it.</param>
    public static string Counted(
        Question question,
        IReadOnlyList<Dimension> groups,
        IReadOnlyList<DateRange> ranges,
        CountStep step,
        bool isByUnit = false
    )
    {
        var told = ClickDimensions(question, groups).ToList();
        var details = told.Select(d => d.Detail!).Distinct().ToList();
        List<string> ofLink =
        [
            .. groups.Index().Where(g => g.Item.IsOfLink).SelectMany(g => new[] { $"key{g.Index}", $"label{g.Index}" }),
            .. told.Select(d => d.ComparisonKey).OfType<string>().Distinct(),
            .. isByUnit ? ["unit_id"] : Array.Empty<string>(),
        ];
        var tells = string.Join(", ", details.Select(d => $"{d.Sql} as {d.Column}"));
        var parts = ranges.Select(
            (range, span) =>
                $"""
                    select {string.Concat(ofLink.Select(c => $"l.{c}, "))}{span} as span, {tells},
                        {(span > 0 ? "null::timestamp" : StepOf(step, range, question.WeekStart))} as at
                    from clicks c join picked l on l.id = c.link_id left join user_agents ua on ua.id = c.user_agent_id
                        cross join lateral (select {LocalTimeSql.During(range, question.Zone)} as local) as clock
                    where {IsOfPerson} and {During(range, question.Zone)}
                    """
        );
        string[] columns = [.. ofLink, "span", .. details.Select(d => d.Column), "at"];
        return $"""
            counted as (
                select {string.Join(", ", columns)}, count(*) as clicks
                from ({string.Join("\nunion all ", parts)}) as parts
                group by {string.Join(", ", columns)})
            """;
    }

    /// <summary>People's clicks in the part of a day at the end of a range, by link and what they tell: the link, what, and how many.</summary>
    /// <param name="rest">The part of the day.</param>
    /// <param name="detail">What they tell; null where all count alike.</param>
    public static string InPartOfDay(Question question, DateRange range, Interval rest, ClickDetail? detail) =>
        $"""
            with {Picked(question, [])}
            select c.link_id, {(detail is null ? "''" : $"({detail.Sql})::text")} as told, count(*)
            from clicks c join picked l on l.id = c.link_id left join user_agents ua on ua.id = c.user_agent_id
                cross join lateral (select {LocalTimeSql.During(range, question.Zone)} as local) as clock
            where {IsOfPerson} and c.at >= {LocalTimeSql.Moment(rest.Start)} and c.at < {LocalTimeSql.Moment(rest.End)}
                and clock.local::date = date '{Iso(range.Last.PlusDays(1))}'
            group by 1, 2
            """;

    /// <summary>Whether the roll-ups can't tell, since they keep what clicks tell one by one and by day.</summary>
    public static bool NeedsClicks(IReadOnlyCollection<ClickDetail> details, CountStep step = CountStep.Whole) =>
        details.Count > 1 || (step == CountStep.Hour && details.Count == 1);

    /// <summary>Key and label of each group, over <c>counted c</c> with <see cref="Joins"/>.</summary>
    public static IReadOnlyList<(string Key, string Label)> Columns(IReadOnlyList<Dimension> groups) =>
        [.. groups.Select((g, i) => g.IsOfLink ? ($"c.key{i}", $"c.label{i}") : (g.Key, g.Label))];

    /// <summary>Filters by what clicks tell, over <c>counted c</c> with <see cref="Joins"/>.</summary>
    public static string ClickFilters(Question question) =>
        string.Concat(question.Filters.Keys.Where(f => !Dimensions.All[f].IsOfLink).Select(f => $" and {Dimensions.All[f].Key} = any(@f_{f})"));

    /// <summary>What is joined to <c>counted c</c> for groups and filters of what clicks tell.</summary>
    public static string Joins(Question question, IReadOnlyList<Dimension> groups) =>
        string.Join('\n', ClickDimensions(question, groups).Select(d => d.Join).Distinct());

    /// <summary>The dimensions of groups and filters that clicks decide.</summary>
    public static IEnumerable<Dimension> ClickDimensions(Question question, IReadOnlyList<Dimension> groups) =>
        question.Filters.Keys.Select(f => Dimensions.All[f]).Concat(groups).Where(d => !d.IsOfLink);

    private static string LinkFilter(string filter) => $" and {Dimensions.All[filter].IfAny ?? $"{Dimensions.All[filter].Key} = any(@f_{filter})"}";

    /// <summary>What a link's clicks are one with. Posts are compared on the channels that they share; everything else by post, and links of no post
    /// by themselves.</summary>
    private static string UnitOf(Question question) => question.By == "post" ? "coalesce(l.channel_id, l.id)" : "coalesce(po.id, l.id)";

    private static string StepOf(CountStep step, DateRange range, IsoDayOfWeek weekStart) =>
        step switch
        {
            CountStep.Whole => "null::timestamp",
            CountStep.SevenDays => $"(date '{Iso(range.Last)}' - (date '{Iso(range.Last)}' - clock.local::date) / 7 * 7 - 6)::timestamp",
            CountStep.Week =>
                $"date_trunc('week', clock.local - interval '{weekStart - IsoDayOfWeek.Monday} days') + interval '{weekStart - IsoDayOfWeek.Monday} days'",
            _ => $"date_trunc('{step}', clock.local)",
        };

    /// <summary>By the local day, as the roll-ups count it; a day on either side of it leaves out other months.</summary>
    public static string During(DateRange range, DateTimeZone zone)
    {
        var (start, end) = LocalTimeSql.Around(range, zone);
        var part = range.Rest is { } rest
            ? $" or (c.at < {LocalTimeSql.Moment(rest.End)} and clock.local::date = date '{Iso(range.Last.PlusDays(1))}')"
            : "";
        return $"c.at >= {LocalTimeSql.Moment(start)} and c.at < {LocalTimeSql.Moment(end)} and (clock.local::date between date '{Iso(range.First)}' and date '{Iso(range.Last)}'{part})";
    }

    private static string Iso(LocalDate day) => LocalDatePattern.Iso.Format(day);
}
