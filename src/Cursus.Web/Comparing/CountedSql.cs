using Cursus.Core.Clicks;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Comparing;

/// <summary>
/// Writes the two tables that every question is answered from. <c>picked l</c>: the links that are asked about, with their groups. <c>counted c</c>: people's clicks of these, summed up
/// by the link's groups, stretch (<c>span</c>: 0 for what is asked, 1 for what it is compared with), step of time and at most one thing that clicks tell, from the roll-ups; or by
/// several such things, from the clicks themselves. Only names from the dimension table, dates and numbers stand in the SQL; what people typed are parameters.
/// </summary>
internal static class CountedSql
{
    private const string RawColumns =
        "c.country, ua.device, ua.browser, ua.os, c.language, c.referrer_host, coalesce(nullif(c.code, 0)::text, '') as code, (extract(isodow from c.at at time zone @zone)::int - 1) * 24 + extract(hour from c.at at time zone @zone)::int as week_hour";

    /// <param name="groups">The dimensions that it is grouped by.</param>
    /// <param name="isPlaced">Whether a column <c>placed_on</c> is needed, the day on which the link went out.</param>
    public static string Picked(Question question, IReadOnlyList<Dimension> groups, bool isPlaced = false)
    {
        var joins = groups.Concat(question.Filters.Keys.Select(f => Dimension.All[f]).Where(d => !d.IsSeveral)).Where(d => d.IsOfLink).Select(d => d.Join)
            .Concat(isPlaced ? [Dimension.PostJoin] : []).SelectMany(j => j.Split('\n')).Distinct();
        var columns = groups.Index().Where(g => g.Item.IsOfLink).Select(g => $", {g.Item.Key} as key{g.Index}, {g.Item.Label} as label{g.Index}");
        return $"""
            picked as not materialized (
                select l.id, l.id as coded_link, l.channel_id, l.deleted_at{string.Concat(columns)}{(isPlaced ? ", coalesce(po.published_on, (l.created_at at time zone @zone)::date) as placed_on" : "")}
                from links l {string.Join('\n', joins)}
                where l.workspace_id = @workspace {string.Concat(question.Filters.Keys.Where(f => Dimension.All[f].IsOfLink).Select(LinkFilter))})
            """;
    }

    /// <param name="groups">The dimensions that it is grouped by; those of <c>picked</c>.</param>
    /// <param name="stretches">By number of the span.</param>
    /// <param name="step">hour, day, week or month for a column <c>at</c> of local times, null in what is compared with; null for none. Then stretches are of whole days.</param>
    /// <param name="isByLink">Whether a column <c>link_id</c> is needed; without it there is far less to sum up.</param>
    /// <param name="others">What is counted of the roll-ups beside people's clicks; only where nothing is observed.</param>
    public static string Counted(
        Question question, IReadOnlyList<Dimension> groups, IReadOnlyList<Stretch> stretches, string? step = null, bool isByLink = false, params IReadOnlyList<string> others)
    {
        var parts = new Parts(question, groups, step, isByLink, others);
        return $"""
            counted as (
                select {string.Join(", ", parts.Columns)}, sum(clicks) as clicks{string.Concat(others.Select(o => $", sum({o}) as {o}"))}
                from ({string.Join("\nunion all ", stretches.SelectMany(parts.Of))}) as parts where clicks > 0{string.Concat(others.Select(o => $" or {o} > 0"))}
                group by {string.Join(", ", parts.Columns)})
            """;
    }

    /// <summary>Whether the roll-ups can't tell, since they keep what clicks tell one by one and by day.</summary>
    public static bool NeedsClicks(IReadOnlyCollection<string> observed, string? step = null) => observed.Count > 1 || (step == "hour" && observed.Count == 1);

    /// <summary>Key and label of each group, over <c>counted c</c> with <see cref="Joins"/>.</summary>
    public static IReadOnlyList<(string Key, string Label)> Columns(IReadOnlyList<Dimension> groups) =>
        [.. groups.Select((g, i) => g.IsOfLink ? ($"c.key{i}", $"c.label{i}") : (g.Key, g.Label))];

