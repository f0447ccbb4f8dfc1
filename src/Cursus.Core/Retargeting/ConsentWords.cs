using System.Globalization;
using System.Text.Json;

namespace Cursus.Core.Retargeting;

/// <summary>The words of the question in one language.</summary>
/// <param name="Question">May hold <c>{networks}</c>, the names of the networks, and <c>{who}</c>, the name of who asks.</param>
/// <param name="Measuring">The question where all networks only measure and none advertises.</param>
/// <param name="And">Stands before the last of several networks.</param>
/// <param name="Privacy">Text of the link to the privacy page.</param>
public sealed record ConsentWords(string Question, string Measuring, string And, string Yes, string No, string Privacy)
{
    private const string Fallback = "en";

    private static readonly Dictionary<string, ConsentWords> Shipped = Read();

    /// <summary>Languages that words are shipped in, English first.</summary>
    public static IReadOnlyList<string> Languages { get; } = [.. Shipped.Keys];

    /// <summary>The shipped words of a language.</summary>
    /// <exception cref="KeyNotFoundException">None are shipped in it.</exception>
    public static ConsentWords In(string language) => Shipped[language];

    /// <summary>The same with the question that fits what the networks are for.</summary>
    public ConsentWords For(IEnumerable<ConsentCategory> categories) =>
        categories.All(c => c == ConsentCategory.Measurement) ? this with { Question = Measuring } : this;

    /// <summary>The question as it is asked.</summary>
    public string Ask(IReadOnlyList<string> networks, string who)
    {
        ArgumentNullException.ThrowIfNull(networks);
        var names = networks.Count < 2 ? string.Concat(networks) : $"{string.Join(", ", networks.SkipLast(1))} {And} {networks[^1]}";
        return Question.Replace("{networks}", names, StringComparison.Ordinal).Replace("{who}", who, StringComparison.Ordinal);
    }

    /// <summary>The shipped language that a browser's <c>Accept-Language</c> prefers (RFC 9110, section 12.5.4); English where it names none of
    /// them.</summary>
    public static string LanguageOf(string? acceptLanguage) =>
        (acceptLanguage ?? "")
            .Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(range => range.Split(';', StringSplitOptions.TrimEntries))
            .Select((range, place) => (Language: range[0].Split('-')[0].ToLowerInvariant(), Weight: Weight(range), place))
            .Where(range => range.Weight > 0 && Shipped.ContainsKey(range.Language))
            .OrderByDescending(range => range.Weight)
            .ThenBy(range => range.place)
            .Select(range => range.Language)
            .FirstOrDefault(Fallback);

    private static double Weight(string[] range) =>
        range.Skip(1).FirstOrDefault(p => p.StartsWith("q=", StringComparison.OrdinalIgnoreCase)) is not { } weight ? 1
        : double.TryParse(weight[2..], NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) ? number
        : 0;

    private static Dictionary<string, ConsentWords> Read()
    {
        using var file = typeof(ConsentWords).Assembly.GetManifestResourceStream("consent.json")
            ?? throw new InvalidOperationException("consent.json is not built in.");
        return JsonSerializer.Deserialize<Dictionary<string, ConsentWords>>(file, JsonSerializerOptions.Web)!;
    }
}
