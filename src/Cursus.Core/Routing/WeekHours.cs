using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Text.Json.Serialization;
using NodaTime;

namespace Cursus.Core.Routing;

/// <summary>Days of the week and hours of the day by a workspace's clock. Hours that cross midnight belong to the day on which they begin: on Fridays
/// from 22:00 to 06:00 is Saturday at 2 o'clock too (common practice, no source).</summary>
/// <param name="Days">None means every day.</param>
/// <param name="From">Minutes after midnight.</param>
/// <param name="To">The first minute at which it is over; the whole day where it equals <paramref name="From"/> and both are zero.</param>
public sealed record WeekHours(IReadOnlyList<IsoDayOfWeek> Days, int From = 0, int To = WeekHours.MinutesOfDay)
{
    private const int MinutesOfDay = 24 * 60;

    /// <summary>Whether hours are said, and not whole days.</summary>
    [JsonIgnore]
    public bool HasHours => From != 0 || To != MinutesOfDay;

    /// <summary>Whether it is one of these hours. What the clock shows decides, so that an hour that is left out when clocks go forward never is, and
    /// one that comes twice is twice.</summary>
    public bool Holds(LocalDateTime now)
    {
        var minute = (now.Hour * 60) + now.Minute;
        return From < To ? minute >= From && minute < To && IsOn(now.DayOfWeek)
            : minute >= From ? IsOn(now.DayOfWeek)
            : minute < To && IsOn(now.Date.PlusDays(-1).DayOfWeek);
    }

    /// <summary>Reads hours such as <c>22:00-06:00</c>; the day ends at 24:00.</summary>
    public static bool TryReadHours(string text, out int from, out int to, [NotNullWhen(false)] out ValidationError? error)
    {
        ArgumentNullException.ThrowIfNull(text);
        var ends = text.Split('-', StringSplitOptions.TrimEntries);
        (from, to, error) = (-1, -1, null);
        if (ends.Length == 2)
        {
            (from, to) = (Minutes(ends[0]), Minutes(ends[1]));

            // A day that goes until midnight ends with it.
            to = to == 0 && from > 0 ? MinutesOfDay : to;
        }

        if (from is < 0 or MinutesOfDay || to < 0 || from == to)
        {
            error = new ValidationError(
                "hours",
                $"“{text}” aren’t hours of a day. Enter a beginning and an end, such as 08:00-18:00 or 22:00-06:00."
            );
            return false;
        }

        return true;
    }

    /// <summary>As it is read.</summary>
    [JsonIgnore]
    public string HoursText => $"{Text(From)}-{Text(To)}";

    private bool IsOn(IsoDayOfWeek day) => Days.Count == 0 || Days.Contains(day);

    private static int Minutes(string text) =>
        text.Split(':') is [{ Length: 2 } hour, { Length: 2 } minute]
        && int.TryParse(hour, NumberStyles.None, CultureInfo.InvariantCulture, out var h)
        && int.TryParse(minute, NumberStyles.None, CultureInfo.InvariantCulture, out var m)
        && m < 60
        && (h * 60) + m is var minutes and <= MinutesOfDay
            ? minutes
            : -1;

    private static string Text(int minutes) => string.Create(CultureInfo.InvariantCulture, $"{minutes / 60:00}:{minutes % 60:00}");
}
