namespace Cursus.Core;

/// <summary>Numbers as sentences have them, in the reader's <see cref="NumberLanguage"/>.</summary>
public static class CountWords
{
    /// <summary>“1 click”, “1,284 clicks”.</summary>
    public static string Clicks(long clicks) => clicks == 1 ? "1 click" : $"{Number(clicks)} clicks";

    /// <summary>With a sign between thousands.</summary>
    public static string Number(long number) => number.ToString("N0", NumberLanguage.Current);

    /// <summary>As a format of .NET says.</summary>
    public static string Number(double number, string format) => number.ToString(format, NumberLanguage.Current);

    /// <summary>A share of 0 to 1 as a percentage, to one decimal at most: 35.9%.</summary>
    public static string Percent(double share) => NumberLanguage.Percent(Number(100 * share, "0.#"));

    /// <summary>In as few characters as a cell of a table has room for: 950, 1.2K, 34.5K, 6M.</summary>
    public static string Brief(long number)
    {
        var (shown, unit) = ((decimal)number, 0);
        while (Math.Round(shown, unit == 0 ? 0 : 1) >= 1000 && unit < 3)
        {
            (shown, unit) = (shown / 1000, unit + 1);
        }

        return shown.ToString("0.#", NumberLanguage.Current) + (unit == 0 ? "" : "KMB"[unit - 1]);
    }
}
