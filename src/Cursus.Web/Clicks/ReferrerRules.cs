using Cursus.Core;
using Cursus.Core.Clicks.Requests;
using Cursus.Data;
using Cursus.Data.Clicks;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Clicks;

/// <summary>/referrer-rules: which channel visitors from a host came over, where the workspace knows better than the list that everybody
/// shares.</summary>
public static class ReferrerRules
{
    /// <param name="Host">A host name; its subdomains are included.</param>
    /// <param name="Channel">Key of a channel; null for the organisation's own site.</param>
    public sealed record Request(string? Host, string? Channel);

    public sealed record Response(Guid Id, string Host, string? Channel);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/referrer-rules", List).ForViewers().WithSummary("Hosts assigned to channels");
        api.MapPost("/referrer-rules", Add).ForEditors().WithSummary("Assign a host to a channel");
        api.MapGet("/referrer-rules/{id:guid}", Get).ForViewers().WithSummary("One assigned host");
        api.MapDelete("/referrer-rules/{id:guid}", Remove).ForEditors().WithSummary("Unassign a host");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(Read(db, member), r => r, cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Read(db, member, id).FirstOrDefaultAsync(cancel) is { } rule ? TypedResults.Ok(rule) : ApiProblem.NotFound("rule");

    /// <summary>A host has one rule: saying it anew changes it.</summary>
    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var host = ReferrerHost.OfTyped(request.Host);
        if (host is null)
        {
            errors.Add("host", new ValidationError("referrer-host", "Enter a host, such as forum.northmoor.example, or paste an address on it."));
        }

        var channel = request.Channel is null
            ? null
            : await db.Channels.FirstOrDefaultAsync(c => c.WorkspaceId == member.WorkspaceId && c.Key == request.Channel, cancel);
        if (request.Channel is not null && channel is null)
        {
            errors.Add(
                "channel",
                new ValidationError(
                    "unknown-channel",
                    $"This workspace has no channel “{request.Channel}”. Choose an existing one, or “our own site”."
                )
            );
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var rule = await db.ReferrerRules.FirstOrDefaultAsync(r => r.WorkspaceId == member.WorkspaceId && r.Host == host, cancel);
        if (rule is null)
        {
            db.Add(rule = new ReferrerRule { WorkspaceId = member.WorkspaceId, Host = host! });
        }

        rule.ChannelId = channel?.Id;
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/referrer-rules/{rule.Id}", new Response(rule.Id, rule.Host, channel?.Key));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(db.ReferrerRules.Where(r => r.Id == id && r.WorkspaceId == member.WorkspaceId), "referrer-rules", id, r => r.Host, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("rule");

    private static IQueryable<Response> Read(CursusDb db, CurrentMember member, Guid? id = null) =>
        db
            .ReferrerRules.Where(r => r.WorkspaceId == member.WorkspaceId && (id == null || r.Id == id))
            .OrderBy(r => r.Host)
            .Select(r => new Response(r.Id, r.Host, db.Channels.Where(c => c.Id == r.ChannelId).Select(c => c.Key).FirstOrDefault()));
}
