using System.Globalization;
using Cursus.Core;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Problems;

/// <summary>A day in a request, such as the first of a period.</summary>
internal static class DayField
{
    /// <summary>The day; null where none is said, or it can't be one, which is told in <paramref name="errors"/>.</summary>
    public static LocalDate? Read(string? text, string field, FieldErrors errors)
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
