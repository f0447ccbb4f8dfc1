using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Posts;

/// <summary>/recipes: saved ways to send. A recipe holds what a post's request says, without its page, title, campaign, day and slugs.</summary>
public static class Recipes
{
    private const int MaxName = 60;

    public sealed record Request(string? Name = null, PostRequest? Content = null);

    public sealed record Response(Guid Id, string Name, PostRequest Content);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/recipes", List).ForViewers().WithSummary("Recipes");
        api.MapPost("/recipes", Add).ForEditors().WithSummary("Save a recipe");
        api.MapGet("/recipes/{id:guid}", Get).ForViewers().WithSummary("One recipe");
        api.MapPatch("/recipes/{id:guid}", Change).ForEditors().WithSummary("Rename or replace a recipe");
        api.MapDelete("/recipes/{id:guid}", Remove).ForEditors().WithSummary("Delete a recipe; posts made with it are kept");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        SavedRequest saved,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(Mine(db, member).OrderBy(r => r.Name), r => Of(r, saved), cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(
        Guid id,
        CurrentMember member,
        CursusDb db,
        SavedRequest saved,
        CancellationToken cancel
    ) =>
        await Mine(db, member).FirstOrDefaultAsync(r => r.Id == id, cancel) is { } recipe
            ? TypedResults.Ok(Of(recipe, saved))
            : ApiProblem.NotFound("recipe");

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        SavedRequest saved,
        CancellationToken cancel
    )
    {
        var recipe = new Recipe
        {
            WorkspaceId = member.WorkspaceId,
            Name = "",
            Content = "",
        };
        if (
            await Apply(
                request with
                {
                    Name = request.Name ?? "",
                    Content = request.Content ?? new PostRequest(null, null, null),
                },
                recipe,
                db,
                saved,
                cancel
            ) is
            { } problem
        )
        {
            return problem;
        }

        db.Add(recipe);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/recipes/{recipe.Id}", Of(recipe, saved));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        SavedRequest saved,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member).FirstOrDefaultAsync(r => r.Id == id, cancel) is not { } recipe)
        {
            return ApiProblem.NotFound("recipe");
        }

        if (await Apply(request, recipe, db, saved, cancel) is { } problem)
        {
            return problem;
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(Of(recipe, saved));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(Mine(db, member).Where(r => r.Id == id), "recipes", id, r => r.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("recipe");

    private static async Task<ProblemHttpResult?> Apply(Request request, Recipe recipe, CursusDb db, SavedRequest saved, CancellationToken cancel)
    {
        if (request.Name is { } typed)
        {
            if (typed.Trim().Length is 0 or > MaxName)
            {
                return ApiProblem.Invalid("name", new ValidationError("recipe-name", $"Enter a recipe name of at most {MaxName} characters."));
            }

            var name = typed.Trim();
            if (await db.Recipes.AnyAsync(r => r.WorkspaceId == recipe.WorkspaceId && r.Name == name && r.Id != recipe.Id, cancel))
            {
                return ApiProblem.Conflict("recipe-taken", $"There is already a recipe called “{name}”. Choose another name, or replace that one.");
            }

            recipe.Name = name;
        }

        if (request.Content is { } content)
        {
            if (content.Placements is not { Count: > 0 and <= PostPlan.MaxPlacements })
            {
                return ApiProblem.Invalid("content", new ValidationError("recipe-empty", "A recipe needs at least one channel. Tick its channels."));
            }

            recipe.Content = saved.Write(
                content with
                {
                    Title = null,
                    Destination = null,
                    Campaign = null,
                    PublishedOn = null,
                    Placements = [.. content.Placements.Select(p => p with { Slug = null, Title = null })],
                }
            );
            if (recipe.Content.Length > SavedRequest.MaxLength)
            {
                return ApiProblem.Invalid(
                    "content",
                    new ValidationError("recipe-too-long", "This recipe is too long to save. Remove some of its options.")
                );
            }
        }

        return null;
    }

    private static Response Of(Recipe recipe, SavedRequest saved) => new(recipe.Id, recipe.Name, saved.Read(recipe.Content));

    private static IQueryable<Recipe> Mine(CursusDb db, CurrentMember member) => db.Recipes.Where(r => r.WorkspaceId == member.WorkspaceId);
}
