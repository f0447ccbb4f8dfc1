using Cursus.Core;
using Cursus.Core.Addresses.Slugs;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Edge;
using Cursus.Web.Hosting;
using Cursus.Web.Links.Saving;
using Cursus.Web.Problems;
using Cursus.Web.Retargeting;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>PATCH and DELETE /links/{id}. The edge follows at once: the short address stays, its destination changes.</summary>
public static class EditLink
{
    /// <summary>Omitted fields stay as they are; an empty note, folder, fallback, opening or end removes it.</summary>
    /// <param name="Slug">A new slug; the old one keeps working.</param>
    /// <param name="Domain">Another short domain.</param>
    /// <param name="Fallback">Where visitors go while the destination is broken or the link isn't active.</param>
    /// <param name="OpensAt">When it opens: an instant, or a day or time in the workspace's time zone.</param>
    /// <param name="EndsAt">When it ends, in the same forms; a day alone is its last day.</param>
    /// <param name="Channel">Key of the channel that all its clicks count for, or an empty string for none. Source and medium stay.</param>
    /// <param name="IsArchived">Hidden from lists, but still redirecting.</param>
    public sealed record Request(
        string? Title = null,
        string? Destination = null,
        string? Campaign = null,
        string? Source = null,
        string? Medium = null,
        string? Term = null,
        string? Content = null,
        int? Redirect = null,
        IReadOnlyList<string>? Tags = null,
        LinkOptionsPatch? Options = null,
        string? Note = null,
        string? Folder = null,
        IReadOnlyList<Guid>? Pixels = null,
        string? Slug = null,
        string? Domain = null,
        bool? IsArchived = null,
        string? Fallback = null,
        string? OpensAt = null,
        string? EndsAt = null,
        string? Channel = null
    );

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPatch("/links/{id:guid}", Change).ForEditors().WithSummary("Change a link; If-Match names the version you last saw");
        api.MapDelete("/links/{id:guid}", Delete).ForEditors().WithSummary("Delete a link; its slug stays reserved for 180 days");
        api.MapPost("/links/{id:guid}/revive", Revive).ForEditors().WithSummary("Restore a deleted link while its slug is reserved");
    }

    private static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        LoopCheck loops,
        CursusOptions options,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await Find(id, member, db, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        if (await SeenVersion.Check(http.Request, link, db, cancel) is { } overtaken)
        {
            return overtaken;
        }

        var errors = new FieldErrors();
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        var destination = vocabulary.Destination(request.Destination ?? link.Destination, errors);
        var campaign = request.Campaign is null ? link.Campaign : vocabulary.Campaign(request.Campaign, errors);
        var channel = string.IsNullOrWhiteSpace(request.Channel)
            ? null
            : vocabulary.ActiveChannel(request.Channel, errors, "channel", link.ChannelId);
        if (request.Channel is not null && !errors.Any && await LinkChannel.Hindrance(db, link, channel?.Id, cancel) is { } hindrance)
        {
            errors.Add("channel", hindrance);
        }

        var redirect = Vocabulary.ReadRedirect(request.Redirect, link.Redirect, errors);
        var utm = CreateLink.ReadTags(
            request.Source ?? link.Source,
            request.Medium ?? link.Medium,
            campaign,
            request.Term ?? link.Term,
            request.Content ?? link.Content,
            errors
        );
        var fallback = vocabulary.Fallback(request.Fallback, link.Fallback, errors);
        var schedule = vocabulary.Schedule(request.OpensAt, request.EndsAt, link.Schedule, errors);
        if (request.Title?.Trim() is { Length: 0 or > LinkSettings.MaxTitle })
        {
            errors.Add("title", new ValidationError("title", $"Give the link a title of at most {LinkSettings.MaxTitle} characters."));
        }

        var tagNames = request.Tags is null ? null : TagsOfLinks.Names(request.Tags, errors);
        var linkOptions = (request.Options ?? new LinkOptionsPatch()).Over(link.Options, errors, "options");
        var note = request.Note is null ? link.Note : LinkSettings.ReadNote(request.Note, errors, "note");
        var folder = vocabulary.Folder(request.Folder, errors, "folder");
        var pixels = request.Pixels is null ? null : await PixelsOfWorkspace.Find(db, member.WorkspaceId, request.Pixels, errors, cancel);
        var slug = Vocabulary.OptionalSlug(request.Slug, errors, "slug");
        var domain = request.Domain is null ? link.Domain : vocabulary.Domain(request.Domain, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (request.Destination is not null && await loops.Find(destination!, member, vocabulary, cancel) is { } loop)
        {
            return ApiProblem.Invalid("destination", loop);
        }

        var (now, before) = (clock.GetCurrentInstant(), LinkVersions.StateOf(link));
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (
            (slug is not null || request.Domain is not null)
            && await LinkAddress.Change(link, domain!, slug ?? Slug.Of(link.Slug), db, now, cancel) is { } isTaken
        )
        {
            return isTaken;
        }

        link.Title = request.Title?.Trim() ?? link.Title;
        link.Destination = destination!.AsEntered;
        link.Fallback = fallback;
        (link.OpensAt, link.EndsAt) = (schedule.OpensAt, schedule.EndsAt);
        link.FinalUrl = destination.FinishedWith(vocabulary.Sent(utm)).ToString();
        (link.Source, link.Medium, link.Term, link.Content) = (utm?.Source.Text, utm?.Medium.Text, utm?.Term?.Text, utm?.Content?.Text);
        link.CampaignId = campaign?.Id;
        link.ChannelId = request.Channel is null ? link.ChannelId : channel?.Id;
        link.Redirect = redirect;
        link.Options = linkOptions;
        link.Note = note;
        link.FolderId = request.Folder is null ? link.FolderId : folder?.Id;
        link.ArchivedAt = request.IsArchived switch
        {
            true => link.ArchivedAt ?? now,
            false => null,
            null => link.ArchivedAt,
        };
        if (tagNames is not null)
        {
            link.Tags.Clear();
            link.Tags.AddRange(await TagsOfLinks.FindOrAdd(db, member.WorkspaceId, tagNames, cancel));
        }

        if (pixels is not null)
        {
            link.Pixels.Clear();
            link.Pixels.AddRange(pixels);
        }

        LinkVersions.Keep(db, link, before, member.Id, now);
        return await Save(link, member, db, feed, options, http, clock, transaction, cancel);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Delete(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CursusOptions options,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await Find(id, member, db, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        if (await SeenVersion.Check(http.Request, link, db, cancel) is { } overtaken)
        {
            return overtaken;
        }

        var (now, before) = (clock.GetCurrentInstant(), LinkVersions.StateOf(link));
        link.DeletedAt = now;
        LinkVersions.Keep(db, link, before, member.Id, now);
        return (await Save(link, member, db, feed, options, http, clock, transaction: null, cancel)).Result is ProblemHttpResult problem
            ? problem
            : TypedResults.NoContent();
    }

    private static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Revive(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CursusOptions options,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await Find(id, member, db, cancel, deletedToo: true) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        if (link.SlugFreedAt is not null)
        {
            return SlugGivenAway(link);
        }

        var before = LinkVersions.StateOf(link);
        link.DeletedAt = null;
        LinkVersions.Keep(db, link, before, member.Id, clock.GetCurrentInstant());
        return await Save(link, member, db, feed, options, http, clock, transaction: null, cancel);
    }

    /// <summary>A link whose slug belongs to another by now can't come back.</summary>
    internal static ProblemHttpResult SlugGivenAway(Link link) =>
        ApiProblem.Conflict(
            "slug-given-away",
            $"Another link uses “{link.Slug}” now, so this one can’t be restored. Create a new link to the same page."
        );

    /// <summary>The link with all that a change of it needs.</summary>
    internal static Task<Link?> Find(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel, bool deletedToo = false) =>
        db
            .Links.Include(l => l.Domain)
            .Include(l => l.Campaign)
            .Include(l => l.Tags)
            .Include(l => l.Pixels)
            .FirstOrDefaultAsync(l => l.Id == id && l.WorkspaceId == member.WorkspaceId && (deletedToo || l.DeletedAt == null), cancel);

    /// <summary>Saves a changed link, tells the edge, and answers with the link as it is now.</summary>
    internal static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Save(
        Link link,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CursusOptions options,
        HttpContext http,
        IClock clock,
        IDbContextTransaction? transaction,
        CancellationToken cancel
    )
    {
        try
        {
            if (!await LinkAddress.TrySave(db, cancel))
            {
                return ApiProblem.Conflict("slug-taken", $"“{link.Slug}” has just been taken, so nothing was saved. Choose another slug.");
            }
        }
        catch (DbUpdateException e) when (LinkVersions.IsOvertaken(e))
        {
            var by = await db.Links.Where(l => l.Id == link.Id).Select(l => l.ChangedBy).SingleOrDefaultAsync(cancel);
            return await SeenVersion.Overtaken(by, db, cancel);
        }

        if (transaction is not null)
        {
            await transaction.CommitAsync(cancel);
        }

        await feed.CatchUp();
        var saved = (
            await db.Links.Where(l => l.Id == link.Id && l.WorkspaceId == member.WorkspaceId).Read(db, clock.GetCurrentInstant(), cancel)
        ).Single();
        http.Response.Headers.ETag = SeenVersion.Tag(saved.Version);
        return TypedResults.Ok(LinkResponse.Of(saved, options));
    }
}
