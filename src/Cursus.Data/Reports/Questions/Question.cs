using Cursus.Core.Reports;
using Cursus.Data.Reports.Counts;
using NodaTime;

namespace Cursus.Data.Reports.Questions;

/// <summary>What is asked: which dimension, over which days, against what, with which filters.</summary>
/// <param name="Measure">What is asked of each group.</param>
/// <param name="NarrowedFrom">First day that was asked for, where only the last days are answered; see <see cref="MaxDaysOfClicks"/>.</param>
/// <param name="WeekStart">The day on which weeks begin.</param>
/// <param name="Starts">When posts went out; null until something needs it.</param>
/// <param name="ClicksKeptFrom">The first day of which the workspace has single clicks; null where none have been deleted.</param>
internal sealed record Question(
    Guid WorkspaceId,
    string By,
    Core.Reports.Period Period,
    Comparison Against,
    DateTimeZone Zone,
    Instant Now,
    IReadOnlyDictionary<string, string[]> Filters,
    LocalDate? NarrowedFrom = null,
    BreakdownMeasure Measure = BreakdownMeasure.Clicks,
    LocalDate? ClicksKeptFrom = null,
    IsoDayOfWeek WeekStart = IsoDayOfWeek.Monday,
    PostStarts? Starts = null
)
{
    /// <summary>Where two things that only clicks tell are crossed, every click is looked at: of one link, or of so many days.</summary>
    public const int MaxDaysOfClicks = 31;

    public LocalDate Today => Now.InZone(Zone).Date;

    /// <summary>What it is compared with; null where no comparison was asked for.</summary>
    public Core.Reports.Period? Earlier => Period.Earlier(Against);

    /// <summary>What is asked and, where there is a comparison, as much of the earlier period.</summary>
    public IReadOnlyList<DateRange> Ranges =>
        Earlier is { } earlier
            ? [DateRange.Of(Period), Countable(DateRange.Of(earlier.From, Period.UpToNow(earlier, Zone, Now).End, Zone))]
            : [DateRange.Of(Period)];

    /// <summary>True where the period isn't over.</summary>
    public bool IsUnfinished => Now < Period.In(Zone).End;

    /// <summary>What a file with the answer is called.</summary>
    public string FileName(string what, string ending) => $"{what} {Period.From:uuuu-MM-dd} to {Period.To:uuuu-MM-dd}{ending}";

    /// <summary>What the SQL of <see cref="CountedSql"/> refers to by name.</summary>
    public IEnumerable<(string Name, object Value)> Parameters =>
        [
            ("workspace", WorkspaceId),
            ("zone", Zone.Id),
            ("from", Period.From),
            ("to", LocalDate.Min(Period.To, Today)),
            .. Filters.Select(f => ("f_" + f.Key, (object)f.Value)),
            .. Starts?.Parameters ?? [],
        ];

    /// <summary>The same question without what only clicks tell.</summary>
    public Question OfLinks => this with { Filters = Filters.Where(f => Dimensions.All[f.Key].IsOfLink).ToDictionary(), Starts = null };

    /// <summary>What clicks tell that filters and groups need.</summary>
    public IReadOnlyCollection<ClickDetail> DetailsOf(params IEnumerable<string> groups) =>
        [.. groups.Concat(Filters.Keys).Select(name => Dimensions.All[name].Detail).OfType<ClickDetail>().Distinct()];

    /// <summary>The same question over fewer days where every click of a longer period would have to be looked at, or single clicks of its first days
    /// have been deleted. Null where all of them have.</summary>
    public Question? Bounded(CountStep step, params IEnumerable<string> groups)
    {
        if (!CountedSql.NeedsClicks(DetailsOf(groups), step))
        {
            return this;
        }

        var last = LocalDate.Max(Period.From, LocalDate.Min(Period.To, Today));
        var isShort = Period.Days <= MaxDaysOfClicks || Filters.GetValueOrDefault("link") is [_];
        var first = isShort ? Period.From : LocalDate.Max(Period.From, last.PlusDays(1 - MaxDaysOfClicks));
        if (last < ClicksKeptFrom)
        {
            return null;
        }

        first = LocalDate.Max(first, ClicksKeptFrom ?? first);
        var narrowed = first == Period.From ? this : this with { Period = new(first, last), NarrowedFrom = Period.From };
        return narrowed.Earlier?.From < ClicksKeptFrom ? narrowed with { Against = Comparison.None } : narrowed;
    }

    /// <summary>Without the part of a day that only deleted clicks could tell.</summary>
    private DateRange Countable(DateRange range) => range.LastDay < ClicksKeptFrom ? range with { Rest = null } : range;
}
