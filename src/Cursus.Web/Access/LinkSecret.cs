using System.Security.Cryptography;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.WebUtilities;

namespace Cursus.Web.Access;

/// <summary>What a link sent by e-mail is for.</summary>
internal enum LinkPurpose
{
    Invitation,
    PasswordReset,
    EmailChange,
}

/// <summary>
/// Secrets in links that are sent by e-mail. They are sealed with the installation's keys and not stored, so that no backup of the database holds
/// any; whether they still count is said by what they name. Links carry them behind <c>#</c>, which browsers send to nobody.
/// </summary>
internal sealed class LinkSecret(IDataProtectionProvider protection)
{
    /// <summary>Path of the page where an invitation can be accepted, with its secret.</summary>
    public string PathOf(Invitation invitation) => $"join#{Make(LinkPurpose.Invitation, $"{invitation.Id} {invitation.Version}")}";

    /// <summary>Seals what the link names.</summary>
    public string Make(LinkPurpose purpose, string names) =>
        WebEncoders.Base64UrlEncode(Protector(purpose).Protect(System.Text.Encoding.UTF8.GetBytes(names)));

    /// <summary>What a link names; null where it is none of ours, or is for another purpose.</summary>
    public string? Read(LinkPurpose purpose, string? secret)
    {
        try
        {
            return System.Text.Encoding.UTF8.GetString(Protector(purpose).Unprotect(WebEncoders.Base64UrlDecode(secret?.Trim() ?? "")));
        }
        catch (Exception e) when (e is CryptographicException or FormatException)
        {
            return null;
        }
    }

    private IDataProtector Protector(LinkPurpose purpose) => protection.CreateProtector("Cursus.Link", purpose.ToString());
}
