using System.Globalization;
using System.Text.RegularExpressions;
using NodaTime;

namespace Cursus.Core.Addresses.Tagging;

/// <summary>Campaigns that come in series, by month or by part.</summary>
public static partial class CampaignPattern
{
    /// <summary>The longest campaign value that is made from a name, in characters.</summary>
    public const int MaxKey = 60;

    private static readonly string[] Months = CultureInfo.InvariantCulture.DateTimeFormat.MonthNames[..12];

    /// <summary>A campaign as it would be added.</summary>
    public sealed record Proposal(string Name, string Key);

    /// <summary>The value made from a name by the workspace's rule: lower case, ASCII, hyphens between words.</summary>
    public static string KeyOf(string name) => AsciiWords.Hyphenated(name, MaxKey);

    /// <summary>Fills in <c>{yyyy}</c>, <c>{mm}</c> and <c>{part}</c>: this month's numbers, and the next part after those in
    /// <paramref name="keys"/>.</summary>
    public static Proposal Expand(string pattern, LocalDate today, IEnumerable<string> keys)
    {
        var dated = pattern
            .Replace("{yyyy}", today.Year.ToString("0000", CultureInfo.InvariantCulture), StringComparison.OrdinalIgnoreCase)
            .Replace("{mm}", today.Month.ToString("00", CultureInfo.InvariantCulture), StringComparison.OrdinalIgnoreCase);
        if (!dated.Contains("{part}", StringComparison.OrdinalIgnoreCase))
        {
            return new Proposal(dated, KeyOf(dated));
        }

        var existing = keys.ToHashSet(StringComparer.OrdinalIgnoreCase);
        var part = Enumerable.Range(1, existing.Count + 1).First(n => !existing.Contains(KeyOf(WithPart(dated, n))));
        return new Proposal(WithPart(dated, part), KeyOf(WithPart(dated, part)));
    }

    /// <summary>What follows in each series: a value that ends in a month, or in a number that has a predecessor among the
    /// <paramref name="campaigns"/>. The name follows its value: the month's name, year and number in it are moved on as well.</summary>
    public static IReadOnlyList<Proposal> Next(IReadOnlyList<Proposal> campaigns)
    {
        var keys = campaigns.Select(c => c.Key).ToHashSet(StringComparer.OrdinalIgnoreCase);
        return [.. campaigns.Select(c => After(c, keys)).OfType<Proposal>().Where(p => !keys.Contains(p.Key)).DistinctBy(p => p.Key)];
    }

    private static Proposal? After(Proposal campaign, HashSet<string> keys)
    {
        if (MonthAtEnd().Match(campaign.Key) is { Success: true } month)
        {
            var at = new YearMonth(Number(month.Groups["year"]), Number(month.Groups["month"]));
            var next = at.PlusMonths(1);
            return new Proposal(
                NameAfter(campaign, at, next),
                $"{month.Groups["stem"].Value}{next.Year:0000}{month.Groups["gap"].Value}{next.Month:00}"
            );
        }

        if (
            NumberAtEnd().Match(campaign.Key) is { Success: true } number
            && keys.Contains($"{number.Groups["stem"].Value}{Number(number.Groups["number"]) - 1}")
        )
        {
            var (old, fresh) = (Number(number.Groups["number"]), Number(number.Groups["number"]) + 1);
            var key = $"{number.Groups["stem"].Value}{fresh}";
            var name = Regex.Replace(campaign.Name, $@"\b{old}\b", fresh.ToString(CultureInfo.InvariantCulture));
            return new Proposal(name == campaign.Name ? key : name, key);
        }

        return null;
    }

    private static string NameAfter(Proposal campaign, YearMonth at, YearMonth next)
    {
        var name = campaign
            .Name.Replace(Months[at.Month - 1], Months[next.Month - 1], StringComparison.Ordinal)
            .Replace($"{at.Year:0000}-{at.Month:00}", $"{next.Year:0000}-{next.Month:00}", StringComparison.Ordinal);
        name = at.Year == next.Year ? name : name.Replace($"{at.Year:0000}", $"{next.Year:0000}", StringComparison.Ordinal);
        return name == campaign.Name ? $"{campaign.Name}, {Months[next.Month - 1]} {next.Year:0000}" : name;
    }

    private static string WithPart(string text, int part) =>
        text.Replace("{part}", part.ToString(CultureInfo.InvariantCulture), StringComparison.OrdinalIgnoreCase);

    private static int Number(Group digits) => int.Parse(digits.ValueSpan, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"\A(?<stem>.+[-_])(?<year>20\d\d)(?<gap>[-_])(?<month>0[1-9]|1[0-2])\z")]
    private static partial Regex MonthAtEnd();

    [GeneratedRegex(@"\A(?<stem>.*[^\d])(?<number>[1-9]\d{0,3})\z")]
    private static partial Regex NumberAtEnd();
}
