using System.Globalization;
using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;

namespace Cursus.Web.Addresses;

/// <summary>Names of short domains as owners type them.</summary>
internal static class DomainName
{
    /// <summary>The host name in ASCII and lower case, or null with an error at <paramref name="field"/>.</summary>
    public static string? Parse(string text, CursusOptions options, FieldErrors errors, string field)
    {
        var bare = text.Trim().TrimEnd('/', '.');
        if (
            bare.Any(char.IsWhiteSpace)
            || !Destination.TryParse(bare, out var address, out _)
            || address.Address is not { Path: "/", Query: null, Fragment: null } web
            || web.Host.StartsWith('[')
        )
        {
            errors.Add(field, new ValidationError("domain-name", "Enter only a host name, such as go.example.org."));
            return null;
        }

        if (options.AppHosts.Contains(web.Host, StringComparer.OrdinalIgnoreCase))
        {
            errors.Add(field, new ValidationError("domain-is-app", $"{web.Host} is the address of Cursus itself. Use a different domain for links."));
            return null;
        }

        return web.Host;
    }

    /// <summary>The name as people read it: Unicode where it is written in punycode.</summary>
    public static string Shown(string name)
    {
        try
        {
            return new IdnMapping().GetUnicode(name);
        }
        catch (ArgumentException)
        {
            return name;
        }
    }

    /// <summary>Names under .localhost always mean this machine (RFC 6761, section 6.3), so there is nothing to prove.</summary>
    public static bool NeedsNoProof(string name) => name.EndsWith(".localhost", StringComparison.Ordinal);
}
