using Cursus.Core.Addresses;
using Cursus.Core.Routing;

namespace Cursus.Core.Links;

/// <summary>Everything about one link that decides what its visitors get. Addresses are finished, with their UTM tags, and as the UTF-8 bytes in
/// which the edge keeps them.</summary>
public readonly ref struct LinkTarget
{
    /// <summary>A deleted link keeps its slug for a while and leads nowhere.</summary>
    public bool IsDeleted { get; init; }

    public ReadOnlySpan<byte> Destination { get; init; }

    /// <summary>Where visitors go while the destination can't be used; empty for nowhere.</summary>
    public ReadOnlySpan<byte> Fallback { get; init; }

    /// <summary>Whether the page behind the destination is known to be dead.</summary>
    public bool IsDead { get; init; }

    public LinkSchedule Schedule { get; init; }

    /// <summary>HTTP status of the redirect to the destination: 301, 302, 307 or 308.</summary>
    public short Redirect { get; init; }

    public QueryPassing PassQuery { get; init; }

    public ReferrerPassing Referrer { get; init; }

    public bool HideFromSearch { get; init; }

    /// <summary>The rules that decide who gets which page; null for nearly all links, which lead everybody to their destination.</summary>
    public FinishedRoute? Route { get; init; }

    /// <summary>The address of one of its pages; empty where it has no such page.</summary>
    public ReadOnlySpan<byte> AddressOf(LinkPage page) =>
        page switch
        {
            LinkPage.Destination => Destination,
            LinkPage.Fallback => Fallback,
            _ => Route is null ? default : Route.AddressOf((byte)page),
        };
}

/// <summary>The pages that a link can lead to; those of its route have the numbers from <see cref="RoutePages.First"/> on.</summary>
public enum LinkPage : byte
{
    Destination = 0,
    Fallback = 1,
}
