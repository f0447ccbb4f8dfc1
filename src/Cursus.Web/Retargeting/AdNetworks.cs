using Cursus.Core;
using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Data.Retargeting;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Retargeting;

/// <summary>/ad-networks: how pixels of each network look and are fired. Those that ship stay as they are; a workspace describes its own.</summary>
public static class AdNetworks
{
    /// <param name="IsOwn">True if this workspace added it.</param>
    public sealed record Response(AdNetwork Network, bool IsOwn, int Pixels);

    private const int MostNetworks = 50;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/ad-networks", List).ForViewers().WithSummary("Ad networks, the workspace’s own first");
        api.MapPost("/ad-networks", Add).ForOwners().WithSummary("Add an ad network");
        api.MapPut("/ad-networks/{key}", Change).ForOwners().WithSummary("Change one of the workspace’s own networks");
        api.MapDelete("/ad-networks/{key}", Remove).ForOwners().WithSummary("Remove one of the workspace’s own networks that has no pixels");
    }

    private static async Task<Ok<Page<Response>>> List(CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var known = await KnownNetworks.Load(db, member.WorkspaceId, cancel);
        var used = await db
            .Pixels.Where(p => p.WorkspaceId == member.WorkspaceId)
            .GroupBy(p => p.Network)
            .ToDictionaryAsync(g => g.Key, g => g.Count(), cancel);
        Response[] all = [.. known.All.Select(n => new Response(n, known.IsOwn(n.Key), used.GetValueOrDefault(n.Key)))];
        return TypedResults.Ok(new Page<Response>(all, null, all.Length));
    }

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        AdNetwork request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (Check(request) is { } problem)
        {
            return problem;
        }

        var known = await KnownNetworks.Load(db, member.WorkspaceId, cancel);
        if (known.Find(request.Key) is { } other)
        {
            return ApiProblem.Conflict("network-taken", $"{other.Name} already has the key “{request.Key}”. Choose another key.");
        }

        if (known.All.Count >= MostNetworks)
        {
            return ApiProblem.Conflict("networks-many", $"A workspace can have at most {MostNetworks} networks. Remove one you don’t use.");
        }

        db.Add(
            new OwnNetwork
            {
                WorkspaceId = member.WorkspaceId,
                Key = request.Key,
                Description = AdNetworkFile.Write(request),
            }
        );
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/ad-networks/{request.Key}", new Response(request, IsOwn: true, 0));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        string key,
        AdNetwork request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member, key).SingleOrDefaultAsync(cancel) is not { } network)
        {
            return ApiProblem.NotFound("ad network of your own");
        }

        if (Check(request with { Key = key }) is { } problem)
        {
            return problem;
        }

        // A pixel that was checked against the old description must still be one by the new.
        var described = request with { Key = key };
        var pixels = await db.Pixels.Where(p => p.WorkspaceId == member.WorkspaceId && p.Network == key).ToListAsync(cancel);
        if (pixels.FirstOrDefault(p => PixelSnippet.Check(described, p.Reference) is not null) is { } misfit)
        {
            return ApiProblem.Invalid(
                "idPattern",
                new ValidationError(
                    "network-misfit",
                    $"The pixel “{misfit.Name}” has the ID {misfit.Reference}, which would no longer match. Change the pattern, or remove the pixel first."
                )
            );
        }

        network.Description = AdNetworkFile.Write(described);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Response(described, IsOwn: true, pixels.Count));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        string key,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        if (
            await db.Pixels.Where(p => p.WorkspaceId == member.WorkspaceId && p.Network == key).Select(p => p.Name).FirstOrDefaultAsync(cancel) is
            { } used
        )
        {
            return ApiProblem.Conflict("network-in-use", $"The pixel “{used}” belongs to this network. Remove its pixels first.");
        }

        return await audit.Delete(Mine(db, member, key), "ad-networks", key, n => n.Key, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("ad network of your own");
    }

    private static ProblemHttpResult? Check(AdNetwork network)
    {
        var errors = new FieldErrors();
        foreach (var (field, error) in AdNetworkCheck.Errors(network))
        {
            errors.Add(field, error);
        }

        return errors.Any ? ApiProblem.Invalid(errors) : null;
    }

    private static IQueryable<OwnNetwork> Mine(CursusDb db, CurrentMember member, string key) =>
        db.AdNetworks.Where(n => n.WorkspaceId == member.WorkspaceId && n.Key == key);
}
