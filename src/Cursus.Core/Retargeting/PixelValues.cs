namespace Cursus.Core.Retargeting;

/// <summary>What one visit puts in the place of a pixel's macros. Every value is a visitor's or a marketer's own text and is encoded for where it
/// lands.</summary>
/// <param name="Id">The pixel's id in its ad network.</param>
/// <param name="Event">What happened, in the network's word for it.</param>
/// <param name="Link">The short address that was followed.</param>
/// <param name="Destination">The page it leads to.</param>
/// <param name="Random">Keeps caches from answering in the network's place.</param>
/// <param name="Time">Milliseconds since 1970, UTC.</param>
public sealed record PixelValues(
    string Id,
    string Event,
    string Link,
    string Destination,
    string? Campaign,
    string? Source,
    string? Medium,
    string Random,
    long Time
)
{
    /// <summary>The names that stand in braces in templates, in the order in which they are offered.</summary>
    public static IReadOnlyList<string> Macros { get; } = ["id", "event", "link", "destination", "campaign", "source", "medium", "random", "time"];

    /// <summary>The value of a macro, not encoded; null where there is no such macro.</summary>
    public string? Of(string macro) =>
        macro switch
        {
            "id" => Id,
            "event" => Event,
            "link" => Link,
            "destination" => Destination,
            "campaign" => Campaign ?? "",
            "source" => Source ?? "",
            "medium" => Medium ?? "",
            "random" => Random,
            "time" => Time.ToString(System.Globalization.CultureInfo.InvariantCulture),
            _ => null,
        };
}
