using Cursus.Core.Comparing;
using NodaTime;

namespace Cursus.Web.Comparing;

/// <summary>What was counted of something in one step of time.</summary>
/// <param name="Groups">Key and label for each of the dimensions that were asked for.</param>
/// <param name="Span">0 for what is asked, 1 for what it is compared with.</param>
/// <param name="At">When the step begins on the workspace's clock; null where all is summed up.</param>
/// <param name="Kind">What is counted: <see cref="RollUpCounts.Clicks"/>, or also <see cref="RollUpCounts.Visitors"/> where nothing that clicks tell is asked for.</param>
internal readonly record struct CountedCell(IReadOnlyList<(string Key, string Label)> Groups, int Span, LocalDateTime? At, string Kind, long Count)
{
    public bool IsOfPeople => Kind == RollUpCounts.Clicks;
}

/// <summary>All that a question asks for, counted in one moment: from the roll-ups, or from the clicks where several things that only these tell are asked for at once.</summary>
/// <param name="Cells">By group, span, step and kind; the same may come several times.</param>
/// <param name="All">Of each kind in each span, whatever the groups and whatever clicks tell; null where it was not counted.</param>
/// <param name="Links">Those that were asked about; null where it was counted from the clicks.</param>
internal sealed record Counted(IReadOnlyList<CountedCell> Cells, IReadOnlyDictionary<(int Span, string Kind), long>? All, PickedLinks? Links)
{
    /// <param name="dimensions">What is grouped by; none for everything in one.</param>
    /// <param name="stretches">By number of the span.</param>
    /// <param name="needsAll">Whether <see cref="All"/> is needed, and which of the links were clicked; counted from the clicks, neither is known.</param>
    public static async Task<Counted> Read(
        Snapshot snapshot, Question question, IReadOnlyList<Dimension> dimensions, IReadOnlyList<Stretch> stretches, CountStep step, bool needsAll, CancellationToken cancel)
    {
        var told = CountedSql.ClickDimensions(question, dimensions).ToList();
        var observed = told.Select(d => d.Observed!).Distinct().ToList();
        if (CountedSql.NeedsClicks(observed, step))
        {
            return new(await FromClicks(snapshot, question, dimensions, stretches, step, cancel), null, null);
        }

        var heldAgainst = told.Select(d => d.HeldAgainst).OfType<string>().FirstOrDefault();
        var picked = await PickedLinks.Read(snapshot, question, dimensions, heldAgainst is not null, cancel);
        var counts = await RollUpCounts.Read(snapshot, question, picked, stretches, step, observed.SingleOrDefault(), heldAgainst, needsAll, cancel);
        if (observed.Count == 0)
        {
            // The other kinds are only told of all groups together.
            var ofPeople = counts.Cells.Where(c => c.Value is RollUpCounts.Clicks or RollUpCounts.Visitors);
            return new([.. ofPeople.Select(c => new CountedCell(picked.Groups[c.Cell.Group], c.Cell.Span, c.Cell.At, c.Value, c.Count))], counts.All, picked);
        }

        var cells = counts.Cells.ToList();
        var groupsOf = await ToldGroups.Of(snapshot, question, dimensions, observed[0], heldAgainst, [.. cells.Select(c => (c.Value, c.Held)).Distinct()], cancel);
        var counted = new List<CountedCell>(cells.Count);
        foreach (var (cell, value, held, count) in cells)
        {
            if (groupsOf.TryGetValue((value, held), out var groups))
            {
                counted.Add(new(InOrder(dimensions, picked.Groups[cell.Group], groups), cell.Span, cell.At, RollUpCounts.Clicks, count));
            }
        }

        return new(counted, counts.All, picked);
    }

    private static Task<List<CountedCell>> FromClicks(
        Snapshot snapshot, Question question, IReadOnlyList<Dimension> dimensions, IReadOnlyList<Stretch> stretches, CountStep step, CancellationToken cancel)
    {
        var groups = string.Concat(CountedSql.Columns(dimensions).Select(c => $"{c.Key}, {c.Label}, "));
        return snapshot.Read(
            question,
            $"""
            with {CountedSql.Picked(question, dimensions)},
            {CountedSql.Counted(question, dimensions, stretches, step)}
            select {groups}c.span, c.at, sum(c.clicks)::bigint
            from counted c {CountedSql.Joins(question, dimensions)} where true {CountedSql.ClickFilters(question)}
            group by {string.Join(", ", Enumerable.Range(1, 2 * dimensions.Count + 2))}
            """,
            row =>
            {
                var after = 2 * dimensions.Count;
                return new CountedCell(
                    [.. dimensions.Select((_, place) => (row.GetString(2 * place), row.GetString(2 * place + 1)))],
                    row.GetInt32(after),
                    row.IsDBNull(after + 1) ? null : row.GetFieldValue<LocalDateTime>(after + 1),
                    RollUpCounts.Clicks,
                    row.GetInt64(after + 2));
            },
            cancel);
    }

    /// <summary>Groups by place of their dimensions, from those that links decide and those that clicks do.</summary>
    private static (string Key, string Label)[] InOrder(IReadOnlyList<Dimension> dimensions, (string Key, string Label)[] ofLink, (string Key, string Label)[] ofClick)
    {
        var (link, click) = (0, 0);
        return [.. dimensions.Select(d => d.IsOfLink ? ofLink[link++] : ofClick[click++])];
    }
}
