using Cursus.Core;
using Cursus.Core.Accounts;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Accounts;
using Cursus.Web.Addresses;
using Cursus.Web.Demo;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Workspaces;

/// <summary>/installation: what a sign-in page needs to know, and the first owner of an empty installation.</summary>
public static class Installation
{
    /// <param name="NeedsOwner">True until the first owner exists.</param>
    /// <param name="DemoSignIns">Demo members to sign in as; empty unless this is the demo.</param>
    public sealed record Response(bool NeedsOwner, IReadOnlyList<DemoSignIn> DemoSignIns);

    public sealed record DemoSignIn(string Name, string Role, string Email, string Password);

    /// <param name="Domain">The first short domain; optional, can be added later.</param>
    /// <param name="SetupCode">Printed by <c>./cursus start</c> and in the log while there is no owner.</param>
    /// <param name="TimeZone">IANA name, such as <c>Europe/London</c>.</param>
    public sealed record FirstOwner(
        string? Name,
        string? Email,
        string? Password,
        string? Workspace,
        string? TimeZone,
        string? Domain,
        string? SetupCode
    );

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/installation", Get).ForAnybody().WithSummary("Whether this installation has an owner yet");
        api.MapPost("/installation", MakeFirstOwner)
            .ForAnybody()
            .RequireRateLimiting(AccessSetup.SignInLimit)
            .WithSummary("Create the first owner and workspace");
    }

    private static async Task<Ok<Response>> Get(CursusDb db, CancellationToken cancel)
    {
        var demo = await db
            .Members.Where(m => m.Workspace!.IsDemo)
            .OrderByDescending(m => m.Role)
            .Select(m => new
            {
                m.Account!.Name,
                m.Account.Email,
                m.Role,
            })
            .ToListAsync(cancel);
        return TypedResults.Ok(
            new Response(
                !await db.Workspaces.AnyAsync(cancel),
                [.. demo.Select(m => new DemoSignIn(m.Name, RolePolicies.Name(m.Role), m.Email!, DemoScenario.Password))]
            )
        );
    }

    private static async Task<Results<Created, ProblemHttpResult>> MakeFirstOwner(
        FirstOwner request,
        CursusDb db,
        UserManager<Account> accounts,
        LinkFeed feed,
        SetupCode code,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await db.Workspaces.AnyAsync(cancel))
        {
            return HasOwner();
        }

        var errors = new FieldErrors();
        if (!code.Is(request.SetupCode))
        {
            errors.Add(
                "setupCode",
                new ValidationError(
                    "setup-code",
                    "That isn’t the set-up code. You’ll find it in the terminal where Cursus was started, next to its address, or in its log."
                )
            );
            return ApiProblem.Invalid(errors);
        }

        var name = Profile.ReadName(request.Name, errors);
        if (!EmailAddress.TryRead(request.Email, out var email))
        {
            errors.Add("email", EmailAddress.Error(request.Email));
        }

        if (string.IsNullOrWhiteSpace(request.Workspace))
        {
            errors.Add("workspace", new ValidationError("missing", "Enter your organisation’s name."));
        }

        if (DateTimeZoneProviders.Tzdb.GetZoneOrNull(request.TimeZone ?? "") is null)
        {
            errors.Add("timeZone", WorkspaceSettings.NoTimeZone);
        }

        var domain = string.IsNullOrWhiteSpace(request.Domain) ? null : DomainName.Parse(request.Domain, options, errors, "domain");
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"lock table workspaces in exclusive mode", cancel);
        if (await db.Workspaces.AnyAsync(cancel))
        {
            return HasOwner();
        }

        var account = new Account
        {
            Name = name,
            Email = email,
            UserName = email,
        };
        var made = await accounts.CreateAsync(account, request.Password ?? "");
        if (!made.Succeeded)
        {
            return ApiProblem.Invalid(AccountChange.Errors(made, "password"));
        }

        var now = clock.GetCurrentInstant();
        var workspace = new Workspace
        {
            Name = request.Workspace!.Trim(),
            Key = await WorkspaceKeys.Free(db, request.Workspace, cancel),
            TimeZone = request.TimeZone!,
            CreatedAt = now,
        };
        db.AddRange(
            workspace,
            new Member
            {
                WorkspaceId = workspace.Id,
                AccountId = account.Id,
                Role = Role.Owner,
                CreatedAt = now,
            }
        );
        ShortDomain? first = domain is null
            ? null
            : new ShortDomain
            {
                WorkspaceId = workspace.Id,
                Name = domain,
                IsDefault = true,
                CreatedAt = now,
                VerifiedAt = DomainName.NeedsNoProof(domain) ? now : null,
            };
        if (first is not null)
        {
            db.Add(first);
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Created();
    }

    private static ProblemHttpResult HasOwner() =>
        ApiProblem.Conflict("has-owner", "This installation already has an owner. Sign in, or ask the owner for an account.");
}
