using System.Security.Claims;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Mail;
using Microsoft.AspNetCore.Identity;
using NodaTime;

namespace Cursus.Web.Accounts;

/// <summary>Signs accounts in in browsers, remembers where, and tells people by e-mail of a browser that is new.</summary>
internal sealed class BrowserSignIn(
    CursusDb db,
    SignInManager<Account> manager,
    SignInGuard guard,
    CountryTable countries,
    AuditTrail audit,
    MailQueue mails,
    IClock clock
)
{
    private const int MaxAgent = 512;

    /// <param name="isNewAccount">Whether the account has just been made, so that no browser is known.</param>
    public async Task SignIn(HttpContext context, Account account, bool isNewAccount, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var address = context.Connection.RemoteIpAddress;
        var signIn = new SignIn
        {
            AccountId = account.Id,
            CreatedAt = now,
            LastUsedAt = now,
            Device = DeviceOf(context.Request.Headers.UserAgent.ToString()),
            Address = address?.ToString(),
            Country = countries.Find(address).ToString() is { Length: > 0 } country ? country : null,
        };
        db.Add(signIn);
        await audit.AddEverywhere(account, AuditAction.SignedIn, "session", null, signIn.Device, cancel);
        if (!isNewAccount && !guard.IsKnown(context, account.Email!))
        {
            mails.Add(MailKind.NewSignIn, account.Email!, account.Id, Where(signIn));
        }

        await db.SaveChangesAsync(cancel);
        guard.Mark(context, account.Email!);
        await Keep(account, signIn.Id);
    }

    /// <summary>Writes the browser's cookie anew, as after a change of password: the sign-in is the same.</summary>
    public Task Keep(Account account, Guid signIn)
    {
        manager.AuthenticationScheme = IdentityConstants.ApplicationScheme;
        return manager.SignInWithClaimsAsync(account, isPersistent: true, [new Claim(AccessSetup.SignInClaim, signIn.ToString())]);
    }

    private static string Where(SignIn signIn) =>
        (signIn.Device ?? "an unknown browser")
        + (signIn.Country is { } country ? $" in {CountryNames.InSentence(country)}" : "")
        + (signIn.Address is { } address ? $" ({address})" : "");

    /// <summary>“Firefox on Windows”; null where the browser doesn't say.</summary>
    private static string? DeviceOf(string agent)
    {
        var reading = UserAgentReading.Of(agent[..Math.Min(agent.Length, MaxAgent)], new RequestTraits(default, default));
        return (reading.Browser, reading.Os) switch
        {
            ("Other", "Other") => null,
            (var browser, "Other") => browser,
            ("Other", var os) => os,
            var (browser, os) => $"{browser} on {os}",
        };
    }
}
