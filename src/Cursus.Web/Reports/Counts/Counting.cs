using Cursus.Core.Clicks;
using Cursus.Core.Reports;
using Cursus.Data.Reports.Counts;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Retargeting;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Reports.Counts;

/// <summary>Counts people's clicks for a <see cref="Question"/>.</summary>
internal sealed class Counting([FromKeyedServices(DatabasePools.Reports)] NpgsqlDataSource reports, NpgsqlDataSource dataSource, ReportGate gate)
{
    /// <summary>What was counted all in all.</summary>
    /// <param name="Visitors">People, anew on each link and each day; null where the question narrows by what clicks tell.</param>
    /// <param name="Excluded">Clicks of every kind but people's, of the links that are asked about.</param>
    public sealed record Totals(long Clicks, long? Visitors, long? PreviousClicks, IReadOnlyDictionary<ClickKind, long> Excluded);

    /// <summary>Clicks of one group in one step of time, which begins at this local time.</summary>
    public sealed record StepCount(LocalDateTime At, string Key, long Clicks);

    /// <summary>Clicks that belong to one group of each of two dimensions.</summary>
    public sealed record CellCount(string Key, string Label, string AcrossKey, string AcrossLabel, long Clicks);

    private static readonly (string Name, ClickKind Kind)[] OtherKinds =
    [
        ("team", ClickKind.Team),
        ("machines", ClickKind.Machine),
        ("previews", ClickKind.Preview),
        ("prefetches", ClickKind.Prefetch),
        ("repeats", ClickKind.Repeat),
        ("heads", ClickKind.Head),
        ("impostors", ClickKind.Impostor),
        ("sweeps", ClickKind.Sweep),
        ("echoes", ClickKind.Echo),
        ("probes", ClickKind.Probe),
    ];

    /// <summary>Waits until it is the workspace's turn to count, and opens one moment of the database.</summary>
    /// <exception cref="Problems.TooManyRequestsException">Too many wait already.</exception>
    public async Task<Snapshot> Open(Guid workspaceId, CancellationToken cancel) =>
        await Snapshot.Open(reports, await gate.Enter(workspaceId, cancel), cancel);

    /// <summary>Opens one moment of the database for whoever reads it row by row for as long as it takes to send them, and who is bounded by
    /// <see cref="Held.Download"/>.</summary>
    public Task<Snapshot> OpenLong(CancellationToken cancel) => Snapshot.Open(dataSource, null, cancel);

    /// <summary>The whole answer to a question by one dimension, as of one moment.</summary>
    /// <param name="most">How many groups get a row of their own.</param>
    public async Task<(Totals Total, Breakdown Breakdown)> Answer(Question question, int most, CancellationToken cancel)
    {
        var (total, breakdown, _) = await Answer(question, most, hasChanges: false, cancel);
        return (total, breakdown);
    }

    /// <summary>The same, and by key of each group whether it changed against the period before by more than the luck of its posts.</summary>
    public async Task<(Breakdown Breakdown, IReadOnlyDictionary<string, Verdict> Changes)> AnswerWithChanges(
        Question question,
        CancellationToken cancel
    )
    {
        var (_, breakdown, changes) = await Answer(question, int.MaxValue, hasChanges: true, cancel);
        return (breakdown, changes);
    }

    private async Task<(Totals Total, Breakdown Breakdown, IReadOnlyDictionary<string, Verdict> Changes)> Answer(
        Question question,
        int most,
        bool hasChanges,
        CancellationToken cancel
    )
    {
        await using var snapshot = await Open(question.WorkspaceId, cancel);
        var dimension = Dimensions.All[question.By];
        var kind = dimension.Units;
        var step = kind == UnitKind.Week ? CountStep.SevenDays : CountStep.Whole;
        var counted = await Counted.Read(
            snapshot,
            question,
            [dimension],
            question.Ranges,
            step,
            needsAll: true,
            cancel,
            unitSpans: kind is null or UnitKind.Week ? 0
                : hasChanges ? 2
                : 1
        );
        var groups = GroupsOf(counted);
        if (dimension.IsOfLink)
        {
            await AddPlacements(snapshot, question, counted, groups, cancel);
        }

        var units = kind is null ? ClickUnits.None : AnswerUnits.Of(question, kind.Value, counted, span: 0);
        var total =
            dimension.IsSeveral && question.DetailsOf().Count > 0
                ? await Total(snapshot, question, cancel)
                : await Total(snapshot, question, counted, cancel);
        var (hasVisitors, hasPrevious) = (question.DetailsOf(question.By).Count == 0, question.Earlier is not null);
        var breakdown = Breakdown.Of(
            [.. groups.Index().Where(g => !g.Item.IsEmpty).Select(g => CountOf(counted.Groups.All[g.Index][0], g.Item))],
            most,
            units,
            question.Measure
        ) with
        {
            IsOfPages = dimension.IsOfPages,
        };
        return (
            total,
            breakdown,
            hasChanges && kind is not null
                ? AnswerUnits.Changes(units, AnswerUnits.Of(question, kind.Value, counted, span: 1), breakdown)
                : new Dictionary<string, Verdict>()
        );

        GroupCount CountOf((string Key, string Label) group, GroupTally tally) =>
            new(
                group.Key,
                dimension.Shown(group.Label),
                tally.Clicks,
                hasVisitors ? tally.Visitors : null,
                hasPrevious ? tally.Previous : null,
                tally.Placements,
                tally.PlacementDays,
                dimension.HasPosts ? units.Of(group.Key).Count(u => u.IsNew) : null
            );
    }

