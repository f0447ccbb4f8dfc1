using System.Collections.Frozen;
using System.Net;

namespace Cursus.Edge;

/// <summary>A verified short domain, as the edge knows it.</summary>
/// <param name="Number">Tells its links in the <see cref="LinkTable"/>; given anew whenever the domain begins to answer.</param>
/// <param name="Salts">The keys of its visitors' hashes, by the days of its workspace.</param>
/// <param name="OfficeNetworks">Networks whose visitors are the team's.</param>
/// <param name="BarePage">Where the bare domain leads; null shows a plain page.</param>
/// <param name="UnknownPage">Where an unknown slug leads; null shows a plain page.</param>
/// <param name="EndedPage">Where a link that has ended leads; null shows a plain page.</param>
public sealed record DomainEntry(
    Guid Id,
    int Number,
    Guid WorkspaceId,
    string Name,
    ZoneSalts Salts,
    IReadOnlyList<IPNetwork> OfficeNetworks,
    string? BarePage,
    string? UnknownPage,
    string? EndedPage
);

/// <summary>The verified short domains by host name. Replaced as a whole when one changes, which is rare.</summary>
public sealed class DomainTable
{
    private volatile FrozenDictionary<string, DomainEntry> domains = FrozenDictionary<string, DomainEntry>.Empty;

    public IEnumerable<DomainEntry> All => domains.Values;

    /// <summary>False until the domains have been read, from the database or from a snapshot.</summary>
    public bool IsKnown { get; private set; }

    public void Replace(IEnumerable<DomainEntry> with)
    {
        domains = with.ToFrozenDictionary(d => d.Name, StringComparer.OrdinalIgnoreCase);
        IsKnown = true;
    }

    /// <param name="host">As in a Host header, without its port.</param>
    public DomainEntry? Find(ReadOnlySpan<char> host) =>
        domains.GetAlternateLookup<ReadOnlySpan<char>>().TryGetValue(host, out var domain) ? domain : null;
}
