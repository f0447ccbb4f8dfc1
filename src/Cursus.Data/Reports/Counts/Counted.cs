using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using NodaTime;

namespace Cursus.Data.Reports.Counts;

/// <summary>What was counted of a group in one step of time.</summary>
/// <param name="Group">Its number among <see cref="Counted.Groups"/>.</param>
/// <param name="Span">0 for what is asked, 1 for what it is compared with.</param>
/// <param name="At">When the step begins on the workspace's clock; null where all is summed up.</param>
/// <param name="Unit">Number of its unit, as <see cref="PickedLinks"/> has it, where units are counted apart; else 0.</param>
/// <param name="IsOfPeople">Whether it is people's clicks; else it is <see cref="RollUpCounts.Visitors"/>, which are only told where nothing that
/// clicks tell is asked for.</param>
internal readonly record struct CountedCell(int Group, int Span, LocalDateTime? At, int Unit, bool IsOfPeople, long Count);

/// <summary>All that a question asks for, counted in one moment: from the roll-ups, or from the clicks where several things that only these tell are
/// asked for at once.</summary>
/// <param name="Groups">The groups, by the dimensions that were asked for.</param>
/// <param name="Cells">By group, span, step and kind; the same may come several times.</param>
/// <param name="All">Of each kind in each span, whatever the groups and whatever clicks tell; null where it was not counted.</param>
/// <param name="Links">Those that were asked about; null where it was counted from the clicks and their units were not asked for.</param>
internal sealed record Counted(
    GroupNumbers Groups,
    IReadOnlyList<CountedCell> Cells,
    IReadOnlyDictionary<(int Span, string Kind), long>? All,
    PickedLinks? Links
)
{
    /// <summary>Key and label of the one dimension that was asked for.</summary>
    public (string Key, string Label) GroupOf(CountedCell cell) => Groups.All[cell.Group][0];

    /// <summary>The number, among <see cref="Groups"/>, of a group that one of <see cref="Links"/> is in.</summary>
    public int NumberOf(int groupOfLink) => Groups == Links!.Groups ? groupOfLink : Groups.Of(Links.Groups.All[groupOfLink]);

    /// <param name="dimensions">What is grouped by; none for everything in one.</param>
    /// <param name="ranges">By number of the span.</param>
    /// <param name="needsAll">Whether <see cref="All"/> is needed, and which of the links were clicked and when they went out; counted from the
    /// clicks, none of that is known.</param>
    /// <param name="unitSpans">In how many of the ranges, from the first, units are counted apart.</param>
    public static async Task<Counted> Read(
        Snapshot snapshot,
        Question question,
        IReadOnlyList<Dimension> dimensions,
        IReadOnlyList<DateRange> ranges,
        CountStep step,
        bool needsAll,
        CancellationToken cancel,
        int unitSpans = 0
    )
    {
        question = await PostStarts.AddTo(question, snapshot, dimensions, cancel);
        var told = CountedSql.ClickDimensions(question, dimensions).ToList();
        var details = told.Select(d => d.Detail!).Distinct().ToList();
        if (CountedSql.NeedsClicks(details, step))
        {
            return await FromClicks(snapshot, question, dimensions, ranges, step, unitSpans, cancel);
        }

        var comparisonKey = told.Select(d => d.ComparisonKey).OfType<string>().FirstOrDefault();
        var picked = await PickedLinks.Read(
            snapshot,
            question,
            dimensions,
            isPlaced: unitSpans > 0 || (needsAll && dimensions is [{ IsOfLink: true }]),
            comparisonKey is not null,
            cancel
        );
        var counts = await RollUpCounts.Read(
            snapshot,
            question,
            picked,
            ranges,
            step,
            details.SingleOrDefault(),
            comparisonKey,
            needsAll,
            unitSpans,
            cancel
        );
        if (details.Count == 0)
        {
            return new(picked.Groups, [.. counts.OfPeople], counts.All, picked);
        }

        var cells = counts.Cells.ToList();
        var groupsOf = await ToldGroups.Of(
            snapshot,
            question,
            dimensions,
            details[0],
            comparisonKey,
            [.. cells.Select(c => (c.Value, c.Held)).Distinct()],
            cancel
        );
        var (groups, counted) = (new GroupNumbers(), new List<CountedCell>(cells.Count));
        foreach (var (cell, value, held, count) in cells)
        {
            if (groupsOf.TryGetValue((value, held), out var ofClick))
            {
                counted.Add(
                    new(
                        groups.Of(InOrder(dimensions, picked.Groups.All[cell.Group], ofClick)),
                        cell.Span,
                        cell.At,
                        cell.Unit,
                        IsOfPeople: true,
                        count
                    )
                );
            }
        }

        return new(groups, counted, counts.All, picked);
    }

    private static async Task<Counted> FromClicks(
        Snapshot snapshot,
        Question question,
        IReadOnlyList<Dimension> dimensions,
        IReadOnlyList<DateRange> ranges,
        CountStep step,
        int unitSpans,
        CancellationToken cancel
    )
    {
        var isByUnit = unitSpans > 0;
        var links = isByUnit ? await PickedLinks.Read(snapshot, question, dimensions, isPlaced: true, hasComparisonKey: false, cancel) : null;
        var columns = string.Concat(CountedSql.Columns(dimensions).Select(c => $"{c.Key}, {c.Label}, "));
        var after = 2 * dimensions.Count;
        var groups = new GroupNumbers();
        var cells = await snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, dimensions, isPlaced: isByUnit)},
            {CountedSql.Counted(question, dimensions, ranges, step, isByUnit)}
            select {columns}c.span, c.at, {(isByUnit ? "c.unit_id" : "null::uuid")}, sum(c.clicks)::bigint
            from counted c {CountedSql.Joins(question, dimensions)} where true {CountedSql.ClickFilters(question)}
            group by {string.Join(", ", Enumerable.Range(1, after + 3))}
            """,
            row => new CountedCell(
                groups.Of([.. dimensions.Select((_, place) => (row.GetString(2 * place), row.GetString(2 * place + 1)))]),
                row.GetInt32(after),
                row.IsDBNull(after + 1) ? null : row.GetFieldValue<LocalDateTime>(after + 1),
                links is not null && row.GetInt32(after) < unitSpans ? links.UnitOf(row.GetGuid(after + 2)) : 0,
                IsOfPeople: true,
                row.GetInt64(after + 3)
            ),
            cancel
        );
        return new(groups, cells, null, links);
    }

    /// <summary>Groups by place of their dimensions, from those that links decide and those that clicks do.</summary>
    private static (string Key, string Label)[] InOrder(
        IReadOnlyList<Dimension> dimensions,
        (string Key, string Label)[] ofLink,
        (string Key, string Label)[] ofClick
    )
    {
        var (link, click) = (0, 0);
        return [.. dimensions.Select(d => d.IsOfLink ? ofLink[link++] : ofClick[click++])];
    }
}