    /// <summary>People's clicks by the key of their group, and nothing else.</summary>
    public async Task<IReadOnlyDictionary<string, long>> ByKey(Question question, CancellationToken cancel) =>
        (await CountsByKey(question, cancel)).ToDictionary(g => g.Key, g => g.Value.Clicks);

    /// <summary>People's clicks and, where nothing is asked that only clicks tell, how many people these are of, by the key of their group.</summary>
    public async Task<IReadOnlyDictionary<string, (long Clicks, long Visitors)>> CountsByKey(Question question, CancellationToken cancel)
    {
        await using var snapshot = await Open(question.WorkspaceId, cancel);
        var counted = await Counted.Read(
            snapshot,
            question,
            [Dimensions.All[question.By]],
            question.Ranges,
            CountStep.Whole,
            needsAll: false,
            cancel
        );
        return counted
            .Cells.GroupBy(c => counted.GroupOf(c).Key)
            .Where(g => g.Any(c => c.IsOfPeople))
            .ToDictionary(g => g.Key, g => (g.Where(c => c.IsOfPeople).Sum(c => c.Count), g.Where(c => !c.IsOfPeople).Sum(c => c.Count)));
    }

    /// <summary>The filters by name.</summary>
    public async Task<IReadOnlyList<Narrowing>> Narrowed(Question question, CancellationToken cancel)
    {
        await using var snapshot = await Open(question.WorkspaceId, cancel);
        return await Narrowing.Of(snapshot, question, cancel);
    }

    /// <summary>Everything that was counted, whatever the groups.</summary>
    public static async Task<Totals> Total(Snapshot snapshot, Question question, CancellationToken cancel) =>
        await Total(snapshot, question, await Counted.Read(snapshot, question, [], question.Ranges, CountStep.Whole, needsAll: true, cancel), cancel);

    /// <summary>The sum of what was counted in groups that have no click in common.</summary>
    private static async Task<Totals> Total(Snapshot snapshot, Question question, Counted counted, CancellationToken cancel)
    {
        var all = counted.All ?? (await Counted.Read(snapshot, question.OfLinks, [], question.Ranges, CountStep.Whole, needsAll: true, cancel)).All!;
        var isNarrowed = question.DetailsOf().Count > 0;
        return new(
            People(0),
            isNarrowed ? null : all.GetValueOrDefault((0, RollUpCounts.Visitors)),
            question.Earlier is null ? null : People(1),
            OtherKinds.ToDictionary(k => k.Kind, k => all.GetValueOrDefault((0, k.Name)))
        );

        long People(int span) =>
            isNarrowed
                ? counted.Cells.Where(c => c.Span == span && c.IsOfPeople).Sum(c => c.Count)
                : all.GetValueOrDefault((span, RollUpCounts.Clicks));
    }

    /// <summary>Clicks of each group over time, in steps of the workspace's calendar.</summary>
    public static async Task<IReadOnlyList<StepCount>> OverTime(Snapshot snapshot, Question question, CountStep step, CancellationToken cancel)
    {
        var counted = await Counted.Read(
            snapshot,
            question,
            [Dimensions.All[question.By]],
            [DateRange.Of(question.Period)],
            step,
            needsAll: false,
            cancel
        );
        return
        [
            .. counted
                .Cells.Where(c => c.IsOfPeople)
                .GroupBy(c => (At: c.At!.Value, counted.GroupOf(c).Key))
                .OrderBy(g => g.Key.At)
                .ThenBy(g => g.Key.Key, StringComparer.Ordinal)
                .Select(g => new StepCount(g.Key.At, g.Key.Key, g.Sum(c => c.Count))),
        ];
    }

