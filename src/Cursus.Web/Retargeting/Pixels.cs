using System.ComponentModel.DataAnnotations;
using Cursus.Core;
using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Data.Retargeting;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Retargeting;

/// <summary>/pixels: which ad networks are told of visits. Owners set them up; editors attach them.</summary>
public static class Pixels
{
    private const int MaxName = 60;

    /// <param name="Network">Key of an ad network.</param>
    /// <param name="Reference">The ID in the network, or the address if the network uses one. Use <c>/pixels/reading</c> for pasted code.</param>
    public sealed record Request(string? Name = null, string? Network = null, string? Reference = null);

    /// <param name="Links">How many live links it fires for.</param>
    /// <param name="Campaigns">Keys of the campaigns it is attached to.</param>
    /// <param name="Domains">Names of the short domains.</param>
    public sealed record Response(
        Guid Id,
        string Name,
        string Network,
        string NetworkName,
        string Reference,
        Instant CreatedAt,
        int Links,
        IReadOnlyList<string> Campaigns,
        IReadOnlyList<string> Channels,
        IReadOnlyList<string> Domains
    );

    /// <param name="Pasted">An ID, or a complete code snippet.</param>
    public sealed record ReadingRequest([property: MaxLength(AdNetworkCheck.MaxSnippet)] string? Pasted);

    /// <param name="IsId">True if <paramref name="Reference"/> is an ID, false if it is an address.</param>
    public sealed record Reading(string Network, string NetworkName, string Reference, bool IsId);

