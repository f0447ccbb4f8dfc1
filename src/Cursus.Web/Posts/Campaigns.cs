using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Audit;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>/campaigns: what posts are for. A campaign's key is the value written into addresses.</summary>
public static class Campaigns
{
    internal const int MaxName = 100;

    /// <param name="Key">The value in addresses; derived from the name if omitted, and fixed from then on.</param>
    /// <param name="EvenSo">True adds a campaign even if it looks like a different spelling of another.</param>
    /// <param name="Recipe">Recipe its posts start with; an empty ID removes it.</param>
    /// <param name="Fallback">Where visitors to its links go while a destination is broken; an empty string removes it.</param>
    public sealed record Request(string? Name = null, string? Key = null, bool? EvenSo = null, Guid? Recipe = null, string? Fallback = null);

    /// <param name="Fallback">Where visitors to its links go while a destination is broken, unless a link has its own fallback.</param>
    public sealed record Response(Guid Id, string Key, string Name, int Posts, Guid? Recipe, string? Fallback);

    /// <param name="Typed">What adding the typed name would create; null if nothing is typed.</param>
    /// <param name="Similar">The campaign that was probably meant.</param>
    /// <param name="Next">The next value in the workspace's series.</param>
    public sealed record Proposals(CampaignPattern.Proposal? Typed, CampaignPattern.Proposal? Similar, IReadOnlyList<CampaignPattern.Proposal> Next);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/campaigns", List).ForViewers().WithSummary("Campaigns, most recently used first");
        api.MapGet("/campaigns/proposals", Propose).ForViewers().WithSummary("Preview a new campaign’s value, and the next in each series");
        api.MapPost("/campaigns", Add).ForEditors().WithSummary("Add a campaign");
        api.MapGet("/campaigns/{id:guid}", Get).ForViewers().WithSummary("One campaign");
        api.MapPatch("/campaigns/{id:guid}", Change).ForEditors().WithSummary("Change a campaign’s name, recipe or fallback; its key stays the same");
        api.MapDelete("/campaigns/{id:guid}", Remove).ForEditors().WithSummary("Delete a campaign that has no links");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            await page.Of(
                Mine(db, member)
                    .OrderByDescending(c => db.Posts.Where(p => p.CampaignId == c.Id).Max(p => (LocalDate?)p.PublishedOn) ?? LocalDate.MaxIsoValue)
                    .ThenBy(c => c.Name)
                    .Select(c => new Response(c.Id, c.Key, c.Name, db.Posts.Count(p => p.CampaignId == c.Id), c.RecipeId, c.Fallback)),
                c => c,
                cancel
            )
        );

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Read(id, member, db, cancel) is { } campaign ? TypedResults.Ok(campaign) : ApiProblem.NotFound("campaign");

    private static async Task<Ok<Proposals>> Propose(string? name, CurrentMember member, CursusDb db, IClock clock, CancellationToken cancel)
    {
        var all = await Mine(db, member).Select(c => new CampaignPattern.Proposal(c.Name, c.Key)).ToListAsync(cancel);
        var typed = string.IsNullOrWhiteSpace(name)
            ? null
            : CampaignPattern.Expand(name.Trim(), clock.GetCurrentInstant().InZone(member.Zone).Date, all.Select(c => c.Key));
        return TypedResults.Ok(new Proposals(typed, typed is null ? null : Similar(typed.Key, all), CampaignPattern.Next(all)));
    }

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (member.Workspace.IsVocabularyLocked && member.Role < Role.Owner)
        {
            return ApiProblem.Invalid(
                "name",
                new ValidationError(
                    "vocabulary-locked",
                    "The vocabulary is locked, so only owners can add campaigns. Choose an existing one, or ask an owner."
                )
            );
        }

        var all = await Mine(db, member).Select(c => new CampaignPattern.Proposal(c.Name, c.Key)).ToListAsync(cancel);
        var (name, madeKey) = CampaignPattern.Expand(
            request.Name?.Trim() ?? "",
            clock.GetCurrentInstant().InZone(member.Zone).Date,
            all.Select(c => c.Key)
        );
        if (name.Length is 0 or > MaxName || AsciiWords.Of(name).Count == 0)
        {
            return ApiProblem.Invalid(
                "name",
                new ValidationError("name", $"Enter a campaign name of at most {MaxName} characters, including letters or digits.")
            );
        }

        // A key that was typed is kept as typed: values are compared as written, and it may have to match what is in use elsewhere.
        var key = string.IsNullOrWhiteSpace(request.Key) ? madeKey : request.Key.Trim();
        if (!TagValue.TryParse(key, out _, out var error))
        {
            return ApiProblem.Invalid("key", error);
        }

        if (all.Any(c => c.Key == key))
        {
            return ApiProblem.Conflict("campaign-taken", $"There is already a campaign “{key}”. Use it, or choose another name.");
        }

        if (request.EvenSo != true && Similar(key, all) is { } similar)
        {
            return ApiProblem.Conflict(
                "campaign-similar",
                $"Did you mean “{similar.Name}” ({similar.Key})? Two spellings would split its results.",
                new Dictionary<string, object?> { ["similar"] = similar }
            );
        }

        var campaign = new Campaign
        {
            WorkspaceId = member.WorkspaceId,
            Key = key,
            Name = name,
        };
        db.Add(campaign);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/campaigns/{campaign.Id}", new Response(campaign.Id, key, name, 0, null, null));
    }

    private static CampaignPattern.Proposal? Similar(string key, List<CampaignPattern.Proposal> all) =>
        TagLint.Find(key, all.Select(c => c.Key)) is { } slip ? all.First(c => c.Key == slip.Agreed) : null;

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member).FirstOrDefaultAsync(c => c.Id == id, cancel) is not { } campaign)
        {
            return ApiProblem.NotFound("campaign");
        }

        var errors = new FieldErrors();
        campaign.Fallback = (await Vocabulary.Load(db, member, options, cancel)).Fallback(request.Fallback, campaign.Fallback, errors);
        if (request.Name?.Trim() is { Length: 0 or > MaxName })
        {
            errors.Add("name", new ValidationError("name", $"Enter a campaign name of at most {MaxName} characters."));
        }

        if (
            request.Recipe is { } recipe
            && recipe != Guid.Empty
            && !await db.Recipes.AnyAsync(r => r.Id == recipe && r.WorkspaceId == member.WorkspaceId, cancel)
        )
        {
            errors.Add("recipe", new ValidationError("recipe-unknown", "This workspace has no such recipe. Choose another."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        campaign.Name = request.Name?.Trim() ?? campaign.Name;
        campaign.RecipeId =
            request.Recipe is null ? campaign.RecipeId
            : request.Recipe == Guid.Empty ? null
            : request.Recipe;
        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok((await Read(id, member, db, cancel))!);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        if (await db.Links.AnyAsync(l => l.CampaignId == id && l.WorkspaceId == member.WorkspaceId, cancel))
        {
            return ApiProblem.Conflict("campaign-in-use", "This campaign has links, so it can’t be deleted: their clicks would lose their name.");
        }

        return await audit.Delete(Mine(db, member).Where(c => c.Id == id), "campaigns", id, c => c.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("campaign");
    }

    private static Task<Response?> Read(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        Mine(db, member)
            .Where(c => c.Id == id)
            .Select(c => new Response(c.Id, c.Key, c.Name, db.Posts.Count(p => p.CampaignId == c.Id), c.RecipeId, c.Fallback))
            .FirstOrDefaultAsync(cancel);

    private static IQueryable<Campaign> Mine(CursusDb db, CurrentMember member) => db.Campaigns.Where(c => c.WorkspaceId == member.WorkspaceId);
}
