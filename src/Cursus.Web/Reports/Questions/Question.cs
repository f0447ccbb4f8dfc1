using System.Globalization;
using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Microsoft.AspNetCore.WebUtilities;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Reports.Questions;

/// <summary>What is asked: which dimension, over which days, against what, with which filters.</summary>
/// <param name="Measure">What is asked of each group.</param>
/// <param name="NarrowedFrom">First day that was asked for, where only the last days are answered; see <see cref="MaxDaysOfClicks"/>.</param>
/// <param name="WeekStart">The day on which weeks begin.</param>
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
    IsoDayOfWeek WeekStart = IsoDayOfWeek.Monday
)
{
    /// <summary>Where two things that only clicks tell are crossed, every click is looked at: of one link, or of so many days.</summary>
    public const int MaxDaysOfClicks = 31;

    private const int DefaultDays = 28;

    /// <summary>How an answer is shown, which kept questions say too and which changes nothing of the answer.</summary>
    private static readonly string[] Presentation = ["course", "sort", "without", "title", "scale"];

    private static readonly HashSet<string> Known = new(
        ["by", "across", "period", "from", "to", "compare", "step", "limit", "bom", "per", .. Presentation, .. Dimension.Filters],
        StringComparer.OrdinalIgnoreCase
    );

    private static readonly Dictionary<string, Comparison> Comparisons = new()
    {
        [""] = Comparison.None,
        ["none"] = Comparison.None,
        ["previous"] = Comparison.PeriodBefore,
        ["year"] = Comparison.YearBefore,
    };

    /// <summary>A member's question over the last days, today included.</summary>
    public static Question OfLastDays(string by, int days, CurrentMember member, Instant now) =>
        new(
            member.WorkspaceId,
            by,
            Core.Reports.Period.Last(days, now.InZone(member.Zone).Date),
            Comparison.None,
            member.Zone,
            now,
            new Dictionary<string, string[]>()
        );

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
        ];

    /// <summary>The same question without what only clicks tell.</summary>
    public Question OfLinks => this with { Filters = Filters.Where(f => Dimension.All[f.Key].IsOfLink).ToDictionary() };

    /// <summary>The columns of what clicks tell that filters and groups need.</summary>
    public IReadOnlyCollection<string> ObservedBy(params IEnumerable<string> groups) =>
        [.. groups.Concat(Filters.Keys).Select(name => Dimension.All[name].Observed).OfType<string>().Distinct()];

    /// <summary>The same question over fewer days where every click of a longer period would have to be looked at, or single clicks of its first days
    /// have been deleted. Null with <paramref name="errors"/> where all of them have.</summary>
    public Question? Bounded(FieldErrors errors, CountStep step = CountStep.Whole, params IEnumerable<string> groups)
    {
        if (!CountedSql.NeedsClicks(ObservedBy(groups), step))
        {
            return this;
        }

        var last = LocalDate.Max(Period.From, LocalDate.Min(Period.To, Today));
        var isShort = Period.Days <= MaxDaysOfClicks || Filters.GetValueOrDefault("link") is [_];
        var first = isShort ? Period.From : LocalDate.Max(Period.From, last.PlusDays(1 - MaxDaysOfClicks));
        if (last < ClicksKeptFrom)
        {
            errors.Add(
                "to",
                new ValidationError(
                    "clicks-deleted",
                    $"This needs individual clicks, and those before {ClicksKeptFrom:d MMMM uuuu} have been deleted. Choose later dates, or one click detail at a time."
                )
            );
            return null;
        }

        first = LocalDate.Max(first, ClicksKeptFrom ?? first);
        var narrowed = first == Period.From ? this : this with { Period = new(first, last), NarrowedFrom = Period.From };
        return narrowed.Earlier?.From < ClicksKeptFrom ? narrowed with { Against = Comparison.None } : narrowed;
    }

    /// <summary>Reads the query string. Returns null with <paramref name="errors"/> where something in it can't be answered.</summary>
    public static Question? Read(IQueryCollection query, CurrentMember member, Instant now, FieldErrors errors) =>
        Read(query, member.Workspace, now, errors);

    /// <summary>Reads a question that a workspace kept.</summary>
    public static Question? Read(string query, Workspace workspace, Instant now, FieldErrors errors) =>
        Read(new QueryCollection(QueryHelpers.ParseQuery(query)), workspace, now, errors);

    private static Question? Read(IQueryCollection query, Workspace workspace, Instant now, FieldErrors errors)
    {
        var zone = DateTimeZoneProviders.Tzdb[workspace.TimeZone];
        var by = query["by"].ToString();
        if (!Dimension.All.ContainsKey(by))
        {
            errors.Add("by", new ValidationError("by-unknown", $"You can’t compare by “{by}”. Use one of {string.Join(", ", Dimension.All.Keys)}."));
        }

        var today = now.InZone(zone).Date;
        var named = query["period"].ToString();
        var period = NamedPeriod.Of(named, today, workspace.WeekStart);
        if (named.Length > 0 && period is null)
        {
            errors.Add(
                "period",
                new ValidationError("period-unknown", $"“{named}” isn’t a period. Use one of {string.Join(", ", NamedPeriod.Names)}, or from and to.")
            );
        }

        var to = Day(query["to"], "to", errors) ?? today;
        var from = Day(query["from"], "from", errors) ?? to.PlusDays(1 - DefaultDays);
        if (Core.Reports.Period.Check(from, to) is { } error)
        {
            errors.Add("from", error);
        }

        // A filter that isn't known would be passed over, and the answer would be to another question.
        foreach (var unknown in query.Keys.Where(k => !Known.Contains(k)))
        {
            errors.Add(
                unknown,
                new ValidationError("filter-unknown", $"You can’t filter by “{unknown}”. Use one of {string.Join(", ", Dimension.Filters)}.")
            );
        }

        var compare = query["compare"].ToString();
        if (!Comparisons.TryGetValue(compare, out var against))
        {
            errors.Add(
                "compare",
                new ValidationError("compare-unknown", "Compare with “previous” (the period before), “year” (the same days last year) or “none”.")
            );
        }

        var per = query["per"].ToString();
        if (per is not ("" or "post"))
        {
            errors.Add("per", new ValidationError("per-unknown", "Leave “per” out for all clicks, or set it to “post” for clicks per post."));
        }
        else if (per == "post" && Dimension.All.GetValueOrDefault(by) is { HasPosts: false })
        {
            errors.Add(
                "per",
                new ValidationError(
                    "per-post",
                    $"Clicks per post aren’t available by {by}. Leave “per” out, or compare by {string.Join(", ", Dimension.All.Where(d => d.Value.HasPosts).Select(d => d.Key))}."
                )
            );
        }

        return errors.Any
            ? null
            : new Question(
                workspace.Id,
                by,
                period ?? new Core.Reports.Period(from, to),
                against,
                zone,
                now,
                Dimension.Filters.Where(query.ContainsKey).ToDictionary(f => f, f => query[f].Select(v => v ?? "").ToArray()),
                Measure: per == "post" ? BreakdownMeasure.ClicksPerPost : BreakdownMeasure.Clicks,
                ClicksKeptFrom: workspace.ClicksKeptFrom,
                WeekStart: workspace.WeekStart
            );
    }

    /// <summary>Without the part of a day that only deleted clicks could tell.</summary>
    private DateRange Countable(DateRange range) => range.LastDay < ClicksKeptFrom ? range with { Rest = null } : range;

    private static LocalDate? Day(string? text, string field, FieldErrors errors)
    {
        if (string.IsNullOrEmpty(text))
        {
            return null;
        }

        if (LocalDatePattern.Iso.Parse(text) is { Success: true, Value: var day } && day.Year is > 1970 and < 9000)
        {
            return day;
        }

        errors.Add(
            field,
            new ValidationError(
                "day",
                string.Create(CultureInfo.InvariantCulture, $"“{text}” isn’t a valid date. Write it as year-month-day, such as 2026-11-23.")
            )
        );
        return null;
    }
}
