using System.Text.Json;
using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.WebUtilities;

namespace Cursus.Web.Accounts.TwoStep;

/// <summary>/account/passkeys: keys that a device keeps and opens by finger, face or PIN (WebAuthn Level 3), instead of a password.</summary>
public static class Passkeys
{
    private const int MaxName = 50;
    private const int Most = 20;

    /// <param name="Name">What the person calls it, such as “Laptop”.</param>
    /// <param name="Credential">What the browser's <c>navigator.credentials.create()</c> gave, as JSON.</param>
    public sealed record Request(string? Name, JsonElement Credential);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/account/passkeys/begin", Begin)
            .ForViewers()
            .BeforeTwoSteps()
            .WithSecretAnswer()
            .WithSummary("Begin to add a passkey: options for the browser’s navigator.credentials.create()");
        api.MapPost("/account/passkeys", Add)
            .ForViewers()
            .BeforeTwoSteps()
            .WithSecretAnswer()
            .WithSummary("Add the passkey that the browser made; with the first come recovery codes");
        api.MapPost("/account/passkeys/{id}/remove", Remove).ForViewers().BeforeTwoSteps().WithSummary("Remove a passkey");
    }

    private static async Task<Results<Ok<JsonElement>, ProblemHttpResult>> Begin(
        TwoStepState.PasswordRequest request,
        HttpContext context,
        CurrentMember current,
        SignInManager<Account> signIn,
        AccountChange change
    )
    {
        if (await change.Unproven(context, current.Account, request.Password, "password") is { } wrong)
        {
            return wrong;
        }

        var account = await TwoStepState.Of(current, signIn.UserManager);
        if ((await signIn.UserManager.GetPasskeysAsync(account)).Count >= Most)
        {
            return ApiProblem.Conflict("too-many-passkeys", $"An account has at most {Most} passkeys. Remove one that you no longer use.");
        }

        var options = await signIn.MakePasskeyCreationOptionsAsync(
            new PasskeyUserEntity
            {
                Id = account.Id.ToString(),
                Name = account.Email!,
                DisplayName = account.Name,
            }
        );
        return TypedResults.Ok(JsonElement.Parse(options));
    }

    private static async Task<Results<Ok<TwoStepState.Added>, ProblemHttpResult>> Add(
        Request request,
        HttpContext context,
        CurrentMember current,
        CursusDb db,
        SignInManager<Account> signIn,
        SecondStep step,
        CancellationToken cancel
    )
    {
        var name = request.Name?.Trim() ?? "";
        if (name.Length is 0 or > MaxName)
        {
            return ApiProblem.Invalid(
                "name",
                new ValidationError("passkey-name", $"Give the passkey a name of at most {MaxName} characters, such as “Laptop”.")
            );
        }

        var account = await TwoStepState.Of(current, signIn.UserManager);
        if (await Attested(signIn, request.Credential) is not var (owner, passkey) || owner != account.Id.ToString())
        {
            return ApiProblem.Invalid("credential", new ValidationError("passkey", "The browser’s passkey can’t be used. Begin anew."));
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        passkey.Name = name;
        await signIn.UserManager.AddOrUpdatePasskeyAsync(account, passkey);
        var codes = await step.Added(context, account, $"the passkey “{name}”", cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(new TwoStepState.Added(codes));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        string id,
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
        var account = await TwoStepState.Of(current, accounts);
        var passkeys = await accounts.GetPasskeysAsync(account);
        if (passkeys.FirstOrDefault(p => WebEncoders.Base64UrlEncode(p.CredentialId) == id) is not { } passkey)
        {
            return ApiProblem.NotFound("passkey");
        }

        if (await change.Unproven(context, current.Account, request.Password, "password") is { } wrong)
        {
            return wrong;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await accounts.RemovePasskeyAsync(account, passkey.CredentialId);
        await step.Removed(context, account, $"the passkey “{passkey.Name}”", cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<(string For, UserPasskeyInfo Passkey)?> Attested(SignInManager<Account> signIn, JsonElement credential)
    {
        if (credential.ValueKind != JsonValueKind.Object)
        {
            return null;
        }

        try
        {
            return
                await signIn.PerformPasskeyAttestationAsync(credential.GetRawText()) is { Succeeded: true, UserEntity: { } of, Passkey: { } passkey }
                ? (of.Id, passkey)
                : null;
        }
        catch (InvalidOperationException)
        {
            // Nothing was begun in this browser, or too long ago.
            return null;
        }
    }
}
