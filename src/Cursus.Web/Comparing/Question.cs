using System.Globalization;
using Cursus.Core;
using Cursus.Core.Comparing;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Comparing;

/// <summary>What is asked: which dimension, over which days, against what, with which filters.</summary>
internal sealed record Question(
    Guid WorkspaceId, string By, Core.Comparing.Period Period, bool AgainstPrevious, DateTimeZone Zone, Instant Now, IReadOnlyDictionary<string, string[]> Filters)
{
    private const int DefaultDays = 28;

    private static readonly HashSet<string> Known = new(["by", "from", "to", "compare", "step", .. Dimension.Filters], StringComparer.OrdinalIgnoreCase);

    public Interval Asked => Period.In(Zone);

    /// <summary>The stretch before, as far as it can fairly be compared; null where no comparison was asked for.</summary>
    public Interval? Before => AgainstPrevious ? Period.BeforeUpToNow(Zone, Now) : null;

    /// <summary>Reads the query string. Returns null with <paramref name="errors"/> where something in it can't be answered.</summary>
    public static Question? Read(IQueryCollection query, CurrentMember member, Instant now, FieldErrors errors)
    {
        var by = query["by"].ToString();
        if (!Dimension.All.ContainsKey(by))
        {
            errors.Add("by", new Flaw("by-unknown", $"“{by}” is nothing to compare by. Use one of {string.Join(", ", Dimension.All.Keys)}."));
        }

        var today = now.InZone(member.Zone).Date;
        var to = Day(query["to"], "to", errors) ?? today;
        var from = Day(query["from"], "from", errors) ?? to.PlusDays(1 - DefaultDays);
        if (Core.Comparing.Period.Check(from, to) is { } flaw)
        {
            errors.Add("from", flaw);
        }

        // A filter that isn't known would be passed over, and the answer would be to another question.
        foreach (var unknown in query.Keys.Where(k => !Known.Contains(k)))
        {
            errors.Add(unknown, new Flaw("filter-unknown", $"“{unknown}” is nothing to filter by. Use one of {string.Join(", ", Dimension.Filters)}."));
        }

        var compare = query["compare"].ToString();
        if (compare is not ("" or "none" or "previous"))
        {
            errors.Add("compare", new Flaw("compare-unknown", "Compare with “previous”, the period before, or “none”."));
        }

        return errors.Any ? null : new Question(
            member.WorkspaceId,
            by,
            new Core.Comparing.Period(from, to),
            compare == "previous",
            member.Zone,
            now,
            Dimension.Filters.Where(query.ContainsKey).ToDictionary(f => f, f => query[f].Select(v => v ?? "").ToArray()));
    }

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

        errors.Add(field, new Flaw("day", string.Create(CultureInfo.InvariantCulture, $"“{text}” is no day. Write it as year-month-day, such as 2026-11-23.")));
        return null;
    }
}
