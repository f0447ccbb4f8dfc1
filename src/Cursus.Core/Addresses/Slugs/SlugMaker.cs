using System.Globalization;
using System.Security.Cryptography;

namespace Cursus.Core.Addresses.Slugs;

/// <summary>Makes slugs: random ones, readable ones, and free alternatives to a taken one.</summary>
public static class SlugMaker
{
    /// <summary>Lower-case letters and digits that are not mistaken for one another in print: no 0, o, 1, l, i.
    /// Lower case only, since slugs are compared without case.</summary>
    public const string Alphabet = "abcdefghjkmnpqrstuvwxyz23456789";

    /// <summary>Random slugs have six characters (common practice, no source) as long as there is room.</summary>
    public const int RandomLength = 6;

    /// <summary>A drawn slug is taken already with at most this chance; when it would be more, slugs grow by a character.</summary>
    public const double MostlyTaken = 0.001;

    /// <summary>The longest readable slug that is made, in characters.</summary>
    public const int ReadableLength = 60;

    /// <summary>Words that carry no meaning in a slug. They are dropped where a title is too long to keep whole (common practice, no
    /// source).</summary>
    private static readonly HashSet<string> StopWords = new(StringComparer.Ordinal)
    {
        "a",
        "an",
        "and",
        "are",
        "as",
        "at",
        "be",
        "by",
        "for",
        "from",
        "how",
        "in",
        "is",
        "it",
        "its",
        "my",
        "of",
        "on",
        "or",
        "our",
        "that",
        "the",
        "their",
        "this",
        "to",
        "under",
        "was",
        "we",
        "were",
        "what",
        "when",
        "where",
        "who",
        "why",
        "will",
        "with",
        "you",
        "your",
    };

    /// <summary>Titles keep their stop words up to this many characters.</summary>
    private const int LongTitle = 32;

    /// <summary>How long random slugs are where <paramref name="taken"/> slugs are in use: so long that a draw hits a taken one with at most
    /// <see cref="MostlyTaken"/>.</summary>
    public static int LengthFor(long taken)
    {
        var length = RandomLength;
        while (taken > Math.Pow(Alphabet.Length, length) * MostlyTaken)
        {
            length++;
        }

        return length;
    }

    /// <summary>A slug that cannot be guessed from its neighbours: drawn from a cryptographic generator, again where it spells something
    /// offensive.</summary>
    public static string Random(int length = RandomLength)
    {
        while (true)
        {
            var slug = RandomNumberGenerator.GetString(Alphabet, length);
            if (!OffensiveWords.In(slug))
            {
                return slug;
            }
        }
    }

    /// <summary>A slug that people can read and trust: the title's words and the channel's key, such as <c>winter-members-perch</c>.
    /// Random where the title has no letters.</summary>
    public static string Readable(string title, string channelKey)
    {
        var words = TitleWords(title, ReadableLength - channelKey.Length - 1);
        return words.Length == 0 ? Random()
            : Slug.Reserved.Contains(words) || channelKey.Length > 0 ? $"{words}-{channelKey}".Trim('-')
            : words;
    }

    private static string TitleWords(string title, int maxLength)
    {
        var all = AsciiWords.Of(title);
        var meaningful = all.Where(w => !StopWords.Contains(w)).ToList();
        var isLong = all.Sum(w => w.Length + 1) - 1 > LongTitle && meaningful.Count > 0;
        return AsciiWords.Hyphenated(string.Join(' ', isLong ? meaningful : all), maxLength);
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
        return readable
            .OfType<string>()
            .Concat(numbered)
            .Concat(Endless())
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
