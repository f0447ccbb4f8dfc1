using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Accounts;

/// <summary>/tokens: a member's own keys for programs.</summary>
public static class Tokens
{
    /// <param name="Name">What program it is for.</param>
    /// <param name="Role">The most it may do; your own role if omitted, and never more.</param>
    /// <param name="ExpiresAt">When it stops working; never if omitted.</param>
    /// <param name="Scope">everything its role may (if omitted), read, or make-links: reading, and making posts and links.</param>
    public sealed record Request(string? Name, Role? Role = null, Instant? ExpiresAt = null, TokenScope? Scope = null);

    /// <param name="Start">First characters, to tell tokens apart.</param>
    /// <param name="Role">The most it may do.</param>
    /// <param name="ExpiresAt">When it stops working; null for never.</param>
    public sealed record Response(
        Guid Id,
        string Name,
        string Start,
        string Role,
        TokenScope Scope,
        Instant? ExpiresAt,
        Instant CreatedAt,
        Instant? LastUsedAt
    );

    /// <param name="Token">The token itself, shown this once.</param>
    public sealed record Made(Guid Id, string Name, string Token);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/tokens", List).ForViewers().WithSummary("My API tokens");
        api.MapPost("/tokens", Make).ForViewers().WithSecretAnswer().WithSummary("Create an API token");
        api.MapDelete("/tokens/{id:guid}", Revoke).ForViewers().WithSummary("Revoke an API token");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            await page.Of(
                db.ApiTokens.Where(t => t.MemberId == member.Id).OrderByDescending(t => t.CreatedAt),
                t => new Response(
                    t.Id,
                    t.Name,
                    t.Start,
                    RolePolicies.Name(t.Role < member.Role ? t.Role : member.Role),
                    t.Scope,
                    t.ExpiresAt,
                    t.CreatedAt,
                    t.LastUsedAt
                ),
                cancel
            )
        );

    private static async Task<Results<Created<Made>, ProblemHttpResult>> Make(
        Request request,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (request.Name?.Trim() is not { Length: > 0 and <= 80 } name)
        {
            return ApiProblem.Invalid(
                "name",
                new ValidationError("name", "Enter the name of the program that will use this token, at most 80 characters.")
            );
        }

        var now = clock.GetCurrentInstant();
        if (request.Role > member.Role)
        {
            return ApiProblem.Invalid(
                "role",
                new ValidationError("role", $"A token can’t do more than you: your role is “{RolePolicies.Name(member.Role)}”.")
            );
        }

        if (request.ExpiresAt <= now)
        {
            return ApiProblem.Invalid("expiresAt", new ValidationError("expires-at", "Choose a moment in the future, or leave it out."));
        }

        var (token, text) = ApiToken.Make(
            member.Id,
            name,
            now,
            request.Role ?? member.Role,
            request.Scope ?? TokenScope.Everything,
            request.ExpiresAt
        );
        db.Add(token);
        audit.Add(AuditAction.TokenCreated, "tokens", name: name, detail: $"{RolePolicies.Name(token.Role)}, {Words(token.Scope)}");
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/tokens/{token.Id}", new Made(token.Id, token.Name, text));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Revoke(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(
            AuditAction.TokenRevoked,
            db.ApiTokens.Where(t => t.Id == id && t.MemberId == member.Id),
            "tokens",
            null,
            t => t.Name,
            cancel
        )
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("token");

    private static string Words(TokenScope scope) =>
        scope switch
        {
            TokenScope.Read => "reads",
            TokenScope.MakeLinks => "makes links",
            _ => "everything",
        };
}