    /// <summary>What became of each pixel at visits of the links that are asked about, by the pixel's key. What clicks tell doesn't narrow it: the
    /// roll-up doesn't keep it.</summary>
    public async Task<Dictionary<string, OutcomeCount>> PixelOutcomes(Question question, CancellationToken cancel)
    {
        await using var snapshot = await Open(question.WorkspaceId, cancel);
        return (await AskedDetails.Pixels(snapshot, question, cancel)).ToDictionary(
            p => p.Pixel,
            p => new OutcomeCount(p.Fired, p.Missed, p.Declined, p.OptedOut)
        );
    }

    /// <summary>Clicks by two dimensions at once, without pairs that have none; and all clicks, which are fewer where a link may be in several
    /// groups.</summary>
    public static async Task<(long Total, IReadOnlyList<CellCount> Cells)> ByTwo(
        Snapshot snapshot,
        Question question,
        string across,
        CancellationToken cancel
    )
    {
        Dimension[] both = [Dimensions.All[question.By], Dimensions.All[across]];
        var counted = await Counted.Read(snapshot, question, both, [DateRange.Of(question.Period)], CountStep.Whole, needsAll: false, cancel);
        var cells = counted
            .Cells.Where(c => c.IsOfPeople)
            .GroupBy(c => c.Group, c => c.Count)
            .Select(g => CellOf(counted.Groups.All[g.Key], g.Sum()))
            .ToList();
        var total = both.Any(d => d.IsSeveral) ? (await Total(snapshot, question, cancel)).Clicks : cells.Sum(c => c.Clicks);
        return (total, cells);

        CellCount CellOf((string Key, string Label)[] group, long clicks) =>
            new(group[0].Key, both[0].Shown(group[0].Label), group[1].Key, both[1].Shown(group[1].Label), clicks);
    }

    /// <summary>What is counted of a group until all is.</summary>
    private sealed class GroupTally
    {
        public long Clicks { get; set; }

        public long Previous { get; set; }

        public long Visitors { get; set; }

        public int Placements { get; set; }

        public long PlacementDays { get; set; }

        public bool IsEmpty => Clicks == 0 && Previous == 0 && Placements == 0;
    }

    /// <summary>Clicks of each group by its number, still without its placements.</summary>
    private static List<GroupTally> GroupsOf(Counted counted)
    {
        var groups = counted.Groups.All.Select(_ => new GroupTally()).ToList();
        foreach (var (number, span, _, _, isOfPeople, count) in counted.Cells)
        {
            var group = groups[number];
            switch (span, isOfPeople)
            {
                case (0, true):
                    group.Clicks += count;
                    break;
                case (0, false):
                    group.Visitors += count;
                    break;
                case (_, true):
                    group.Previous += count;
                    break;
            }
        }

        return groups;
    }

    /// <summary>Adds the placements that were at work in the period, those that went out in it or were clicked in it; groups without clicks that had
    /// one come to the others.</summary>
    private static async Task AddPlacements(Snapshot snapshot, Question question, Counted counted, List<GroupTally> groups, CancellationToken cancel)
    {
        var clicked = question.DetailsOf().Count == 0 ? null : await ClickedLinks(snapshot, question, cancel);
        var links = counted.Links
            ?? await PickedLinks.Read(snapshot, question, [Dimensions.All[question.By]], isPlaced: true, hasComparisonKey: false, cancel);
        var (from, to) = (question.Period.From, LocalDate.Min(question.Period.To, question.Today));
        foreach (var link in links.All)
        {
            var isNew = !link.IsDeleted && link.PlacedOn >= from && link.PlacedOn <= to;
            if (isNew || (clicked?.Contains(link.Id) ?? link.IsClicked))
            {
                var days = Math.Max(1, NodaTime.Period.DaysBetween(LocalDate.Max(link.PlacedOn, from), to) + 1);
                foreach (var number in link.Groups)
                {
                    AddPlacement(counted.Groups == links.Groups ? number : counted.Groups.Of(links.Groups.All[number]), days);
                }
            }
        }

        void AddPlacement(int number, int days)
        {
            while (groups.Count <= number)
            {
                groups.Add(new());
            }

            groups[number].Placements++;
            groups[number].PlacementDays += days;
        }
    }

    /// <summary>The links that were clicked by people who tell what the question narrows to.</summary>
    private static async Task<HashSet<Guid>> ClickedLinks(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var byLink = await Counted.Read(
            snapshot,
            question,
            [Dimensions.All["link"]],
            [DateRange.Of(question.Period)],
            CountStep.Whole,
            needsAll: false,
            cancel
        );
        return [.. byLink.Cells.Select(c => Guid.Parse(byLink.GroupOf(c).Key))];
    }
}
