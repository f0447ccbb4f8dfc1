using System.Globalization;

namespace Cursus.Core.Clicks.Tallies;

/// <summary>Something that each click tells for itself, and of whose values days keep the counts.</summary>
public sealed class DayTally
{
    /// <summary>By number of the code; nothing where the address was followed.</summary>
    private static readonly string[] CodeNumbers =
    [
        .. Enumerable.Range(0, byte.MaxValue + 1).Select(n => n == 0 ? "" : n.ToString(CultureInfo.InvariantCulture)),
    ];

    private DayTally(string name, Reading valueOf) => (Name, ValueOf) = (name, valueOf);

    /// <summary>What a click tells.</summary>
    internal delegate string Reading(in EnrichedClick click);

    /// <summary>All of them, in the order in which days are written.</summary>
    public static IReadOnlyList<DayTally> All { get; } =
    [
        new("country", (in EnrichedClick click) => click.Country),
        new("device", (in EnrichedClick click) => click.Device),
        new("browser", (in EnrichedClick click) => click.Browser),
        new("os", (in EnrichedClick click) => click.Os),
        new("language", (in EnrichedClick click) => click.Language),
        new("referrer", (in EnrichedClick click) => click.ReferrerHost),
        new("code", (in EnrichedClick click) => CodeNumbers[click.Code]),
        new("way", (in EnrichedClick click) => (click.Rule, click.Page) is (0, 0) ? "" : $"{click.Rule}/{click.Page}"),
    ];

    /// <summary>What it is called, also in the columns of roll-ups.</summary>
    public string Name { get; }

    internal Reading ValueOf { get; }
}
