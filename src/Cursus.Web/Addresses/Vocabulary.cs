using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Links;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Cursus.Web.Retargeting;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>The words a workspace has agreed on, by key: what requests are read against.</summary>
internal sealed class Vocabulary
{
    private Dictionary<string, Channel> channels = [];
    private Dictionary<string, Campaign> campaigns = [];
    private Dictionary<string, ShortDomain> domains = [];
    private Dictionary<string, Folder> folders = [];
    private HashSet<Guid> pixels = [];
    private Dictionary<Guid, SavedRoute> savedRoutes = [];

    /// <summary>Redirect type where neither request nor domain name one.</summary>
    public required short Redirect { get; init; }

    /// <summary>Options where neither request nor domain name any.</summary>
    public required LinkOptions Options { get; init; }

    public required IReadOnlyList<string> AllowedPrivateHosts { get; init; }

    /// <summary>By whose clock times are meant.</summary>
    public required DateTimeZone Zone { get; init; }

    /// <summary>The agreed UTM values.</summary>
    public required TagWords Words { get; init; }

    public IEnumerable<Campaign> Campaigns => campaigns.Values;

    public IEnumerable<Channel> Channels => channels.Values;

    public IEnumerable<ShortDomain> Domains => domains.Values;

    public IEnumerable<Folder> Folders => folders.Values;

    public IEnumerable<SavedRoute> SavedRoutes => savedRoutes.Values;

    /// <summary>The tags as they are sent: values that were merged into others are replaced by those.</summary>
    public UtmTags? Sent(UtmTags? tags) => tags is null ? null : Words.Merged.Of(tags);

    public static async Task<Vocabulary> Load(CursusDb db, CurrentMember member, CursusOptions options, CancellationToken cancel)
    {
        var workspaceId = member.WorkspaceId;
        var channels = await db.Channels.Where(c => c.WorkspaceId == workspaceId).ToDictionaryAsync(c => c.Key, cancel);
        var campaigns = await db.Campaigns.Where(c => c.WorkspaceId == workspaceId).ToDictionaryAsync(c => c.Key, cancel);
        return new Vocabulary
        {
            Redirect = member.Workspace.Redirect,
            Options = member.Workspace.Options,
            Zone = member.Zone,
            AllowedPrivateHosts = [.. options.AllowedPrivateHosts],
            channels = channels,
            campaigns = campaigns,
            domains = await db.Domains.Where(d => d.WorkspaceId == workspaceId).ToDictionaryAsync(d => d.Name, cancel),
            folders = await db.Folders.Where(f => f.WorkspaceId == workspaceId).ToDictionaryAsync(f => f.Name, cancel),
            pixels = await db.Pixels.Where(p => p.WorkspaceId == workspaceId).Select(p => p.Id).ToHashSetAsync(cancel),
            savedRoutes = await db.SavedRoutes.Where(r => r.WorkspaceId == workspaceId).ToDictionaryAsync(r => r.Id, cancel),
            Words = await TagWords.Load(db, member, channels.Values, campaigns.Keys, cancel),
        };
    }

    public Destination? Destination(string? text, FieldErrors errors, string field = "destination")
    {
        if (!Core.Addresses.Destination.TryParse(text, out var destination, out var error))
        {
            errors.Add(field, error);
        }
        else if (IsOwnDomain(destination.Address.Host))
        {
            errors.Add(field, AddressErrors.LeadsBack(destination.Address.Host));
            return null;
        }
        else if (PrivateNetwork.IsPrivate(destination.Address.Host) && !PrivateNetwork.IsAllowed(destination.Address.Host, AllowedPrivateHosts))
        {
            errors.Add(field, AddressErrors.Private(destination.Address.Host));
            return null;
        }

        return destination;
    }

    /// <summary>The saved route of an id; null where none is wanted, or, with an error, where the workspace has none of that id.</summary>
    public SavedRoute? SavedRoute(Guid? id, FieldErrors errors, string field)
    {
        if (id is not { } wanted)
        {
            return null;
        }

        if (!savedRoutes.TryGetValue(wanted, out var route))
        {
            errors.Add(field, new ValidationError("route-unknown", "This workspace has no such saved route. Choose one from its list."));
        }

        return route;
    }

