using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Web.Access;
using Cursus.Web.Edge;
using Cursus.Web.Hosting;
using Cursus.Web.Posts;
using Cursus.Web.Problems;
using Cursus.Web.Retargeting;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>PATCH and DELETE /links/{id}. The edge follows at once: the short address stays, its destination changes.</summary>
public static class EditLink
{
    /// <summary>Fields that are left out stay as they are; an empty note or folder takes it away.</summary>
    public sealed record Request(
        string? Title = null, string? Destination = null, string? Campaign = null, string? Source = null, string? Medium = null,
        string? Term = null, string? Content = null, int? Redirect = null, IReadOnlyList<string>? Tags = null, LinkWishes? Options = null, string? Note = null,
        string? Folder = null, IReadOnlyList<Guid>? Pixels = null);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPatch("/links/{id:guid}", Change).ForEditors().WithSummary("Change a link");
        api.MapDelete("/links/{id:guid}", Delete).ForEditors().WithSummary("Delete a link; its slug stays blocked for 180 days");
        api.MapPost("/links/{id:guid}/revive", Revive).ForEditors().WithSummary("Bring a deleted link back while its slug is blocked");
    }

    private static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Change(
        Guid id, Request request, CurrentMember member, CursusDb db, LinkFeed feed, LoopCheck loops, CursusOptions options, CancellationToken cancel)
    {
        if (await Find(id, member, db, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        var errors = new FieldErrors();
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        var destination = vocabulary.Destination(request.Destination ?? link.Destination, errors);
        var campaign = request.Campaign is null ? link.Campaign : vocabulary.Campaign(request.Campaign, errors);
        var redirect = Vocabulary.ReadRedirect(request.Redirect, link.Redirect, errors);
        var utm = CreateLink.ReadTags(
            request.Source ?? link.Source, request.Medium ?? link.Medium, campaign, request.Term ?? link.Term, request.Content ?? link.Content, errors);
        if (request.Title?.Trim() is { Length: 0 or > PostPlan.MaxTitle })
        {
            errors.Add("title", new Flaw("title", $"Give the link a title of at most {PostPlan.MaxTitle} characters."));
        }

        var tagNames = request.Tags is null ? null : TagsOfLinks.Names(request.Tags, errors);
        var wishes = (request.Options ?? new LinkWishes()).Over(link.Options, errors, "options");
        var note = request.Note is null ? link.Note : LinkManner.ReadNote(request.Note, errors, "note");
        var folder = vocabulary.Folder(request.Folder, errors, "folder");
        var pixels = request.Pixels is null ? null : await PixelsOfWorkspace.Find(db, member.WorkspaceId, request.Pixels, errors, cancel);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (request.Destination is not null && await loops.Find(destination!, member, vocabulary, cancel) is { } loop)
        {
            return ApiProblem.Invalid("destination", loop);
        }

        link.Title = request.Title?.Trim() ?? link.Title;
        link.Destination = destination!.AsEntered;
        link.FinalUrl = destination.FinishedWith(vocabulary.Sent(utm)).ToString();
        (link.Source, link.Medium, link.Term, link.Content) = (utm?.Source.Text, utm?.Medium.Text, utm?.Term?.Text, utm?.Content?.Text);
        link.CampaignId = campaign?.Id;
        link.Redirect = redirect;
        link.Options = wishes;
        link.Note = note;
        link.FolderId = request.Folder is null ? link.FolderId : folder?.Id;
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

        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        var saved = await db.Links.Where(l => l.Id == id).Select(LinkResponse.Read(db)).SingleAsync(cancel);
        return TypedResults.Ok(LinkResponse.Of(saved, options));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Delete(
        Guid id, CurrentMember member, CursusDb db, LinkFeed feed, IClock clock, CancellationToken cancel)
    {
        if (await Find(id, member, db, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        link.DeletedAt = clock.GetCurrentInstant();
        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Revive(
        Guid id, CurrentMember member, CursusDb db, LinkFeed feed, CursusOptions options, CancellationToken cancel)
    {
        if (await db.Links.Include(l => l.Domain).FirstOrDefaultAsync(l => l.Id == id && l.WorkspaceId == member.WorkspaceId, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        if (link.SlugFreedAt is not null)
        {
            return ApiProblem.Conflict("slug-given-away", $"“{link.Slug}” belongs to another link by now, so this one can't come back. Make a new link to the same page.");
        }

        link.DeletedAt = null;
        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        var revived = await db.Links.Where(l => l.Id == id).Select(LinkResponse.Read(db)).SingleAsync(cancel);
        return TypedResults.Ok(LinkResponse.Of(revived, options));
    }

    private static Task<Link?> Find(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) => db.Links
        .Include(l => l.Domain).Include(l => l.Campaign).Include(l => l.Tags).Include(l => l.Pixels)
        .FirstOrDefaultAsync(l => l.Id == id && l.WorkspaceId == member.WorkspaceId && l.DeletedAt == null, cancel);
}
