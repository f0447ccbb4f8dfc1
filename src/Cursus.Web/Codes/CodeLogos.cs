using Cursus.Data;
using Cursus.Data.Codes;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Drawing;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Codes;

/// <summary>/code-logos: the pictures that may stand in codes. A logo never changes; another one is uploaded instead.</summary>
public static class CodeLogos
{
    private const int MaxName = 80;

    /// <param name="Aspect">Width divided by height.</param>
    public sealed record Response(Guid Id, string Name, double Aspect, bool IsShapes, Instant CreatedAt);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/code-logos", List).ForViewers().WithSummary("Logos for QR codes");
        api.MapPost("/code-logos", Add)
            .ForEditors()
            .Accepts<byte[]>("application/octet-stream", "image/png", "image/svg+xml")
            .WithSummary("Upload a logo, PNG or SVG; ?name= names it");
        api.MapDelete("/code-logos/{id:guid}", Remove).ForEditors().WithSummary("Delete a logo that no style uses");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            await page.Of(
                db.CodeLogos.AsNoTracking()
                    .Where(l => l.WorkspaceId == member.WorkspaceId)
                    .OrderByDescending(l => l.CreatedAt)
                    .Select(l => new
                    {
                        l.Id,
                        l.Name,
                        l.Width,
                        l.Height,
                        IsShapes = l.Png == null,
                        l.CreatedAt,
                    }),
                l => new Response(l.Id, l.Name, l.Width / l.Height, l.IsShapes, l.CreatedAt),
                cancel
            )
        );

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        string? name,
        HttpRequest request,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (upload, tooLarge) = await LogoUpload.Read(request, cancel);
        var (art, error) = upload is null ? (null, tooLarge) : LogoFile.Read(upload);
        if (error is not null)
        {
            return ApiProblem.Invalid("logo", error);
        }

        var logo = new SavedCodeLogo
        {
            WorkspaceId = member.WorkspaceId,
            Name = name?.Trim() is { Length: > 0 } given ? given[..Math.Min(given.Length, MaxName)] : "Logo",
            Width = art!.Width,
            Height = art.Height,
            Png = art.Png,
            Shapes = CodeStyleJson.Write(art.Shapes),
            CreatedAt = clock.GetCurrentInstant(),
        };
        db.Add(logo);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/code-logos/{logo.Id}", new Response(logo.Id, logo.Name, art.Aspect, art.Png is null, logo.CreatedAt));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        if (
            await db.CodeStyles.Where(s => s.WorkspaceId == member.WorkspaceId && s.LogoId == id).Select(s => s.Name).FirstOrDefaultAsync(cancel) is
            { } style
        )
        {
            return ApiProblem.Conflict("logo-used", $"The style “{style}” uses this logo. Remove it there first.");
        }

        return await audit.Delete(db.CodeLogos.Where(l => l.Id == id && l.WorkspaceId == member.WorkspaceId), "code-logos", id, l => l.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("logo");
    }
}
