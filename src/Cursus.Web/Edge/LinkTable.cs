using System.Collections.Concurrent;
using Cursus.Data;
using Cursus.Data.Addresses;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Edge;

/// <summary>What the edge must know to answer a link.</summary>
public sealed record LinkEntry(Guid Id, string Location, short Redirect);

/// <summary>A verified short domain with its links, by slug without case.</summary>
public sealed class DomainEntry(Guid workspaceId, string name)
{
    public Guid WorkspaceId { get; } = workspaceId;

    public string Name { get; } = name;

    /// <summary>Where the bare domain leads; null shows a plain page.</summary>
    public string? BarePage { get; set; }

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

    /// <summary>Makes a verified domain answer, or changes its bare page.</summary>
    public void PutDomain(ShortDomain domain) =>
        domains.GetOrAdd(domain.Name, static (name, workspaceId) => new DomainEntry(workspaceId, name), domain.WorkspaceId).BarePage = domain.BarePage;

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

        var links = db.Links
            .Where(l => l.DeletedAt == null && l.Domain!.VerifiedAt != null)
            .Select(l => new { Domain = l.Domain!.Name, l.SlugKey, l.Id, l.FinalUrl, l.Redirect })
            .AsAsyncEnumerable();
        await foreach (var link in links.WithCancellation(cancel))
        {
            Put(link.Domain, link.SlugKey, new LinkEntry(link.Id, link.FinalUrl, link.Redirect));
        }

        IsLoaded = true;
    }
}
