using System.Globalization;

namespace Cursus.Core;

/// <summary>
/// How numbers in sentences are written for the person who reads them: with which signs between thousands and before decimals (Unicode CLDR, through
/// the platform's ICU). It flows with the work that is done for that person, as the platform's own culture does, so that sentences needn't hand it
/// on. Files and addresses never ask it.
/// </summary>
public static class NumberLanguage
{
    /// <summary>The longest tag.</summary>
    public const int MaxLength = 8;

    /// <summary>Where nothing was chosen.</summary>
    public const string Default = "en-GB";

    private const string NoBreakSpace = "\u00a0";

    private static readonly AsyncLocal<NumberFormatInfo?> Chosen = new();

    /// <summary>The tags (BCP 47) that can be chosen. Those whose numbers need other digits than the rest of the screen are left out.</summary>
    public static IReadOnlyList<string> Tags { get; } =
    ["en-GB", "en-IN", "de-DE", "de-CH", "fr-FR", "es-ES", "it-IT", "nl-NL", "pl-PL", "pt-BR", "sv-SE"];

    private static readonly Dictionary<string, NumberFormatInfo> Numbers = Tags.ToDictionary(t => t, NumbersOf);

    /// <summary>What is wrong with a tag that isn't one of them.</summary>
    public static ValidationError Error(string? tag) =>
        new("number-language", $"Numbers can’t be written in “{tag}”. Use one of {string.Join(", ", Tags)}.");

    /// <summary>By which numbers are written here.</summary>
    public static IFormatProvider Current => Chosen.Value ?? Numbers[Default];

    /// <summary>Writes numbers by one of <see cref="Tags"/> from here on, in all that follows from this call's caller.</summary>
    public static void Use(string tag) => Chosen.Value = Numbers[tag];

    /// <summary>A written number with the percent sign where the language has it.</summary>
    internal static string Percent(string number) =>
        (Chosen.Value ?? Numbers[Default]).PercentPositivePattern == 1 ? $"{number}%" : $"{number}{NoBreakSpace}%";

    /// <summary>The platform's, with the space that every typeface has in place of the narrow one.</summary>
    private static NumberFormatInfo NumbersOf(string tag)
    {
        var numbers = (NumberFormatInfo)CultureInfo.GetCultureInfo(tag).NumberFormat.Clone();
        numbers.NumberGroupSeparator = numbers.NumberGroupSeparator.Replace("\u202f", NoBreakSpace, StringComparison.Ordinal);
        return NumberFormatInfo.ReadOnly(numbers);
    }
}
