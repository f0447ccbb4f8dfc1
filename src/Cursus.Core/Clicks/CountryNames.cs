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

    /// <summary>Countries whose names have an article within a sentence. Common practice, no source.</summary>
    private static readonly FrozenSet<string> WithArticle =
    [
        .. "AE AX BS CC CD CF CG CK CN CZ DO FK FM FO GB GM IM IO IR KM KY LA MH MK MP MV NL PH PS SB SY TC TF TZ UM US VA VG VI".Split(' '),
    ];

    /// <summary>Every code there is.</summary>
    public static IReadOnlyCollection<string> Codes => Names.Keys;

    /// <summary>The English name; the code itself where it is none of ISO's, such as EU.</summary>
    public static string Of(string code) => code.Length == 0 ? "Unknown" : Names.GetValueOrDefault(code, code);

    /// <summary>The same as it stands after “in”, such as “the Netherlands”.</summary>
    public static string InSentence(string code)
    {
        ArgumentNullException.ThrowIfNull(code);
        var name = Of(code);
        return !WithArticle.Contains(code) ? name
            : name.StartsWith("The ", StringComparison.Ordinal) ? $"the {name[4..]}"
            : $"the {name}";
    }
}
