using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Web.Access;
using Cursus.Web.Edge;
using Cursus.Web.Hosting;
using Cursus.Web.Posts;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>PATCH and DELETE /links/{id}. The edge follows at once: the short address stays, its destination changes.</summary>
public static class EditLink
{
    /// <summary>Fields that are left out stay as they are.</summary>
    public sealed record Request(
        string? Title = null, string? Destination = null, string? Campaign = null, string? Source = null, string? Medium = null,
        string? Term = null, string? Content = null, int? Redirect = null, IReadOnlyList<string>? Tags = null);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPatch("/links/{id:guid}", Change).ForEditors().WithSummary("Change a link");
        api.MapDelete("/links/{id:guid}", Delete).ForEditors().WithSummary("Delete a link; its slug stays blocked");
    }

    private static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Change(
        Guid id, Request request, CurrentMember member, CursusDb db, LinkTable table, CursusOptions options, CancellationToken cancel)
    {
        if (await Find(id, member, db, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        var errors = new FieldErrors();
        var vocabulary = await Vocabulary.Load(db, member.WorkspaceId, cancel);
        var destination = vocabulary.Destination(request.Destination ?? link.Destination, errors);
        var campaign = request.Campaign is null ? link.Campaign : vocabulary.Campaign(request.Campaign, errors);
        var redirect = Vocabulary.Redirect(request.Redirect ?? link.Redirect, errors);
        var utm = CreateLink.ReadTags(
            request.Source ?? link.Source, request.Medium ?? link.Medium, campaign, request.Term ?? link.Term, request.Content ?? link.Content, errors);
        if (request.Title?.Trim() is { Length: 0 or > PostPlan.MaxTitle })
        {
            errors.Add("title", new Flaw("title", $"Give the link a title of at most {PostPlan.MaxTitle} characters."));
        }

        var tags = request.Tags is null ? null : await TagsOfLinks.FindOrAdd(db, member.WorkspaceId, request.Tags, errors, cancel);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        link.Title = request.Title?.Trim() ?? link.Title;
        link.Destination = destination!.AsEntered;
        link.FinalUrl = (utm is null ? destination.Address : destination.With(utm)).ToString();
        (link.Source, link.Medium, link.Term, link.Content) = (utm?.Source.Text, utm?.Medium.Text, utm?.Term?.Text, utm?.Content?.Text);
        link.CampaignId = campaign?.Id;
        link.Redirect = redirect;
        if (tags is not null)
        {
            link.Tags.Clear();
            link.Tags.AddRange(tags);
        }

        await db.SaveChangesAsync(cancel);
        table.Put(link.Domain!.Name, link.SlugKey, new LinkEntry(link.Id, link.FinalUrl, link.Redirect));
        var saved = await db.Links.Where(l => l.Id == id).Select(LinkResponse.Read(db)).SingleAsync(cancel);
        return TypedResults.Ok(LinkResponse.Of(saved, options));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Delete(
        Guid id, CurrentMember member, CursusDb db, LinkTable table, IClock clock, CancellationToken cancel)
    {
        if (await Find(id, member, db, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        link.DeletedAt = clock.GetCurrentInstant();
        await db.SaveChangesAsync(cancel);
        table.Remove(link.Domain!.Name, link.SlugKey);
        return TypedResults.NoContent();
    }

    private static Task<Link?> Find(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) => db.Links
        .Include(l => l.Domain).Include(l => l.Campaign).Include(l => l.Tags)
        .FirstOrDefaultAsync(l => l.Id == id && l.WorkspaceId == member.WorkspaceId && l.DeletedAt == null, cancel);
}
