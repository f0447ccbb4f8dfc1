using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Reports;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Reports.Views;

/// <summary>/views/{id}/shares: addresses under which somebody without an account reads a saved view, until they are taken back or their time is
/// over.</summary>
public static class ViewShares
{
    private const int MaxName = 80;
    private const int MaxDays = 366;

    /// <param name="Name">Who it is for.</param>
    /// <param name="Days">How many days it works; null until it is revoked.</param>
    public sealed record Request(string? Name = null, int? Days = null);

    /// <param name="Name">Who it was created for.</param>
    /// <param name="ExpiresAt">When it stops working; null for never.</param>
    /// <param name="LastSeenAt">When it was last read, to the hour.</param>
    public sealed record Response(Guid Id, string Name, Instant CreatedAt, Instant? ExpiresAt, Instant? LastSeenAt);

    /// <param name="Secret">The secret in the address, shown only once: <c>/shared/{secret}</c>.</param>
    public sealed record Made(Guid Id, string Name, Instant? ExpiresAt, string Secret);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/views/{id:guid}/shares", Make).ForEditors().WithSecretAnswer().WithSummary("Share a view by a link that anyone can open");
        api.MapDelete("/views/{id:guid}/shares/{share:guid}", TakeBack).ForEditors().WithSummary("Revoke a shared link");
    }

    internal static Response Of(ViewShare share) => new(share.Id, share.Name, share.CreatedAt, share.ExpiresAt, share.LastSeenAt);

    private static async Task<Results<Created<Made>, ProblemHttpResult>> Make(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (!await db.SavedViews.AnyAsync(v => v.Id == id && v.WorkspaceId == member.WorkspaceId, cancel))
        {
            return ApiProblem.NotFound("view");
        }

        if (request.Name?.Trim() is not { Length: > 0 and <= MaxName } name)
        {
            return ApiProblem.Invalid(
                "name",
                new ValidationError("share-name", $"Enter who the link is for, in at most {MaxName} characters, so that you can tell links apart.")
            );
        }

        if (request.Days is < 1 or > MaxDays)
        {
            return ApiProblem.Invalid("days", new ValidationError("share-days", $"A link can work for 1 to {MaxDays} days, or until it is revoked."));
        }

        var now = clock.GetCurrentInstant();
        var (share, secret) = ViewShare.Make(id, name, request.Days is { } days ? now + Duration.FromDays(days) : null, now);
        db.Add(share);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/shared/{secret}", new Made(share.Id, share.Name, share.ExpiresAt, secret));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> TakeBack(
        Guid id,
        Guid share,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        await db.ViewShares.Where(s => s.Id == share && s.ViewId == id && s.View!.WorkspaceId == member.WorkspaceId).ExecuteDeleteAsync(cancel) == 1
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("shared address");
}
