using System.Globalization;
using System.Text.RegularExpressions;

namespace Cursus.Core.Batches;

/// <summary>Reads whole numbers as lists have them: digits alone, or in groups of three as any country writes them.</summary>
public static partial class ListedCount
{
    /// <summary>The number, or null where the text is none, is below zero or isn't whole. “1.234” is one thousand and more: nobody has parts of a
    /// click.</summary>
    public static long? Read(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return Whole().IsMatch(text.Trim()) ? long.Parse(NotDigits().Replace(text, ""), NumberStyles.None, CultureInfo.InvariantCulture) : null;
    }

    /// <summary>Spaces may be wide, thin or unbreakable. More than fifteen digits are no count of anything.</summary>
    [GeneratedRegex(@"\A(?:\d{1,15}|\d{1,3}(?:(?<group>[.,'’ \u00A0\u2009\u202F])\d{3})(?:\k<group>\d{3}){0,3})\z")]
    private static partial Regex Whole();

    [GeneratedRegex(@"\D")]
    private static partial Regex NotDigits();
}
