using Cursus.Data;
using Cursus.Data.Webhooks;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Webhooks;

/// <summary>/webhooks/{id}/deliveries: what a webhook was sent, and what came of it.</summary>
public static class WebhookLog
{
    /// <param name="Body">The message, as it was signed.</param>
    /// <param name="NextTryAt">When it is tried again; null where it has arrived or was given up.</param>
    /// <param name="Status">What the receiver answered last; null where it didn't.</param>
    /// <param name="Failure">Why it has not arrived, in words.</param>
    public sealed record Response(
        Guid Id,
        WebhookEventKind Event,
        string Body,
        Instant CreatedAt,
        int Tries,
        Instant? DeliveredAt,
        Instant? NextTryAt,
        int? Status,
        string? Failure
    );

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/webhooks/{id:guid}/deliveries", List).ForOwners().WithSummary("What a webhook was sent within 30 days, newest first");
        api.MapPost("/webhooks/{id:guid}/test", Test).ForOwners().WithSummary("Send a webhook a test message");
        api.MapPost("/webhooks/{id:guid}/deliveries/{delivery:guid}/resend", Resend).ForOwners().WithSummary("Send a message again");
    }

    private static async Task<Results<Ok<Page<Response>>, ProblemHttpResult>> List(
        Guid id,
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        await Webhooks.Find(db, member, id, cancel) is null
            ? ApiProblem.NotFound("webhook")
            : TypedResults.Ok(
                await page.Of(
                    db.WebhookDeliveries.Where(d => d.WebhookId == id).OrderByDescending(d => d.CreatedAt).ThenByDescending(d => d.Id),
                    Of,
                    cancel
                )
            );

    private static async Task<Results<Accepted<Response>, ProblemHttpResult>> Test(
        Guid id,
        CurrentMember member,
        CursusDb db,
        WebhookBody bodies,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Webhooks.Find(db, member, id, cancel) is not { } webhook)
        {
            return ApiProblem.NotFound("webhook");
        }

        if (webhook.PausedAt is not null)
        {
            return Paused();
        }

        var happened = new WebhookEvent
        {
            WorkspaceId = member.WorkspaceId,
            Kind = WebhookEventKind.Test,
            At = clock.GetCurrentInstant(),
        };
        var body = (await bodies.Write(Guid.CreateVersion7().ToString(), happened, member.Workspace, cancel))!;
        var delivery = WebhookSending.Delivery(webhook, WebhookEventKind.Test, body, happened.At);
        db.Add(delivery);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Accepted((string?)null, Of(delivery));
    }

    private static async Task<Results<Accepted<Response>, ProblemHttpResult>> Resend(
        Guid id,
        Guid delivery,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (
            await Webhooks.Find(db, member, id, cancel) is not { } webhook
            || await db.WebhookDeliveries.SingleOrDefaultAsync(d => d.Id == delivery && d.WebhookId == id, cancel) is not { } sent
        )
        {
            return ApiProblem.NotFound("message");
        }

        if (webhook.PausedAt is not null)
        {
            return Paused();
        }

        sent.NextTryAt = clock.GetCurrentInstant();
        await db.SaveChangesAsync(cancel);
        return TypedResults.Accepted((string?)null, Of(sent));
    }

    private static ProblemHttpResult Paused() => ApiProblem.Conflict("webhook-paused", "This webhook is paused. Resume it, then send the message.");

    private static Response Of(WebhookDelivery d) => new(d.Id, d.Kind, d.Body, d.CreatedAt, d.Tries, d.DeliveredAt, d.NextTryAt, d.Status, d.Failure);
}
