using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Batches;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data.Links;
using Cursus.Web.Addresses;
using Cursus.Web.Links;
using Cursus.Web.Links.Routes;
using Cursus.Web.Links.Saving;
using Cursus.Web.Problems;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Batches;

/// <summary>What a line says of a link beside what any new link is asked for.</summary>
/// <param name="CreatedAt">When it was made, there where it comes from.</param>
/// <param name="ImportedClicks">Clicks counted there.</param>
internal sealed record LinePast(LocalDate PublishedOn, Instant? CreatedAt, long? ImportedClicks);

/// <summary>Reads the lines of one list by the choices that were made for it.</summary>
/// <param name="order">Which number of its days comes first.</param>
internal sealed class LineReading(
    BatchDefaults forAll,
    ListChoices choices,
    DayOrder order,
    Vocabulary vocabulary,
    Guid workspaceId,
    Instant now,
    DateTimeZone zone
)
{
    /// <summary>Lists are pasted; longer texts are no addresses.</summary>
    private const int MaxPasted = 2 * Destination.MaxLength;

    private readonly HashSet<string> openRedirects = new(StringComparer.OrdinalIgnoreCase);
    private readonly HashSet<string> openDomains = new(StringComparer.Ordinal);
    private readonly HashSet<Folder> foldersThere = [.. vocabulary.Folders];

    /// <summary>Words for redirect types that somebody must say the meaning of, or has said it.</summary>
    public IEnumerable<string> OpenRedirects => openRedirects.Order(StringComparer.OrdinalIgnoreCase);

    /// <summary>Domains of short addresses that are none of the workspace's, so that somebody must name one for them, or has done so.</summary>
    public IEnumerable<string> OpenDomains => openDomains.Order(StringComparer.Ordinal);

    /// <summary>Whether <paramref name="folder"/> is yet to be made.</summary>
    public bool IsNew(Folder folder) => !foldersThere.Contains(folder);

    /// <summary>The request that a line makes for one channel; what is wrong with it is added to <paramref name="errors"/>.</summary>
    public CreateLink.Request RequestOf(ListLine line, string? channel, FieldErrors errors)
    {
        var campaign = line[ListField.Campaign] is { } named ? vocabulary.CampaignKey(named) : forAll.Campaign;
        var address = Address(line, errors);
        var groups = line.Words(ListField.Group);
        var groupTags = choices.Groups == GroupsBecome.Tags ? groups : [];
        var request = new CreateLink.Request(
            line[ListField.Destination] is { Length: <= MaxPasted } pasted ? PastedAddress.Clean(pasted) : line[ListField.Destination],
            line[ListField.Title],
            campaign,
            channel,
            line[ListField.Source],
            line[ListField.Medium],
            line[ListField.Term],
            line[ListField.Content],
            line[ListField.Slug] ?? address?.Slug,
            line[ListField.Domain] ?? address?.Host ?? forAll.Domain,
            Redirect(line, errors) ?? forAll.Redirect,
            [.. forAll.Tags ?? [], .. line.Words(ListField.Tags), .. groupTags],
            forAll.Pixels,
            Options(line, errors).Or(forAll.Options),
            line[ListField.Note] ?? forAll.Note,
            Folder(line[ListField.Folder] ?? (choices.Groups == GroupsBecome.Tags ? null : line[ListField.Group]), errors) ?? forAll.Folder,
            Bound(line, ListField.OpensAt, "opensAt", errors),
            Bound(line, ListField.EndsAt, "endsAt", errors),
            Split(line, errors),
            SavedRoute(line, errors)
        );
        return Placed(request is { Source: null, Medium: null, Campaign: null, Channel: null } ? WithPastedTags(request) : request);
    }

    /// <summary>Old lists seldom name a channel, though their source and medium say which one it was.</summary>
    private CreateLink.Request Placed(CreateLink.Request request) =>
        request.Channel is null && vocabulary.ChannelOf(request.Source, request.Medium) is { } channel
            ? request with
            {
                Channel = channel.Key,
            }
            : request;

    /// <summary>When the line's link opens or ends, as requests say it.</summary>
    private string? Bound(ListLine line, ListField field, string name, FieldErrors errors) =>
        Time(line, field, name, errors) is { } at ? InstantPattern.General.Format(at) : null;

    /// <summary>The pages that share everybody, if the line has some and follows no saved route.</summary>
    private static RouteBody? Split(ListLine line, FieldErrors errors)
    {
        if (line[ListField.Split] is not { } text || line[ListField.SavedRoute] is not null)
        {
            return null;
        }

        if (!SplitText.TryRead(text, out var pages))
        {
            errors.Add(
                "split",
                new ValidationError("split", "This isn’t a split. Write shares and pages: 50% https://a.example, 50% https://b.example.")
            );
            return null;
        }

        return new(Otherwise: new([.. pages.Select(p => new PageBody(p.Destination, p.Weight))], HandsOverWhileDead: true));
    }

    private Guid? SavedRoute(ListLine line, FieldErrors errors)
    {
        if (line[ListField.SavedRoute] is not { } name)
        {
            return null;
        }

        var route = vocabulary.SavedRoutes.FirstOrDefault(r => r.Name.Equals(name, StringComparison.OrdinalIgnoreCase));
        if (route is null)
        {
            errors.Add(
                "savedRoute",
                new ValidationError("route-unknown", $"This workspace has no saved route “{name}”. Add it in Settings, or leave the column out.")
            );
        }

        return route?.Id;
    }

    /// <summary>Where the line's link comes from in time.</summary>
    public LinePast Past(ListLine line, FieldErrors errors)
    {
        var publishedOn = Time(line, ListField.PublishedOn, "publishedOn", errors)?.InZone(zone).Date;
        var createdAt = Time(line, ListField.CreatedAt, "createdAt", errors);
        if (createdAt > now)
        {
            errors.Add("createdAt", new ValidationError("made-in-future", $"“{line[ListField.CreatedAt]}” is in the future."));
        }

        return new LinePast(publishedOn ?? (createdAt ?? now).InZone(zone).Date, createdAt, ImportedClicks(line, errors));
    }

    private static long? ImportedClicks(ListLine line, FieldErrors errors)
    {
        if (line[ListField.ImportedClicks] is not { } text)
        {
            return null;
        }

        var clicks = ListedCount.Read(text);
        if (clicks is null)
        {
            errors.Add("broughtAlong", new ValidationError("count", $"“{text}” isn’t a number of clicks. Enter a whole number, such as 1204."));
        }

        return clicks;
    }

    private Instant? Time(ListLine line, ListField field, string name, FieldErrors errors)
    {
        if (line[field] is not { } text)
        {
            return null;
        }

        var time = field == ListField.EndsAt ? ListedTime.ReadEnd(text, order, zone) : ListedTime.Read(text, order, zone);
        if (time is null)
        {
            errors.Add(name, new ValidationError("day", $"“{text}” isn’t a clear date. Write year, month and day: 2026-03-24."));
        }

        return time;
    }

    private int? Redirect(ListLine line, FieldErrors errors)
    {
        if (line[ListField.Redirect] is not { } text)
        {
            return null;
        }

        if (RedirectNames.StatusOf(text) is { } status)
        {
            return status;
        }

        openRedirects.Add(text);
        var chosen = choices.Redirects?.FirstOrDefault(r => r.Key.Equals(text, StringComparison.OrdinalIgnoreCase)).Value;
        if (chosen is null or 0)
        {
            errors.Add("redirect", new ValidationError("redirect", $"“{text}” isn’t a known redirect type. Choose 301, 302, 307 or 308."));
            return null;
        }

        return chosen;
    }

    private static LinkOptionsPatch Options(ListLine line, FieldErrors errors)
    {
        var said = new LinkOptionsPatch();
        foreach (var option in LinkOptionFields.All)
        {
            if (line[ColumnNames.ColumnOf(option)] is not { } text)
            {
                continue;
            }

            if (option.Read(text) is { } patch)
            {
                said = patch.Or(said);
            }
            else
            {
                errors.Add($"options.{option.Key}", new ValidationError("option", $"“{text}” isn’t clear here. Enter {option.Expected}."));
            }
        }

        return said;
    }

    /// <summary>Slug and short domain of a whole short address.</summary>
    private ListedAddress? Address(ListLine line, FieldErrors errors)
    {
        if (line[ListField.ShortAddress] is not { } text)
        {
            return null;
        }

        if (ListedAddress.Read(text) is not { } address)
        {
            errors.Add("shortAddress", new ValidationError("short-address", $"“{text}” isn’t a short address: a domain, a slash and a slug."));
            return null;
        }

        if (line[ListField.Domain] is not null || vocabulary.IsOwnDomain(address.Host))
        {
            return address;
        }

        openDomains.Add(address.Host);
        var chosen = choices.Domains?.GetValueOrDefault(address.Host);
        if (string.IsNullOrEmpty(chosen))
        {
            errors.Add(
                "domain",
                new ValidationError(
                    "domain-unknown",
                    $"{address.Host} isn’t one of this workspace’s short domains. Choose one of yours, or add it in Settings first."
                )
            );
        }

        return address with
        {
            Host = chosen ?? "",
        };
    }

    private string? Folder(string? name, FieldErrors errors)
    {
        if (name?.Length > Folders.MaxName)
        {
            errors.Add(
                "folder",
                new ValidationError(
                    "folder-name",
                    $"“{name[..20]}…” is too long for a folder: {Folders.MaxName} characters at most. Shorten it, or turn groups into tags."
                )
            );
            return null;
        }

        return name is null ? null : vocabulary.FolderOrNew(name, workspaceId).Name;
    }

    /// <summary>Where neither line nor settings say what clicks are counted under, complete tags in the address itself do.</summary>
    private CreateLink.Request WithPastedTags(CreateLink.Request request)
    {
        if (!Destination.TryParse(request.Destination, out var destination, out _))
        {
            return request;
        }

        var pasted = UtmTags.In(destination.Address);
        return
            pasted.TryGetValue(TagField.Source, out var source)
            && pasted.TryGetValue(TagField.Medium, out var medium)
            && pasted.TryGetValue(TagField.Campaign, out var campaign)
            ? request with
            {
                Source = source.Text,
                Medium = medium.Text,
                Campaign = vocabulary.CampaignKey(campaign.Text),
                Term = request.Term ?? pasted.GetValueOrDefault(TagField.Term)?.Text,
                Content = request.Content ?? pasted.GetValueOrDefault(TagField.Content)?.Text,
            }
            : request;
    }
}