    /// <summary>Filters by what clicks tell, over <c>counted c</c> with <see cref="Joins"/>.</summary>
    public static string ClickFilters(Question question) => string.Concat(question.Filters.Keys.Where(f => !Dimension.All[f].IsOfLink).Select(f => $" and {Dimension.All[f].Key} = any(@f_{f})"));

    /// <summary>What is joined to <c>counted c</c> for groups and filters of what clicks tell.</summary>
    public static string Joins(Question question, IReadOnlyList<Dimension> groups) => string.Join('\n', ClickDimensions(question, groups).Select(d => d.Join).Distinct());

    private static IEnumerable<Dimension> ClickDimensions(Question question, IReadOnlyList<Dimension> groups) =>
        question.Filters.Keys.Select(f => Dimension.All[f]).Concat(groups).Where(d => !d.IsOfLink);

    private static string LinkFilter(string filter) => $" and {Dimension.All[filter].IfAny ?? $"{Dimension.All[filter].Key} = any(@f_{filter})"}";

    /// <summary>What is read for a stretch: the same columns from months, from days and from the clicks themselves.</summary>
    private sealed class Parts(Question question, IReadOnlyList<Dimension> groups, string? step, bool isByLink, IReadOnlyList<string> others)
    {
        private readonly IReadOnlyList<string> observed = [.. ClickDimensions(question, groups).Select(d => d.Observed!).Distinct()];

        private readonly IReadOnlyList<string> ofLink =
        [
            .. groups.Index().Where(g => g.Item.IsOfLink).SelectMany(g => new[] { $"key{g.Index}", $"label{g.Index}" }),
            .. ClickDimensions(question, groups).Select(d => d.HeldAgainst).OfType<string>().Distinct(),
        ];

        /// <summary>What is summed up by.</summary>
        public IReadOnlyList<string> Columns => [.. ofLink, .. isByLink ? ["link_id"] : Array.Empty<string>(), "span", .. observed, .. step is null ? Array.Empty<string>() : ["at"]];

        public IEnumerable<string> Of(Stretch stretch, int span) => NeedsClicks(observed, step) ? [FromClicks(stretch, span)]
            : step == "hour" ? [FromHours(stretch)]
            : FromRollUps(stretch, span);

        private IEnumerable<string> FromRollUps(Stretch stretch, int span)
        {
            var readsMonths = step is null or "month" || span > 0;
            var isByHour = observed is ["week_hour"];
            var (days, weekday) = (DaysOf(stretch, withMonths: !readsMonths), "extract(isodow from r.day)::int - 1");
            if (readsMonths && stretch.Months.Count > 0)
            {
                var months = $"r.month in ({string.Join(", ", stretch.Months.Select(Date))})";
                yield return isByHour ? FromHoursOf("link_months", "week_hours", MonthCounts.HoursOfWeek, "0", months, At("r.month")) : From("link_months r", Unnested, months, At("r.month"));
            }

            yield return isByHour ? FromHoursOf("link_days", "hours", 24, weekday, days, At("r.day")) : From("link_days r", Unnested, days, At("r.day"));
            if (stretch.Rest is { } rest)
            {
                var value = observed.SingleOrDefault() is { } single ? $", r.{single}" : "";
                yield return From(Clicks($"c.at >= {Moment(rest.Start)} and c.at < {Moment(rest.End)}"), (value, "1"), "true", At(null), "0");
            }

            // Lists of hours are added up place by place before they are taken apart: those of days with the same weekday, and those of months, which begin with Monday.
            string FromHoursOf(string table, string hours, int count, string day, string where, string at) => $"""
                select {string.Concat(ofLink.Select(c => $"d.{c}, "))}{(isByLink ? "d.link_id, " : "")}d.span, d.weekday * 24 + h.hour::int - 1 as week_hour{(step is null ? "" : ", d.at")}, h.clicks
                from (
                    select {LinkColumns}{span} as span, {day} as weekday{at}, array[{string.Join(", ", Enumerable.Range(1, count).Select(h => $"sum(r.{hours}[{h}])"))}] as hours
                    from {table} r join picked l on l.id = r.link_id where {where}
                    group by {string.Concat(ofLink.Select(c => $"l.{c}, "))}{(isByLink ? "l.id, " : "")}weekday{(step is null ? "" : ", at")}) d,
                    unnest(d.hours) with ordinality h (clicks, hour)
                """;

            string At(string? day) => step is null ? "" : span > 0 || day is null ? ", null::timestamp as at" : step == "day" ? $", {day}::timestamp as at" : $", date_trunc('{step}', {day}::timestamp) as at";

            string From(string table, (string Value, string Clicks) unnested, string where, string at, string? other = null) => $"""
                select {LinkColumns}{span} as span{unnested.Value}{at}, {unnested.Clicks} as clicks{string.Concat(others.Select(o => $", {other ?? $"r.{o}"} as {o}"))}
                from {table} join picked l on l.id = r.link_id where {where}
                """;
        }

