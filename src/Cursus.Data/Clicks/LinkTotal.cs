using NodaTime;

namespace Cursus.Data.Clicks;

/// <summary>Roll-up: all that people clicked on one link, so that thousands of links can be sorted by it.</summary>
public sealed class LinkTotal
{
    public Guid LinkId { get; init; }

    /// <summary>People's clicks.</summary>
    public long Clicks { get; init; }

    /// <summary>When a person last clicked.</summary>
    public Instant LastClickAt { get; init; }
}
