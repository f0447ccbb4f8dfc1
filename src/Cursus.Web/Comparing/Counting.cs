using Cursus.Core.Clicks;
using Cursus.Core.Comparing;
using Cursus.Web.Retargeting;
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

    /// <param name="Count">Still without placements.</param>
    /// <param name="Steps">Where its steps with clicks begin.</param>
    /// <param name="Excluded">Null where the question needs what only people's clicks tell.</param>
    private sealed record CountedGroup(GroupCount Count, LocalDateTime[] Steps, long[] StepClicks, IReadOnlyDictionary<ClickKind, long>? Excluded);

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
        var dimension = Dimension.All[question.By];
        var counted = await ByGroup(snapshot, question, cancel);
        var groups = dimension.IsOfLink ? await WithPlacements(snapshot, question, counted, cancel) : counted.ConvertAll(c => c.Count);
        var total = dimension.IsSeveral ? await Total(snapshot, question, cancel) : await Sum(snapshot, question, counted, cancel);
        return (total, Breakdown.Of(groups, most, question.IsOfOneLife ? null : StepsOf(counted)));
    }

    /// <summary>What the question is narrowed to, by name.</summary>
    public async Task<IReadOnlyList<Narrowing>> Narrowed(Question question, CancellationToken cancel)
    {
        await using var snapshot = await Open(cancel);
        return await Narrowing.Of(snapshot, question, cancel);
    }

    /// <summary>Everything that was counted, whatever the groups.</summary>
    public static async Task<Totals> Total(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var kinds = await Kinds(snapshot, question, cancel);
        var observed = question.ObservedBy();
        if (observed.Count == 0)
        {
            return kinds;
        }

        var people = await snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [])},
            {CountedSql.Counted(question, [], Stretches(snapshot, question))}
            select coalesce(sum(c.clicks) filter (where c.span = 0), 0)::bigint, coalesce(sum(c.clicks) filter (where c.span = 1), 0)::bigint
            from counted c {CountedSql.Joins(question, [])} where true {CountedSql.ClickFilters(question)}
            """,
            row => (Clicks: row.GetInt64(0), Previous: row.GetInt64(1)),
            cancel);
        return kinds with { Clicks = people[0].Clicks, Visitors = null, PreviousClicks = question.Earlier is null ? null : people[0].Previous };
    }

    /// <summary>All clicks of the links that are asked about, whatever they tell.</summary>
    private static async Task<Totals> Kinds(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var whatever = question with { Filters = question.Filters.Where(f => Dimension.All[f.Key].IsOfLink).ToDictionary() };
        return (await snapshot.Read(
            whatever,
            $"""
            with {CountedSql.Picked(whatever, [])},
            {CountedSql.Counted(whatever, [], Stretches(snapshot, question), others: ["visitors", .. OtherKinds.Select(k => k.Column)])}
            select coalesce(sum(clicks) filter (where span = 0), 0)::bigint, coalesce(sum(visitors) filter (where span = 0), 0)::bigint, coalesce(sum(clicks) filter (where span = 1), 0)::bigint,
                {string.Join(", ", OtherKinds.Select(k => $"coalesce(sum({k.Column}) filter (where span = 0), 0)::bigint"))}
            from counted
            """,
            row => new Totals(
                row.GetInt64(0), row.GetInt64(1), question.Earlier is null ? null : row.GetInt64(2), OtherKinds.Index().ToDictionary(k => k.Item.Kind, k => row.GetInt64(3 + k.Index))),
            cancel))[0];
    }

    /// <summary>The sum of groups that have no click in common.</summary>
    private static async Task<Totals> Sum(Snapshot snapshot, Question question, List<CountedGroup> groups, CancellationToken cancel)
    {
        var kinds = question.ObservedBy(question.By).Count == 0
            ? new Totals(0, groups.Sum(g => g.Count.Visitors), null, OtherKinds.ToDictionary(k => k.Kind, k => groups.Sum(g => g.Excluded![k.Kind])))
            : await Kinds(snapshot, question, cancel);
        return kinds with
        {
            Clicks = groups.Sum(g => g.Count.Clicks),
            Visitors = question.ObservedBy().Count > 0 ? null : kinds.Visitors,
            PreviousClicks = question.Earlier is null ? null : groups.Sum(g => g.Count.PreviousClicks),
        };
    }

    /// <summary>Clicks of each group over time, in steps of the workspace's calendar.</summary>
    /// <param name="step"><c>hour</c>, <c>day</c>, <c>week</c> or <c>month</c>.</param>
    public static Task<List<StepCount>> OverTime(Snapshot snapshot, Question question, string step, CancellationToken cancel)
    {
        Dimension[] by = [Dimension.All[question.By]];
        return snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, by)},
            {CountedSql.Counted(question, by, [Stretch.Of(question.Period, snapshot.SealedMonths)], step)}
            select c.at, {CountedSql.Columns(by)[0].Key}, sum(c.clicks)::bigint
            from counted c {CountedSql.Joins(question, by)}
            where true {CountedSql.ClickFilters(question)}
            group by 1, 2 having sum(c.clicks) > 0 order by 1
            """,
            row => new StepCount(row.GetFieldValue<LocalDateTime>(0), row.GetString(1), row.GetInt64(2)),
            cancel);
    }

    /// <summary>The posts that went out in the period and that the question is about, newest first.</summary>
    public static Task<List<SeriesReport.PublishedPost>> Posts(Snapshot snapshot, Question question, int most, CancellationToken cancel) => snapshot.Read(
        question,
        $"""
        with {CountedSql.Picked(question, [])}
        select po.id, po.title, po.published_on from posts po
        where po.workspace_id = @workspace and po.published_on between @from and @to
            and exists (select from placements pl join picked l on l.id = pl.link_id where pl.post_id = po.id and l.deleted_at is null)
        order by po.published_on desc, po.created_at desc limit {most}
        """,
        row => new SeriesReport.PublishedPost(row.GetGuid(0), row.GetString(1), row.GetFieldValue<LocalDate>(2)),
        cancel);

    /// <summary>What became of each pixel at visits of the links that are asked about, by the pixel's key. What clicks tell doesn't narrow it: the roll-up doesn't keep it.</summary>
    public async Task<Dictionary<string, OutcomeCount>> PixelOutcomes(Question question, CancellationToken cancel)
    {
        await using var snapshot = await Open(cancel);
        return (await snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, [])}
            select d.pixel_id::text, sum(d.fired), sum(d.missed), sum(d.declined), sum(d.opted_out)
            from pixel_days d join picked l on l.id = d.link_id where d.day between @from and @to group by 1
            """,
            row => (Key: row.GetString(0), Count: new OutcomeCount(row.GetInt64(1), row.GetInt64(2), row.GetInt64(3), row.GetInt64(4))),
            cancel)).ToDictionary(r => r.Key, r => r.Count);
    }

    /// <summary>Clicks by two dimensions at once; pairs without any are left out.</summary>
    public static Task<List<CellCount>> ByTwo(Snapshot snapshot, Question question, string across, CancellationToken cancel)
    {
        Dimension[] both = [Dimension.All[question.By], Dimension.All[across]];
        var columns = CountedSql.Columns(both);
        return snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, both)},
            {CountedSql.Counted(question, both, [Stretch.Of(question.Period, snapshot.SealedMonths)])}
            select {columns[0].Key}, {columns[0].Label}, {columns[1].Key}, {columns[1].Label}, sum(c.clicks)::bigint
            from counted c {CountedSql.Joins(question, both)}
            where true {CountedSql.ClickFilters(question)}
            group by 1, 2, 3, 4 having sum(c.clicks) > 0
            """,
            row => new CellCount(row.GetString(0), Label(question.By, row.GetString(1)), row.GetString(2), Label(across, row.GetString(3)), row.GetInt64(4)),
            cancel);
    }

    /// <summary>Clicks of each group, with its clicks by day, or by month where the period is long, for telling how much they vary; the steps don't matter where all is of one life.</summary>
    private static Task<List<CountedGroup>> ByGroup(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        Dimension[] by = [Dimension.All[question.By]];
        var (key, label) = CountedSql.Columns(by)[0];
        string[] others = question.ObservedBy(question.By).Count == 0 ? ["visitors", .. OtherKinds.Select(k => k.Column)] : [];
        return snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, by)},
            {CountedSql.Counted(question, by, Stretches(snapshot, question), question.IsOfOneLife || question.Period.Days > MostDailySteps ? "month" : "day", others: others)},
            by_step as (
                select {key} as key, {label} as label, c.span, c.at, sum(c.clicks) as clicks{string.Concat(others.Select(o => $", sum(c.{o}) as {o}"))}
                from counted c {CountedSql.Joins(question, by)} where true {CountedSql.ClickFilters(question)}
                group by 1, 2, 3, 4)
            select key, label, coalesce(sum(clicks) filter (where span = 0), 0)::bigint, coalesce(sum(clicks) filter (where span = 1), 0)::bigint,
                coalesce(array_agg(at) filter (where span = 0 and clicks > 0), array[]::timestamp[]), coalesce(array_agg(clicks::bigint) filter (where span = 0 and clicks > 0), array[]::bigint[])
                {string.Concat(others.Select(o => $", coalesce(sum({o}) filter (where span = 0), 0)::bigint"))}
            from by_step group by 1, 2
            """,
            row => new CountedGroup(
                new GroupCount(
                    row.GetString(0), Label(question.By, row.GetString(1)), row.GetInt64(2), others.Length > 0 ? row.GetInt64(6) : null, question.Earlier is null ? null : row.GetInt64(3), 0, 0),
                row.GetFieldValue<LocalDateTime[]>(4),
                row.GetFieldValue<long[]>(5),
                others.Length > 0 ? OtherKinds.Index().ToDictionary(k => k.Item.Kind, k => row.GetInt64(7 + k.Index)) : null),
            cancel);
    }

    /// <summary>Adds the placements that were at work in the period; groups without clicks that had one come to the others, those without either go.</summary>
    private static async Task<List<GroupCount>> WithPlacements(Snapshot snapshot, Question question, List<CountedGroup> counted, CancellationToken cancel)
    {
        Dimension[] by = [Dimension.All[question.By]];
        var hasVisitors = question.ObservedBy().Count == 0;
        var period = question.Period.In(question.Zone);

        // Of links that were clicked in the period, those with no click afterwards are known by their last one; only for the others days and months are read.
        var placements = await snapshot.Read(
            [.. question.Parameters, ("start", period.Start), ("end", period.End)],
            $"""
            with {CountedSql.Picked(question, by, isPlaced: true)},
            {CountedSql.Counted(question, [], [Stretch.Of(question.Period, snapshot.SealedMonths)], isByLink: true)},
            clicked as (select c.link_id from counted c {CountedSql.Joins(question, [])} where true {CountedSql.ClickFilters(question)})
            select l.key0, l.label0, count(*), sum(greatest(@to - greatest(l.placed_on, @from) + 1, 1))
            from picked l left join link_totals t on t.link_id = l.id and t.last_click_at >= @start
            where l.deleted_at is null and l.placed_on between @from and @to
                or t.link_id is not null and ({(hasVisitors ? "t.last_click_at < @end or" : "")} l.id in (select link_id from clicked))
            group by 1, 2
            """,
            row => (Key: row.GetString(0), Label: row.GetString(1), Placements: row.GetInt32(2), Days: row.GetInt64(3)),
            cancel);
        var groups = counted.ToDictionary(c => (c.Count.Key, c.Count.Label), c => c.Count);
        foreach (var (key, label, count, days) in placements)
        {
            groups[(key, label)] = (groups.GetValueOrDefault((key, label)) ?? new(key, label, 0, hasVisitors ? 0 : null, question.Earlier is null ? null : 0, 0, 0)) with { Placements = count, PlacementDays = days };
        }

        return [.. groups.Values.Where(g => g.Clicks > 0 || g.PreviousClicks > 0 || g.Placements > 0)];
    }

    /// <summary>The groups' clicks in steps that all of them have in common.</summary>
    private static Dictionary<string, long[]> StepsOf(List<CountedGroup> groups)
    {
        var places = groups.SelectMany(g => g.Steps).Distinct().Index().ToDictionary(a => a.Item, a => a.Index);
        var steps = new Dictionary<string, long[]>();
        foreach (var group in groups)
        {
            if (!steps.TryGetValue(group.Count.Key, out var ofGroup))
            {
                steps[group.Count.Key] = ofGroup = new long[places.Count];
            }

            foreach (var (at, clicks) in group.Steps.Zip(group.StepClicks))
            {
                ofGroup[places[at]] += clicks;
            }
        }

        return steps;
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
