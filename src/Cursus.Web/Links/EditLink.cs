using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Links;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>PATCH and DELETE /links/{id}. The edge follows at once: the short address stays, its destination changes.</summary>
public static class EditLink
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPatch("/links/{id:guid}", Change).ForEditors().WithSummary("Change a link; If-Match names the version you last saw");
        api.MapDelete("/links/{id:guid}", Delete).ForEditors().WithSummary("Delete a link; its slug stays reserved for 180 days");
        api.MapPost("/links/{id:guid}/revive", Revive).ForEditors().WithSummary("Restore a deleted link while its slug is reserved");
    }

    private static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Change(
        Guid id,
        EditLinkRequest request,
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
        var rewriting = await LinkRewriting.Load(db, member, options, cancel);
        var asked = request.Read(link, rewriting.Vocabulary, errors);
        if (asked.ChannelId.IsSaid && !errors.Any && await LinkChannel.Hindrance(db, link, asked.ChannelId.Over(null), cancel) is { } hindrance)
        {
            errors.Add("channel", hindrance);
        }

        var tagNames = request.Tags is null ? null : TagsOfLinks.Names(request.Tags, errors);
        var slug = Vocabulary.OptionalSlug(request.Slug, errors, "slug");
        var domain = request.Domain is null ? link.Domain : rewriting.Vocabulary.Domain(request.Domain, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (
            request.Destination is not null
            && await loops.Find(Destination.Of(asked.Destination.Over(link.Destination)), member, rewriting.Vocabulary, cancel) is { } loop
        )
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

        if (tagNames is not null)
        {
            asked = asked with { TagIds = Patch.To(await rewriting.FindOrAddTags(db, member, tagNames, cancel)) };
        }

        rewriting.Write(link, before, asked.Over(before), now);
        LinkVersions.Keep(db, link, before, member, now);
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
        LinkVersions.Keep(db, link, before, member, now);
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
        LinkVersions.Keep(db, link, before, member, clock.GetCurrentInstant());
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
            .Include(l => l.RoutedPages)
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