    /// <summary>Where visitors go while a destination is dead and outside of a link's time: what was given where nothing is said, and nothing where
    /// the text is empty.</summary>
    public string? Fallback(string? text, string? given, FieldErrors errors) =>
        text switch
        {
            null => given,
            _ when text.Trim().Length == 0 => null,
            _ => Destination(text, errors, "fallback")?.AsEntered,
        };

    /// <summary>The requested schedule of a link: what was given where nothing is said, and no bound where the text is empty.</summary>
    public LinkSchedule Schedule(string? opens, string? ends, LinkSchedule given, FieldErrors errors, string prefix = "")
    {
        var schedule = new LinkSchedule(
            Bound(opens, given.OpensAt, ScheduleBound.TryReadOpening, errors, prefix + "opensAt"),
            Bound(ends, given.EndsAt, ScheduleBound.TryReadEnd, errors, prefix + "endsAt")
        );
        if ((opens ?? ends) is not null && !schedule.IsPossible(out var error))
        {
            errors.Add(prefix + "endsAt", error);
        }

        return schedule;
    }

    private Instant? Bound(string? text, Instant? given, ReadBound read, FieldErrors errors, string field)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return text is null ? given : null;
        }

        if (read(text, Zone, out var at, out var error))
        {
            return at;
        }

        errors.Add(field, error!);
        return given;
    }

    private delegate bool ReadBound(string text, DateTimeZone zone, out Instant at, out ValidationError? error);

    /// <summary>The folder that is called so whatever the case of its letters; a new one where there is none, which is saved with the links that are
    /// put into it.</summary>
    public Folder FolderOrNew(string name, Guid workspaceId)
    {
        var folder = folders.GetValueOrDefault(name) ?? folders.Values.FirstOrDefault(f => f.Name.Equals(name, StringComparison.OrdinalIgnoreCase));
        return folder ?? (folders[name] = new Folder { WorkspaceId = workspaceId, Name = name });
    }

    /// <summary>The folder of this name, or null where none is named.</summary>
    public Folder? Folder(string? name, FieldErrors errors, string field)
    {
        if (string.IsNullOrWhiteSpace(name))
        {
            return null;
        }

        if (!folders.TryGetValue(name.Trim(), out var folder))
        {
            errors.Add(field, new ValidationError("folder-unknown", $"This workspace has no folder “{name}”. Add it first, or choose another."));
        }

        return folder;
    }

    /// <summary>The retargeting pixels of these ids, without repeats.</summary>
    public IReadOnlyList<Guid> Pixels(IReadOnlyList<Guid>? ids, FieldErrors errors, string field = "pixels") =>
        PixelsOfWorkspace.Check(ids, pixels, errors, field);

    public Campaign? Campaign(string? key, FieldErrors errors)
    {
        if (string.IsNullOrWhiteSpace(key))
        {
            errors.Add("campaign", new ValidationError("campaign-missing", "Choose a campaign, or add one."));
            return null;
        }

        if (!campaigns.TryGetValue(key.Trim(), out var campaign))
        {
            errors.Add(
                "campaign",
                new ValidationError("campaign-unknown", $"This workspace has no campaign “{key}”. Add it first, or choose another.")
            );
        }

        return campaign;
    }

    public Channel? Channel(string? key, FieldErrors errors, string field)
    {
        if (key is not null && channels.TryGetValue(key.Trim(), out var channel))
        {
            return channel;
        }

        errors.Add(
            field,
            key is null
                ? new ValidationError("channel-missing", "Choose a channel.")
                : new ValidationError(
                    "channel-unknown",
                    $"This workspace has no channel “{key}”. Its channels are {string.Join(", ", channels.Keys.Order(StringComparer.Ordinal))}."
                )
        );
        return null;
    }

    /// <summary>A channel for links that are not its own yet, so that it must not be retired.</summary>
    /// <param name="present">The channel that the link has already; it may keep it.</param>
    public Channel? ActiveChannel(string? key, FieldErrors errors, string field, Guid? present = null)
    {
        var channel = Channel(key, errors, field);
        if (channel is { RetiredAt: not null } && channel.Id != present)
        {
            errors.Add(
                field,
                new ValidationError("channel-retired", $"“{channel.Name}” is retired. Choose another channel, or reactivate it in Settings.")
            );
        }

        return channel;
    }

    /// <summary>The one channel in use with this source and medium, in any merged spelling; null where there is none, or there are several.</summary>
    public Channel? ChannelOf(string? source, string? medium)
    {
        if (!TagValue.TryParse(source, out var from, out _) || !TagValue.TryParse(medium, out var by, out _))
        {
            return null;
        }

        var (sent, kind) = (Words.Merged.Of(TagField.Source, from).Text, Words.Merged.Of(TagField.Medium, by).Text);
        return channels.Values.Where(c => c.RetiredAt is null && c.Source == sent && c.Medium == kind).Take(2).ToList() is [var only] ? only : null;
    }

    /// <summary>The key of the channel that is called so, by key or by name, as spreadsheets have it; the text itself where there is none.</summary>
    public string ChannelKey(string text) =>
        channels.ContainsKey(text) ? text : channels.Values.FirstOrDefault(c => c.Name.Equals(text, StringComparison.OrdinalIgnoreCase))?.Key ?? text;

    /// <summary>The key of the campaign that is called so, by key or by name; the text itself where there is none.</summary>
    public string CampaignKey(string text) =>
        campaigns.ContainsKey(text)
            ? text
            : campaigns.Values.FirstOrDefault(c => c.Name.Equals(text, StringComparison.OrdinalIgnoreCase))?.Key ?? text;

    /// <summary>Keys and names of the channels.</summary>
    public IEnumerable<string> ChannelWords => channels.Values.SelectMany(c => (string[])[c.Key, c.Name]);

    public bool IsOwnDomain(string host) => domains.ContainsKey(host);

    public bool HasCampaign(string key) => campaigns.ContainsKey(key);

    /// <summary>The named domain, or the default one where none is named.</summary>
    /// <param name="mayWait">Whether it may be one that doesn't point here yet.</param>
    public ShortDomain? Domain(string? name, FieldErrors errors, string field = "domain", bool mayWait = false)
    {
        var domain = string.IsNullOrWhiteSpace(name)
            ? domains.Values.FirstOrDefault(d => d.IsDefault) ?? domains.Values.FirstOrDefault(d => d.VerifiedAt is not null)
            : domains.GetValueOrDefault(name.Trim().ToLowerInvariant());
        if (domain is { VerifiedAt: not null } || (domain is not null && mayWait))
        {
            return domain;
        }

        errors.Add(
            field,
            domain is null
                ? string.IsNullOrWhiteSpace(name)
                    ? new ValidationError("domain-missing", "This workspace has no short domain yet. Add one in Settings.")
                    : new ValidationError("domain-unknown", $"This workspace has no short domain “{name}”. Add it in Settings, or choose another.")
                : new ValidationError(
                    "domain-unverified",
                    $"{domain.Name} doesn’t point here yet, so its links wouldn’t work. Choose another domain until it does."
                )
        );
        return null;
    }

    public static TagValue? Tag(string? text, FieldErrors errors, string field)
    {
        if (TagValue.TryParse(text, out var value, out var error))
        {
            return value;
        }

        errors.Add(field, error);
        return null;
    }

    public static TagValue? OptionalTag(string? text, FieldErrors errors, string field) =>
        string.IsNullOrWhiteSpace(text) ? null : Tag(text, errors, field);

    public static Slug? OptionalSlug(string? text, FieldErrors errors, string field)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return null;
        }

        if (!Slug.TryParse(text, out var slug, out var error))
        {
            errors.Add(field, error);
        }

        return slug;
    }

    /// <summary>What a request says of options, and nothing where it doesn't.</summary>
    public static LinkOptionsPatch ReadOptions(LinkOptionsPatch? said, FieldErrors errors, string field = "options")
    {
        said ??= new();
        foreach (var (key, error) in LinkOptionFields.Errors(said))
        {
            errors.Add($"{field}.{key}", error);
        }

        return said;
    }

    /// <summary>The requested type, or <paramref name="given"/> if none is.</summary>
    public static short ReadRedirect(int? status, short given, FieldErrors errors, string field = "redirect")
    {
        return ReadRedirect(status, errors, field) ?? given;
    }

    /// <summary>The requested redirect type; null where nothing is said.</summary>
    public static short? ReadRedirect(int? status, FieldErrors errors, string field = "redirect")
    {
        if (status is null or 301 or 302 or 307 or 308)
        {
            return (short?)status;
        }

        errors.Add(field, new ValidationError("redirect", "The redirect type is 301, 302, 307 or 308."));
        return null;
    }
}
