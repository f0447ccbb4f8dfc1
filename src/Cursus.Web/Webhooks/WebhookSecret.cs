using System.Security.Cryptography;
using Cursus.Data.Webhooks;
using Microsoft.AspNetCore.DataProtection;

namespace Cursus.Web.Webhooks;

/// <summary>Secrets that messages are signed with: shown once, and kept sealed with the installation's keys.</summary>
internal sealed class WebhookSecret(IDataProtectionProvider protection)
{
    private const int Bytes = 32;

    private readonly IDataProtector seal = protection.CreateProtector("Cursus.Webhook");

    /// <summary>A new secret, as it is shown and as it is kept.</summary>
    public (string Shown, string Kept) Make()
    {
        var secret = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(Bytes));
        return (secret, seal.Protect(secret));
    }

    public string Open(Webhook webhook) => seal.Unprotect(webhook.Secret);
}
