using Cursus.Core;
using Cursus.Core.Codes;
using Cursus.Data;
using Cursus.Data.Codes;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Codes;

/// <summary>/links/{id}/codes: the codes of one link that are counted apart, such as poster A and poster B.</summary>
public static class CodesOfLink
{
    private const int MaxName = 60;

    public sealed record Request(string? Name);

    /// <param name="Number">Follows the slug in the code's address.</param>
    /// <param name="Address">The address in the code.</param>
    /// <param name="Scans">People's clicks, all time.</param>
    /// <param name="IsOwn">True for the code that every link has.</param>
    public sealed record Response(int Number, string Name, string Address, long Scans, bool IsOwn);

    /// <param name="StyleId">The style of the link's codes; null for the workspace's default.</param>
    public sealed record ListResponse(IReadOnlyList<Response> Codes, Guid? StyleId);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/links/{id:guid}/codes", List).ForViewers().WithSummary("A link’s QR codes, with their scans");
        api.MapPost("/links/{id:guid}/codes", Add).ForEditors().WithSummary("Add a code to a link, counted separately");
        api.MapPatch("/links/{id:guid}/codes/{number:int}", Rename).ForEditors().WithSummary("Rename a code");
        api.MapDelete("/links/{id:guid}/codes/{number:int}", Remove).ForEditors().WithSummary("Archive a code; printed copies still work and count");
    }

    internal static ValidationError NoSuchCode(int number) =>
        new("code-unknown", $"This link has no code {number}. Add it first, or use code {ScannedPath.OwnCode}, which every link has.");

    private static async Task<Results<Ok<ListResponse>, ProblemHttpResult>> List(Guid id, CodesOfWorkspace codes, CancellationToken cancel) =>
        await codes.FindLink(id, cancel) is { } link ? TypedResults.Ok(await Read(link, codes, cancel)) : ApiProblem.NotFound("link");

    private static async Task<Results<Created<ListResponse>, ProblemHttpResult>> Add(
        Guid id,
        Request request,
        CodesOfWorkspace codes,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await codes.FindLink(id, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // One at a time for a link, so that no number is given twice.
        await db.Database.ExecuteSqlAsync($"select 1 from links where id = {id} for update", cancel);
        var made = await db.LinkCodes.Where(c => c.LinkId == id).ToListAsync(cancel);
        if (ReadName(request.Name, made) is (_, { } problem))
        {
            return problem;
        }

        var number = made.Select(c => c.Number).DefaultIfEmpty((short)ScannedPath.OwnCode).Max() + 1;
        if (number > ScannedPath.MostCodes)
        {
            return ApiProblem.Conflict(
                "codes-many",
                $"A link can have at most {ScannedPath.MostCodes} codes, and numbers are never reused. Create another link."
            );
        }

        db.Add(
            new LinkCode
            {
                LinkId = id,
                Number = (short)number,
                Name = request.Name!.Trim(),
                CreatedAt = clock.GetCurrentInstant(),
            }
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Created($"/api/v1/links/{id}/codes", await Read(link, codes, cancel));
    }

    private static async Task<Results<Ok<ListResponse>, ProblemHttpResult>> Rename(
        Guid id,
        int number,
        Request request,
        CodesOfWorkspace codes,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (await codes.FindLink(id, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        var made = await db.LinkCodes.Where(c => c.LinkId == id).ToListAsync(cancel);
        if (made.Find(c => c.Number == number && c.RemovedAt == null) is not { } code)
        {
            return ApiProblem.NotFound("code");
        }

        if (ReadName(request.Name, made.Where(c => c.Number != number)) is (_, { } problem))
        {
            return problem;
        }

        code.Name = request.Name!.Trim();
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(await Read(link, codes, cancel));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        int number,
        CodesOfWorkspace codes,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        return await codes.FindLink(id, cancel) is null ? ApiProblem.NotFound("link")
            : await db
                .LinkCodes.Where(c => c.LinkId == id && c.Number == number && c.RemovedAt == null)
                .ExecuteUpdateAsync(c => c.SetProperty(x => x.RemovedAt, now), cancel) == 0
                ? ApiProblem.NotFound("code")
            : TypedResults.NoContent();
    }

    private static (string? Name, ProblemHttpResult? Problem) ReadName(string? text, IEnumerable<LinkCode> others) =>
        text?.Trim() switch
        {
            null or { Length: 0 or > MaxName } => (
                null,
                ApiProblem.Invalid(
                    "name",
                    new ValidationError("code-name", $"Enter where this code is used, in at most {MaxName} characters, for example Poster A.")
                )
            ),
            var name when others.Any(c => c.RemovedAt is null && string.Equals(c.Name, name, StringComparison.OrdinalIgnoreCase)) => (
                null,
                ApiProblem.Conflict("code-taken", $"This link already has a code called “{name}”. Choose another name.")
            ),
            var name => (name, null),
        };

    private static async Task<ListResponse> Read(CodesOfWorkspace.LinkRow link, CodesOfWorkspace codes, CancellationToken cancel)
    {
        var scans = await codes.ScansOf(link.Id, cancel);
        var names = await codes.NamesOf(link.Id, cancel);
        return new ListResponse(
            [
                .. names
                    .OrderBy(n => n.Key)
                    .Select(n => new Response(
                        n.Key,
                        n.Value,
                        CodePayload.Of(codes.ShortUrl(link), n.Key).Plain,
                        scans.GetValueOrDefault(n.Key),
                        n.Key == ScannedPath.OwnCode
                    )),
            ],
            link.StyleId
        );
    }
}
