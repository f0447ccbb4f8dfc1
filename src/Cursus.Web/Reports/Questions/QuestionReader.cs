using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.WebUtilities;
using NodaTime;

namespace Cursus.Web.Reports.Questions;

/// <summary>Reads what is asked from a query string.</summary>
internal static class QuestionReader
{
    private const int DefaultDays = 28;

    /// <summary>How an answer is shown, which kept questions say too and which changes nothing of the answer.</summary>
    private static readonly string[] Presentation = ["course", "sort", "without", "title", "scale"];

    private static readonly HashSet<string> Known = new(
        ["by", "across", "period", "from", "to", "compare", "step", "limit", "bom", "per", .. Presentation, .. Dimensions.Filters],
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

    /// <summary>The question over the days that can be counted; see <see cref="Question.Bounded"/>. Null with <paramref name="errors"/> where there
    /// are none.</summary>
    public static Question? Bounded(this Question question, FieldErrors errors, CountStep step = CountStep.Whole, params IEnumerable<string> groups)
    {
        var bounded = question.Bounded(step, groups);
        if (bounded is null)
        {
            errors.Add(
                "to",
                new ValidationError(
                    "clicks-deleted",
                    $"This needs individual clicks, and those before {question.ClicksKeptFrom:d MMMM uuuu} have been deleted. Choose later dates, or one click detail at a time."
                )
            );
        }

        return bounded;
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
        if (!Dimensions.All.ContainsKey(by))
        {
            errors.Add("by", new ValidationError("by-unknown", $"You can’t compare by “{by}”. Use one of {string.Join(", ", Dimensions.All.Keys)}."));
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

        var to = DayField.Read(query["to"], "to", errors) ?? today;
        var from = DayField.Read(query["from"], "from", errors) ?? to.PlusDays(1 - DefaultDays);
        if (Core.Reports.Period.Check(from, to) is { } error)
        {
            errors.Add("from", error);
        }

        // A filter that isn't known would be passed over, and the answer would be to another question.
        foreach (var unknown in query.Keys.Where(k => !Known.Contains(k)))
        {
            errors.Add(
                unknown,
                new ValidationError("filter-unknown", $"You can’t filter by “{unknown}”. Use one of {string.Join(", ", Dimensions.Filters)}.")
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
        else if (per == "post" && Dimensions.All.GetValueOrDefault(by) is { HasPosts: false })
        {
            errors.Add(
                "per",
                new ValidationError(
                    "per-post",
                    $"Clicks per post aren’t available by {by}. Leave “per” out, or compare by {string.Join(", ", Dimensions.All.Where(d => d.Value.HasPosts).Select(d => d.Key))}."
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
                Dimensions.Filters.Where(query.ContainsKey).ToDictionary(f => f, f => query[f].Select(v => v ?? "").ToArray()),
                Measure: per == "post" ? BreakdownMeasure.ClicksPerPost : BreakdownMeasure.Clicks,
                ClicksKeptFrom: workspace.ClicksKeptFrom,
                WeekStart: workspace.WeekStart
            );
    }
}
