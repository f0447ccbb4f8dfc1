using System.Globalization;
using System.Security.Cryptography;

namespace Cursus.Core.Addresses;

/// <summary>Makes slugs: random ones, readable ones, and free alternatives to a taken one.</summary>
public static class SlugMaker
{
    /// <summary>Lower-case letters and digits that are not mistaken for one another in print: no 0, o, 1, l, i.
    /// Lower case only, since slugs are compared without case.</summary>
    public const string Alphabet = "abcdefghjkmnpqrstuvwxyz23456789";

    /// <summary>Random slugs have about six characters (common practice, no source).</summary>
    public const int RandomLength = 6;

    /// <summary>The longest readable slug that is made, in characters.</summary>
    public const int ReadableLength = 60;

    /// <summary>A slug that cannot be guessed from its neighbours: drawn from a cryptographic generator.</summary>
    public static string Random(int length = RandomLength) => RandomNumberGenerator.GetString(Alphabet, length);

    /// <summary>A slug that people can read and trust: the title's words and the channel's key, such as <c>winter-members-perch</c>.
    /// Random where the title has no letters.</summary>
    public static string Readable(string title, string channelKey)
    {
        var words = AsciiWords.Hyphenated(title, ReadableLength - channelKey.Length - 1);
        return words.Length == 0 ? Random() : Slug.Reserved.Contains(words) || channelKey.Length > 0 ? $"{words}-{channelKey}".Trim('-') : words;
    }

    /// <summary>Candidates to offer instead of a taken slug, best first and without end: the channel added, the title's own words,
    /// the year added, then numbers. The caller takes the first that are free.</summary>
    public static IEnumerable<string> Alternatives(string wanted, string title, string channelKey, int year)
    {
        var named = wanted.EndsWith("-" + channelKey, StringComparison.OrdinalIgnoreCase) || channelKey.Length == 0 ? null : $"{wanted}-{channelKey}";
        string?[] readable =
        [
            named,
            title.Length == 0 ? null : Readable(title, channelKey),
            string.Create(CultureInfo.InvariantCulture, $"{wanted}-{year % 100:00}"),
        ];
        var numbered = Enumerable.Range(2, 98).Select(n => string.Create(CultureInfo.InvariantCulture, $"{wanted}-{n}"));
        return readable.OfType<string>().Concat(numbered).Concat(Endless())
            .Where(s => s.Length <= Slug.MaxLength)
            .Distinct(StringComparer.OrdinalIgnoreCase);

        static IEnumerable<string> Endless()
        {
            while (true)
            {
                yield return Random();
            }
        }
    }
}
