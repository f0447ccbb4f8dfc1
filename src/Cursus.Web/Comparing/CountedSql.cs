using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Comparing;

/// <summary>
/// Writes the two tables that every question is answered from. <c>picked</c>: the links that are asked about, with their groups. <c>counted</c>: people's clicks of these by link, stretch
/// (<c>span</c>: 0 for what is asked, 1 for what it is compared with), step of time and at most one thing that clicks tell, from the roll-ups; or by several such things, from
/// the clicks themselves. Only names from the dimension table, dates and numbers stand in the SQL; what people typed are parameters.
/// </summary>
internal static class CountedSql
{
    private const string RawColumns =
        "c.country, ua.device, ua.browser, ua.os, c.language, c.referrer_host, (extract(isodow from c.at at time zone @zone)::int - 1) * 24 + extract(hour from c.at at time zone @zone)::int as week_hour";

    /// <param name="groups">The dimensions of the link that it is grouped by.</param>
    public static string Picked(Question question, IReadOnlyList<Dimension> groups)
    {
        var columns = groups.Where(g => g.IsOfLink).Select((g, i) => $", {g.Key} as key{i}, {g.Label} as label{i}");
        return $"""
            picked as materialized (
                select l.id, l.channel_id, l.deleted_at, coalesce(po.published_on, (l.created_at at time zone @zone)::date) as placed_on{string.Concat(columns)}
                from links l {Dimension.Joins} {string.Join('\n', groups.Where(g => g.IsOfLink).Select(g => g.Join).Distinct())}
                where l.workspace_id = @workspace {string.Concat(question.Filters.Keys.Where(f => Dimension.All[f].IsOfLink).Select(LinkFilter))})
            """;
    }

    /// <param name="observed">Columns of what clicks tell that the question needs.</param>
    /// <param name="isByLink">Whether a column <c>link_id</c> is needed; without it there is far less to sum up.</param>
    /// <param name="stretches">By number of the span.</param>
    /// <param name="step">hour, day, week or month for a column <c>at</c> of local times; null for none. Then stretches are of whole days.</param>
    /// <param name="others">What is counted of the roll-ups beside people's clicks; only where nothing is observed.</param>
    public static string Counted(
        IReadOnlyCollection<string> observed, bool isByLink, IReadOnlyList<Stretch> stretches, string? step = null, params IReadOnlyList<string> others)
    {
        var columns = string.Join(", ", [.. isByLink ? ["link_id"] : Array.Empty<string>(), "span", .. observed, .. step is null ? Array.Empty<string>() : ["at"]]);
        var parts = stretches.SelectMany((stretch, span) => NeedsClicks(observed, step) ? FromClicks(stretch, span, step)
            : step == "hour" ? FromHours(stretch)
            : FromRollUps(stretch, span, observed.SingleOrDefault(), step, others));
        return $"""
            counted as (
                select {columns}, sum(clicks) as clicks{string.Concat(others.Select(o => $", sum({o}) as {o}"))}
                from ({string.Join("\nunion all ", parts)}) as parts
                where link_id in (select id from picked)
                group by {columns})
            """;
    }

    /// <summary>Whether the roll-ups can't tell, since they keep what clicks tell one by one and by day.</summary>
    public static bool NeedsClicks(IReadOnlyCollection<string> observed, string? step = null) => observed.Count > 1 || (step == "hour" && observed.Count == 1);

    /// <summary>Filters by what clicks tell, over <c>counted c</c>.</summary>
    public static string ClickFilters(Question question) =>
        string.Concat(question.Filters.Keys.Where(f => !Dimension.All[f].IsOfLink).Select(f => $" and {Dimension.All[f].Key} = any(@f_{f})"));

    /// <summary>What is joined to <c>counted c</c> for groups and filters of what clicks tell.</summary>
    /// <param name="links">Table of the links, as <c>l</c>; nothing where none is needed.</param>
    public static string Joins(Question question, IReadOnlyList<Dimension> groups, string links = "picked") => string.Join('\n', ClickDimensions(question).Concat(groups)
        .Where(d => !d.IsOfLink).Select(d => d.Join).Distinct().Prepend(NeedsLink(question, groups) ? $"join {links} l on l.id = c.link_id" : ""));

    /// <summary>Whether the groups or a filter by what clicks tell can't do without the clicks' links.</summary>
    public static bool NeedsLink(Question question, IReadOnlyList<Dimension> groups) => ClickDimensions(question).Concat(groups).Any(d => d.NeedsLink);

    private static IEnumerable<Dimension> ClickDimensions(Question question) => question.Filters.Keys.Select(f => Dimension.All[f]).Where(d => !d.IsOfLink);

