using System.Globalization;
using Cursus.Core;
using Cursus.Core.Batches;
using Cursus.Web.Problems;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Batches;

/// <summary>One line of a list, read by what its columns say.</summary>
internal sealed class ListLine(ListRow row, IReadOnlyDictionary<ListField, int> columns)
{
    public int Line => row.Line;

    /// <summary>The cell of <paramref name="field"/>; null where there is no such column or nothing in it.</summary>
    public string? this[ListField field] => columns.TryGetValue(field, out var column) && row.Cells.ElementAtOrDefault(column) is { Length: > 0 } text ? text : null;

    public IReadOnlyList<string>? Tags => this[ListField.Tags]?.Split([',', ';', '|'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);

    public int? Redirect(FieldErrors errors)
    {
        if (this[ListField.Redirect] is not { } text)
        {
            return null;
        }

        // What is no number is refused like a number that is no redirect.
        return int.TryParse(text, CultureInfo.InvariantCulture, out var status) ? status : Wrong(errors, text);

        static int? Wrong(FieldErrors errors, string text)
        {
            errors.Add("redirect", new Flaw("redirect", $"“{text}” is no redirect type. A link answers with 301, 302, 307 or 308."));
            return null;
        }
    }

    public LocalDate? PublishedOn(FieldErrors errors)
    {
        if (this[ListField.PublishedOn] is not { } text)
        {
            return null;
        }

        if (LocalDatePattern.Iso.Parse(text) is { Success: true } day)
        {
            return day.Value;
        }

        errors.Add("publishedOn", new Flaw("day", $"“{text}” is no day that everybody reads alike. Write year, month and day: 2026-03-24."));
        return null;
    }
}