        private string FromHours(Stretch stretch) => $"""
            select {LinkColumns}0 as span, r.day + (generate_subscripts(r.hours, 1) - 1) * interval '1 hour' as at, unnest(r.hours) as clicks
            from link_days r join picked l on l.id = r.link_id where {DaysOf(stretch, withMonths: true)}
            """;

        private string FromClicks(Stretch stretch, int span)
        {
            var moments = RunsOf(stretch, withMonths: true)
                .Select(run => $"(c.at >= {Date(run.First)}::timestamp at time zone @zone and c.at < {Date(run.Last.PlusDays(1))}::timestamp at time zone @zone)")
                .Concat(stretch.Rest is { } rest ? [$"(c.at >= {Moment(rest.Start)} and c.at < {Moment(rest.End)})"] : [])
                .DefaultIfEmpty("false");
            return $"""
                select {LinkColumns}{span} as span, {string.Join(", ", observed.Select(o => $"r.{o}"))}{(step is null ? "" : $", date_trunc('{step}', r.local) as at")}, 1 as clicks
                from {Clicks($"({string.Join(" or ", moments)})")} join picked l on l.id = r.link_id
                """;
        }

        private string LinkColumns => string.Concat(ofLink.Select(c => $"l.{c}, ")) + (isByLink ? "l.id as link_id, " : "");

        /// <summary>How a roll-up is read by what clicks tell. Lists are taken apart side by side in the select list, which costs half of a join with their rows.</summary>
        private (string Value, string Clicks) Unnested => observed.SingleOrDefault() switch
        {
            null => ("", "r.clicks"),
            "referrer_host" => (", unnest(r.referrer_values) as referrer_host", "unnest(r.referrer_counts)"),
            var value => ($", unnest(r.{value}_values) as {value}", $"unnest(r.{value}_counts)"),
        };
    }

    private static IEnumerable<(LocalDate First, LocalDate Last)> RunsOf(Stretch stretch, bool withMonths) =>
        withMonths ? stretch.Days.Concat(stretch.Months.Select(m => (m, m.PlusMonths(1).PlusDays(-1)))) : stretch.Days;

    private static string DaysOf(Stretch stretch, bool withMonths) =>
        $"({string.Join(" or ", RunsOf(stretch, withMonths).Select(run => $"r.day between {Date(run.First)} and {Date(run.Last)}").DefaultIfEmpty("false"))})";

    /// <summary>People's clicks themselves, with what they tell; columns that nobody asks for cost nothing, since an agent's row is looked up by its unique number.</summary>
    private static string Clicks(string when) => $"""
        (select c.link_id, c.at at time zone @zone as local, {RawColumns} from clicks c left join user_agents ua on ua.id = c.user_agent_id where c.kind = 0 and {when}) r
        """;

    private static string Date(LocalDate day) => $"date '{LocalDatePattern.Iso.Format(day)}'";

    private static string Moment(Instant at) => $"timestamptz '{InstantPattern.ExtendedIso.Format(at)}'";
}
