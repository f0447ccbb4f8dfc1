using System.Text.Json;
using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;

namespace Cursus.Web.Accounts.TwoStep;

/// <summary>/session/passkey: signing in with a passkey, without address and password.</summary>
public static class PasskeySignIn
{
    /// <param name="Credential">What the browser's <c>navigator.credentials.get()</c> gave, as JSON.</param>
    public sealed record Request(JsonElement Credential);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/session/passkey/begin", Begin)
            .ForAnybody()
            .RequireRateLimiting(AccessSetup.SignInLimit)
            .WithSummary("Begin to sign in with a passkey: options for the browser’s navigator.credentials.get()");
        api.MapPost("/session/passkey", SignIn)
            .ForAnybody()
            .RequireRateLimiting(AccessSetup.SignInLimit)
            .WithSummary("Sign in with the passkey that the browser gave");
    }

    /// <summary>The same for everybody: which passkey it will be, the person chooses in the browser.</summary>
    private static async Task<Results<Ok<JsonElement>, ProblemHttpResult>> Begin(HttpContext context, SignInManager<Account> signIn) =>
        OwnPage.Error(context.Request) is { } foreign
            ? foreign
            : TypedResults.Ok(JsonElement.Parse(await signIn.MakePasskeyRequestOptionsAsync(null)));

    private static async Task<Results<NoContent, ProblemHttpResult>> SignIn(
        Request request,
        HttpContext context,
        SignInManager<Account> signIn,
        BrowserSignIn browsers,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (OwnPage.Error(context.Request) is { } foreign)
        {
            return foreign;
        }

        if (request.Credential.ValueKind != JsonValueKind.Object)
        {
            return ApiProblem.Invalid(
                "credential",
                new ValidationError("passkey-missing", "Send what the browser’s navigator.credentials.get() gave.")
            );
        }

        if (await Asserted(signIn, request.Credential) is not var (account, passkey))
        {
            return ApiProblem.Of(401, "passkey", "This passkey isn’t known here, or was asked for too long ago. Try again, or use your password.");
        }

        if (await Session.WithoutWorkspace(db, account, cancel) is { } refused)
        {
            return refused;
        }

        // How often it has been used, which shows copies.
        await signIn.UserManager.AddOrUpdatePasskeyAsync(account, passkey);
        await browsers.SignIn(context, account, isNewAccount: false, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<(Account Account, UserPasskeyInfo Passkey)?> Asserted(SignInManager<Account> signIn, JsonElement credential)
    {
        try
        {
            return await signIn.PerformPasskeyAssertionAsync(credential.GetRawText()) is { Succeeded: true, User: { } account, Passkey: { } passkey }
                ? (account, passkey)
                : null;
        }
        catch (InvalidOperationException)
        {
            // Nothing was begun in this browser, or too long ago.
            return null;
        }
    }
}
