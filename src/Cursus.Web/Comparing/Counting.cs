using Cursus.Core.Clicks;
using Cursus.Core.Comparing;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Comparing;

/// <summary>Counts people's clicks in the database for a <see cref="Question"/>: from the roll-ups, or from the clicks where two things that only these tell are crossed.</summary>
internal sealed class Counting(NpgsqlDataSource dataSource)
{
    /// <summary>What was counted all in all.</summary>
    /// <param name="Visitors">People, anew on each link and each day; null where the question narrows by what clicks tell.</param>
    /// <param name="Excluded">Clicks of every kind but people's, of the links that are asked about.</param>
    public sealed record Totals(long Clicks, long? Visitors, long? PreviousClicks, IReadOnlyDictionary<ClickKind, long> Excluded);

    /// <summary>Clicks of one group in one step of time, which begins at this local time.</summary>
    public sealed record StepCount(LocalDateTime At, string Key, long Clicks);

    /// <summary>Clicks that belong to one group of each of two dimensions.</summary>
    public sealed record CellCount(string Key, string Label, string AcrossKey, string AcrossLabel, long Clicks);

    private const int MostDailySteps = 92;

    private static readonly (string Column, ClickKind Kind)[] OtherKinds =
    [
        ("team", ClickKind.Team), ("machines", ClickKind.Machine), ("previews", ClickKind.Preview),
        ("prefetches", ClickKind.Prefetch), ("repeats", ClickKind.Repeat), ("heads", ClickKind.Head),
    ];

    public Task<Snapshot> Open(CancellationToken cancel) => Snapshot.Open(dataSource, cancel);

    /// <summary>The whole answer to a question by one dimension, as of one moment.</summary>
    /// <param name="most">How many groups get a row of their own.</param>
    public async Task<(Totals Total, Breakdown Breakdown)> Answer(Question question, int most, CancellationToken cancel)
    {
        await using var snapshot = await Open(cancel);
        var total = await Total(snapshot, question, cancel);
        var groups = await ByGroup(snapshot, question, cancel);
        return (total, Breakdown.Of(groups, most, await Steps(snapshot, question, cancel)));
    }

