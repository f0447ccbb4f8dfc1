using System.Globalization;
using System.Text.RegularExpressions;
using NodaTime;

namespace Cursus.Core.Batches;

/// <summary>Which number of a day such as 3/4/2026 comes first.</summary>
public enum DayOrder
{
    DayFirst,
    MonthFirst,
}

/// <summary>
/// Reads days and times as the lists of other programs have them: ISO 8601, the dates of e-mail (RFC 5322, section 3.3), numbers with slashes, dots
/// or hyphens, months by their English names, and seconds or milliseconds since 1970. Years are written out. Dots put the day first (DIN 5008, from
/// memory); for the others a list must say itself which number is the day.
/// </summary>
public static partial class ListedTime
{
    private const int LongestMonth = 12;
    private const int DigitsOfSeconds = 10;
    private const int DigitsOfMilliseconds = 13;

    private static readonly string[] Months = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

    /// <summary>The time that <paramref name="text"/> says, or null where it says none. A day alone is its first moment; without an offset it is of
    /// the <paramref name="zone"/>.</summary>
    public static Instant? Read(string text, DayOrder order, DateTimeZone zone) => Read(text, order, zone, daysAfter: 0);

    /// <summary>The same for what ends then: a day alone is over with the next day's first moment.</summary>
    public static Instant? ReadEnd(string text, DayOrder order, DateTimeZone zone) => Read(text, order, zone, daysAfter: 1);

    private static Instant? Read(string text, DayOrder order, DateTimeZone zone, int daysAfter)
    {
        ArgumentNullException.ThrowIfNull(text);
        ArgumentNullException.ThrowIfNull(zone);
        var trimmed = Weekday().Replace(text.Trim(), "");
        if (
            trimmed.Length is DigitsOfSeconds or DigitsOfMilliseconds
            && long.TryParse(trimmed, NumberStyles.None, CultureInfo.InvariantCulture, out var since1970)
        )
        {
            return trimmed.Length == DigitsOfSeconds ? Instant.FromUnixTimeSeconds(since1970) : Instant.FromUnixTimeMilliseconds(since1970);
        }

        var match = DayAndRest().Match(trimmed);
        if (!match.Success || DayOf(match, order) is not { } day)
        {
            return null;
        }

        if (!match.Groups["hour"].Success)
        {
            return zone.AtStartOfDay(day.PlusDays(daysAfter)).ToInstant();
        }

        return TimeOf(match) is not { } time ? null
            : OffsetOf(match) is { } offset ? (day + time).WithOffset(offset).ToInstant()
            : zone.AtLeniently(day + time).ToInstant();
    }

    /// <summary>
    /// Which number of the days of one column comes first, as far as they tell: a number above twelve is no month. False where days are written so
    /// that it matters and none tells; or where some tell one thing and some the other.
    /// </summary>
    public static bool TryTellOrder(IEnumerable<string> texts, out DayOrder order)
    {
        ArgumentNullException.ThrowIfNull(texts);
        var (dayFirst, monthFirst, open) = (false, false, false);
        foreach (var match in texts.Select(t => DayAndRest().Match(t.Trim())).Where(m => m.Groups["sep"].Success && m.Groups["sep"].Value != "."))
        {
            var (first, second) = (Number(match, "a"), Number(match, "b"));
            dayFirst |= first > LongestMonth;
            monthFirst |= second > LongestMonth;
            open |= first <= LongestMonth && second <= LongestMonth && first != second;
        }

        order = monthFirst ? DayOrder.MonthFirst : DayOrder.DayFirst;
        return dayFirst != monthFirst || !(dayFirst || open);
    }

    private static LocalDate? DayOf(Match match, DayOrder order)
    {
        var year = Number(match, "year");
        var (month, day) = match switch
        {
            _ when match.Groups["name"].Success => (
                Array.IndexOf(Months, match.Groups["name"].Value[..3].ToLowerInvariant()) + 1,
                Number(match, "day")
            ),
            _ when !match.Groups["sep"].Success => (Number(match, "month"), Number(match, "day")),
            _ when order == DayOrder.DayFirst || match.Groups["sep"].Value == "." => (Number(match, "b"), Number(match, "a")),
            _ => (Number(match, "a"), Number(match, "b")),
        };
        return month is >= 1 and <= LongestMonth && day >= 1 && day <= CalendarSystem.Iso.GetDaysInMonth(year, month)
            ? new LocalDate(year, month, day)
            : null;
    }

    private static LocalTime? TimeOf(Match match)
    {
        var (hour, minute, second) = (Number(match, "hour"), Number(match, "minute"), match.Groups["second"].Success ? Number(match, "second") : 0);
        if (match.Groups["half"].Success)
        {
            if (hour is < 1 or > 12)
            {
                return null;
            }

            hour = (hour % 12) + (match.Groups["half"].Value is ['p' or 'P', ..] ? 12 : 0);
        }

        return hour < 24 && minute < 60 && second < 60 ? new LocalTime(hour, minute, second) : null;
    }

    private static Offset? OffsetOf(Match match) =>
        match.Groups["utc"].Success ? Offset.Zero
        : match.Groups["sign"].Success && Number(match, "oh") <= 18 && Number(match, "om") < 60
            ? Offset.FromSeconds((match.Groups["sign"].Value == "-" ? -1 : 1) * ((Number(match, "oh") * 3600) + (Number(match, "om") * 60)))
        : null;

    private static int Number(Match match, string group) => int.Parse(match.Groups[group].Value, NumberStyles.None, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"\A(mon|tue|wed|thu|fri|sat|sun)[a-z]*,?\s+", RegexOptions.IgnoreCase)]
    private static partial Regex Weekday();

    [GeneratedRegex(
        """
            \A(?:
                (?<year>\d{4})([-/.])(?<month>\d\d?)\1(?<day>\d\d?)
                |(?<a>\d\d?)(?<sep>[-/.])(?<b>\d\d?)\k<sep>(?<year>\d{4})
                |(?<day>\d\d?)(?:st|nd|rd|th)?[\s-](?<name>jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?,?[\s-](?<year>\d{4})
                |(?<name>jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?\s(?<day>\d\d?)(?:st|nd|rd|th)?,?\s(?<year>\d{4})
            )
            (?:(?:T|,?\s+(?:at\s)?)(?<hour>\d\d?):(?<minute>\d\d)(?::(?<second>\d\d)(?:[.,]\d+)?)?(?:\s?(?<half>[ap]\.?m\.?))?
                (?:\s*(?:(?<utc>Z|UTC|GMT)|(?<sign>[+-])(?<oh>\d\d):?(?<om>\d\d)))?)?\z
            """,
        RegexOptions.IgnoreCase | RegexOptions.IgnorePatternWhitespace | RegexOptions.CultureInvariant
    )]
    private static partial Regex DayAndRest();
}
