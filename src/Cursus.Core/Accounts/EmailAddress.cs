using System.Diagnostics.CodeAnalysis;
using System.Text.RegularExpressions;

namespace Cursus.Core.Accounts;

/// <summary>Addresses of people as browsers take them in a field of type e-mail (WHATWG HTML Standard, “valid e-mail address”).</summary>
public static partial class EmailAddress
{
    /// <summary>RFC 5321, section 4.5.3.1.3, as its erratum 1690 reads: a path holds 256 characters with its brackets.</summary>
    public const int MaxLength = 254;

    /// <summary>Reads an address as it was typed.</summary>
    public static bool TryRead(string? typed, [NotNullWhen(true)] out string? address)
    {
        address = typed?.Trim() is { Length: > 0 and <= MaxLength } text && Valid().IsMatch(text) ? text : null;
        return address is not null;
    }

    /// <summary>What is wrong with an address that can't be read.</summary>
    public static ValidationError Error(string? typed) =>
        string.IsNullOrWhiteSpace(typed)
            ? new("email-missing", "Enter an e-mail address.")
            : new("email", $"“{typed.Trim()}” isn’t an e-mail address. Write it like ines@harbour.example.");

    [GeneratedRegex(
        @"^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*\z"
    )]
    private static partial Regex Valid();
}
