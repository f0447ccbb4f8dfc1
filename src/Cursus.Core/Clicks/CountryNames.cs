using System.Collections.Frozen;
using Cursus.Core.Addresses;

namespace Cursus.Core.Clicks;

/// <summary>The countries of ISO 3166-1 by their two letters: <c>Countries/countries.txt</c>.</summary>
public static class CountryNames
{
    private static readonly FrozenDictionary<string, string> Names = WordList
        .Read("countries.txt")
        .Select(line => line.Split('\t'))
        .ToFrozenDictionary(parts => parts[0], parts => parts[1]);

    /// <summary>Every code there is.</summary>
    public static IReadOnlyCollection<string> Codes => Names.Keys;

    /// <summary>The English name; the code itself where it is none of ISO's, such as EU.</summary>
    public static string Of(string code) => code.Length == 0 ? "Unknown" : Names.GetValueOrDefault(code, code);
}
