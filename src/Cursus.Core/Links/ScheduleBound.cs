using System.Diagnostics.CodeAnalysis;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Core.Links;

/// <summary>
/// Reads when a link opens or ends: a moment with its offset (RFC 3339, section 5.6), a time by the workspace's clock such as
/// <c>2026-11-29T18:00</c>, or a day alone, which belongs to the link whole (common practice, no source): it opens with its first moment and ends
/// with its last.
/// </summary>
public static class ScheduleBound
{
    private const int FirstYear = 1900;
    private const int LastYear = 2100;

    private static readonly LocalDateTimePattern ToTheMinute = LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm");

    /// <summary>The moment at which a link opens.</summary>
    public static bool TryReadOpening(string text, DateTimeZone zone, out Instant at, [NotNullWhen(false)] out ValidationError? error) =>
        TryRead(text, zone, daysAfter: 0, out at, out error);

    /// <summary>The first moment at which a link has ended.</summary>
    public static bool TryReadEnd(string text, DateTimeZone zone, out Instant at, [NotNullWhen(false)] out ValidationError? error) =>
        TryRead(text, zone, daysAfter: 1, out at, out error);

    private static bool TryRead(string text, DateTimeZone zone, int daysAfter, out Instant at, [NotNullWhen(false)] out ValidationError? error)
    {
        ArgumentNullException.ThrowIfNull(text);
        ArgumentNullException.ThrowIfNull(zone);
        (at, error) = (default, null);
        var typed = text.Trim();
        if (LocalDatePattern.Iso.Parse(typed) is { Success: true, Value: var day })
        {
            return IsNear(typed, day, out error) && Is(zone.AtStartOfDay(day.PlusDays(daysAfter)).ToInstant(), out at);
        }

        if (ToTheMinute.Parse(typed) is { Success: true, Value: var minute })
        {
            return IsNear(typed, minute.Date, out error) && Is(zone.AtLeniently(minute).ToInstant(), out at);
        }

        if (OffsetDateTimePattern.Rfc3339.Parse(typed.ToUpperInvariant()) is { Success: true, Value: var moment })
        {
            return IsNear(typed, moment.Date, out error) && Is(moment.ToInstant(), out at);
        }

        error = new ValidationError(
            "time",
            $"“{typed}” isn’t a valid date. Enter a date such as 2026-11-29, or a date and time such as 2026-11-29T18:00."
        );
        return false;
    }

    private static bool Is(Instant read, out Instant at)
    {
        at = read;
        return true;
    }

    private static bool IsNear(string typed, LocalDate day, [NotNullWhen(false)] out ValidationError? error)
    {
        error = day.Year is >= FirstYear and <= LastYear
            ? null
            : new ValidationError("time-far", $"“{typed}” is out of range. Choose a year from {FirstYear} to {LastYear}.");
        return error is null;
    }
}
