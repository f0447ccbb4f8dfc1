using System.Collections.Concurrent;
using System.Collections.Frozen;
using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;

namespace Cursus.Edge.Handoff;

/// <summary>A retargeting pixel as the edge fires it.</summary>
public sealed record PixelEntry(Guid Id, int Number, HandoffPixel Fires);

/// <summary>Whom a workspace asks, in which words, and how its handoff page looks.</summary>
/// <param name="Who">Who asks: the workspace's public name.</param>
/// <param name="Questions">The workspace's own questions by language.</param>
public sealed record EdgeHandoffSettings(
    string Who,
    ConsentMode Consent,
    IReadOnlyCollection<CountryCode> Countries,
    IReadOnlyDictionary<string, string> Questions,
    string? PrivacyPage,
    HandoffLook Look
);

/// <summary>The pixels of one workspace, and where they are attached for many links at once.</summary>
/// <param name="Attached">By number of a campaign, channel or domain.</param>
public sealed record WorkspacePixels(
    EdgeHandoffSettings Settings,
    FrozenDictionary<int, PixelEntry> Pixels,
    FrozenDictionary<int, PixelEntry[]> Attached
);

/// <summary>
/// The pixels of all workspaces. Replaced as a whole when one changes, which is rare. Campaigns, channels, domains and pixels have numbers here, so
/// that a link's record takes few bytes; a number is given once and holds while the process lives.
/// </summary>
public sealed class PixelTable
{
    private readonly ConcurrentDictionary<Guid, int> numbers = new();
    private volatile FrozenDictionary<Guid, WorkspacePixels> workspaces = FrozenDictionary<Guid, WorkspacePixels>.Empty;
    private int last;

    /// <summary>The number of a campaign, channel, domain or pixel; zero for none.</summary>
    public int NumberOf(Guid? id) =>
        id is not { } known ? 0
        : numbers.TryGetValue(known, out var number) ? number
        : numbers.GetOrAdd(known, _ => Interlocked.Increment(ref last));

    /// <summary>All numbers that were given.</summary>
    internal IReadOnlyDictionary<Guid, int> Numbers => numbers;

    /// <summary>Gives the numbers of an earlier process again, before any other.</summary>
    internal void Restore(IReadOnlyDictionary<Guid, int> given)
    {
        foreach (var (id, number) in given)
        {
            numbers[id] = number;
            last = Math.Max(last, number);
        }
    }

    public void Replace(IReadOnlyDictionary<Guid, WorkspacePixels> with) => workspaces = with.ToFrozenDictionary();

    /// <summary>The pixels that fire at a visit of <paramref name="link"/>, each once, in the order of their numbers; null, at once, where there are
    /// none.</summary>
    public (IReadOnlyList<PixelEntry> Pixels, EdgeHandoffSettings Settings)? Of(DomainEntry domain, in LinkEntry link)
    {
        if (!workspaces.TryGetValue(domain.WorkspaceId, out var workspace))
        {
            return null;
        }

        var (own, ofCampaign, ofChannel, ofDomain) = (
            link.Pixels,
            At(workspace, link.Campaign),
            At(workspace, link.Channel),
            At(workspace, NumberOf(domain.Id))
        );
        if (own.Length + ofCampaign.Length + ofChannel.Length + ofDomain.Length == 0)
        {
            return null;
        }

        PixelEntry[] all = [.. own.Select(workspace.Pixels.GetValueOrDefault).OfType<PixelEntry>(), .. ofCampaign, .. ofChannel, .. ofDomain];
        return all.Length == 0
            ? null
            : ([.. all.DistinctBy(p => p.Number).OrderBy(p => p.Number).Take(HandoffReport.MostPixels)], workspace.Settings);
    }

    /// <summary>Pixels by their ids, as far as the domain's workspace has them.</summary>
    public IReadOnlyList<PixelEntry> Of(DomainEntry domain, IReadOnlyList<Guid> ids) =>
        workspaces.TryGetValue(domain.WorkspaceId, out var workspace)
            ? [.. ids.Select(id => numbers.TryGetValue(id, out var number) ? workspace.Pixels.GetValueOrDefault(number) : null).OfType<PixelEntry>()]
            : [];

    /// <summary>How the domain's workspace hands over; null where it has no pixels.</summary>
    public EdgeHandoffSettings? Settings(DomainEntry domain) =>
        workspaces.TryGetValue(domain.WorkspaceId, out var workspace) ? workspace.Settings : null;

    private static PixelEntry[] At(WorkspacePixels workspace, int place) =>
        place != 0 && workspace.Attached.TryGetValue(place, out var attached) ? attached : [];
}
