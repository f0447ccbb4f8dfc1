using System.Text;
using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using QRCoder;

namespace Cursus.Web.Accounts.TwoStep;

/// <summary>/account/authenticator: an app on the person's phone that makes codes from the time (RFC 6238).</summary>
public static class AuthenticatorApp
{
    private const string What = "an authenticator app";

    /// <param name="Key">The secret in groups of four, for apps that can't scan.</param>
    /// <param name="Picture">A QR code of the secret as apps read it, as an SVG.</param>
    public sealed record Setup(string Key, string Picture);

    /// <param name="Code">The six digits that the app shows now.</param>
    public sealed record Confirmation(string? Code);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/account/authenticator", Begin)
            .ForViewers()
            .BeforeTwoSteps()
            .WithSecretAnswer()
            .WithSummary("Begin to set up an authenticator app: a new secret for it");
        api.MapPut("/account/authenticator", Confirm)
            .ForViewers()
            .BeforeTwoSteps()
            .WithSecretAnswer()
            .WithSummary("Finish setting up by the app’s code; ends all other sign-ins made with the password alone");
        api.MapPost("/account/authenticator/remove", Remove).ForViewers().BeforeTwoSteps().WithSummary("Use the authenticator app no longer");
    }

    private static async Task<Results<Ok<Setup>, ProblemHttpResult>> Begin(
        TwoStepState.PasswordRequest request,
        HttpContext context,
        CurrentMember current,
        UserManager<Account> accounts,
        BrowserSignIn browsers,
        AccountChange change
    )
    {
        if (await change.Unproven(context, current.Account, request.Password, "password") is { } wrong)
        {
            return wrong;
        }

        var account = await TwoStepState.Of(current, accounts);
        if (account.HasAuthenticator)
        {
            return ApiProblem.Conflict("authenticator-there", "An authenticator app is set up already. Remove it first, then set up another.");
        }

        await accounts.ResetAuthenticatorKeyAsync(account);
        if (AccessCookies.SignInOf(context) is { } kept)
        {
            await browsers.Keep(account, kept);
        }

        var key = (await accounts.GetAuthenticatorKeyAsync(account))!;
        return TypedResults.Ok(new Setup(string.Join(' ', key.Chunk(4).Select(c => new string(c))), Picture(AddressOf(account, key))));
    }

    private static async Task<Results<Ok<TwoStepState.Added>, ProblemHttpResult>> Confirm(
        Confirmation request,
        HttpContext context,
        CurrentMember current,
        CursusDb db,
        UserManager<Account> accounts,
        SignInGuard guard,
        SecondStep step,
        CancellationToken cancel
    )
    {
        if (!guard.MayTry(context, current.Account.Email!))
        {
            return ApiProblem.Of(429, "too-many", "Too many wrong codes. Wait five minutes, then try again.");
        }

        var account = await TwoStepState.Of(current, accounts);
        if (account.HasAuthenticator || await accounts.GetAuthenticatorKeyAsync(account) is null)
        {
            return ApiProblem.Conflict("authenticator-not-begun", "There is no authenticator app waiting for its code. Begin anew.");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (!await step.RedeemOfApp(account, request.Code ?? ""))
        {
            guard.WasWrong(context, account.Email!);
            return ApiProblem.Invalid(
                "code",
                new ValidationError(
                    "wrong-code",
                    "That isn’t the code the app shows now. Check that the phone’s time is right, and enter the next one."
                )
            );
        }

        account.HasAuthenticator = true;
        var codes = await step.Added(context, account, What, cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(new TwoStepState.Added(codes));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        TwoStepState.PasswordRequest request,
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

        var account = await TwoStepState.Of(current, accounts);
        if (!account.HasAuthenticator)
        {
            return ApiProblem.NotFound("authenticator app");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        account.HasAuthenticator = false;
        await accounts.ResetAuthenticatorKeyAsync(account);
        await step.Removed(context, account, What, cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>The address that authenticator apps read, as they have agreed on (common practice, no standard): RFC 6238's usual values are left
    /// out.</summary>
    private static string AddressOf(Account account, string key) =>
        $"otpauth://totp/Cursus:{Uri.EscapeDataString(account.Email!)}?secret={key}&issuer=Cursus";

    private static string Picture(string address)
    {
        using var code = QRCodeGenerator.GenerateQrCode(Encoding.UTF8.GetBytes(address), QRCodeGenerator.ECCLevel.M);
        using var svg = new SvgQRCode(code);
        return svg.GetGraphic(4);
    }
}