    /// <param name="Missing">What is missing, if nothing was recognised.</param>
    public sealed record ReadingResponse(IReadOnlyList<Reading> Readings, string? Missing);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/pixels", List).ForViewers().WithSummary("Retargeting pixels");
        api.MapPost("/pixels/reading", Read)
            .ForViewers()
            .OnlyReading()
            .WithSummary("Recognise a pasted pixel ID or code; the code is neither stored nor run");
        api.MapPost("/pixels", Add).ForOwners().WithSummary("Add a pixel");
        api.MapGet("/pixels/{id:guid}", Get).ForViewers().WithSummary("One pixel");
        api.MapPatch("/pixels/{id:guid}", Change).ForOwners().WithSummary("Rename a pixel, or correct its ID");
        api.MapDelete("/pixels/{id:guid}", Remove).ForOwners().WithSummary("Delete a pixel and its counts");
    }

    private static async Task<Ok<Page<Response>>> List([AsParameters] PageRequest page, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var known = await KnownNetworks.Load(db, member.WorkspaceId, cancel);
        return TypedResults.Ok(await page.Of(Rows(db, member).OrderBy(r => r.Pixel.Name), r => Of(r, known), cancel));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Find(id, member, db, cancel) is { } pixel ? TypedResults.Ok(pixel) : ApiProblem.NotFound("pixel");

    private static async Task<Ok<ReadingResponse>> Read(ReadingRequest request, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var known = await KnownNetworks.Load(db, member.WorkspaceId, cancel);
        var (readings, error) = PixelSnippet.Read(request.Pasted ?? "", known.All);
        return TypedResults.Ok(
            new ReadingResponse(
                [.. readings.Select(r => new Reading(r.Network.Key, r.Network.Name, r.Reference, r.Network.Takes == PixelReference.Id))],
                error?.Text
            )
        );
    }

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var network = (await KnownNetworks.Load(db, member.WorkspaceId, cancel)).Find(request.Network);
        var pixel = new Pixel
        {
            WorkspaceId = member.WorkspaceId,
            Name = request.Name?.Trim() is { Length: > 0 } name ? name : network?.Name ?? "",
            Network = network?.Key ?? "",
            Reference = request.Reference?.Trim() ?? "",
            CreatedAt = clock.GetCurrentInstant(),
        };
        if (await Check(pixel, network, db, cancel) is { } problem)
        {
            return problem;
        }

        db.Add(pixel);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/pixels/{pixel.Id}", await Find(pixel.Id, member, db, cancel));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CancellationToken cancel
    )
    {
        if (await db.Pixels.FirstOrDefaultAsync(p => p.Id == id && p.WorkspaceId == member.WorkspaceId, cancel) is not { } pixel)
        {
            return ApiProblem.NotFound("pixel");
        }

        if (request.Network is { } other && other != pixel.Network)
        {
            return ApiProblem.Invalid(
                "network",
                new ValidationError("pixel-network-stays", "A pixel’s network can’t be changed. Add a new pixel for another network.")
            );
        }

        pixel.Name = request.Name?.Trim() ?? pixel.Name;
        pixel.Reference = request.Reference?.Trim() ?? pixel.Reference;
        var network = (await KnownNetworks.Load(db, member.WorkspaceId, cancel)).Find(pixel.Network);
        if (await Check(pixel, network, db, cancel) is { } problem)
        {
            return problem;
        }

        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok((await Find(id, member, db, cancel))!);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        if (!await audit.Delete(db.Pixels.Where(p => p.Id == id && p.WorkspaceId == member.WorkspaceId), "pixels", id, p => p.Name, cancel))
        {
            return ApiProblem.NotFound("pixel");
        }

        await feed.CatchUp();
        return TypedResults.NoContent();
    }

    private static async Task<ProblemHttpResult?> Check(Pixel pixel, AdNetwork? network, CursusDb db, CancellationToken cancel)
    {
        var errors = new FieldErrors();
        if (pixel.Name.Length is 0 or > MaxName)
        {
            errors.Add("name", new ValidationError("pixel-name", $"Enter a pixel name of at most {MaxName} characters."));
        }

        if (network is null)
        {
            errors.Add("network", new ValidationError("network-unknown", "Choose the pixel’s ad network. Add others in Settings."));
        }
        else if (PixelSnippet.Check(network, pixel.Reference) is { } error)
        {
            errors.Add("reference", error);
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var others = db.Pixels.Where(p => p.WorkspaceId == pixel.WorkspaceId && p.Id != pixel.Id);
        if (await others.AnyAsync(p => p.Name == pixel.Name, cancel))
        {
            return ApiProblem.Conflict("pixel-taken", $"There is already a pixel called “{pixel.Name}”. Choose another name.");
        }

        return
            await others.Where(p => p.Network == pixel.Network && p.Reference == pixel.Reference).Select(p => p.Name).FirstOrDefaultAsync(cancel)
                is { } same
            ? ApiProblem.Conflict("pixel-twice", $"“{same}” already has this ID, so visits would be reported twice.")
            : null;
    }

    /// <summary>One pixel of the member's workspace; null where there is none.</summary>
    internal static async Task<Response?> Find(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Rows(db, member).FirstOrDefaultAsync(r => r.Pixel.Id == id, cancel) is { } row
            ? Of(row, await KnownNetworks.Load(db, member.WorkspaceId, cancel))
            : null;

    private static Response Of(Row row, KnownNetworks known) =>
        new(
            row.Pixel.Id,
            row.Pixel.Name,
            row.Pixel.Network,
            known.Find(row.Pixel.Network)?.Name ?? row.Pixel.Network,
            row.Pixel.Reference,
            row.Pixel.CreatedAt,
            row.Links,
            row.Campaigns,
            row.Channels,
            row.Domains
        );

    private static IQueryable<Row> Rows(CursusDb db, CurrentMember member) =>
        db
            .Pixels.Where(p => p.WorkspaceId == member.WorkspaceId)
            .Select(p => new Row
            {
                Pixel = p,
                Links = db
                    .PixelsOfLinks.Where(l => l.PixelId == p.Id && db.Links.Any(x => x.Id == l.LinkId && x.DeletedAt == null))
                    .Select(l => l.LinkId)
                    .Distinct()
                    .Count(),
                Campaigns = db.Campaigns.Where(c => c.Pixels.Any(x => x.Id == p.Id)).OrderBy(c => c.Key).Select(c => c.Key).ToList(),
                Channels = db.Channels.Where(c => c.Pixels.Any(x => x.Id == p.Id)).OrderBy(c => c.Position).Select(c => c.Key).ToList(),
                Domains = db.Domains.Where(d => d.Pixels.Any(x => x.Id == p.Id)).OrderBy(d => d.Name).Select(d => d.Name).ToList(),
            });

    private sealed class Row
    {
        public required Pixel Pixel { get; init; }
        public required int Links { get; init; }
        public required List<string> Campaigns { get; init; }
        public required List<string> Channels { get; init; }
        public required List<string> Domains { get; init; }
    }
}
