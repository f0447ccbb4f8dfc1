using NodaTime;

namespace Cursus.Data.Clicks;

/// <summary>
/// Roll-up: what came of one link on one day of the workspace's time zone. Read from <c>days_of_links</c>, which puts days that are sealed (<c>link_days</c>) and days that still may get clicks
/// (<see cref="OpenDay"/>) together. What its clicks tell stands in the open day or in the <see cref="LinkMonth"/>.
/// </summary>
public sealed class LinkDay
{
    public Guid LinkId { get; init; }
    public LocalDate Day { get; init; }

    /// <summary>People's clicks.</summary>
    public int Clicks { get; init; }

    public int Team { get; init; }
    public int Machines { get; init; }
    public int Previews { get; init; }
    public int Prefetches { get; init; }
    public int Repeats { get; init; }
    public int Heads { get; init; }

    /// <summary>How many different people clicked, as <see cref="Core.Clicks.VisitorSketch"/> counts them.</summary>
    public int Visitors { get; init; }
}