    private static string LinkFilter(string filter) => filter == "tag"
        ? " and exists (select 1 from link_tags flt join tags ft on ft.id = flt.tag_id where flt.link_id = l.id and ft.name = any(@f_tag))"
        : $" and {Dimension.All[filter].Key} = any(@f_{filter})";

    private static IEnumerable<string> FromRollUps(Stretch stretch, int span, string? observed, string? step, IReadOnlyList<string> others)
    {
        var readsMonths = step is null or "month";
        if (readsMonths && stretch.Months.Count > 0)
        {
            yield return Select(Unnested(observed, "r.month"), "link_months", $"r.month in ({string.Join(", ", stretch.Months.Select(Date))})");
        }

        yield return Select(Unnested(observed, "r.day"), "link_days", DaysOf(stretch, withMonths: !readsMonths));
        if (stretch.Rest is { } rest)
        {
            yield return $"""
                select c.link_id, {span} as span{(observed is null ? "" : $", c.{observed}")}, 1 as clicks{string.Concat(others.Select(o => $", 0 as {o}"))}
                from {Clicks($"c.at >= {Moment(rest.Start)} and c.at < {Moment(rest.End)}")}
                """;
        }

        string Select(Unnesting unnesting, string table, string where) => $"""
            select r.link_id, {span} as span{unnesting.Value}{(step is null ? "" : $", date_trunc('{step}', {unnesting.Day}::timestamp) as at")},
                {unnesting.Clicks} as clicks{string.Concat(others.Select(o => $", r.{o}"))}
            from {table} r{unnesting.From} where {where}
            """;
    }

    private static IEnumerable<string> FromHours(Stretch stretch) =>
    [
        $"""
        select r.link_id, 0 as span, r.day + (t.hour - 1) * interval '1 hour' as at, t.clicks
        from link_days r, unnest(r.hours) with ordinality t (clicks, hour) where ({DaysOf(stretch, withMonths: true)}) and t.clicks > 0
        """,
    ];

    private static IEnumerable<string> FromClicks(Stretch stretch, int span, string? step)
    {
        var moments = RunsOf(stretch, withMonths: true)
            .Select(run => $"(c.at >= {Date(run.First)}::timestamp at time zone @zone and c.at < {Date(run.Last.PlusDays(1))}::timestamp at time zone @zone)")
            .Concat(stretch.Rest is { } rest ? [$"(c.at >= {Moment(rest.Start)} and c.at < {Moment(rest.End)})"] : [])
            .DefaultIfEmpty("false");
        return [$"select c.*, {span} as span, 1 as clicks{(step is null ? "" : $", date_trunc('{step}', c.local) as at")} from {Clicks($"({string.Join(" or ", moments)})")}"];
    }

    private static IEnumerable<(LocalDate First, LocalDate Last)> RunsOf(Stretch stretch, bool withMonths) =>
        withMonths ? stretch.Days.Concat(stretch.Months.Select(m => (m, m.PlusMonths(1).PlusDays(-1)))) : stretch.Days;

    private static string DaysOf(Stretch stretch, bool withMonths) =>
        $"({string.Join(" or ", RunsOf(stretch, withMonths).Select(run => $"r.day between {Date(run.First)} and {Date(run.Last)}").DefaultIfEmpty("false"))})";

    /// <summary>People's clicks themselves, with what they tell.</summary>
    private static string Clicks(string when) => $"""
        (select c.link_id, c.at at time zone @zone as local, {RawColumns} from clicks c join user_agents ua on ua.id = c.user_agent_id
        where c.kind = 0 and {when} and c.link_id in (select id from picked)) c
        """;

    /// <summary>How a roll-up is read by what clicks tell.</summary>
    /// <param name="Day">The roll-up's day or month.</param>
    private sealed record Unnesting(string Day, string Value, string Clicks, string From);

    private static Unnesting Unnested(string? observed, string day) => observed switch
    {
        null => new(day, "", "r.clicks", ""),
        "week_hour" when day == "r.month" => new(day, ", t.value as week_hour", "t.clicks", ", unnest(r.week_hour_values, r.week_hour_counts) t (value, clicks)"),
        "week_hour" => new(
            day, ", (extract(isodow from r.day)::int - 1) * 24 + t.hour::int - 1 as week_hour", "t.clicks", ", unnest(r.hours) with ordinality t (clicks, hour)"),
        "referrer_host" => new(day, ", t.value as referrer_host", "t.clicks", ", unnest(r.referrer_values, r.referrer_counts) t (value, clicks)"),
        _ => new(day, $", t.value as {observed}", "t.clicks", $", unnest(r.{observed}_values, r.{observed}_counts) t (value, clicks)"),
    };

    private static string Date(LocalDate day) => $"date '{LocalDatePattern.Iso.Format(day)}'";

    private static string Moment(Instant at) => $"timestamptz '{InstantPattern.ExtendedIso.Format(at)}'";
}
