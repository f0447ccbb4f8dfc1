using System.Text;

namespace Cursus.Data.Clicks.Journaling;

/// <summary>Gives the same string for the same text, so that reading many clicks makes few strings. For one reader at a time.</summary>
internal sealed class TextPool
{
    private const int Most = 20_000;

    private readonly HashSet<string> texts = new(StringComparer.Ordinal);

    public string Of(ReadOnlySpan<byte> utf8)
    {
        if (utf8.Length == 0)
        {
            return "";
        }

        Span<char> characters = stackalloc char[ClickRecord.MaxLength];
        characters = characters[..Encoding.UTF8.GetChars(utf8, characters)];
        var lookup = texts.GetAlternateLookup<ReadOnlySpan<char>>();
        if (lookup.TryGetValue(characters, out var known))
        {
            return known;
        }

        if (texts.Count >= Most)
        {
            texts.Clear();
        }

        var text = characters.ToString();
        texts.Add(text);
        return text;
    }
}
