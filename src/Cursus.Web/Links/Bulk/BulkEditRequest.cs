using Cursus.Core;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Problems;
using Cursus.Web.Retargeting;

namespace Cursus.Web.Links.Bulk;

/// <summary>The changes to make. Omitted fields stay as each link has them.</summary>
/// <param name="AddTags">Names; new ones become tags.</param>
/// <param name="RemoveTags">Names.</param>
/// <param name="Folder">Name of a folder; an empty string takes them out of their folder.</param>
/// <param name="Campaign">Key of a campaign.</param>
/// <param name="Find">Text to find in destinations.</param>
/// <param name="ReplaceWith">Replacement text; may be empty.</param>
/// <param name="Destination">The new destination for all of them.</param>
/// <param name="Fallback">Where visitors go while the destination is broken or the links aren't active; an empty string removes it.</param>
/// <param name="OpensAt">When they open: an instant, or a day or time in the workspace's time zone; an empty string removes it.</param>
/// <param name="EndsAt">When they end, in the same forms; a day alone is their last day.</param>
/// <param name="Redirect">HTTP status: 301, 302, 307 or 308.</param>
/// <param name="RouteId">ID of a saved route that they follow from now on; an empty string takes their rules away.</param>
/// <param name="Archive">True archives them, false brings them back.</param>
/// <param name="Delete">True deletes them, false brings them back.</param>
public sealed record BulkEditRequest(
    IReadOnlyList<string>? AddTags = null,
    IReadOnlyList<string>? RemoveTags = null,
    string? Folder = null,
    string? Campaign = null,
    string? Find = null,
    string? ReplaceWith = null,
    IReadOnlyList<Guid>? AddPixels = null,
    IReadOnlyList<Guid>? RemovePixels = null,
    bool? Archive = null,
    bool? Delete = null,
    string? Destination = null,
    string? Fallback = null,
    string? OpensAt = null,
    string? EndsAt = null,
    int? Redirect = null,
    LinkOptionsPatch? Options = null,
    string? RouteId = null
)
{
    /// <summary>The change, with new tags ready to be saved; what is wrong is in <paramref name="errors"/>.</summary>
    internal async Task<BulkEdit> Read(CursusDb db, CurrentMember member, Vocabulary vocabulary, FieldErrors errors, CancellationToken cancel)
    {
        if (this == new BulkEditRequest())
        {
            errors.Add("change", new ValidationError("change", "Choose what to change."));
        }

        if (Find is not null && Find.Trim().Length == 0)
        {
            errors.Add("find", new ValidationError("find", "Type the part of the destinations to replace, such as a host that has moved."));
        }

        var (adding, removing) = (TagsOfLinks.Names(AddTags, errors, "addTags"), TagsOfLinks.Names(RemoveTags, errors, "removeTags"));
        var folder = vocabulary.Folder(Folder, errors, "folder");
        var campaign = Campaign is null ? null : vocabulary.Campaign(Campaign, errors);
        var destination = Destination is null ? null : vocabulary.Destination(Destination, errors);
        var route = string.IsNullOrWhiteSpace(RouteId)
            ? null
            : vocabulary.SavedRoute(Guid.TryParse(RouteId, out var routeId) ? routeId : Guid.Empty, errors, "routeId");
        var schedule = vocabulary.Schedule(OpensAt, EndsAt, LinkSchedule.Always, errors);
        var added = await PixelsOfWorkspace.Find(db, member.WorkspaceId, AddPixels, errors, cancel, "addPixels");
        return new BulkEdit
        {
            AddTags = [.. (await TagsOfLinks.FindOrAdd(db, member.WorkspaceId, errors.Any ? [] : adding, cancel)).Select(t => t.Id)],
            RemoveTags = await TagsOfLinks.Ids(db, member.WorkspaceId, removing, cancel),
            AddPixels = [.. added.Select(p => p.Id)],
            RemovePixels = RemovePixels ?? [],
            Route = Patch.If(RouteId is not null, route is null ? null : new GivenRoute(RouteText.Read(route.Route), route.Id)),
            Replace = string.IsNullOrWhiteSpace(Find) ? null : new FindAndReplace(Find.Trim(), (ReplaceWith ?? "").Trim()),
            Set = new()
            {
                FolderId = Patch.If(Folder is not null, folder?.Id),
                CampaignId = Patch.If(campaign is not null, campaign?.Id),
                Destination = Patch.If(destination is not null, destination?.AsEntered ?? ""),
                Fallback = Patch.If(Fallback is not null, vocabulary.Fallback(Fallback, given: null, errors)),
                OpensAt = Patch.If(OpensAt is not null, schedule.OpensAt),
                EndsAt = Patch.If(EndsAt is not null, schedule.EndsAt),
                Redirect = Vocabulary.ReadRedirect(Redirect, errors) is { } redirect ? redirect : default(Patch<short>),
                Options = Vocabulary.ReadOptions(Options, errors),
                IsArchived = Patch.If(Archive is not null, Archive ?? false),
                IsDeleted = Patch.If(Delete is not null, Delete ?? false),
            },
        };
    }

    /// <summary>What is done, in words, for the history.</summary>
    internal string Told()
    {
        string?[] parts =
        [
            Some("tagged", AddTags),
            Some("tag removed:", RemoveTags),
            Folder is null ? null
            : Folder.Trim().Length == 0 ? "removed from folders"
            : $"moved to {Folder.Trim()}",
            Campaign is null ? null : $"campaign set to {Campaign}",
            Find is null ? null : $"“{Find.Trim()}” replaced with “{ReplaceWith?.Trim()}”",
            Destination is null ? null : $"destination set to {Destination.Trim()}",
            Fallback is null ? null
            : Fallback.Trim().Length == 0 ? "fallback removed"
            : $"fallback {Fallback.Trim()}",
            Time(),
            Redirect is null ? null : $"redirect set to {Redirect}",
            Options is null ? null : $"{string.Join(" and ", LinkOptionFields.In(Options).Select(o => o.Name))} set",
            RouteId switch
            {
                null => null,
                "" => "cleared of rules",
                _ => "given a saved route",
            },
            AddPixels is { Count: > 0 } ? "pixels attached" : null,
            RemovePixels is { Count: > 0 } ? "pixels removed" : null,
            Archive switch
            {
                true => "archived",
                false => "unarchived",
                null => null,
            },
            Delete switch
            {
                true => "deleted",
                false => "brought back",
                null => null,
            },
        ];
        return string.Join(", ", parts.OfType<string>());
    }

    private string? Time()
    {
        if (OpensAt is "" && EndsAt is "")
        {
            return "always active";
        }

        string?[] bounds =
        [
            OpensAt switch
            {
                null => null,
                "" => "active from now",
                _ => $"set to open {Written(OpensAt)}",
            },
            EndsAt switch
            {
                null => null,
                "" => "set to end no more",
                _ => $"set to end {Written(EndsAt)}",
            },
        ];
        return bounds.OfType<string>().ToList() is { Count: > 0 } said ? string.Join(", ", said) : null;
    }

    private static string Written(string bound) => bound.Trim().Replace('T', ' ');

    private static string? Some(string verb, IReadOnlyList<string>? names) => names is { Count: > 0 } ? $"{verb} {string.Join(", ", names)}" : null;
}
