using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Web.Access;
using Cursus.Web.Outgoing;
using Microsoft.Extensions.Caching.Memory;

namespace Cursus.Web.Addresses;

/// <summary>
/// Finds destinations that send visitors back to one of the workspace's own short domains, through whatever chain of other sites. While a post is
/// written its page is looked at anyway; what that brought is remembered here. A page that nobody has looked at is asked when it is saved, but saving
/// doesn't wait long for it: a slow page is no reason not to send.
/// </summary>
internal sealed class LoopCheck(OutgoingClient outgoing, IMemoryCache cache)
{
    private static readonly TimeSpan Kept = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(1);

    /// <summary>The own domain among the addresses that were asked, if any.</summary>
    public static string? OwnDomainOn(FetchedPage page, Vocabulary vocabulary) => page.Way.Select(a => a.Host).FirstOrDefault(vocabulary.IsOwnDomain);

    public void Remember(Destination destination, Guid workspaceId, FetchedPage page, Vocabulary vocabulary) =>
        cache.Set(Key(destination, workspaceId), new Seen(OwnDomainOn(page, vocabulary)), Kept);

    /// <summary>What is known of the page already: an error where it leads back.</summary>
    public ValidationError? Known(Destination destination, Guid workspaceId) => ErrorOf(cache.Get<Seen>(Key(destination, workspaceId)));

    /// <summary>The same of the pages of a route, each; null where none leads back.</summary>
    /// <param name="known">Destinations that the link leads to already.</param>
    public async Task<ValidationError?> Find(
        Core.Routing.Route? route,
        CurrentMember member,
        Vocabulary vocabulary,
        CancellationToken cancel,
        params IEnumerable<string> known
    )
    {
        foreach (var destination in route is null ? [] : Core.Routing.RoutePages.Destinations(route).Except(known))
        {
            if (await Find(Destination.Of(destination), member, vocabulary, cancel) is { } loop)
            {
                return loop;
            }
        }

        return null;
    }

    /// <summary>An error where the page leads back; null where it doesn't, or doesn't say in time.</summary>
    public async Task<ValidationError?> Find(Destination destination, CurrentMember member, Vocabulary vocabulary, CancellationToken cancel)
    {
        if (cache.Get<Seen>(Key(destination, member.WorkspaceId)) is { } seen)
        {
            return ErrorOf(seen);
        }

        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(Patience);
        try
        {
            Remember(
                destination,
                member.WorkspaceId,
                await outgoing.Get(destination.Address with { Fragment = null }, "text/html", patience.Token, vocabulary.IsOwnDomain),
                vocabulary
            );
        }
        catch (Exception e) when (e is PageNotFetchedException or OperationCanceledException && !cancel.IsCancellationRequested)
        {
            return null;
        }

        return Known(destination, member.WorkspaceId);
    }

    private static ValidationError? ErrorOf(Seen? seen) => seen?.OwnDomain is { } own ? AddressErrors.LeadsBackOnTheWay(own) : null;

    private static (string Name, Guid WorkspaceId, string Address) Key(Destination destination, Guid workspaceId) =>
        (nameof(LoopCheck), workspaceId, (destination.Address with { Fragment = null }).ToString());

    private sealed record Seen(string? OwnDomain);
}
