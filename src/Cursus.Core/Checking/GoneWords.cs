using System.Text.RegularExpressions;

namespace Cursus.Core.Checking;

/// <summary>Words by which a page says that what it was about is no longer there, though it answers like any other. A workspace may have words of its
/// own.</summary>
public sealed partial class GoneWords
{
    /// <summary>The longest one, in characters.</summary>
    public const int MaxLength = 80;

    public const int Most = 100;

    private readonly IReadOnlyList<(string Word, string Plain)> words;

    public GoneWords(IEnumerable<string> words) => this.words = [.. words.Select(w => (w, Plain(w))).Where(w => w.Item2.Length > 2)];

    /// <summary>What is looked for where a workspace says nothing else (common practice, no source).</summary>
    public static IReadOnlyList<string> Defaults { get; } =
    [
        "page not found",
        "not found",
        "no longer available",
        "no longer exists",
        "has been removed",
        "this page does not exist",
        "error 404",
        "this event is over",
        "sold out",
        "discontinued",
        "seite nicht gefunden",
        "nicht mehr verfügbar",
        "ausverkauft",
        "page introuvable",
        "n’est plus disponible",
        "página no encontrada",
        "ya no está disponible",
    ];

    /// <summary>Those that a text has, whatever its case, spaces and kind of apostrophe; as whole words.</summary>
    public IReadOnlyList<string> In(params IEnumerable<string?> texts)
    {
        var plain = $" {string.Join(" | ", texts.Select(t => Plain(t ?? "")))} ";
        return [.. words.Where(w => plain.Contains($" {w.Plain} ", StringComparison.Ordinal)).Select(w => w.Word)];
    }

    private static string Plain(string text) => NoWord().Replace(text.Replace('’', '\'').ToLowerInvariant(), " ").Trim();

    [GeneratedRegex(@"[^\p{L}\p{N}']+")]
    private static partial Regex NoWord();
}
