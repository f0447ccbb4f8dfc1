using Cursus.Core.Links;
using NodaTime;

namespace Cursus.Data.Links;

/// <summary>How a link was before one of its changes. The present version is the link itself.</summary>
public sealed class LinkVersion
{
    public Guid LinkId { get; init; }

    /// <summary>Numbered from 1, which is the link as created.</summary>
    public int Number { get; init; }

    /// <summary>Since when the link was so.</summary>
    public Instant Since { get; init; }

    /// <summary>Until when.</summary>
    public Instant Until { get; init; }

    /// <summary>The member who made it so; null where that member has gone.</summary>
    public Guid? MadeBy { get; init; }

    /// <summary>The change of many links that made it so, if it was one.</summary>
    public Guid? ChangeId { get; init; }

    /// <summary>JSON; see <see cref="LinkState"/>.</summary>
    public required string State { get; init; }
}
