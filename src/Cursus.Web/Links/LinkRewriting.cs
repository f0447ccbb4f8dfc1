using Cursus.Core.Addresses;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Data.Retargeting;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Links.Routes;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>Writes states into links, with all that they name by id. What has been deleted since can't be given back and is left out.</summary>
internal sealed class LinkRewriting
{
    private const string Gone = "something since deleted";

    private readonly Dictionary<Guid, Tag> tags;
    private readonly Dictionary<Guid, Pixel> pixels;
    private readonly Dictionary<Guid, Folder> folders;
    private readonly Dictionary<Guid, Campaign> campaigns;
    private readonly Dictionary<Guid, ShortDomain> domains;
    private readonly Dictionary<Guid, Channel> channels;
    private readonly Dictionary<Guid, SavedRoute> routes;

    private LinkRewriting(Vocabulary vocabulary, Dictionary<Guid, Tag> tags, Dictionary<Guid, Pixel> pixels)
    {
        (Vocabulary, this.tags, this.pixels) = (vocabulary, tags, pixels);
        folders = vocabulary.Folders.ToDictionary(f => f.Id);
        campaigns = vocabulary.Campaigns.ToDictionary(c => c.Id);
        domains = vocabulary.Domains.ToDictionary(d => d.Id);
        channels = vocabulary.Channels.ToDictionary(c => c.Id);
        routes = vocabulary.SavedRoutes.ToDictionary(r => r.Id);
    }

    public Vocabulary Vocabulary { get; }

    /// <summary>Reads what the workspace has, tracked by the context.</summary>
    public static async Task<LinkRewriting> Load(CursusDb db, CurrentMember member, CursusOptions options, CancellationToken cancel) =>
        new(
            await Vocabulary.Load(db, member, options, cancel),
            await db.Tags.Where(t => t.WorkspaceId == member.WorkspaceId).ToDictionaryAsync(t => t.Id, cancel),
            await db.Pixels.Where(p => p.WorkspaceId == member.WorkspaceId).ToDictionaryAsync(p => p.Id, cancel)
        );

    /// <summary>Ids of the workspace's tags of these names, in the order of their values; new names become tags when the caller saves.</summary>
    public async Task<IReadOnlyList<Guid>> FindOrAddTags(CursusDb db, CurrentMember member, IReadOnlyList<string> names, CancellationToken cancel)
    {
        var found = await TagsOfLinks.FindOrAdd(db, member.WorkspaceId, names, cancel);
        foreach (var tag in found)
        {
            tags.TryAdd(tag.Id, tag);
        }

        return [.. found.Select(t => t.Id).Order()];
    }

    /// <summary>The short domain of this id; null where the workspace has it no more.</summary>
    public ShortDomain? DomainOf(Guid id) => domains.GetValueOrDefault(id);

    /// <summary>What something is called that links name by id.</summary>
    public string NameOf(Guid id) =>
        tags.TryGetValue(id, out var tag) ? tag.Name
        : pixels.TryGetValue(id, out var pixel) ? pixel.Name
        : folders.TryGetValue(id, out var folder) ? folder.Name
        : campaigns.TryGetValue(id, out var campaign) ? campaign.Name
        : channels.TryGetValue(id, out var channel) ? channel.Name
        : routes.TryGetValue(id, out var route) ? route.Name
        : domains.TryGetValue(id, out var domain) ? domain.Name
        : Gone;

    /// <summary>Makes the link what the state says, but for its short address; its tags and pixels must be loaded.</summary>
    /// <param name="before">How it is.</param>
    public void Write(Link link, LinkState before, LinkState state, Instant now)
    {
        link.Title = state.Title;
        link.Destination = state.Destination;
        link.Fallback = state.Fallback;
        (link.OpensAt, link.EndsAt) = (state.OpensAt, state.EndsAt);
        (link.Source, link.Medium, link.Term, link.Content) = (state.Source, state.Medium, state.Term, state.Content);
        link.CampaignId = state.CampaignId is { } campaign && campaigns.ContainsKey(campaign) ? campaign : null;
        // A placement is always of a channel, so that one that was deleted since is not taken away.
        link.ChannelId = state.ChannelId is { } channel && !channels.ContainsKey(channel) ? link.ChannelId : state.ChannelId;
        link.Redirect = state.Redirect;
        link.Options = state.Options;
        link.Route = state.Route;
        link.RouteId = Follows(state) ? state.RouteId : null;
        RoutesOfLinks.Use(link);
        link.Note = state.Note;
        link.ImportedClicks = state.ImportedClicks;
        link.FolderId = state.FolderId is { } folder && folders.ContainsKey(folder) ? folder : null;
        link.ArchivedAt = state.IsArchived ? link.ArchivedAt ?? now : null;
        link.DeletedAt = state.IsDeleted ? link.DeletedAt ?? now : null;
        Set(link.Tags, [.. state.TagIds.Where(tags.ContainsKey).Select(id => tags[id])]);
        Set(link.Pixels, [.. state.PixelIds.Where(pixels.ContainsKey).Select(id => pixels[id])]);
        link.FinalUrl = BulkEdit.MovesVisitors(before, state) ? Finished(link) : link.FinalUrl;
    }

    /// <summary>Whether its rules are those of its saved route, which may have changed or gone since the state was noted.</summary>
    private bool Follows(LinkState state) =>
        state is { RouteId: { } id, Route: { } own }
        && routes.TryGetValue(id, out var saved)
        && RouteEditing.LeadAlike(RouteText.Read(own), RouteText.Read(saved.Route));

    /// <summary>Where the link leads with its UTM values, merged ones replaced.</summary>
    private string Finished(Link link)
    {
        var campaign = link.CampaignId is { } id ? campaigns.GetValueOrDefault(id)?.Key : null;
        return Destination.Of(link.Destination).FinishedWith(Vocabulary.Sent(RecordedTags.Of(link, campaign))).ToString();
    }

    private static void Set<T>(List<T> had, IReadOnlyList<T> wanted)
        where T : class
    {
        had.RemoveAll(thing => !wanted.Contains(thing));
        had.AddRange(wanted.Where(thing => !had.Contains(thing)));
    }
}
