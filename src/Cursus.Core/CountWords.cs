using System.Globalization;

namespace Cursus.Core;

/// <summary>Numbers as sentences have them.</summary>
public static class CountWords
{
    /// <summary>“1 click”, “1,284 clicks”.</summary>
    public static string Clicks(long clicks) => clicks == 1 ? "1 click" : $"{Number(clicks)} clicks";

    /// <summary>With a comma between thousands.</summary>
    public static string Number(long number) => number.ToString("N0", CultureInfo.InvariantCulture);
}
