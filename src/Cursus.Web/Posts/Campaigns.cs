using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>/campaigns: what posts are for. A campaign's key is the value written into addresses.</summary>
public static class Campaigns
{
    private const int MaxName = 100;

    /// <param name="Key">The value in addresses; made from the name where left out, and fixed from then on.</param>
    public sealed record Request(string? Name = null, string? Key = null);

    public sealed record Response(Guid Id, string Key, string Name, int Posts);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/campaigns", List).ForViewers().WithSummary("Campaigns, most recently used first");
        api.MapPost("/campaigns", Add).ForEditors().WithSummary("Add a campaign");
        api.MapGet("/campaigns/{id:guid}", Get).ForViewers().WithSummary("One campaign");
        api.MapPatch("/campaigns/{id:guid}", Rename).ForEditors().WithSummary("Rename a campaign; its key stays");
        api.MapDelete("/campaigns/{id:guid}", Remove).ForEditors().WithSummary("Remove a campaign that has no links");
    }

    private static async Task<Ok<Page<Response>>> List([AsParameters] PageRequest page, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        TypedResults.Ok(await page.Of(
            Mine(db, member).OrderByDescending(c => db.Posts.Where(p => p.CampaignId == c.Id).Max(p => (LocalDate?)p.PublishedOn) ?? LocalDate.MaxIsoValue).ThenBy(c => c.Name)
                .Select(c => new Response(c.Id, c.Key, c.Name, db.Posts.Count(p => p.CampaignId == c.Id))),
            c => c,
            cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Read(id, member, db, cancel) is { } campaign ? TypedResults.Ok(campaign) : ApiProblem.NotFound("campaign");

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(Request request, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var name = request.Name?.Trim() ?? "";
        if (name.Length is 0 or > MaxName || AsciiWords.Of(name).Count == 0)
        {
            return ApiProblem.Invalid("name", new Flaw("name", $"Name the campaign in at most {MaxName} characters, with letters or digits in it."));
        }

        // A key that was typed is kept as typed: values are compared as written, and it may have to match what is in use elsewhere.
        var key = string.IsNullOrWhiteSpace(request.Key) ? AsciiWords.Hyphenated(name, 60) : request.Key.Trim();
        if (!TagValue.TryParse(key, out _, out var flaw))
        {
            return ApiProblem.Invalid("key", flaw);
        }

        if (await Mine(db, member).AnyAsync(c => c.Key == key, cancel))
        {
            return ApiProblem.Conflict("campaign-taken", $"There is a campaign “{key}” already. Use it, or give this one another name.");
        }

        var campaign = new Campaign { WorkspaceId = member.WorkspaceId, Key = key, Name = name };
        db.Add(campaign);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/campaigns/{campaign.Id}", new Response(campaign.Id, key, name, 0));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Rename(Guid id, Request request, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        if (request.Name?.Trim() is not { Length: > 0 and <= MaxName } name)
        {
            return ApiProblem.Invalid("name", new Flaw("name", $"Name the campaign in at most {MaxName} characters."));
        }

        return await Mine(db, member).Where(c => c.Id == id).ExecuteUpdateAsync(c => c.SetProperty(x => x.Name, name), cancel) == 1
            ? TypedResults.Ok((await Read(id, member, db, cancel))!)
            : ApiProblem.NotFound("campaign");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        if (await db.Links.AnyAsync(l => l.CampaignId == id && l.WorkspaceId == member.WorkspaceId, cancel))
        {
            return ApiProblem.Conflict("campaign-in-use", "This campaign has links, whose clicks would lose their name. A campaign with links stays.");
        }

        return await Mine(db, member).Where(c => c.Id == id).ExecuteDeleteAsync(cancel) == 1 ? TypedResults.NoContent() : ApiProblem.NotFound("campaign");
    }

    private static Task<Response?> Read(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) => Mine(db, member)
        .Where(c => c.Id == id).Select(c => new Response(c.Id, c.Key, c.Name, db.Posts.Count(p => p.CampaignId == c.Id))).FirstOrDefaultAsync(cancel);

    private static IQueryable<Campaign> Mine(CursusDb db, CurrentMember member) => db.Campaigns.Where(c => c.WorkspaceId == member.WorkspaceId);
}
