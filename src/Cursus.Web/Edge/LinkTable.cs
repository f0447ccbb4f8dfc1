using System.Collections.Concurrent;
using Cursus.Data;
using Cursus.Data.Addresses;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Edge;

/// <summary>What the edge must know to answer a link.</summary>
/// <param name="Location">Where it leads; null where it has ended.</param>
public sealed record LinkEntry(Guid Id, string? Location, short Redirect, LinkOptions Options)
{
    /// <summary>A link as it stands in the database; one that was deleted has ended.</summary>
    public static LinkEntry Of(Link link) => new(link.Id, link.DeletedAt is null ? link.FinalUrl : null, link.Redirect, link.Options);
}

/// <summary>A verified short domain with its links, by slug without case.</summary>
public sealed class DomainEntry(Guid workspaceId, string name)
{
    public Guid WorkspaceId { get; } = workspaceId;

    public string Name { get; } = name;

    /// <summary>Where the bare domain leads; null shows a plain page.</summary>
    public string? BarePage { get; set; }

    /// <summary>Where an unknown slug leads; null shows a plain page.</summary>
    public string? UnknownPage { get; set; }

    /// <summary>Where a link that has ended leads; null shows a plain page.</summary>
    public string? EndedPage { get; set; }

    internal ConcurrentDictionary<string, LinkEntry> Links { get; } = new(StringComparer.OrdinalIgnoreCase);
}

/// <summary>All links of all verified short domains, in memory. The edge reads it without locks; a change is entered right after its commit.</summary>
public sealed class LinkTable
{
    private readonly ConcurrentDictionary<string, DomainEntry> domains = new(StringComparer.OrdinalIgnoreCase);
    private readonly ConcurrentDictionary<string, DomainEntry>.AlternateLookup<ReadOnlySpan<char>> byHost;

    public LinkTable() => byHost = domains.GetAlternateLookup<ReadOnlySpan<char>>();

    /// <summary>True once the table holds everything the database had at the start.</summary>
    public bool IsLoaded { get; private set; }

    public DomainEntry? FindDomain(ReadOnlySpan<char> host) => byHost.TryGetValue(host, out var domain) ? domain : null;

    public static LinkEntry? Find(DomainEntry domain, ReadOnlySpan<char> slug) =>
        domain.Links.GetAlternateLookup<ReadOnlySpan<char>>().TryGetValue(slug, out var link) ? link : null;

    /// <summary>Makes a verified domain answer, or changes its pages.</summary>
    public void PutDomain(ShortDomain domain)
    {
        var entry = domains.GetOrAdd(domain.Name, static (name, workspaceId) => new DomainEntry(workspaceId, name), domain.WorkspaceId);
        (entry.BarePage, entry.UnknownPage, entry.EndedPage) = (domain.BarePage, domain.UnknownPage, domain.EndedPage);
    }

    /// <summary>Stops answering on a domain.</summary>
    public void RemoveDomain(string name) => domains.TryRemove(name, out _);

    /// <summary>Enters or changes a link. Does nothing where its domain isn't verified.</summary>
    public void Put(string domain, string slug, LinkEntry link)
    {
        if (domains.TryGetValue(domain, out var entry))
        {
            entry.Links[slug] = link;
        }
    }

    public void Remove(string domain, string slug)
    {
        if (domains.TryGetValue(domain, out var entry))
        {
            entry.Links.TryRemove(slug, out _);
        }
    }

    /// <summary>Reads everything from the database, once at the start.</summary>
    public async Task Load(CursusDb db, CancellationToken cancel)
    {
        foreach (var domain in await db.Domains.AsNoTracking().Where(d => d.VerifiedAt != null).ToListAsync(cancel))
        {
            PutDomain(domain);
        }

        await Load(db.Links.Where(l => l.Domain!.VerifiedAt != null), cancel);
        IsLoaded = true;
    }

    /// <summary>Enters all links of a domain that has just been verified.</summary>
    public Task LoadLinksOf(ShortDomain domain, CursusDb db, CancellationToken cancel)
    {
        PutDomain(domain);
        return Load(db.Links.Where(l => l.DomainId == domain.Id), cancel);
    }

    private async Task Load(IQueryable<Link> links, CancellationToken cancel)
    {
        var rows = links.Where(l => l.SlugFreedAt == null)
            .Select(l => new { Domain = l.Domain!.Name, l.SlugKey, Entry = new LinkEntry(l.Id, l.DeletedAt == null ? l.FinalUrl : null, l.Redirect, l.Options) })
            .AsNoTracking().AsAsyncEnumerable();
        await foreach (var link in rows.WithCancellation(cancel))
        {
            Put(link.Domain, link.SlugKey, link.Entry);
        }
    }
}
