using Cursus.Data.Addresses;
using NodaTime;

namespace Cursus.Data.Links;

/// <summary>A short address that a link had before, and under which it is still found.</summary>
public sealed class LinkAlias
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid LinkId { get; init; }
    public Guid DomainId { get; init; }

    /// <summary>The slug as it was shown.</summary>
    public required string Slug { get; init; }

    /// <summary>In lower case. No link and no other alias of the domain has it.</summary>
    public required string SlugKey { get; init; }

    /// <summary>When the link got another address.</summary>
    public Instant CreatedAt { get; init; }

    public Link? Link { get; init; }
    public ShortDomain? Domain { get; init; }
}
