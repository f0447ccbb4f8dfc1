using Cursus.Core;
using Cursus.Core.Addresses.Urls;
using Cursus.Data;
using Cursus.Data.Webhooks;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Webhooks;

/// <summary>/webhooks: addresses of other programs that are told what happens in the workspace.</summary>
public static class Webhooks
{
    private const int Most = 20;
    private const int MaxAddress = 2000;

    /// <param name="FailingSince">Since when nothing has arrived; null where the last message did.</param>
    /// <param name="PausedAt">Since when it is told nothing; null where it is.</param>
    /// <param name="PausedWhy">Why, where nobody paused it by hand.</param>
    public sealed record Response(
        Guid Id,
        string Address,
        IReadOnlyList<WebhookEventKind> Events,
        Instant CreatedAt,
        Instant? FailingSince,
        Instant? PausedAt,
        string? PausedWhy
    );

    /// <param name="Secret">What messages are signed with; shown this once.</param>
    public sealed record Made(Guid Id, string Address, string Secret);

    /// <param name="Address">An https address that answers POST requests.</param>
    /// <param name="Events">What it is told of, at least one.</param>
    public sealed record Request(string? Address, IReadOnlyList<WebhookEventKind>? Events);

    /// <summary>Omitted fields stay as they are.</summary>
    /// <param name="IsPaused">While it is paused it is told nothing, and what happens is not kept for it.</param>
    public sealed record Edit(string? Address = null, IReadOnlyList<WebhookEventKind>? Events = null, bool? IsPaused = null);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/webhooks", List).ForOwners().WithSummary("Webhooks of the workspace");
        api.MapPost("/webhooks", Create).ForOwners().WithSecretAnswer().WithSummary("Create a webhook; its secret is shown this once");
        api.MapPatch("/webhooks/{id:guid}", Change).ForOwners().WithSummary("Change, pause or resume a webhook");
        api.MapDelete("/webhooks/{id:guid}", Delete).ForOwners().WithSummary("Delete a webhook and its log");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(db.Webhooks.Where(w => w.WorkspaceId == member.WorkspaceId).OrderBy(w => w.CreatedAt), Of, cancel));

    private static async Task<Results<Created<Made>, ProblemHttpResult>> Create(
        Request request,
        CurrentMember member,
        CursusDb db,
        WebhookSecret secrets,
        CursusOptions options,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var (address, events) = (ReadAddress(request.Address, options, errors), ReadEvents(request.Events, errors));
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (await db.Webhooks.CountAsync(w => w.WorkspaceId == member.WorkspaceId, cancel) >= Most)
        {
            return ApiProblem.Conflict("too-many-webhooks", $"A workspace has at most {Most} webhooks. Delete one that is no longer used.");
        }

        var (shown, kept) = secrets.Make();
        var webhook = new Webhook
        {
            WorkspaceId = member.WorkspaceId,
            Address = address,
            Events = events,
            Secret = kept,
            CreatedAt = clock.GetCurrentInstant(),
        };
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await BeginToTell(db, member.WorkspaceId, webhook.CreatedAt, cancel);
        db.Add(webhook);
        audit.Add(AuditAction.SettingsChanged, "webhooks", webhook.Id, address, "created");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Created($"/api/v1/webhooks/{webhook.Id}", new Made(webhook.Id, address, shown));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Edit request,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        AuditTrail audit,
        AuditDetail details,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Find(db, member, id, cancel) is not { } webhook)
        {
            return ApiProblem.NotFound("webhook");
        }

        var (errors, before, now) = (new FieldErrors(), Of(webhook), clock.GetCurrentInstant());
        webhook.Address = request.Address is null ? webhook.Address : ReadAddress(request.Address, options, errors);
        webhook.Events = request.Events is null ? webhook.Events : ReadEvents(request.Events, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (request.IsPaused is { } isPaused && isPaused != webhook.PausedAt is not null)
        {
            (webhook.PausedAt, webhook.PausedWhy, webhook.FailingSince) = (isPaused ? now : null, null, null);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await BeginToTell(db, member.WorkspaceId, now, cancel);
        if (details.Of(before, Of(webhook)) is { } detail)
        {
            audit.Add(AuditAction.SettingsChanged, "webhooks", id, webhook.Address, detail);
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(Of(webhook));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Delete(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(db.Webhooks.Where(w => w.Id == id && w.WorkspaceId == member.WorkspaceId), "webhooks", id, w => w.Address, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("webhook");

    internal static Task<Webhook?> Find(CursusDb db, CurrentMember member, Guid id, CancellationToken cancel) =>
        db.Webhooks.SingleOrDefaultAsync(w => w.Id == id && w.WorkspaceId == member.WorkspaceId, cancel);

    /// <summary>What was there before a webhook asked is no news.</summary>
    private static async Task BeginToTell(CursusDb db, Guid workspaceId, Instant now, CancellationToken cancel)
    {
        if (!await db.Webhooks.AnyAsync(w => w.WorkspaceId == workspaceId && w.Events.Contains(WebhookEventKind.MilestoneReached), cancel))
        {
            await WebhookWatch.Begin(db, workspaceId, cancel);
        }

        if (!await db.Webhooks.AnyAsync(w => w.WorkspaceId == workspaceId && w.Events.Contains(WebhookEventKind.DigestReady), cancel))
        {
            var workspace = await db.Workspaces.SingleAsync(w => w.Id == workspaceId, cancel);
            workspace.DigestToldFor = WebhookWatch.ReadyWeek(workspace, now) ?? workspace.DigestToldFor;
        }
    }

    private static string ReadAddress(string? text, CursusOptions options, FieldErrors errors)
    {
        var address = WebAddress.Parse(text?.Trim() ?? "", null, out var error);
        if (address is null || text!.Length > MaxAddress)
        {
            errors.Add("address", error ?? new ValidationError("webhook-address", $"Enter an address of at most {MaxAddress} characters."));
            return "";
        }

        var isAllowed = PrivateNetwork.IsAllowed(address.Host, [.. options.AllowedPrivateHosts]);
        if (PrivateNetwork.IsPrivate(address.Host) && !isAllowed)
        {
            errors.Add("address", new ValidationError("webhook-private", $"{address.Host} is on a private network, which webhooks don’t go to."));
        }
        else if (address.Scheme != "https" && !isAllowed)
        {
            errors.Add(
                "address",
                new ValidationError("webhook-https", "Enter an address that begins with https://, so that nobody on the way reads it.")
            );
        }

        return address.ToString();
    }

    private static WebhookEventKind[] ReadEvents(IReadOnlyList<WebhookEventKind>? events, FieldErrors errors)
    {
        WebhookEventKind[] chosen = [.. (events ?? []).Distinct().Order()];
        if (chosen.Length == 0 || chosen.Contains(WebhookEventKind.Test))
        {
            errors.Add("events", new ValidationError("webhook-events", "Choose at least one event that the webhook is told of."));
        }

        return chosen;
    }

    private static Response Of(Webhook w) => new(w.Id, w.Address, w.Events, w.CreatedAt, w.FailingSince, w.PausedAt, w.PausedWhy);
}