    /// <summary>Everything that was counted, whatever the groups.</summary>
    public static async Task<Totals> Total(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var observed = question.ObservedBy();
        var kinds = await snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [])},
            {CountedSql.Counted([], isByLink: false, Stretches(snapshot, question), null, ["visitors", .. OtherKinds.Select(k => k.Column)])}
            select coalesce(sum(clicks) filter (where span = 0), 0)::bigint, coalesce(sum(visitors) filter (where span = 0), 0)::bigint, coalesce(sum(clicks) filter (where span = 1), 0)::bigint,
                {string.Join(", ", OtherKinds.Select(k => $"coalesce(sum({k.Column}) filter (where span = 0), 0)::bigint"))}
            from counted
            """,
            row => new Totals(
                row.GetInt64(0), row.GetInt64(1), question.Earlier is null ? null : row.GetInt64(2), OtherKinds.Index().ToDictionary(k => k.Item.Kind, k => row.GetInt64(3 + k.Index))),
            cancel);
        if (observed.Count == 0)
        {
            return kinds[0];
        }

        var people = await snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [])},
            {CountedSql.Counted(observed, CountedSql.NeedsLink(question, []), Stretches(snapshot, question))}
            select coalesce(sum(c.clicks) filter (where c.span = 0), 0)::bigint, coalesce(sum(c.clicks) filter (where c.span = 1), 0)::bigint
            from counted c {CountedSql.Joins(question, [])} where true {CountedSql.ClickFilters(question)}
            """,
            row => (Clicks: row.GetInt64(0), Previous: row.GetInt64(1)),
            cancel);
        return kinds[0] with { Clicks = people[0].Clicks, Visitors = null, PreviousClicks = question.Earlier is null ? null : people[0].Previous };
    }

    /// <summary>Clicks and visitors for each group; where the link decides, also groups without clicks that had a placement in the period.</summary>
    public static Task<List<GroupCount>> ByGroup(Snapshot snapshot, Question question, CancellationToken cancel) =>
        Dimension.All[question.By].IsOfLink ? ByLinks(snapshot, question, cancel) : ByClicks(snapshot, question, cancel);

    /// <summary>Clicks of each group over time, in steps of the workspace's calendar.</summary>
    /// <param name="step"><c>hour</c>, <c>day</c>, <c>week</c> or <c>month</c>.</param>
    public static Task<List<StepCount>> OverTime(Snapshot snapshot, Question question, string step, CancellationToken cancel)
    {
        var dimension = Dimension.All[question.By];
        return snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [dimension])},
            {CountedSql.Counted(question.ObservedBy(question.By), CountedSql.NeedsLink(question, [dimension]), [Stretch.Of(question.Period, snapshot.SealedMonths)], step)}
            select c.at, {(dimension.IsOfLink ? "l.key0" : dimension.Key)}, sum(c.clicks)::bigint
            from counted c {CountedSql.Joins(question, [dimension])}
            where true {CountedSql.ClickFilters(question)}
            group by 1, 2 having sum(c.clicks) > 0 order by 1
            """,
            row => new StepCount(row.GetFieldValue<LocalDateTime>(0), row.GetString(1), row.GetInt64(2)),
            cancel);
    }

    /// <summary>Clicks of each group by day, or by month where the period is long, for telling how much they vary.</summary>
    public static async Task<IReadOnlyDictionary<string, long[]>> Steps(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var counts = await OverTime(snapshot, question, question.Period.Days > MostDailySteps ? "month" : "day", cancel);
        var places = counts.Select(c => c.At).Distinct().Index().ToDictionary(a => a.Item, a => a.Index);
        var steps = new Dictionary<string, long[]>();
        foreach (var count in counts)
        {
            if (!steps.TryGetValue(count.Key, out var ofGroup))
            {
                steps[count.Key] = ofGroup = new long[places.Count];
            }

            ofGroup[places[count.At]] += count.Clicks;
        }

        return steps;
    }

    /// <summary>Clicks by two dimensions at once; pairs without any are left out.</summary>
    public static Task<List<CellCount>> ByTwo(Snapshot snapshot, Question question, string across, CancellationToken cancel)
    {
        Dimension[] both = [Dimension.All[question.By], Dimension.All[across]];
        var ofLink = 0;
        var columns = both.Select(d => d.IsOfLink ? ($"l.key{ofLink}", $"l.label{ofLink++}") : (d.Key, d.Label)).ToArray();
        return snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, both)},
            {CountedSql.Counted(question.ObservedBy(question.By, across), CountedSql.NeedsLink(question, both), [Stretch.Of(question.Period, snapshot.SealedMonths)])}
            select {columns[0].Item1}, {columns[0].Item2}, {columns[1].Item1}, {columns[1].Item2}, sum(c.clicks)::bigint
            from counted c {CountedSql.Joins(question, both)}
            where true {CountedSql.ClickFilters(question)}
            group by 1, 2, 3, 4 having sum(c.clicks) > 0
            """,
            row => new CellCount(row.GetString(0), Label(question.By, row.GetString(1)), row.GetString(2), Label(across, row.GetString(3)), row.GetInt64(4)),
            cancel);
    }

    private static Task<List<GroupCount>> ByLinks(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        const string AtWork = "(l.deleted_at is null and l.placed_on between @from and @to or p.clicks > 0)";
        var dimension = Dimension.All[question.By];
        var observed = question.ObservedBy();
        var hasVisitors = observed.Count == 0;
        return snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [dimension])},
            {CountedSql.Counted(observed, isByLink: true, Stretches(snapshot, question), null, hasVisitors ? ["visitors"] : [])},
            per_link as (
                select c.link_id, coalesce(sum(c.clicks) filter (where c.span = 0), 0) as clicks, {(hasVisitors ? "sum(c.visitors) filter (where c.span = 0)" : "0")} as visitors,
                    coalesce(sum(c.clicks) filter (where c.span = 1), 0) as previous
                from counted c {CountedSql.Joins(question, [], "links")} where true {CountedSql.ClickFilters(question)} group by 1)
            select l.key0, l.label0, coalesce(sum(p.clicks), 0)::bigint, coalesce(sum(p.visitors), 0)::bigint, coalesce(sum(p.previous), 0)::bigint,
                count(*) filter (where {AtWork}), coalesce(sum(greatest(@to - greatest(l.placed_on, @from) + 1, 1)) filter (where {AtWork}), 0)
            from picked l left join per_link p on p.link_id = l.id
            group by 1, 2 having sum(p.clicks + p.previous) > 0 or bool_or({AtWork})
            """,
            row => new GroupCount(
                row.GetString(0), row.GetString(1), row.GetInt64(2), hasVisitors ? row.GetInt64(3) : null, question.Earlier is null ? null : row.GetInt64(4), row.GetInt32(5), row.GetInt64(6)),
            cancel);
    }

    private static Task<List<GroupCount>> ByClicks(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var dimension = Dimension.All[question.By];
        return snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [])},
            {CountedSql.Counted(question.ObservedBy(question.By), CountedSql.NeedsLink(question, [dimension]), Stretches(snapshot, question))}
            select {dimension.Key}, {dimension.Label}, coalesce(sum(c.clicks) filter (where c.span = 0), 0)::bigint, coalesce(sum(c.clicks) filter (where c.span = 1), 0)::bigint
            from counted c {CountedSql.Joins(question, [dimension])} where true {CountedSql.ClickFilters(question)}
            group by 1, 2 having sum(c.clicks) > 0
            """,
            row => new GroupCount(row.GetString(0), Label(question.By, row.GetString(1)), row.GetInt64(2), null, question.Earlier is null ? null : row.GetInt64(3), 0, 0),
            cancel);
    }

    private static IReadOnlyList<Stretch> Stretches(Snapshot snapshot, Question question)
    {
        var asked = Stretch.Of(question.Period, snapshot.SealedMonths);
        return question.Earlier is { } earlier
            ? [asked, Stretch.Of(earlier.From, question.Period.UpToNow(earlier, question.Zone, question.Now).End, question.Zone, snapshot.SealedMonths)]
            : [asked];
    }

    /// <summary>What a person reads; countries stand as codes in the database.</summary>
    private static string Label(string by, string label) => by switch
    {
        "country" => CountryNames.Of(label),
        _ => label,
    };
}
