using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Accounts.TwoStep;

/// <summary>/account/two-step and /account/recovery-codes: how the person signs in in two steps.</summary>
public static class TwoStepState
{
    /// <param name="HasAuthenticator">Whether an authenticator app is set up.</param>
    /// <param name="RecoveryCodesLeft">How many recovery codes haven't been used.</param>
    /// <param name="RequiredBy">Names of the person's workspaces that ask for two-step sign-in.</param>
    public sealed record Response(
        bool IsOn,
        bool HasAuthenticator,
        IReadOnlyList<Passkey> Passkeys,
        int RecoveryCodesLeft,
        IReadOnlyList<string> RequiredBy
    );

    /// <param name="Id">The credential's id, in base64url.</param>
    public sealed record Passkey(string Id, string Name, Instant CreatedAt);

    /// <param name="Password">The account's password, so that nobody changes it in passing.</param>
    public sealed record PasswordRequest(string? Password);

    /// <param name="RecoveryCodes">Each signs in once in place of the second step; null where those from before still hold.</param>
    public sealed record Added(IReadOnlyList<string>? RecoveryCodes);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/account/two-step", Get).ForViewers().BeforeTwoSteps().WithSummary("How I sign in in two steps");
        api.MapPost("/account/recovery-codes", NewCodes)
            .ForViewers()
            .BeforeTwoSteps()
            .WithSecretAnswer()
            .WithSummary("Replace my recovery codes; those from before no longer work");
    }

    private static async Task<Ok<Response>> Get(CurrentMember current, CursusDb db, UserManager<Account> accounts, CancellationToken cancel)
    {
        var account = await Of(current, accounts);
        var members = await db
            .Members.Include(m => m.Workspace)
            .Where(m => m.AccountId == account.Id)
            .OrderBy(m => m.Workspace!.Name)
            .ToListAsync(cancel);
        return TypedResults.Ok(
            new Response(
                account.TwoFactorEnabled,
                account.HasAuthenticator,
                [
                    .. (await accounts.GetPasskeysAsync(account))
                        .OrderBy(p => p.CreatedAt)
                        .Select(p => new Passkey(WebEncoders.Base64UrlEncode(p.CredentialId), p.Name ?? "", Instant.FromDateTimeOffset(p.CreatedAt))),
                ],
                account.TwoFactorEnabled ? await accounts.CountRecoveryCodesAsync(account) : 0,
                [.. members.Where(MemberHandler.MustSignInInTwoSteps).Select(m => m.Workspace!.Name)]
            )
        );
    }

    private static async Task<Results<Ok<Added>, ProblemHttpResult>> NewCodes(
        PasswordRequest request,
        HttpContext context,
        CurrentMember current,
        CursusDb db,
        UserManager<Account> accounts,
        AccountChange change,
        SecondStep step,
        CancellationToken cancel
    )
    {
        if (await change.Unproven(context, current.Account, request.Password, "password") is { } wrong)
        {
            return wrong;
        }

        var account = await Of(current, accounts);
        if (!account.TwoFactorEnabled)
        {
            return ApiProblem.Conflict("two-step-off", "Recovery codes are for two-step sign-in. Set up an authenticator app or a passkey first.");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var codes = await step.NewRecoveryCodes(account);
        await step.Tell(account, "made new recovery codes", "You made new recovery codes; those from before no longer work.", cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(new Added(codes));
    }

    /// <summary>The account as Identity changes it.</summary>
    internal static async Task<Account> Of(CurrentMember current, UserManager<Account> accounts) =>
        (await accounts.FindByIdAsync(current.Account.Id.ToString()))!;
}
